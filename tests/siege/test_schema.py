"""Every operation of the API with requests made from its schema (Schemathesis): none is a bug of ours."""

from __future__ import annotations

from collections import defaultdict
from pathlib import Path
from tempfile import mkdtemp
from typing import Any

import numpy as np
import schemathesis
from hypothesis import HealthCheck, Phase, settings

from tests.conftest import jpeg
from truesitter.store.sitters import Shelf
from truesitter.web.app import create_app

SHELF = Shelf(Path(mkdtemp()))
APP = create_app(SHELF, within=True)
"""Without the guard, which would refuse the made-up host; it has tests of its own."""
SITTER = SHELF.add(jpeg(np.random.default_rng(1).integers(0, 255, (90, 70, 3), dtype=np.uint8)), "a.jpg").id
SCHEMA: Any = schemathesis.openapi.from_asgi("/openapi.json", APP)
ANSWERED: defaultdict[int, set[str]] = defaultdict(set)
KEPT = ("/api/sitters/{sitter_id}", "/api/keeping/daily")
"""Removing the sitter or switching things for all is tried elsewhere."""


@SCHEMA.exclude(path=list(KEPT), method="DELETE").parametrize()
@settings(
    max_examples=3, deadline=None, phases=[Phase.generate], derandomize=True,
    suppress_health_check=list(HealthCheck),
)  # fmt: skip
def test_no_operation_breaks(case: Any) -> None:
    if "sitter_id" in (case.path_parameters or {}):
        case.path_parameters["sitter_id"] = SITTER
    answer = case.call()
    ANSWERED[answer.status_code // 100].add(f"{case.method} {case.path}")
    assert answer.status_code < 500, f"{case.method} {case.formatted_path}: {answer.text[:200]}"
    if answer.status_code >= 400 and "json" in answer.headers.get("content-type", [""])[0]:
        assert answer.json()["detail"]


def test_many_of_them_were_answered_and_not_only_refused() -> None:
    assert len(ANSWERED[2]) > 60
