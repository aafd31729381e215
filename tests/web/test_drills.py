"""Drills over HTTP: a go from first round to last, kept for each painter."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.conftest import jpeg, made_head, small_photo
from tests.web.conftest import put_in
from truesitter.core.drills.drill_habits import TRAINS, wanted_by
from truesitter.core.drills.drill_kinds import DRILLS
from truesitter.core.drills.tuning import ROUNDS
from truesitter.core.easel.correct.painting_habits import Habit
from truesitter.store.settings.sitters import Repository
from truesitter.web.server.app import create_app


@pytest.fixture(scope="module")
def own(tmp_path_factory: pytest.TempPathFactory) -> Iterator[tuple[TestClient, str]]:
    """A shelf of its own with one sitter, and the address of its drills."""
    repository = Repository(tmp_path_factory.mktemp("drills"))
    with TestClient(create_app(repository), base_url="http://127.0.0.1") as client:
        sitter = put_in(client, small_photo("tobias")).json()["id"]
        yield client, f"/api/sitters/{sitter}/drills"


def state(client: TestClient, drill: str) -> Any:
    return next(d for d in client.get("/api/drills").json()["drills"] if d["name"] == drill)


def test_all_are_due_before_the_first_go(own: tuple[TestClient, str]) -> None:
    client, _ = own
    found = client.get("/api/drills").json()
    assert found["rounds"] == ROUNDS
    assert [d["name"] for d in found["drills"]] == list(DRILLS)
    assert all(d["due"] for d in found["drills"])


def test_a_go_from_first_round_to_last(own: tuple[TestClient, str]) -> None:
    client, url = own
    level = state(client, "lighter")["level"]
    rights = 0
    for seed in range(ROUNDS):
        asked = {"drill": "lighter", "seed": seed, "level": level}
        question = client.get(f"{url}/round", params=asked).json()
        assert question["pictured"] is False
        # Of two hexadecimal greys and browns the one with more in it is mostly the lighter.
        sums = [
            sum(int(p[i : i + 2], 16) * w for i, w in ((1, 2), (3, 7), (5, 1))) for p in question["patches"]
        ]
        given = {**asked, "go": "a" * 16, "choice": int(sums[1] > sums[0])}
        score = client.post(f"{url}/answer", json=given).json()
        rights += score["right"]
        assert score["kept"]
        # What was right is asked harder.
        assert score["level"] < level
        level = score["level"]
    again = client.post(f"{url}/answer", json=given).json()
    assert not again["kept"]
    found = state(client, "lighter")
    assert found["rounds"] == ROUNDS
    (go,) = found["goes"]
    assert go["right"] == rights / ROUNDS
    assert rights == ROUNDS
    assert (found["box"], found["due"]) == (1, False)
    wait = datetime.fromisoformat(found["due_at"]) - datetime.now(UTC)
    assert timedelta(hours=23) < wait <= timedelta(days=1)
    # A go that was broken off counts for nothing but the eye.
    begun = {"drill": "value", "seed": 1, "level": 1.0, "go": "d" * 16, "number": 5}
    assert client.post(f"{url}/answer", json=begun).json()["kept"]
    broken_off = state(client, "value")
    assert (broken_off["rounds"], broken_off["box"], broken_off["due"]) == (1, 0, True)
    # What is due comes first.
    assert client.get("/api/drills").json()["drills"][-1]["name"] == "lighter"


@pytest.mark.parametrize("drill", list(DRILLS))
def test_every_drill_can_be_asked(own: tuple[TestClient, str], drill: str) -> None:
    client, url = own
    asked = {"drill": drill, "seed": 3, "level": 1.0}
    first, again = (client.get(f"{url}/round", params=asked) for _ in range(2))
    assert first.status_code == 200, first.text
    assert first.json() == again.json()
    nothing = client.post(f"{url}/answer", json={**asked, "go": "b" * 16})
    assert nothing.status_code == 422
    assert nothing.json()["detail"]


@pytest.mark.parametrize(
    "spoilt",
    [
        {"drill": "juggling"}, {"seed": -1}, {"seed": 2**31}, {"level": 0}, {"go": "../x"},
        {"number": 1e9}, {"points": [[0, 0]] * 3000}, {"choice": -1}, {"places": ["x" * 80]},
    ],
)  # fmt: skip
def test_nonsense_is_refused(own: tuple[TestClient, str], spoilt: dict[str, Any]) -> None:
    client, url = own
    before = client.get("/api/drills").json()
    good = {"drill": "value", "seed": 1, "level": 1.0, "go": "c" * 16, "number": 5}
    assert client.post(f"{url}/answer", json={**good, **spoilt}).status_code == 422
    assert client.get("/api/drills").json() == before


def test_a_picture_without_a_face_or_hair_says_so(tmp_path: Path) -> None:
    client = TestClient(create_app(Repository(tmp_path)), base_url="http://127.0.0.1")
    grey = made_head(200, 240)
    grey[:] = 128
    sitter = put_in(client, jpeg(grey)).json()["id"]
    lacking = client.get(f"/api/sitters/{sitter}/drills/ready").json()
    assert "hair" in lacking["strokes"]
    assert lacking["lighter"] == ""
    asked = {"drill": "strokes", "seed": 1, "level": 10}
    answer = client.get(f"/api/sitters/{sitter}/drills/round", params=asked)
    assert answer.status_code == 422
    assert "hair" in answer.json()["detail"]
    assert client.get(f"/api/sitters/{sitter}/drills/wanted").json() == []


def test_rounds_are_kept_for_each_painter_and_for_good(tmp_path: Path) -> None:
    from truesitter.core.drills.rounds import Score
    from truesitter.store.log.drills import Asked

    repository = Repository(tmp_path)
    for painter, off in (("Ada", 0.5), ("Ben", 2.0)):
        assert repository.drills.add(Asked("value", "a" * 8, 1.0, 1, "s"), Score(off, off < 1, ""), painter)
    assert not repository.drills.add(Asked("value", "a" * 8, 1.0, 1, "s"), Score(0, True, ""), "Ada")
    repository.close()
    again = Repository(tmp_path)
    assert [r.told.off for r in again.drills.latest("value", "Ada")] == [0.5]
    assert [r.told.right for r in again.drills.latest("value", "Ben")] == [False]
    assert again.drills.latest("value", "") == []


def test_habits_ask_for_the_drills_that_train_them() -> None:
    habits = [
        Habit("eye socket", "value", -0.8, 0.1, 5),
        Habit("ear", "value", 0.5, 0.1, 4),
        Habit("mouth", "down", 0.04, 0.01, 4),
    ]
    found = wanted_by(habits)
    assert found["value"].places == ("eye socket", "ear")
    assert "too dark" in found["value"].words[0]
    assert found["contour"].places == ("mouth",)
    assert "mix" not in found
    assert set(TRAINS) == {"value", "red", "yellow", "right", "down"}
