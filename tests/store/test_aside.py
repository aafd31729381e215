"""A start never throws away a photograph that no painter deleted, whatever became of the database."""

from __future__ import annotations

import os
import shutil
import time
from pathlib import Path

import numpy as np
import pytest

from tests.conftest import jpeg
from tests.store.test_start import serve
from truesitter.core.reference.decode import inspect
from truesitter.store.backup.aside import ASIDE, KEPT_DAYS, kept_aside
from truesitter.store.backup.check import check_folder
from truesitter.store.files.blobs import Blobs
from truesitter.store.rows.database import DATABASE
from truesitter.store.settings.sitters import Repository
from truesitter.store.trouble import UnusableFolder

PHOTOS = [jpeg(np.full((80, 64, 3), grey, np.uint8)) for grey in (60, 120, 180)]


def photographs(folder: Path) -> dict[str, bytes]:
    """Every photograph that lies anywhere below a folder, by its hash."""
    files = [p for p in folder.rglob("*") if p.is_file() and len(p.name) == 64]
    return {p.name: p.read_bytes() for p in files}


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    """Three sitters, one with a photograph of its painting; everything written an hour ago."""
    repository = Repository(tmp_path / "data")
    ids = [repository.add(data, "a.jpg").id for data in PHOTOS]
    repository.paintings.keep(ids[0], PHOTOS[1], "p.jpg", inspect(PHOTOS[1]))
    repository.close()
    for path in (tmp_path / "data").rglob("??/*"):
        os.utime(path, (time.time() - 3600,) * 2)
    return tmp_path / "data"


@pytest.mark.parametrize("left", ["missing", "empty"])
def test_a_start_without_its_database_touches_nothing_and_says_how_to_restore(
    folder: Path, left: str
) -> None:
    before = photographs(folder)
    for path in folder.glob(f"{DATABASE}*"):
        path.unlink()
    if left == "empty":
        (folder / DATABASE).touch()
    code, words = serve(folder)
    assert code == 4
    assert "4 photographs and no database" in words
    assert "truesitter restore" in words
    assert photographs(folder) == before
    with pytest.raises(UnusableFolder, match="nothing in it was touched"):
        Repository(folder)
    assert photographs(folder) == before


def test_the_newest_daily_copy_is_named_as_the_way_back(folder: Path) -> None:
    for day in ("2026-11-27", "2026-11-28"):
        (folder / "copies" / day).mkdir(parents=True)
        shutil.copy(folder / DATABASE, folder / "copies" / day / DATABASE)
    (folder / DATABASE).unlink()
    with pytest.raises(UnusableFolder, match=r"restore .*/copies/2026-11-28 --data NEW"):
        Repository(folder)


def test_what_an_older_database_does_not_know_comes_back(folder: Path, tmp_path: Path) -> None:
    shutil.copy(folder / DATABASE, tmp_path / "yesterday")
    repository = Repository(folder)
    new = repository.add(jpeg(np.full((80, 64, 3), 220, np.uint8)), "new.jpg")
    repository.close()
    before = photographs(folder)
    shutil.copy(folder / DATABASE, tmp_path / "today")

    shutil.copy(tmp_path / "yesterday", folder / DATABASE)
    repository = Repository(folder)
    (said,) = repository.purge(time.time() + 60)
    repository.close()
    assert "1 photographs" in said
    assert "set aside" in said
    assert photographs(folder) == before
    assert kept_aside(folder) == 1

    shutil.copy(tmp_path / "today", folder / DATABASE)
    repository = Repository(folder)
    (said,) = repository.purge(time.time() + 60)
    assert "are back" in said
    assert repository.photograph(new.sha256) == before[new.sha256]
    assert repository.purge(time.time() + 60) == []
    assert kept_aside(folder) == 0


def test_what_is_set_aside_is_kept_for_its_days_and_no_longer(folder: Path) -> None:
    stray = Blobs(folder / "originals").put(b"nobody knows it")
    repository = Repository(folder)
    repository.purge(time.time() + 60)
    path = Blobs(folder / ASIDE / "originals").path(stray)
    os.utime(path, (time.time() - (KEPT_DAYS - 1) * 86400,) * 2)
    repository.purge()
    assert path.exists()
    os.utime(path, (time.time() - (KEPT_DAYS + 1) * 86400,) * 2)
    repository.purge()
    assert not path.exists()


def test_only_what_a_painter_deleted_is_removed(folder: Path) -> None:
    repository = Repository(folder)
    gone, kept, twin = repository.all()
    repository.delete(gone.id)
    again = repository.add(PHOTOS[1], "twin.jpg")
    repository.delete(kept.id)
    repository.purge(time.time() + 60)
    assert repository.blobs.names() == {again.sha256, twin.sha256}, "the twin of a deleted one is needed"
    assert repository.paintings.blobs.names() == set()
    assert kept_aside(folder) == 0


def test_a_lost_photograph_is_mended_from_what_was_set_aside(folder: Path) -> None:
    repository = Repository(folder)
    lost = repository.all()[0].sha256
    repository.close()
    here, there = (Blobs(folder / part / "originals") for part in ("", ASIDE))
    there.path(lost).parent.mkdir(parents=True)
    here.path(lost).rename(there.path(lost))
    assert len(check_folder(folder, mend=True).mended) == 1
    assert here.sound(lost)
