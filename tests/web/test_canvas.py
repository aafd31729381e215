"""The usual canvas: kept for the studio, and every new sitter framed on it round the whole head."""

from __future__ import annotations

import numpy as np
import pytest
from fastapi.testclient import TestClient

from tests.conftest import jpeg, small_photo
from tests.web.conftest import put_in


def test_a_new_sitter_is_framed_on_the_usual_canvas_and_can_be_put_back(client: TestClient) -> None:
    assert client.get("/api/canvas").json() == {"usual": None}
    photo = small_photo("selda")
    sitter = put_in(client, photo).json()
    there = f"/api/sitters/{sitter['id']}"
    assert client.post(f"{there}/reference/usual-canvas").json()["settings"] == sitter["settings"]
    assert client.get(there).json()["revision"] == sitter["revision"], "nothing was changed"
    usual = {"width_mm": 300.0, "height_mm": 300.0}
    assert client.put("/api/canvas", json={"usual": usual}).json() == {"usual": usual}
    framed = client.post(f"{there}/reference/usual-canvas").json()
    reference = framed["settings"]["reference"]
    assert (reference["canvas_width_mm"], reference["canvas_height_mm"], reference["zoom"]) == (300, 300, 1)
    assert framed["undo"] == "Your usual canvas"
    tilted = {"change": "Straighten", "set": {"straighten": 10}}
    client.patch(f"{there}/settings/reference", json=tilted)
    again = client.post(f"{there}/reference/usual-canvas").json()
    assert again["settings"]["reference"] == reference, "upright, as the head was found"
    client.post(f"{there}/undo")
    client.post(f"{there}/undo")
    # The face lies high in an upright photograph: the frame follows it and keeps its crown.
    frame = client.get(f"{there}/reference").json()
    top = frame["corners"][0][1]
    assert top < 0.1
    assert reference["centre_y"] < 0.5
    undone = client.post(f"{there}/undo").json()
    assert undone["settings"]["reference"] == sitter["settings"]["reference"]
    client.put("/api/canvas", json={"usual": None})
    assert client.get("/api/canvas").json() == {"usual": None}


def test_without_a_head_the_middle_is_taken(client: TestClient) -> None:
    client.put("/api/canvas", json={"usual": {"width_mm": 300, "height_mm": 400}})
    grey = np.full((300, 900, 3), 120, np.uint8)
    grey[:, ::7] = 90
    sitter = put_in(client, jpeg(grey)).json()
    framed = client.post(f"/api/sitters/{sitter['id']}/reference/usual-canvas").json()
    reference = framed["settings"]["reference"]
    assert (reference["canvas_width_mm"], reference["canvas_height_mm"]) == (400, 300), (
        "laid as the photograph"
    )
    assert (reference["centre_x"], reference["centre_y"]) == (0.5, 0.5)
    client.put("/api/canvas", json={"usual": None})


@pytest.mark.parametrize(
    "usual",
    [{"width_mm": 0, "height_mm": 400}, {"width_mm": 300}, {"width_mm": 300, "height_mm": 9000}, "large",
     {"width_mm": 300, "height_mm": 400, "depth_mm": 3}],
)  # fmt: skip
def test_a_canvas_that_cannot_be_is_refused(client: TestClient, usual: object) -> None:
    assert client.put("/api/canvas", json={"usual": usual}).status_code == 422
    assert client.get("/api/canvas").json() == {"usual": None}
