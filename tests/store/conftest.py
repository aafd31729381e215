"""Studios to keep things in: an empty one, one with a sitter, one with much in it."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest

from tests.conftest import jpeg
from truesitter.core.reference.decode import inspect
from truesitter.store.settings.edits import Edit, ListEdit
from truesitter.store.settings.sitters import Repository

PHOTO = jpeg(np.full((80, 64, 3), 120, np.uint8))
PAINTED = jpeg(np.full((90, 70, 3), 90, np.uint8))
GUIDE = {"points": [[0.1, 0.2], [0.3, 0.4]]}


@pytest.fixture
def repository(tmp_path: Path) -> Repository:
    """An empty one."""
    return Repository(tmp_path / "data")


@pytest.fixture
def one(repository: Repository) -> str:
    """A picture of Ada."""
    return repository.add(PHOTO, "a.jpg", "Ada").id


@pytest.fixture
def filled(tmp_path: Path) -> Repository:
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
