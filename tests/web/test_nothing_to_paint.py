"""A picture so light that a watercolour plan has no passes: everything asked of it is still answered."""

from __future__ import annotations

import cv2
import numpy as np
import pytest
from fastapi.testclient import TestClient

from tests.conftest import jpeg, made_head
from tests.web.conftest import put_in


@pytest.fixture
def pale(client: TestClient) -> str:
    """A made head washed out to nearly white, in washes."""
    washed = cv2.addWeighted(made_head(), 0.045, np.full_like(made_head(), 255), 0.955, 0)
    sitter = put_in(client, jpeg(washed)).json()["id"]
    for stage, field, value in (
        ("passes", "school", "watercolour-zones"), ("flesh", "medium", "watercolour"),
    ):  # fmt: skip
        path = f"/api/sitters/{sitter}/settings/{stage}"
        done = client.patch(path, json={"change": "x", "set": {field: value}})
        assert done.status_code == 200, done.text
    return str(sitter)


def test_every_answer_of_a_plan_without_passes(client: TestClient, pale: str) -> None:
    plan = client.get(f"/api/sitters/{pale}/passes").json()
    assert plan.get("passes") == [], str(plan)[:600]
    assert any("nothing to paint" in said for said in plan["remarks"])
    asked = 0
    for path, operations in client.get("/openapi.json").json()["paths"].items():
        get = operations.get("get", {})
        needed = [p["name"] for p in get.get("parameters", []) if p["required"]]
        if "/{sitter_id}" not in path or needed != ["sitter_id"]:
            continue
        answer = client.get(path.replace("{sitter_id}", pale))
        assert answer.status_code < 500, (path, answer.text[:300])
        asked += 1
    assert asked > 60
