"""Backups, daily copies, checks and sitters as files: what went in comes out, or a sentence says why not."""

from __future__ import annotations

import json
import shutil
import sqlite3
import threading
import zipfile
from contextlib import closing
from datetime import date, timedelta
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.store.conftest import PAINTED, PHOTO
from truesitter.core.refusal import Refusal
from truesitter.store.backup.backup import MANIFEST, restore_backup, write_backup
from truesitter.store.backup.check import check_folder
from truesitter.store.backup.copies import KEPT
from truesitter.store.rows.database import open_database
from truesitter.store.settings.edits import Edit
from truesitter.store.settings.sitters import Repository
from truesitter.store.trouble import NotKept
from truesitter.web.server.app import create_app
from truesitter.web.server.serving import Daily


def everything(filled: Repository) -> list[Any]:
    """All that a painter would miss."""
    return [
        (s, filled.photograph(s.sha256), filled.facts.all(s.id, "pass done"))
        for s in sorted(filled.all(), key=lambda s: s.name)
    ]


def test_a_backup_restored_is_the_same_shelf(filled: Repository, tmp_path: Path) -> None:
    made = write_backup(filled.folder, tmp_path / "b.zip")
    assert (made.sitters, made.photographs, made.lost) == (2, 2, ())
    assert restore_backup(tmp_path / "b.zip", tmp_path / "new") == 2
    again = Repository(tmp_path / "new")
    assert everything(again) == everything(filled)
    assert again.redo(again.all()[0].id).settings.values.groups == 4, "history came along"
    assert again.paintings.get(filled.paintings.blobs.name_of(PAINTED)) == PAINTED
    assert check_folder(tmp_path / "new").troubles == ()


def test_every_route_answers_the_same_after_a_restore(filled: Repository, tmp_path: Path) -> None:
    write_backup(filled.folder, tmp_path / "b.zip")
    restore_backup(tmp_path / "b.zip", tmp_path / "new")
    told = []
    for kept in (filled, Repository(tmp_path / "new")):
        with TestClient(create_app(kept), base_url="http://127.0.0.1") as client:
            ids = [s.id for s in kept.all()]
            routes = client.get("/openapi.json").json()["paths"].items()
            paths = [
                path.replace("{sitter_id}", ids[0])
                for path, methods in routes
                if "get" in methods and path.count("{") == ("{sitter_id}" in path)
                and not any(q.get("required") for q in methods["get"].get("parameters", [])[1:])
                and not any(part in path for part in ("/keeping", "/files/", "/studio/air"))
            ]  # fmt: skip
            assert len(paths) > 30
            told.append({path: (a := client.get(path)).status_code == 200 and a.content for path in paths})
    assert told[0] == told[1]


def test_a_backup_is_whole_while_others_write(filled: Repository, tmp_path: Path) -> None:
    """Changes going on meanwhile are in it whole or not at all."""
    over = threading.Event()
    ids = [s.id for s in filled.all()]

    def write() -> None:
        for number in range(10_000):
            if over.is_set():
                return
            filled.change(ids[number % 2], "values", Edit(f"n{number}", {"groups": 2 + number // 2 % 7}))

    writer = threading.Thread(target=write)
    writer.start()
    try:
        for number in range(3):
            write_backup(filled.folder, tmp_path / f"{number}.zip")
            restore_backup(tmp_path / f"{number}.zip", tmp_path / f"new{number}")
            assert check_folder(tmp_path / f"new{number}", mend=False).troubles == ()
    finally:
        over.set()
        writer.join()


def test_a_folder_of_an_earlier_version_is_copied_and_looked_at_as_it_is(tmp_path: Path) -> None:
    """Only a start migrates: neither a backup nor a look does."""
    folder = tmp_path / "what #1 is, 100%?"
    open_database(folder / "sitters.sqlite", "0003").dispose()
    before = (folder / "sitters.sqlite").read_bytes()
    write_backup(folder, tmp_path / "b.zip")
    with zipfile.ZipFile(tmp_path / "b.zip") as archive:
        assert json.loads(archive.read(MANIFEST))["form"] == "0003"
    assert "form 0003" in check_folder(folder, mend=True).troubles[0]
    assert (folder / "sitters.sqlite").read_bytes() == before
    restore_backup(tmp_path / "b.zip", tmp_path / "new")
    assert Repository(tmp_path / "new").all() == []
    assert check_folder(tmp_path / "new").troubles == ()


def test_a_lost_photograph_is_told_and_the_rest_is_kept(filled: Repository, tmp_path: Path) -> None:
    sha = filled.all()[0].sha256
    filled.blobs.path(sha).write_bytes(b"rot")
    made = write_backup(filled.folder, tmp_path / "b.zip")
    assert len(made.lost) == 1
    assert made.photographs == 1
    restore_backup(tmp_path / "b.zip", tmp_path / "new")
    assert [s.name for s in Repository(tmp_path / "new").all()] == ["Ada", "Ben"]


def test_a_backup_that_comes_out_otherwise_is_not_kept(
    filled: Repository, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    write = zipfile.ZipFile.write

    def unsound_disk(archive: zipfile.ZipFile, path: Path, name: str, *how: int) -> None:
        if name.startswith("originals/"):
            archive.writestr(name, path.read_bytes()[:-1] + b"x")
        else:
            write(archive, path, name, *how)

    monkeypatch.setattr(zipfile.ZipFile, "write", unsound_disk)
    there = set(tmp_path.iterdir())
    with pytest.raises(NotKept, match="did not come out as it went in"):
        write_backup(filled.folder, tmp_path / "b.zip")
    assert set(tmp_path.iterdir()) == there


def spoiled(path: Path, how: str) -> None:
    """Spoil a backup."""
    with zipfile.ZipFile(path) as archive:
        parts = {name: archive.read(name) for name in archive.namelist()}
    manifest = json.loads(parts[MANIFEST])
    blob = next(n for n in parts if n.startswith("originals/"))
    if how == "changed bytes":
        parts[blob] = parts[blob][:-1] + b"x"
    elif how == "longer":
        parts[blob] += b"x"
    elif how == "claims less":
        # Its entry is patched below, once it is packed.
        parts[blob] += b"x" * 5_000_000
    elif how == "missing":
        del parts[blob]
    elif how == "newer":
        manifest["form"] = "9999"
    elif how == "climbs out":
        manifest["originals"] = {"../../../evil": 1}
        parts["originals/../../../evil"] = b"x"
    elif how == "no description":
        del parts[MANIFEST]
    if how != "no description":
        parts[MANIFEST] = json.dumps(manifest).encode()
    with zipfile.ZipFile(path, "w") as archive:
        for name, data in parts.items():
            archive.writestr(name, data)
    if how == "claims less":
        size = len(parts[blob])
        small = (size - 5_000_000).to_bytes(4, "little")
        path.write_bytes(path.read_bytes().replace(size.to_bytes(4, "little"), small))
    if how == "cut off":
        path.write_bytes(path.read_bytes()[:-200])
    if how == "text":
        path.write_text("not a zip")


@pytest.mark.parametrize(
    "how",
    [
        "changed bytes",
        "longer",
        "claims less",
        "missing",
        "newer",
        "climbs out",
        "no description",
        "cut off",
        "text",
    ],
)
def test_a_spoiled_backup_restores_nothing(filled: Repository, tmp_path: Path, how: str) -> None:
    write_backup(filled.folder, tmp_path / "b.zip")
    spoiled(tmp_path / "b.zip", how)
    there = set(tmp_path.iterdir())
    with pytest.raises(Refusal, match="backup"):
        restore_backup(tmp_path / "b.zip", tmp_path / "new")
    assert set(tmp_path.iterdir()) == there
    with pytest.raises(Refusal, match="not empty"):
        restore_backup(tmp_path / "b.zip", filled.folder)


def test_a_check_finds_and_mends(filled: Repository, tmp_path: Path) -> None:
    write_backup(filled.folder, tmp_path / "b.zip")
    assert check_folder(filled.folder) == type(check_folder(filled.folder))(2, 2, ())
    sha = filled.all()[0].sha256
    filled.blobs.path(sha).write_bytes(b"rot")
    filled.paintings.blobs.path(filled.paintings.blobs.name_of(PAINTED)).unlink()
    found = check_folder(filled.folder)
    assert len(found.troubles) == 2
    assert "photograph" in found.troubles[0]
    assert check_folder(filled.folder, [tmp_path / "b.zip"], mend=False).mended == ()
    found = check_folder(filled.folder, [tmp_path / "none.zip", tmp_path / "b.zip"], mend=True)
    assert (found.troubles, len(found.mended)) == ((), 2)
    assert filled.photograph(sha) == PHOTO
    assert check_folder(filled.folder).troubles == ()


def test_a_check_sees_gaps_in_history_and_settings_that_cannot_be_read(filled: Repository) -> None:
    with closing(sqlite3.connect(filled.folder / "sitters.sqlite")) as db, db:
        db.execute("DELETE FROM revision WHERE number = 2")
        db.execute("UPDATE stage SET document = '{\"groups\": 99}' WHERE stage = 'values'")
    words = " ".join(check_folder(filled.folder).troubles)
    assert "missing from its history" in words
    assert "settings of values cannot be read" in words
    (filled.folder / "sitters.sqlite").write_bytes(b"no database" * 500)
    assert "cannot be read" in check_folder(filled.folder).troubles[0]


def test_seven_days_are_kept_and_take_no_room_twice(filled: Repository, tmp_path: Path) -> None:
    day = date(2026, 3, 27)
    for number in range(KEPT + 3):
        assert filled.copies.due(day + timedelta(number))
        filled.copies.make(day + timedelta(number))
        assert not filled.copies.due(day + timedelta(number))
    copies = filled.copies.all()
    assert [c.day for c in copies] == [(day + timedelta(n)).isoformat() for n in range(9, 2, -1)]
    database = (filled.folder / "copies" / copies[0].day / "sitters.sqlite").stat().st_size
    assert copies[0].size == database, "photographs are there by a second name"
    # A sitter that is gone for good comes back from a copy.
    gone = filled.all()[0]
    shutil.rmtree(filled.folder / "originals")
    restore_backup(filled.folder / "copies" / copies[0].day, tmp_path / "new")
    assert Repository(tmp_path / "new").photograph(gone.sha256) == PHOTO
    # And a lost photograph is mended from one.
    assert check_folder(filled.folder, mend=True).troubles == ()
    assert filled.photograph(gone.sha256) == PHOTO
    filled.copies.want(False)
    assert not filled.copies.due(day + timedelta(30))


def test_the_copy_of_the_day_is_made_by_itself(filled: Repository) -> None:
    daily = Daily(filled.copies, every=0.01)
    daily.start()
    for _ in range(500):
        if filled.copies.all():
            break
        threading.Event().wait(0.01)
    daily.stop()
    assert len(filled.copies.all()) == 1
