"""Backups, daily copies, checks and sitters as files: what went in comes out, or a sentence says why not."""

from __future__ import annotations

import io
import json
import os
import random
import shutil
import sqlite3
import threading
import zipfile
from contextlib import closing, suppress
from datetime import date, timedelta
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from fastapi.testclient import TestClient
from jsonschema import Draft202012Validator

from tests.conftest import jpeg
from truesitter.core.reference.decode import inspect
from truesitter.core.refusal import Refusal
from truesitter.store.backup.backup import MANIFEST, restore_backup, write_backup
from truesitter.store.backup.check import check_folder
from truesitter.store.backup.copies import KEPT
from truesitter.store.files.sitter_files import SHEET, sitter_schema
from truesitter.store.rows.database import open_database
from truesitter.store.settings.edits import Edit, ListEdit
from truesitter.store.settings.sitters import Repository
from truesitter.store.trouble import NotKept
from truesitter.web.server.app import create_app
from truesitter.web.server.serving import Daily

PHOTO = jpeg(np.full((80, 64, 3), 120, np.uint8))
PAINTED = jpeg(np.full((90, 70, 3), 90, np.uint8))
GUIDE = {"points": [[0.1, 0.2], [0.3, 0.4]]}


@pytest.fixture
def repository(tmp_path: Path) -> Repository:
    """Two sitters; the first with settings, rows, an undone change, a fact and a painting."""
    repository = Repository(tmp_path / "data")
    one = repository.add(PHOTO, "a.jpg", "Ada", "by the window").id
    repository.change(one, "values", Edit("Three", {"groups": 3}))
    repository.change(one, "hair", Edit("Guides", lists={"guides": ListEdit(add=(GUIDE, GUIDE))}))
    repository.change(one, "values", Edit("Four", {"groups": 4}))
    repository.undo(one)
    repository.facts.add(one, "pass done", {"school": "layered-oil", "pass": "ground"})
    repository.paintings.keep(one, PAINTED, "p.jpg", inspect(PAINTED))
    repository.add(PHOTO, "b.jpg", "Ben")
    return repository


def everything(repository: Repository) -> list[Any]:
    """All that a painter would miss."""
    return [
        (s, repository.photograph(s.sha256), repository.facts.all(s.id, "pass done"))
        for s in sorted(repository.all(), key=lambda s: s.name)
    ]


def test_a_backup_restored_is_the_same_shelf(repository: Repository, tmp_path: Path) -> None:
    made = write_backup(repository.folder, tmp_path / "b.zip")
    assert (made.sitters, made.photographs, made.lost) == (2, 2, ())
    assert restore_backup(tmp_path / "b.zip", tmp_path / "new") == 2
    again = Repository(tmp_path / "new")
    assert everything(again) == everything(repository)
    assert again.redo(again.all()[0].id).settings.values.groups == 4, "history came along"
    assert again.paintings.get(repository.paintings.blobs.name_of(PAINTED)) == PAINTED
    assert check_folder(tmp_path / "new").troubles == ()


def test_every_route_answers_the_same_after_a_restore(repository: Repository, tmp_path: Path) -> None:
    write_backup(repository.folder, tmp_path / "b.zip")
    restore_backup(tmp_path / "b.zip", tmp_path / "new")
    told = []
    for kept in (repository, Repository(tmp_path / "new")):
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


def test_a_backup_is_whole_while_others_write(repository: Repository, tmp_path: Path) -> None:
    """Changes going on meanwhile are in it whole or not at all."""
    over = threading.Event()
    ids = [s.id for s in repository.all()]

    def write() -> None:
        for number in range(10_000):
            if over.is_set():
                return
            repository.change(ids[number % 2], "values", Edit(f"n{number}", {"groups": 2 + number // 2 % 7}))

    writer = threading.Thread(target=write)
    writer.start()
    try:
        for number in range(3):
            write_backup(repository.folder, tmp_path / f"{number}.zip")
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


def test_a_lost_photograph_is_told_and_the_rest_is_kept(repository: Repository, tmp_path: Path) -> None:
    sha = repository.all()[0].sha256
    repository.blobs.path(sha).write_bytes(b"rot")
    made = write_backup(repository.folder, tmp_path / "b.zip")
    assert len(made.lost) == 1
    assert made.photographs == 1
    restore_backup(tmp_path / "b.zip", tmp_path / "new")
    assert [s.name for s in Repository(tmp_path / "new").all()] == ["Ada", "Ben"]


def test_a_backup_that_comes_out_otherwise_is_not_kept(
    repository: Repository, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
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
        write_backup(repository.folder, tmp_path / "b.zip")
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
def test_a_spoiled_backup_restores_nothing(repository: Repository, tmp_path: Path, how: str) -> None:
    write_backup(repository.folder, tmp_path / "b.zip")
    spoiled(tmp_path / "b.zip", how)
    there = set(tmp_path.iterdir())
    with pytest.raises(Refusal, match="backup"):
        restore_backup(tmp_path / "b.zip", tmp_path / "new")
    assert set(tmp_path.iterdir()) == there
    with pytest.raises(Refusal, match="not empty"):
        restore_backup(tmp_path / "b.zip", repository.folder)


def test_a_check_finds_and_mends(repository: Repository, tmp_path: Path) -> None:
    write_backup(repository.folder, tmp_path / "b.zip")
    assert check_folder(repository.folder) == type(check_folder(repository.folder))(2, 2, ())
    sha = repository.all()[0].sha256
    repository.blobs.path(sha).write_bytes(b"rot")
    repository.paintings.blobs.path(repository.paintings.blobs.name_of(PAINTED)).unlink()
    found = check_folder(repository.folder)
    assert len(found.troubles) == 2
    assert "photograph" in found.troubles[0]
    assert check_folder(repository.folder, [tmp_path / "b.zip"], mend=False).mended == ()
    found = check_folder(repository.folder, [tmp_path / "none.zip", tmp_path / "b.zip"], mend=True)
    assert (found.troubles, len(found.mended)) == ((), 2)
    assert repository.photograph(sha) == PHOTO
    assert check_folder(repository.folder).troubles == ()


def test_a_check_sees_gaps_in_history_and_settings_that_cannot_be_read(repository: Repository) -> None:
    with closing(sqlite3.connect(repository.folder / "sitters.sqlite")) as db, db:
        db.execute("DELETE FROM revision WHERE number = 2")
        db.execute("UPDATE stage SET document = '{\"groups\": 99}' WHERE stage = 'values'")
    words = " ".join(check_folder(repository.folder).troubles)
    assert "missing from its history" in words
    assert "settings of values cannot be read" in words
    (repository.folder / "sitters.sqlite").write_bytes(b"no database" * 500)
    assert "cannot be read" in check_folder(repository.folder).troubles[0]


def test_seven_days_are_kept_and_take_no_room_twice(repository: Repository, tmp_path: Path) -> None:
    day = date(2026, 3, 27)
    for number in range(KEPT + 3):
        assert repository.copies.due(day + timedelta(number))
        repository.copies.make(day + timedelta(number))
        assert not repository.copies.due(day + timedelta(number))
    copies = repository.copies.all()
    assert [c.day for c in copies] == [(day + timedelta(n)).isoformat() for n in range(9, 2, -1)]
    database = (repository.folder / "copies" / copies[0].day / "sitters.sqlite").stat().st_size
    assert copies[0].size == database, "photographs are there by a second name"
    # A sitter that is gone for good comes back from a copy.
    gone = repository.all()[0]
    shutil.rmtree(repository.folder / "originals")
    restore_backup(repository.folder / "copies" / copies[0].day, tmp_path / "new")
    assert Repository(tmp_path / "new").photograph(gone.sha256) == PHOTO
    # And a lost photograph is mended from one.
    assert check_folder(repository.folder, mend=True).troubles == ()
    assert repository.photograph(gone.sha256) == PHOTO
    repository.copies.want(False)
    assert not repository.copies.due(day + timedelta(30))


def test_the_copy_of_the_day_is_made_by_itself(repository: Repository) -> None:
    daily = Daily(repository.copies, every=0.01)
    daily.start()
    for _ in range(500):
        if repository.copies.all():
            break
        threading.Event().wait(0.01)
    daily.stop()
    assert len(repository.copies.all()) == 1


def test_a_sitter_goes_into_another_studio_as_a_file(repository: Repository, tmp_path: Path) -> None:
    ada = repository.all()[0]
    data = repository.file(ada.id)
    other = Repository(tmp_path / "other")
    taken = other.take_in(data)
    assert (taken.name, taken.note, taken.filename) == ("Ada", "by the window", "a.jpg")
    assert taken.settings == ada.settings
    assert len(taken.settings.hair.guides) == 2
    assert other.photograph(taken.sha256) == PHOTO
    assert [f.document for f in other.facts.all(taken.id, "pass done")] == [
        {"school": "layered-oil", "pass": "ground"}
    ]
    assert other.paintings.get(other.paintings.blobs.name_of(PAINTED)) == PAINTED
    assert taken.undo is None
    other.change(taken.id, "hair", Edit("One more", lists={"guides": ListEdit(add=(GUIDE,))}))
    assert len(other.undo(taken.id).settings.hair.guides) == 2
    other.purge()
    assert check_folder(tmp_path / "other").troubles == ()
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        sheet = json.loads(archive.read(SHEET))
    Draft202012Validator(sitter_schema()).validate(sheet)


def changed_sheet(data: bytes, **changes: Any) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as old, zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as new:
        for name in old.namelist():
            content = old.read(name)
            if name == SHEET:
                content = json.dumps({**json.loads(content), **changes}).encode()
            new.writestr(name, content)
    return out.getvalue()


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({"format": "other"}, "format"),
        ({"sha256": "0" * 64}, "damaged"),
        ({"sha256": "../../etc/passwd"}, "sha256"),
        ({"name": "x" * 300}, "name"),
        ({"stages": {"values": {"version": 1, "settings": {"groups": 99}}}}, "groups"),
        ({"stages": {"values": {"version": 1, "settings": {"cuts": {"a": []}}}}}, "values"),
        ({"stages": {"nothing": {"version": 1, "settings": {}}}}, "nothing"),
        ({"stages": {"values": {"version": 9999, "settings": {}}}}, "newer"),
        ({"facts": [{"kind": "pass done", "document": {"x": "y"}, "at": "2026-01-01T00:00:00"}]}, "says"),
        ({"paintings": [{"sha256": "1" * 64, "filename": "x", "at": "2026-01-01T00:00:00"}]}, "damaged"),
        ({"extra": 1}, "extra"),
    ],
)
def test_a_wrong_sitters_file_is_refused_and_keeps_nothing(
    repository: Repository, tmp_path: Path, changes: dict[str, Any], words: str
) -> None:
    other = Repository(tmp_path / "other")
    with pytest.raises(Refusal, match=words):
        other.take_in(changed_sheet(repository.file(repository.all()[0].id), **changes))
    assert other.all() == []


def test_a_sitters_file_that_is_refused_leaves_nothing_behind(repository: Repository, tmp_path: Path) -> None:
    """Its own photograph is sound, one of a painting is not."""
    data = repository.file(repository.all()[0].id)
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as old, zipfile.ZipFile(out, "w") as new:
        for name in old.namelist():
            new.writestr(name, b"spoilt" if name.startswith("paintings/") else old.read(name))
    other = Repository(tmp_path / "other")
    with pytest.raises(Refusal):
        other.take_in(out.getvalue())
    assert not other.blobs.names() | other.paintings.blobs.names()


def test_moments_of_a_sitters_file_are_read_in_their_own_zone(repository: Repository, tmp_path: Path) -> None:
    """Twelve o'clock two hours east of Greenwich is ten there (ISO 8601)."""
    data = repository.file(repository.all()[0].id)
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        sheet = json.loads(archive.read(SHEET))
    for one in (*sheet["facts"], *sheet["paintings"]):
        one["at"] = "2026-11-20T12:00:00+02:00"
    sheet["facts"][0]["struck_at"] = "2026-11-20T13:00:00+02:00"
    other = Repository(tmp_path / "other")
    taken = other.take_in(changed_sheet(data, facts=sheet["facts"], paintings=sheet["paintings"]))
    with zipfile.ZipFile(io.BytesIO(other.file(taken.id))) as archive:
        back = json.loads(archive.read(SHEET))
    assert [one["at"] for one in (*back["facts"], *back["paintings"])] == ["2026-11-20T10:00:00"] * 2
    assert back["facts"][0]["struck_at"] == "2026-11-20T11:00:00"


def test_a_bomb_in_a_sitters_file_is_not_unpacked(repository: Repository, tmp_path: Path) -> None:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr(SHEET, b" " * (64 << 20))
    with pytest.raises(Refusal, match="far more than photographs"):
        repository.take_in(out.getvalue())
    for junk in (b"", b"PK\x03\x04", os.urandom(500), repository.file(repository.all()[0].id)[:-100]):
        with pytest.raises(Refusal):
            repository.take_in(junk)


def spoilt(data: bytes, rng: random.Random) -> bytes:
    """With some bytes changed, mostly where an archive says what is in it."""
    changed = bytearray(data)
    for _ in range(rng.randrange(1, 12)):
        near_the_end = len(changed) - 1 - rng.randrange(min(len(changed), 1200))
        changed[rng.choice((near_the_end, rng.randrange(len(changed))))] = rng.randrange(256)
    return bytes(changed)


def test_however_an_archive_is_spoilt_it_is_read_or_refused(repository: Repository, tmp_path: Path) -> None:
    """Bad sums, streams that cannot be unpacked, names that are no text: never anything but a sentence."""
    write_backup(repository.folder, tmp_path / "whole.zip")
    whole, rng = (tmp_path / "whole.zip").read_bytes(), random.Random(5)
    sitter = repository.file(repository.all()[0].id)
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr(SHEET, b'{"format": "truesitter-sitter"}' * 40)
        archive.writestr("é", b"x")
    for number in range(250):
        (tmp_path / "b.zip").write_bytes(spoilt(whole, rng))
        with suppress(Refusal):
            restore_backup(tmp_path / "b.zip", tmp_path / f"new-{number}")
        for data in (sitter, out.getvalue()):
            with suppress(Refusal):
                repository.take_in(spoilt(data, rng))
