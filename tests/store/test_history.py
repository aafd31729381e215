"""Two windows, many threads, old documents: no acknowledged change is lost, and each can be undone."""

from __future__ import annotations

import json
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from sqlalchemy import text

from tests.conftest import jpeg
from truesitter.core.refusal import Refusal
from truesitter.core.settings import StudySettings
from truesitter.store.backup.lock import folder_lock
from truesitter.store.rows.database import open_database
from truesitter.store.settings.edits import Edit, ListEdit, clash
from truesitter.store.settings.facts import UnknownFact
from truesitter.store.settings.history import Overtaken
from truesitter.store.settings.sitters import Repository

PHOTO = jpeg(np.full((80, 64, 3), 120, np.uint8))
STROKE = {"region": "skin", "points": [[0.1, 0.1], [0.2, 0.2]], "width": 0.02}


def guide(x: float, points: int = 3) -> dict[str, Any]:
    return {"points": [[x, round(0.1 + i / 500, 4)] for i in range(points)], "reach": 0.04}


@pytest.fixture
def sitter(repository: Repository) -> str:
    return repository.add(PHOTO, "a.jpg").id


def test_of_changes_made_at_once_none_is_lost_and_each_can_be_undone(
    repository: Repository, sitter: str
) -> None:
    fresh = repository.get(sitter).settings

    def work(number: int) -> None:
        # Sizes that are never the one set already: the first of 4 mm would change nothing and be no revision.
        for step in range(10):
            if number % 2:
                repository.change(
                    sitter, "hair", Edit("guide", {}, {"guides": ListEdit(add=(guide(number / 10),))})
                )
            else:
                repository.change(sitter, "values", Edit("size", {"smallest_mm": 10 + number + step / 100}))

    with ThreadPoolExecutor(8) as pool:
        list(pool.map(work, range(8)))
    kept = repository.get(sitter)
    assert len(kept.settings.hair.guides) == 40
    assert kept.revision == 80
    for _ in range(80):
        kept = repository.undo(sitter)
    assert kept.settings == fresh
    assert kept.undo is None
    for _ in range(80):
        kept = repository.redo(sitter)
    assert len(kept.settings.hair.guides) == 40


def test_two_windows_on_different_fields_are_joined_on_the_same_field_told(
    repository: Repository, sitter: str
) -> None:
    seen = repository.get(sitter).revision
    repository.change(sitter, "values", Edit("Four groups", {"groups": 4}), seen)
    joined = repository.change(sitter, "values", Edit("Finer", {"smallest_mm": 2.0}), seen)
    assert (joined.settings.values.groups, joined.settings.values.smallest_mm) == (4, 2.0)
    with pytest.raises(Overtaken, match=r"“Three groups” was not kept.*groups") as told:
        repository.change(sitter, "values", Edit("Three groups", {"groups": 3}), seen)
    assert told.value.sentence.endswith("is kept.")
    assert repository.get(sitter).settings == joined.settings
    with pytest.raises(Overtaken, match="Undo"):
        repository.undo(sitter, seen)
    assert repository.undo(sitter, joined.revision).settings.values.groups == 4


def test_strokes_of_two_windows_are_joined_but_a_stroke_taken_away_is_not_guessed_at(
    repository: Repository, sitter: str
) -> None:
    add = Edit("stroke", {}, {"scribbles": ListEdit(add=(STROKE,))})
    seen = repository.change(sitter, "regions", add).revision
    repository.change(sitter, "regions", add, seen)
    assert len(repository.change(sitter, "regions", add, seen).settings.regions.scribbles) == 3
    with pytest.raises(Overtaken, match="scribbles"):
        repository.change(sitter, "regions", Edit("Remove", {}, {"scribbles": ListEdit(0, 1)}), seen)
    with pytest.raises(Overtaken):
        repository.change(sitter, "regions", add, 10_000)


def test_a_window_left_open_too_long_is_not_guessed_at(repository: Repository, sitter: str) -> None:
    for step in range(205):
        repository.change(sitter, "values", Edit("size", {"smallest_mm": step / 100}))
    with pytest.raises(Overtaken, match="this sitter"):
        repository.change(sitter, "hair", Edit("Spacing", {"spacing_mm": 9.0}), 1)
    assert (
        repository.change(sitter, "hair", Edit("Spacing", {"spacing_mm": 9.0}), 100).settings.hair.spacing_mm
        == 9
    )


@pytest.mark.parametrize(
    ("mine", "theirs", "both"),
    [
        ({"a.x"}, {"a.y"}, None), ({"a.x"}, {"a.x"}, "a.x"), ({"a.x+"}, {"a.x+"}, None),
        ({"a.x+"}, {"a.x"}, "a.x"), ({"a.x"}, {"a.x+"}, "a.x"), ({"a.x"}, {"b.x"}, None),
    ],
)  # fmt: skip
def test_what_is_in_each_others_way(mine: set[str], theirs: set[str], both: str | None) -> None:
    assert clash(mine, theirs) == both


@pytest.mark.parametrize(
    ("edit", "words"),
    [
        (Edit("x", {"nothing": 1}), "nothing called"),
        (Edit("x", {}, {"spacing_mm": ListEdit()}), "no list"),
        (Edit("x", {}, {"guides": ListEdit(0, 1)}), "not there any more"),
        (Edit("x", {}, {"guides": ListEdit(add=({"points": [[0.1, 0.1]]},))}), "at least 2 items"),
        (Edit("x", {"spacing_mm": 1e9}), "spacing_mm"),
        (Edit("x", {"spacing_mm": "wide"}), "spacing_mm"),
    ],
)
def test_an_impossible_edit_changes_nothing(
    repository: Repository, sitter: str, edit: Edit, words: str
) -> None:
    with pytest.raises(Refusal, match=words):
        repository.change(sitter, "hair", edit)
    assert repository.get(sitter).revision == 0


def test_two_hundred_guides_are_cheap_to_change(tmp_path: Path) -> None:
    """Each guide is a row, each change a small patch: what is written grows with the change alone."""
    repository = Repository(tmp_path)
    sitter = repository.add(PHOTO, "a.jpg").id
    sizes = []
    for number in range(200):
        repository.change(
            sitter, "hair", Edit("g", {}, {"guides": ListEdit(add=(guide(number / 1000, 100),))})
        )
    repository.close()
    database = open_database(tmp_path / "sitters.sqlite")
    with database.connect() as connection:
        for table, column in (("revision", "patch"), ("item", "document"), ("stage", "document")):
            size = connection.execute(text(f"SELECT max(length({column})) FROM {table}")).scalar()
            sizes.append(size or 0)
    assert sum(sizes) < 10 * 1024


def test_settings_that_cannot_be_read_take_no_one_else_down(tmp_path: Path) -> None:
    repository = Repository(tmp_path)
    one, other = repository.add(PHOTO, "a.jpg").id, repository.add(PHOTO, "b.jpg").id
    repository.change(one, "values", Edit("Four", {"groups": 4}))
    repository.change(one, "hair", Edit("Wide", {"spacing_mm": 9.0}))
    repository.close()
    database = open_database(tmp_path / "sitters.sqlite")
    for document in ('{"groups": 4, "moon": "full"}', '{"groups": 99}', '"words"', "[1]"):
        with database.begin() as connection:
            connection.execute(
                text("UPDATE stage SET document = :d WHERE sitter_id = :s AND stage = 'values'"),
                {"d": document, "s": one},
            )
        repository = Repository(tmp_path)
        assert {s.id for s in repository.all()} == {one, other}
        kept = repository.get(one)
        assert [t.stage for t in kept.troubles] == ["values"]
        assert kept.settings.values == StudySettings().values
        assert kept.settings.hair.spacing_mm == 9
        with pytest.raises(Refusal, match=r"cannot be read.*anew"):
            repository.change(one, "values", Edit("Three", {"groups": 3}))
        repository.change(one, "hair", Edit("Wider", {"spacing_mm": 10.0}))
        repository.change(one, "hair", Edit("Wide", {"spacing_mm": 9.0}))
        repository.close()
    repository = Repository(tmp_path)
    mended = repository.reset(one, "values", "Begin values anew")
    assert mended.troubles == ()
    assert repository.change(one, "values", Edit("Three", {"groups": 3})).settings.values.groups == 3
    repository.undo(one)
    assert [t.stage for t in repository.undo(one).troubles] == ["values"], (
        "what could not be read is not thrown away"
    )


def test_a_newer_versions_settings_are_named_as_such(tmp_path: Path) -> None:
    repository = Repository(tmp_path)
    sitter = repository.add(PHOTO, "a.jpg").id
    repository.change(sitter, "hair", Edit("Wide", {"spacing_mm": 9.0}))
    repository.close()
    with open_database(tmp_path / "sitters.sqlite").begin() as connection:
        connection.execute(text("UPDATE stage SET version = 99"))
    assert "newer version" in Repository(tmp_path).get(sitter).troubles[0].sentence


def test_ticks_are_facts_that_undo_leaves_alone(repository: Repository, sitter: str) -> None:
    tick = {"school": "layered-oil", "pass": "ground"}
    fact = repository.facts.add(sitter, "pass done", tick)
    assert repository.facts.add(sitter, "pass done", tick).id == fact.id
    repository.change(sitter, "values", Edit("Four", {"groups": 4}))
    repository.undo(sitter)
    assert [f.document for f in repository.facts.all(sitter, "pass done")] == [tick]
    repository.facts.strike(sitter, fact.id)
    assert repository.facts.all(sitter, "pass done") == ()
    with pytest.raises(UnknownFact):
        repository.facts.strike(sitter, fact.id)
    assert repository.facts.add(sitter, "pass done", tick).id > fact.id, "a number is never used again"
    other = repository.add(PHOTO, "b.jpg").id
    with pytest.raises(UnknownFact):
        repository.facts.strike(other, repository.facts.all(sitter, "pass done")[0].id)


def test_a_folder_belongs_to_one_program(tmp_path: Path) -> None:
    with folder_lock(tmp_path), pytest.raises(Refusal, match="another True Sitter"), folder_lock(tmp_path):
        pass
    with folder_lock(tmp_path):
        pass


def old_folder(path: Path, gap: bool = False) -> None:
    """A folder as the version before patches left it: whole revisions, ticks among the settings."""
    engine = open_database(path / "sitters.sqlite", "0002")
    stroke = {"points": [[0.1, 0.1], [0.2, 0.3]], "reach": 0.04}
    empty, school = {"guides": [], "spacing_mm": 6.0}, {"school": "layered-oil"}
    done = ["ground", "flesh-shadow", "background-deep", "hair-lights"]
    changes = [
        ("hair", empty, {"guides": [stroke], "spacing_mm": 6.0}),
        ("values", {"groups": 5, "joins": []}, {"groups": 4, "joins": [], "names": ["deep"]}),
        ("passes", {**school, "done": []}, {**school, "done": done}),
        ("hair", {"guides": [stroke], "spacing_mm": 6.0}, {"guides": [stroke, stroke], "spacing_mm": 6.0}),
        ("hair", {"guides": [stroke, stroke], "spacing_mm": 6.0}, {"guides": [stroke], "spacing_mm": 8.0}),
    ]
    now = {
        "hair": changes[3][2],
        "values": changes[1][2],
        "passes": {"school": "layered-oil", **changes[2][2]},
    }
    with engine.begin() as c:
        c.execute(text("INSERT INTO sitter VALUES ('s', 'Odd', '', '2026-01-01 00:00:00', NULL, 4)"))
        c.execute(
            text("INSERT INTO reference VALUES ('s', :h, 'a.jpg', 'JPEG', 64, 80, 10)"), {"h": "0" * 64}
        )
        for stage, document in now.items():
            c.execute(text("INSERT INTO stage VALUES ('s', :s, :d)"), {"s": stage, "d": json.dumps(document)})
        for number, (stage, before, after) in enumerate(changes, start=1):
            c.execute(
                text("INSERT INTO revision VALUES (NULL, 's', :n, :s, :c, :b, :a, '2026-01-01 00:00:00')"),
                {"n": number + (number > 2 and gap), "s": stage, "c": f"change {number}",
                 "b": json.dumps(before), "a": json.dumps(after)},
            )  # fmt: skip
    engine.dispose()


def test_a_folder_of_the_version_before_is_taken_over_whole(tmp_path: Path) -> None:
    old_folder(tmp_path)
    repository = Repository(tmp_path)
    kept = repository.get("s")
    assert kept.troubles == ()
    assert (len(kept.settings.hair.guides), kept.settings.values.groups) == (2, 4)
    assert (kept.undo, kept.redo) == ("change 4", "change 5")
    ticked = [f.document["pass"] for f in repository.facts.all("s", "pass done")]
    assert ticked == ["ground", "flesh-2", "background-1", "hair-3"]
    repository.redo("s")
    assert repository.get("s").settings.hair.spacing_mm == 8
    assert len(repository.get("s").settings.hair.guides) == 1
    for _ in range(4):
        kept = repository.undo("s")
    assert kept.settings.hair.guides == ()
    assert kept.settings.values.groups == 5
    assert kept.undo is None, "a change of ticks alone is no change of settings"
    repository.change("s", "hair", Edit("guide", {}, {"guides": ListEdit(add=(guide(0.5),))}))
    assert len(repository.get("s").settings.hair.guides) == 1


def test_a_history_with_a_gap_keeps_its_settings_and_begins_anew(tmp_path: Path) -> None:
    old_folder(tmp_path, gap=True)
    kept = Repository(tmp_path).get("s")
    assert (len(kept.settings.hair.guides), kept.settings.values.groups) == (2, 4)
    assert (kept.undo, kept.redo) == (None, None)
