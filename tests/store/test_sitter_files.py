"""A sitter as a file: into another studio, refused, spoilt."""

from __future__ import annotations

import io
import json
import os
import random
import zipfile
from contextlib import suppress
from pathlib import Path
from typing import Any

import pytest
from jsonschema import Draft202012Validator

from tests.store.conftest import GUIDE, PAINTED, PHOTO
from truesitter.core.refusal import Refusal
from truesitter.store.backup.backup import restore_backup, write_backup
from truesitter.store.backup.check import check_folder
from truesitter.store.files.sitter_files import SHEET, sitter_schema
from truesitter.store.settings.edits import Edit, ListEdit
from truesitter.store.settings.sitters import Repository


def test_a_sitter_goes_into_another_studio_as_a_file(filled: Repository, tmp_path: Path) -> None:
    ada = filled.all()[0]
    data = filled.file(ada.id)
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
    filled: Repository, tmp_path: Path, changes: dict[str, Any], words: str
) -> None:
    other = Repository(tmp_path / "other")
    with pytest.raises(Refusal, match=words):
        other.take_in(changed_sheet(filled.file(filled.all()[0].id), **changes))
    assert other.all() == []


def test_a_sitters_file_that_is_refused_leaves_nothing_behind(filled: Repository, tmp_path: Path) -> None:
    """Its own photograph is sound, one of a painting is not."""
    data = filled.file(filled.all()[0].id)
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as old, zipfile.ZipFile(out, "w") as new:
        for name in old.namelist():
            new.writestr(name, b"spoilt" if name.startswith("paintings/") else old.read(name))
    other = Repository(tmp_path / "other")
    with pytest.raises(Refusal):
        other.take_in(out.getvalue())
    assert not other.blobs.names() | other.paintings.blobs.names()


def test_moments_of_a_sitters_file_are_read_in_their_own_zone(filled: Repository, tmp_path: Path) -> None:
    """Twelve o'clock two hours east of Greenwich is ten there (ISO 8601)."""
    data = filled.file(filled.all()[0].id)
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


def test_a_bomb_in_a_sitters_file_is_not_unpacked(filled: Repository, tmp_path: Path) -> None:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr(SHEET, b" " * (64 << 20))
    with pytest.raises(Refusal, match="far more than photographs"):
        filled.take_in(out.getvalue())
    for junk in (b"", b"PK\x03\x04", os.urandom(500), filled.file(filled.all()[0].id)[:-100]):
        with pytest.raises(Refusal):
            filled.take_in(junk)


def spoilt(data: bytes, rng: random.Random) -> bytes:
    """With some bytes changed, mostly where an archive says what is in it."""
    changed = bytearray(data)
    for _ in range(rng.randrange(1, 12)):
        near_the_end = len(changed) - 1 - rng.randrange(min(len(changed), 1200))
        changed[rng.choice((near_the_end, rng.randrange(len(changed))))] = rng.randrange(256)
    return bytes(changed)


def test_however_an_archive_is_spoilt_it_is_read_or_refused(filled: Repository, tmp_path: Path) -> None:
    """Bad sums, streams that cannot be unpacked, names that are no text: never anything but a sentence."""
    write_backup(filled.folder, tmp_path / "whole.zip")
    whole, rng = (tmp_path / "whole.zip").read_bytes(), random.Random(5)
    sitter = filled.file(filled.all()[0].id)
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
                filled.take_in(spoilt(data, rng))
