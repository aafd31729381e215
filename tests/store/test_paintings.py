"""Photographs of paintings are kept as long as their sitter is, whatever is undone."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest

from tests.conftest import jpeg
from truesitter.core.reference.decode import inspect
from truesitter.store.files.blobs import MissingFile
from truesitter.store.settings.edits import Edit, ListEdit
from truesitter.store.settings.sitter import UnknownSitter
from truesitter.store.settings.sitters import Repository

PHOTO = jpeg(np.full((80, 64, 3), 120, np.uint8))
OTHER = jpeg(np.full((80, 64, 3), 60, np.uint8))


def row(sha256: str) -> dict[str, object]:
    return {"key": "a" * 12, "sha256": sha256, "name": "x", "taken_at": "2026-11-27"}


def test_a_painting_outlives_undo_and_a_start_and_not_its_sitter(tmp_path: Path) -> None:
    repository = Repository(tmp_path)
    sitter = repository.add(PHOTO, "a.jpg").id
    sha256 = repository.paintings.keep(sitter, OTHER, "easel.jpg", inspect(OTHER))
    assert repository.paintings.keep(sitter, OTHER, "again.jpg", inspect(OTHER)) == sha256
    rows = {"paintings": ListEdit(add=(row(sha256),))}
    repository.change(sitter, "easel", Edit("Photograph", {}, rows))
    repository.undo(sitter)
    repository.purge()
    repository.close()
    repository = Repository(tmp_path)
    repository.purge()
    assert repository.paintings.get(sha256) == OTHER
    repository.redo(sitter)
    assert repository.get(sitter).settings.easel.paintings[0].sha256 == sha256
    repository.delete(sitter)
    repository.purge()
    with pytest.raises(MissingFile, match="painting"):
        repository.paintings.get(sha256)
    with pytest.raises(UnknownSitter):
        repository.paintings.keep(sitter, OTHER, "x", inspect(OTHER))
    repository.close()
