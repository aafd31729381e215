"""Random calls drawn from the application's own OpenAPI schema: never an error of ours, always as promised.

Source: the schema itself (OpenAPI 3.1, JSON Schema 2020-12), read and held against the answers by jsonschema.
"""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any
from urllib.parse import quote

import jsonschema
import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from truesitter.store.settings.sitters import Repository
from truesitter.web.server.app import create_app

SCHEMA = json.loads((Path(__file__).parents[2] / "frontend/openapi.json").read_text(encoding="utf-8"))
CALLS = [
    (method, path, call)
    for path, calls in SCHEMA["paths"].items()
    for method, call in calls.items()
    if not path.endswith((".pdf", "view.png", ".ora", ".zip"))
    and "multipart/form-data" not in str(call.get("requestBody"))
]


def inlined(schema: Any, seen: tuple[str, ...] = ()) -> Any:
    """A schema with its references put in place."""
    if isinstance(schema, dict):
        if "$ref" in schema:
            name = schema["$ref"].rsplit("/", 1)[1]
            return {} if name in seen else inlined(SCHEMA["components"]["schemas"][name], (*seen, name))
        return {k: inlined(v, seen) for k, v in schema.items() if k != "format"}
    return [inlined(v, seen) for v in schema] if isinstance(schema, list) else schema


ODD = st.sampled_from(["", "ß", "-1", "nan", 1e300, -7, None, True, [], {}, "x" * 300, "=1+1"])


def fitting(schema: dict[str, Any]) -> st.SearchStrategy[Any]:
    """Values that fit a schema of the kinds this application uses, now and then one that does not."""
    for choice in ("anyOf", "oneOf"):
        if choice in schema:
            return st.one_of(*map(fitting, schema[choice]))
    if "enum" in schema or "const" in schema:
        return st.sampled_from(schema.get("enum", [schema.get("const")]))
    low = schema.get("minimum", schema.get("exclusiveMinimum", -1000))
    high = schema.get("maximum", schema.get("exclusiveMaximum", max(1000, low)))
    kinds: dict[str | None, st.SearchStrategy[Any]] = {
        "null": st.none(),
        "boolean": st.booleans(),
        "integer": st.integers(int(low), int(high)),
        "number": st.floats(low, high, allow_nan=False),
        "string": st.text(min_size=schema.get("minLength", 0), max_size=min(schema.get("maxLength", 20), 20)),
    }
    if schema.get("type") == "array":
        return st.lists(fitting(schema.get("items", {})), min_size=schema.get("minItems", 0), max_size=4)
    if schema.get("type") == "object":
        fields = {name: st.one_of(fitting(s), ODD) for name, s in schema.get("properties", {}).items()}
        return st.fixed_dictionaries({}, optional=fields)
    return st.one_of(kinds.get(schema.get("type"), ODD), ODD)


@pytest.fixture(scope="module")
def served(tmp_path_factory: pytest.TempPathFactory, made_photo: bytes) -> tuple[TestClient, str]:
    repository = Repository(tmp_path_factory.mktemp("schema"))
    sitter = repository.add(made_photo, "a.jpg").id
    app = create_app(repository)
    return TestClient(app, base_url="http://127.0.0.1", raise_server_exceptions=False), sitter


@pytest.mark.parametrize(("method", "path", "call"), CALLS, ids=[f"{m} {p}" for m, p, _ in CALLS])
def test_no_call_of_the_schema_meets_an_error_of_ours(
    served: tuple[TestClient, str], method: str, path: str, call: dict[str, Any]
) -> None:
    client, sitter = served
    parameters = call.get("parameters", [])
    body_schema = call.get("requestBody", {}).get("content", {}).get("application/json", {}).get("schema")
    body = fitting(inlined(body_schema)) if body_schema else st.none()
    drawn = {
        p["name"]: st.one_of(fitting(inlined(p["schema"])), st.sampled_from(["", "-1", "nan", "1e999", "ß"]))
        for p in parameters
        if p["name"] != "sitter_id" and p["in"] != "header"
    }

    @settings(max_examples=8, deadline=None, database=None, suppress_health_check=list(HealthCheck))
    @given(st.fixed_dictionaries(drawn), body)
    def run(values: dict[str, Any], content: Any) -> None:
        address = path.replace(
            "{sitter_id}", sitter if "restore" not in path and method != "delete" else "none"
        )
        query = {}
        for parameter in parameters:
            name = parameter["name"]
            if name not in values:
                continue
            text = str(values[name])
            if parameter["in"] == "path":
                address = address.replace(f"{{{name}}}", quote(text, safe="") or "x")
            elif values[name] is not None:
                query[name] = text
        answer = client.request(method, address, params=query, **({"json": content} if body_schema else {}))
        assert answer.status_code < 500, answer.text
        if answer.status_code >= 400:
            jsonschema.validate(answer.json(), {"required": ["type", "title", "status", "detail"]})
        elif answer.headers.get("content-type") == "application/json":
            promised = call["responses"].get(str(answer.status_code), {}).get("content", {})
            jsonschema.validate(
                answer.json(), inlined(promised.get("application/json", {}).get("schema", {}))
            )

    run()
