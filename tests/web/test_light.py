"""The light over the API: what is answered, what a change does, and what is refused."""

from __future__ import annotations

import io

import numpy as np
import pytest
from fastapi.testclient import TestClient
from PIL import Image


def picture(client: TestClient, url: str, name: str) -> np.ndarray:
    answer = client.get(f"{url}/pictures/{name}")
    assert answer.status_code == 200, answer.text
    return np.asarray(Image.open(io.BytesIO(answer.content)))


def change(client: TestClient, url: str, **fields: object) -> dict[str, object]:
    revision = f'"{client.get(url).json()["revision"]}"'
    answer = client.patch(
        f"{url}/settings/light",
        json={"change": "light", "set": fields},
        headers={"If-Match": revision},
    )
    assert answer.status_code == 200, answer.text
    return dict(answer.json())


def test_form_comes_with_shares_mixtures_and_casts(client: TestClient, maren: str) -> None:
    form = client.get(f"/api/sitters/{maren}/light/form").json()
    assert form["direction"]["words"] == "upper left, from the front"
    assert form["direction"]["from_face"]
    assert not form["direction"]["by_hand"]
    names = [c["name"] for c in form["classes"]]
    assert names == ["highlight", "light", "halftone", "form shadow", "reflected light", "cast shadow"]
    assert sum(c["share"] for c in form["classes"]) == pytest.approx(1, abs=0.02)
    assert all(c["mixture"]["parts"] for c in form["classes"])
    values = {c["name"]: c["value"] for c in form["classes"]}
    assert values["light"] > values["halftone"] > form["shadow_below"] > values["form shadow"]
    assert values["reflected light"] > values["form shadow"]
    assert "steps down" in form["passage"]["words"]
    assert form["casts"][0]["caster"] == "hair"
    assert all(len(line) % 2 == 0 and len(line) >= 4 for line in form["terminator"])


def test_the_key_light_is_set_by_hand_and_undone(client: TestClient, maren: str) -> None:
    url = f"/api/sitters/{maren}"
    before = client.get(f"{url}/light/form").json()
    ball = picture(client, url, "ball")
    assert ball[60, 60, :3].mean() > ball[160, 160, :3].mean() + 20, "lit from the upper left"
    assert ball[2, 2, 3] == 0
    keys = client.get(url).json()["keys"]
    change(client, url, key=[0.8, -0.5, 0.3])
    after = client.get(f"{url}/light/form").json()
    assert after["direction"]["by_hand"]
    assert after["direction"]["words"] == "lower right, from the side"
    turned = picture(client, url, "ball")
    assert turned[160, 160, :3].mean() > turned[60, 60, :3].mean() + 20
    fresh = client.get(url).json()["keys"]
    assert fresh["light/form"] != keys["light/form"]
    assert fresh["pictures/ball"] != keys["pictures/ball"]
    assert fresh["light/peaks"] != keys["light/peaks"], "ceilings follow the shadow"
    assert fresh["light/highlights"] == keys["light/highlights"]
    assert fresh["light/colour"] != keys["light/colour"]
    assert fresh["values"] == keys["values"]
    client.post(f"{url}/undo")
    assert client.get(f"{url}/light/form").json() == before


def test_peaks_are_added_moved_and_taken_away(client: TestClient, maren: str) -> None:
    url = f"/api/sitters/{maren}"
    found = client.get(f"{url}/light/peaks").json()
    assert found["peaks"][0]["place"] == "left side of the forehead"
    assert set(found["extra"]) <= {p["place"] for p in found["peaks"]}
    assert found["face_mm"] > 50
    assert len(found["rays"]) > 20
    first = [(p["x"], p["y"]) for p in found["peaks"]]
    zones = picture(client, url, "zones")
    change(client, url, peaks=[*first, (0.42, 0.8)])
    more = client.get(f"{url}/light/peaks").json()
    assert len(more["peaks"]) == len(first) + 1
    assert (more["peaks"][-1]["x"], more["peaks"][-1]["y"]) == (0.42, 0.8)
    assert not np.array_equal(picture(client, url, "zones"), zones)
    change(client, url, peaks=[])
    assert client.get(f"{url}/light/peaks").json()["peaks"] == []
    assert not picture(client, url, "zones")[..., 3].any()
    change(client, url, peaks=None, limits=[{"points": [(0.3, 0.2), (0.6, 0.2), (0.6, 0.4), (0.3, 0.4)]}])
    limited = picture(client, url, "zones")
    rows = np.flatnonzero(limited[..., 3].any(axis=1)) / limited.shape[0]
    assert rows.max() < 0.41
    for _ in range(3):
        client.post(f"{url}/undo")
    assert client.get(f"{url}/light/peaks").json() == found


@pytest.mark.parametrize(
    ("field", "words"),
    [
        ({"key": [0, 0, 0]}, "has to come from somewhere"),
        ({"key": [1, 2]}, "Key"),
        ({"peaks": [[0.5, "x"]]}, "Peaks"),
        ({"peaks": [[0.1, 0.1]] * 41}, "Peaks"),
        ({"limits": [{"points": [[0.1, 0.1], [0.2, 0.2]]}]}, "Limits"),
    ],
)
def test_light_that_makes_no_sense_is_refused(
    client: TestClient, maren: str, field: dict[str, object], words: str
) -> None:
    url = f"/api/sitters/{maren}"
    before = client.get(url).json()["settings"]
    revision = f'"{client.get(url).json()["revision"]}"'
    answer = client.patch(
        f"{url}/settings/light",
        json={"change": "x", "set": field},
        headers={"If-Match": revision},
    )
    assert answer.status_code == 422
    assert words in answer.text
    assert client.get(url).json()["settings"] == before


def test_highlights_recesses_colour_and_eyes(client: TestClient, maren: str) -> None:
    url = f"/api/sitters/{maren}/light"
    lights = client.get(f"{url}/highlights").json()
    assert {h["kind"] for h in lights} >= {"sheen", "wet eye or lip", "hair"}
    assert len({h["place"] for h in lights}) == len(lights)
    assert all(("at the very end" in h["how"]) == (h["kind"] == "wet eye or lip") for h in lights)
    recesses = client.get(f"{url}/recesses").json()
    assert [r["depth"] for r in recesses["recesses"]] == sorted(
        (r["depth"] for r in recesses["recesses"]), reverse=True
    )
    assert recesses["dark"]["target_value"] < recesses["first"]["target_value"] - 0.5
    colour = client.get(f"{url}/colour").json()
    assert {p["turn"] for p in colour["places"]} & {"redder", "greyer"}
    assert colour["sides"]
    eyes = client.get(f"{url}/eyes").json()
    assert [e["side"] for e in eyes] == ["left", "right"]
    assert all(0 < p["x"] < 1 and 0 < p["y"] < 1 for e in eyes for p in e["parts"] if p["value"] is not None)
    eye = picture(client, f"/api/sitters/{maren}", "eye-left")
    assert max(eye.shape[:2]) == 900


def test_a_made_head_without_a_face_is_read_too(client: TestClient, sitter: str) -> None:
    url = f"/api/sitters/{sitter}"
    form = client.get(f"{url}/light/form").json()
    assert form["direction"] is None or not form["direction"]["from_face"]
    assert client.get(f"{url}/light/eyes").json() == []
    assert client.get(f"{url}/light/peaks").json()["missing"] == []
    for name in ("form", "form-grey", "shine", "recesses", "turns", "ball", "eye-left"):
        assert picture(client, url, name).size


def test_a_line_of_colour(client: TestClient, maren: str) -> None:
    url = f"/api/sitters/{maren}/light/line"
    stops = client.post(url, json={"points": [(0.36, 0.44), (0.6, 0.5)]}).json()
    assert [s["along"] for s in stops] == sorted(s["along"] for s in stops)
    assert (stops[0]["along"], stops[-1]["along"]) == (0, 1)
    assert stops[0]["x"] == pytest.approx(0.36, abs=0.01)
    assert (stops[0]["base"], stops[0]["added"]) == (0, {})
    for s in stops[1:]:
        assert s["base"] > 0, "each from the one before"
        assert sum(s["added"].values()) <= 20, "plus a little"
    assert all(s["mixture"]["parts"] for s in stops)
    dark, light = stops[-1]["mixture"]["seen_value"], stops[0]["mixture"]["seen_value"]
    assert dark < light - 2, "from the lit cheek into the shadow"
    short = client.post(url, json={"points": [(0.5, 0.5), (0.5001, 0.5)]})
    assert short.status_code == 422
    assert "longer line" in short.json()["detail"]
    assert client.post(url, json={"points": [(0.5, 0.5)]}).status_code == 422


def test_form_in_grey_has_no_colour_and_in_colour_has(client: TestClient, maren: str) -> None:
    url = f"/api/sitters/{maren}"
    grey, colour = (picture(client, url, n).astype(int) for n in ("form-grey", "form"))
    assert np.ptp(grey, axis=2).max() <= 2
    assert np.ptp(colour, axis=2).max() > 30
    assert len(np.unique(colour[np.ptp(colour, axis=2) > 12].reshape(-1, 3), axis=0)) <= 10, "flat"
    sides = client.get(f"{url}/light/form").json()["sides"]
    assert {s["region"] for s in sides} >= {"hair"}
    assert all(s["lit_value"] > s["shadow_value"] for s in sides)
