"""The rack in the database: tubes, readings with their history, palettes."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

import pytest

from truesitter.core.paint.tubes.rack import OwnTube, Stock
from truesitter.core.paint.tubes.swatches import Swatches
from truesitter.core.refusal import Refusal
from truesitter.store.settings.sitters import Repository
from truesitter.store.settings.tubes import MOST_TUBES, UnknownTube

OCHRE = Swatches((56.0, 14.0, 41.0), (82.0, 5.0, 22.0))
REDDER = Swatches((50.0, 22.0, 38.0), (80.0, 9.0, 20.0))


@pytest.fixture
def repository(tmp_path: Path) -> Iterator[Repository]:
    repository = Repository(tmp_path)
    yield repository
    repository.close()


def test_a_tube_is_kept_across_a_restart(repository: Repository, tmp_path: Path) -> None:
    kept = repository.tubes.add("Ocker, alt – Öl", "yellow-ochre", 37)
    repository.tubes.read({kept.tube.key: OCHRE}, "by hand")
    repository.close()
    again = Repository(tmp_path)
    (tube,) = again.tubes.all()
    again.close()
    assert tube.tube == OwnTube("ocker-alt-ol", "Ocker, alt – Öl", "yellow-ochre", OCHRE)
    assert (tube.amount_ml, tube.empty) == (37, False)
    assert tube.readings[0].source == "by hand"


def test_keys_differ_where_names_do_not(repository: Repository) -> None:
    keys = [
        repository.tubes.add(name, "yellow-ochre").tube.key for name in ("Yellow ochre", "Yellow ochre", "黄")
    ]
    assert keys == ["yellow-ochre-2", "yellow-ochre-3", "tube"]


def test_tubes_are_changed_taken_off_and_put_back(repository: Repository) -> None:
    key = repository.tubes.add("Ochre", "yellow-ochre").tube.key
    changed = repository.tubes.change(key, "Jar ochre", 4.5, True)
    assert (changed.tube.name, changed.amount_ml, changed.empty) == ("Jar ochre", 4.5, True)
    repository.tubes.remove(key)
    assert repository.tubes.all() == ()
    for ask in (repository.tubes.get, repository.tubes.remove):
        with pytest.raises(UnknownTube):
            ask(key)
    assert repository.tubes.restore(key).tube.name == "Jar ochre"
    with pytest.raises(UnknownTube):
        repository.tubes.restore("never")
    for bad in (-1.0, float("nan"), 1e9):
        with pytest.raises(Refusal, match="a tube holds between"):
            repository.tubes.change(key, "Jar ochre", bad, False)
    with pytest.raises(Refusal, match="needs a name"):
        repository.tubes.change(key, " ", None, False)


def test_every_reading_is_kept_and_any_can_be_gone_back_to(repository: Repository) -> None:
    key = repository.tubes.add("Ochre", "yellow-ochre").tube.key
    repository.tubes.read({key: OCHRE}, "colour meter")
    (twice,) = repository.tubes.read({key: REDDER}, "photograph")
    first, second = twice.readings
    assert (twice.reading, twice.tube.swatches) == (second.id, REDDER)
    # Before the second, the first one's curves were in force: it is off by about their difference.
    assert second.before["masstone"] > 5
    assert max(second.after.values()) < 1
    assert repository.tubes.use_reading(key, first.id).tube.swatches == OCHRE
    assert repository.tubes.use_reading(key, None).tube.swatches is None
    assert len(repository.tubes.get(key).readings) == 2
    with pytest.raises(UnknownTube):
        repository.tubes.use_reading(key, 999)


def test_readings_are_all_taken_or_none(repository: Repository) -> None:
    key = repository.tubes.add("Ochre", "yellow-ochre").tube.key
    alike = Swatches((60.0, 12.0, 40.0), (61.0, 12.0, 40.0))
    other = repository.tubes.add("Umber", "raw-umber").tube.key
    with pytest.raises(Refusal, match="Umber: tint and masstone look alike"):
        repository.tubes.read({key: OCHRE, other: alike}, "file")
    with pytest.raises(UnknownTube):
        repository.tubes.read({key: OCHRE, "gone": OCHRE}, "file")
    assert repository.tubes.get(key).readings == ()


def test_a_file_adds_and_changes_or_does_nothing(repository: Repository) -> None:
    key = repository.tubes.add("Ochre", "yellow-ochre", 10).tube.key
    repository.tubes.take_in(
        [
            Stock(OwnTube(key, "Better ochre", "yellow-ochre", OCHRE), 8),
            Stock(OwnTube("umber", "Umber", "raw-umber")),
        ],
        "file rack.json",
    )
    ochre, umber = repository.tubes.all()
    assert (ochre.tube.name, ochre.amount_ml, ochre.tube.swatches) == ("Better ochre", 8, OCHRE)
    assert umber.tube.key == "umber"
    with pytest.raises(Refusal, match="holds yellow-ochre here, viridian in the file"):
        repository.tubes.take_in(
            [Stock(OwnTube("new", "New", "viridian")), Stock(OwnTube(key, "Ochre", "viridian"))], "file"
        )
    too_many = [Stock(OwnTube(f"t{i}", "T", "viridian")) for i in range(MOST_TUBES)]
    with pytest.raises(Refusal, match="the rack holds"):
        repository.tubes.take_in(too_many, "file")
    assert [t.tube.key for t in repository.tubes.all()] == [key, "umber"]


def test_palettes_of_the_studio(repository: Repository) -> None:
    key = repository.tubes.add("Ochre", "yellow-ochre").tube.key
    kept = repository.palettes.keep("For the north window", (key, "titanium-white"), False)
    repository.palettes.keep("For the north window", (key, "titanium-white", "ivory-black"), False)
    (palette,) = repository.palettes.all()
    assert (palette.key, palette.tubes) == (kept.key, (key, "titanium-white", "ivory-black"))
    repository.tubes.remove(key)
    assert repository.palettes.all()[0].tubes == ("titanium-white", "ivory-black")
    with pytest.raises(Refusal, match="no tube called"):
        repository.palettes.keep("Bad", ("gone",), False)
    with pytest.raises(Refusal, match="needs a name"):
        repository.palettes.keep("  ", ("titanium-white",), False)
    repository.palettes.drop(kept.key)
    with pytest.raises(UnknownTube):
        repository.palettes.drop(kept.key)
