"""Mixtures from mixtures, the strength of thin layers, and media, over the API."""

from __future__ import annotations

import json
from typing import Any

import pytest
from fastapi.testclient import TestClient

from truesitter.core.paint.recipes.ingredients import FIXED
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.paint.tubes.pigments import pigment_library

ALL = Palette("all", "All", tuple(pigment_library()))


def combined(client: TestClient, sitter: str, parts: list[tuple[str, int]], **more: object) -> Any:
    query = {"parts": json.dumps(parts), **more}
    return client.get(f"/api/sitters/{sitter}/flesh/combined", params=query)


def test_mixtures_are_mixed_from_one_another(client: TestClient, maren: str) -> None:
    """Half a red, half dark flesh; and black until it is a step darker."""
    known = {m["name"]: m["parts"] for m in client.get(f"/api/sitters/{maren}/flesh/named").json()}
    assert known["green-ground"] == {"green-earth": 2, "raw-umber": 1}
    assert known["light-skin"] == FIXED["light-skin"]
    assert any(name.startswith("flesh, ") for name in known)
    found = combined(client, maren, [("light-red", 1), ("@green-ground", 1)]).json()
    assert found["parts"] == {"light-red": 3, "green-earth": 2, "raw-umber": 1}
    assert (found["base"], found["added"]) == (1, {})
    assert any("manganese" in line for line in found["cautions"])
    darker = combined(client, maren, [("@light-skin", 1)], tube="ivory-black", steps=-1).json()
    before = combined(client, maren, [("@light-skin", 1)]).json()
    assert darker["value"] == pytest.approx(before["value"] - 1, abs=0.1)
    share = darker["parts"]["ivory-black"] / sum(darker["parts"].values())
    black = darker["added"]["ivory-black"]
    assert share == pytest.approx(black / (black + darker["base"]))
    orange = [("yellow-ochre", 2), ("light-red", 1), ("titanium-white", 1)]
    before = combined(client, maren, orange).json()
    bluer = combined(client, maren, orange, steps=-0.5, way="bluer").json()
    assert bluer["value"] == pytest.approx(before["value"] - 0.5, abs=0.15)
    assert bluer["lab"][2] < before["lab"][2] - 2
    assert sum(bluer["added"].values()) <= bluer["base"]


@pytest.mark.parametrize(
    ("parts", "more", "sentence"),
    [
        ([("@nobody", 1)], {}, "no mixture called"),
        ([("no-such-tube", 1)], {}, "no-such-tube"),
        ([], {}, "at least one part"),
        ([("light-red", 0)], {}, "at least one part"),
        ([("ivory-black", 1)], {"tube": "yellow-ochre", "steps": -1}, "No amount"),
        ([("light-red", 1)], {"tube": "nothing", "steps": -1}, "nothing"),
        ("rubbish", {}, "whole numbers of parts"),
        ([("light-red", 1.5)], {}, "whole numbers of parts"),
    ],
)
def test_what_cannot_be_combined_gets_a_sentence(
    client: TestClient, maren: str, parts: Any, more: dict[str, object], sentence: str
) -> None:
    answer = combined(client, maren, parts, **more)
    assert answer.status_code == 422
    assert sentence in answer.json()["detail"]


def test_a_swatch_tells_how_strong_thin_layers_are(client: TestClient, maren: str) -> None:
    url = f"/api/sitters/{maren}/flesh/strength"
    found = client.get(url, params={"tube": "light-red", "thinner": 20, "value": 6.5}).json()
    weaker = client.get(url, params={"tube": "light-red", "thinner": 20, "value": 7.5}).json()
    assert 0 < weaker["strength"] < found["strength"]
    refused = client.get(url, params={"tube": "light-red", "thinner": 20, "value": 9.9})
    assert (refused.status_code, "darker than the bare" in refused.json()["detail"]) == (422, True)


def test_media_say_what_they_are(client: TestClient) -> None:
    media = {m["name"]: m for m in client.get("/api/library").json()["media"]}
    assert media["watercolour"]["thinner"] == "water"
    assert "respirator" in media["airbrush"]["caution"]
    assert media["oil"]["wait_minutes"] > media["quick oil"]["wait_minutes"]


@pytest.mark.parametrize("what", ["shape", "group"])
def test_near_mixtures_of_a_place(client: TestClient, maren: str, what: str) -> None:
    found = client.get(f"/api/sitters/{maren}/flesh/near", params={"x": 0.45, "y": 0.5, "what": what}).json()
    assert len(found["near"]) == 4
    assert all(n["base"] >= sum(n["added"].values()) for n in found["near"])
    assert found["heap"]["parts"]
