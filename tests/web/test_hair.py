"""The hair over the API: what is answered, what handles do, and what is refused."""

from __future__ import annotations

import io
from itertools import pairwise

import numpy as np
import pytest
from fastapi.testclient import TestClient
from PIL import Image

from tests.conftest import small_photo
from tests.web.conftest import put_in


def edit(client: TestClient, url: str, **body: object) -> dict[str, object]:
    answer = client.patch(f"{url}/settings/hair", json={"change": "hair", **body})
    assert answer.status_code == 200, answer.text
    return dict(answer.json())


@pytest.fixture
def url(client: TestClient, maren: str) -> str:
    return f"/api/sitters/{maren}"


def test_growth_lines_are_told_with_kind_strict_part_and_sureness(client: TestClient, url: str) -> None:
    hair = client.get(f"{url}/hair").json()
    assert {line["kind"] for line in hair["lines"]} >= {"hair", "left brow"}
    for line in hair["lines"]:
        assert 1 <= line["root_end"] < len(line["points"]) // 2
        assert 0 <= line["sure"] <= 1
    assert hair["head"] == "wavy"
    assert hair["knot"] is None


def test_handles_change_the_lines_and_are_undone(client: TestClient, url: str) -> None:
    before = client.get(f"{url}/hair").json()["lines"]
    edit(client, url, lists={"whorls": {"add": [{"x": 0.3, "y": 0.55, "radius": 0.1}]}})
    turned = client.get(f"{url}/hair").json()["lines"]
    assert turned != before
    parting = {"points": [[0.7, 0.6], [0.72, 0.9]]}
    edit(client, url, lists={"partings": {"add": [parting]}, "hairlines": {"add": [parting]}})
    assert client.get(f"{url}/hair").json()["lines"] != turned
    client.post(f"{url}/undo")
    client.post(f"{url}/undo")
    assert client.get(f"{url}/hair").json()["lines"] == before
    wrong = client.patch(f"{url}/settings/hair", json={"lists": {"whorls": {"add": [{"x": 3, "y": 0}]}}})
    assert wrong.status_code == 422


def test_locks_come_in_the_order_of_painting_and_by_hand(client: TestClient, url: str) -> None:
    right = client.get(f"{url}/hair/locks").json()
    locks = right["locks"]
    assert [lock["place"] for lock in locks] == [f"lock {n}" for n in range(1, len(locks) + 1)]
    for rank, lock in enumerate(locks, 1):
        assert all(1 <= other <= len(locks) and other != rank for other in lock["over"])
        assert lock["pull"] in ("from the root", "from the tip")
    assert right["masses"][0]["mass"] == "hair"
    edit(client, url, set={"hand": "left"})
    left = client.get(f"{url}/hair/locks").json()["locks"]
    assert [lock["x"] for lock in left] != [lock["x"] for lock in locks]
    edit(client, url, set={"lock_mm": 30})
    wide = client.get(f"{url}/hair/locks").json()
    assert wide["width_mm"] == pytest.approx(30)
    assert len(wide["locks"]) < len(locks)
    draw = {"does": "draw", "points": [[0.25, 0.5], [0.25, 0.7]]}
    edit(client, url, lists={"lock_strokes": {"add": [draw]}})
    assert len(client.get(f"{url}/hair/locks").json()["locks"]) != len(wide["locks"])
    for _ in range(3):
        client.post(f"{url}/undo")


def test_a_lock_has_a_type_that_a_press_corrects(client: TestClient, url: str) -> None:
    locks = client.get(f"{url}/hair/locks").json()["locks"]
    lock = max(locks, key=lambda one: one["width_mm"] * one["length_mm"])
    assert lock["pressed"] is None
    assert lock["typed"]
    assert lock["type"] in ("straight", "wavy")
    assert 0 < lock["brush_mm"] < lock["width_mm"]
    assert [tone["name"] for tone in lock["tones"]] in (["dark", "middle", "light"], ["middle"])
    assert all(tone["mixed"]["parts"] for tone in lock["tones"])
    pressed = {"x": lock["x"], "y": lock["y"], "type": "frizz"}
    edit(client, url, lists={"lock_types": {"add": [pressed]}})
    after = {one["place"]: one for one in client.get(f"{url}/hair/locks").json()["locks"]}
    assert (after[lock["place"]]["type"], after[lock["place"]]["pressed"]) == ("frizz", 0)
    assert sum(one["pressed"] is not None for one in after.values()) == 1
    layers = client.get(f"{url}/hair/layers").json()["layers"]
    assert any("frizz" in layer["type"] for layer in layers)
    edit(client, url, set={"type": "short"})
    layers = client.get(f"{url}/hair/layers").json()["layers"]
    assert {layer["type"] for layer in layers if layer["strokes"]} == {"short"}
    told = client.get(f"{url}/hair/locks").json()["locks"]
    assert {one["type"] for one in told} == {"short"}, "locks are told as they are stroked"
    client.post(f"{url}/undo")
    client.post(f"{url}/undo")
    wrong = client.patch(
        f"{url}/settings/hair", json={"lists": {"lock_types": {"add": [{**pressed, "type": "bald"}]}}}
    )
    assert wrong.status_code == 422


def test_disorder_is_a_handle(client: TestClient, url: str) -> None:
    """Strokes that may leave their lock by more end farther off their growth line."""
    assert client.patch(f"{url}/settings/hair", json={"set": {"disorder": 61}}).status_code == 422
    drawn = {}
    for degrees in (0, 45):
        edit(client, url, set={"disorder": degrees})
        drawn[degrees] = client.get(f"{url}/files/strokes.svg").content
        client.post(f"{url}/undo")
    assert drawn[0] != drawn[45]


def test_layers_come_with_mixtures_and_a_picture_each(client: TestClient, url: str) -> None:
    told = client.get(f"{url}/hair/layers").json()
    layers = told["layers"]
    assert layers[0]["name"] == "Hair, base"
    assert all(layer["mixed"]["parts"] for layer in layers)
    passes = client.get(f"{url}/passes").json()["passes"]
    assert [p["layer"] for p in passes if p["layer"]] == [layer["id"] for layer in layers]
    assert told["approach"]["chosen"] == "masses"
    assert {s["mass"] for s in told["shine"]} == {"hair"}
    seen = []
    for number in (1, len(layers)):
        answer = client.get(f"{url}/hair/layers/{number}/picture")
        assert answer.headers["content-type"] == "image/png"
        seen.append(np.asarray(Image.open(io.BytesIO(answer.content))))
        again = client.get(
            f"{url}/hair/layers/{number}/picture", headers={"If-None-Match": answer.headers["etag"]}
        )
        assert again.status_code == 304
    assert (seen[0] != seen[1]).any(axis=2).mean() > 0.1
    none = client.get(f"{url}/hair/layers/{len(layers) + 1}/picture")
    assert none.status_code == 422
    assert f"has {len(layers)}" in none.json()["detail"]


def test_hours_decide_and_the_painters_word_overrules(client: TestClient, url: str) -> None:
    edit(client, url, set={"hours": 100})
    assert client.get(f"{url}/hair/layers").json()["approach"]["chosen"] == "strands"
    edit(client, url, set={"way": "masses", "layers": 3})
    told = client.get(f"{url}/hair/layers").json()
    assert told["approach"]["chosen"] == "masses"
    assert len(told["layers"]) == 3
    for bad in ({"layers": 12}, {"hours": -1}, {"type": "bald"}, {"lock_mm": 0}):
        assert client.patch(f"{url}/settings/hair", json={"set": bad}).status_code == 422
    client.post(f"{url}/undo")
    client.post(f"{url}/undo")


def test_edges_tell_the_hairline_and_the_brows(client: TestClient, url: str) -> None:
    edges = client.get(f"{url}/hair/edges").json()
    assert edges["hairline"]
    assert edges["first_hairs"] > 20
    assert edges["brows"]["left"]["length_mm"] > 20
    assert edges["brows"]["upper_mm"] > 0
    assert edges["brows"]["lower_mm"] > 0
    assert edges["has_shadow"] == (edges["shadow"] is not None)
    assert edges["shadow"]["parts"]
    assert edges["moustache"] is None
    assert edges["forms"] is None


def test_practice_is_checked_and_refused_when_it_is_no_stroke(client: TestClient, url: str) -> None:
    line = max(client.get(f"{url}/hair").json()["lines"], key=lambda one: len(one["points"]))
    flat = line["points"]
    points = [[flat[i], flat[i + 1]] for i in range(0, len(flat), 2)]
    good = client.post(f"{url}/hair/practice", json={"strokes": [points]}).json()
    assert (good["right"], good["strokes"]) == (1, 1)
    back = client.post(f"{url}/hair/practice", json={"strokes": [points[::-1]]}).json()
    assert back["right"] == 0
    assert back["faults"][0]["kind"] == "root"
    short = client.post(f"{url}/hair/practice", json={"strokes": [[[0.5, 0.5]]]})
    assert short.status_code == 422
    assert "two points" in short.json()["detail"]
    assert client.post(f"{url}/hair/practice", json={"strokes": []}).status_code == 422


def test_strokes_on_a_photograph_are_found_and_checked(client: TestClient, url: str) -> None:
    import cv2

    from tests.conftest import jpeg

    sheet = np.full((1000, 800, 3), 235, np.uint8)
    blank = client.post(f"{url}/hair/practice/photograph", files={"photo": ("a.jpg", jpeg(sheet))})
    assert blank.status_code == 422
    assert "No strokes" in blank.json()["detail"]
    lines = sorted(client.get(f"{url}/hair").json()["lines"], key=lambda one: -len(one["points"]))
    flat = np.array(lines[0]["points"]).reshape(-1, 2) * (800, 1000)
    for n, (a, b) in enumerate(pairwise(flat)):
        width = max(2, round(7 - 5 * n / len(flat)))
        cv2.line(sheet, tuple(a.astype(int).tolist()), tuple(b.astype(int).tolist()), (25, 25, 25), width)
    found = client.post(f"{url}/hair/practice/photograph", files={"photo": ("a.jpg", jpeg(sheet))}).json()
    assert len(found["strokes"]) == 1
    assert np.hypot(*(np.array(found["strokes"][0][0]) * (800, 1000) - flat[0])) < 25
    assert found["report"]["right"] == 1
    wrong = client.post(f"{url}/hair/practice/photograph", files={"photo": ("a.jpg", b"no picture")})
    assert wrong.status_code == 422


def test_arrows_and_pictures_are_answered(client: TestClient, url: str) -> None:
    arrows = client.get(f"{url}/hair/arrows").json()
    assert arrows["along"]["skin"] != arrows["across"]["skin"]
    for name in ("skull", "relief", "lock-volume", "hair-surface", "lock-tones", "locks", "hair-band"):
        answer = client.get(f"{url}/pictures/{name}")
        assert answer.status_code == 200, answer.text
        assert Image.open(io.BytesIO(answer.content)).size[0] >= 100


def test_a_photograph_without_colour_is_said_to_be_one(client: TestClient) -> None:
    import cv2

    from tests.conftest import jpeg, truth

    grey = cv2.imdecode(np.frombuffer(truth("orsolya").data, np.uint8), cv2.IMREAD_GRAYSCALE)
    photo = jpeg(np.repeat(grey[..., None], 3, axis=2))
    kept = client.post("/api/sitters", files={"photo": ("grey.jpg", photo, "image/jpeg")}).json()
    told = client.get(f"/api/sitters/{kept['id']}/regions").json()["sentence"]
    assert "no colour" in told


def test_light_forms_of_a_beard_are_sized_and_moved(client: TestClient) -> None:
    tobias = put_in(client, small_photo("tobias"), name="tobias.jpg").json()["id"]
    url = f"/api/sitters/{tobias}"
    found = client.get(f"{url}/hair/edges").json()["forms"]
    gains = [form["gain"] for form in found["forms"]]
    assert gains == sorted(gains, reverse=True)
    assert gains[0] > 0.1
    assert found["light"]["parts"]
    assert all(len(touch) == 4 for form in found["forms"] for touch in form["touches"])
    edit(client, url, set={"form_size": 1.5})
    larger = client.get(f"{url}/hair/edges").json()["forms"]
    assert 2 <= len(larger["forms"]) < len(found["forms"])
    assert larger["long_mm"] == pytest.approx(1.5 * found["long_mm"])
    edit(client, url, set={"form_size": 1.0})
    one = found["forms"][1]
    moved = {"x": one["x"], "y": one["y"], "to_x": one["x"], "to_y": one["y"] + 0.03}
    edit(client, url, lists={"form_moves": {"add": [moved]}})
    there = [
        form for form in client.get(f"{url}/hair/edges").json()["forms"]["forms"] if form["move"] is not None
    ]
    assert [(form["move"], form["y"]) for form in there] == [(0, pytest.approx(one["y"] + 0.03))]
    drawn = client.get(f"{url}/files/hairline.svg").text
    assert drawn.count("data-gain") == len(found["forms"])
