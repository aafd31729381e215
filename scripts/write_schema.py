"""Write the OpenAPI schema for the front end's types, and the JSON schemas of open files."""

from __future__ import annotations

import json
import tempfile
from pathlib import Path

from truesitter.core.log.log_document import log_schema
from truesitter.formats.documents.plan import Plan
from truesitter.formats.documents.school_files import school_schema
from truesitter.store.files.sitter_files import sitter_schema
from truesitter.store.settings.sitters import Repository
from truesitter.web.server.app import create_app

ROOT = Path(__file__).parents[1]


def openapi_text() -> str:
    with tempfile.TemporaryDirectory() as folder:
        repository = Repository(Path(folder))
        try:
            return json.dumps(create_app(repository).openapi(), indent=1, sort_keys=True) + "\n"
        finally:
            repository.close()


def plan_schema_text() -> str:
    return json.dumps(Plan.model_json_schema(), indent=1, sort_keys=True) + "\n"


def school_schema_text() -> str:
    return json.dumps(school_schema(), indent=1, sort_keys=True) + "\n"


def log_schema_text() -> str:
    return json.dumps(log_schema(), indent=1, sort_keys=True) + "\n"


def sitter_schema_text() -> str:
    return json.dumps(sitter_schema(), indent=1, sort_keys=True) + "\n"


def main() -> None:
    (ROOT / "frontend/openapi.json").write_text(openapi_text(), encoding="utf-8")
    (ROOT / "docs/plan.schema.json").write_text(plan_schema_text(), encoding="utf-8")
    (ROOT / "docs/log.schema.json").write_text(log_schema_text(), encoding="utf-8")
    (ROOT / "docs/sitter.schema.json").write_text(sitter_schema_text(), encoding="utf-8")
    (ROOT / "docs/school.schema.json").write_text(school_schema_text(), encoding="utf-8")


if __name__ == "__main__":
    main()
