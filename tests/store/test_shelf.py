"""What is kept: photographs byte for byte, settings, history, and nothing lost on the way."""

from __future__ import annotations

from pathlib import Path
from unittest.mock import patch

import numpy as np
import pytest
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from alembic.script import ScriptDirectory
from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, invariant, precondition, rule
from sqlalchemy import text

from tests.conftest import jpeg
from truesitter.core.reference.errors import UnusablePhotograph
from truesitter.core.refusal import Refusal
from truesitter.demo.seed import seed
from truesitter.store.files.blobs import Blobs, MissingFile
from truesitter.store.rows import database
from truesitter.store.rows.database import open_database
from truesitter.store.rows.models import Base
from truesitter.store.settings.edits import Edit, ListEdit, edited
from truesitter.store.settings.history import NothingToUndo
from truesitter.store.settings.sitter import UnknownSitter, clean_filename
from truesitter.store.settings.sitters import Repository

PHOTO = jpeg(np.full((80, 64, 3), 120, np.uint8))


def files(folder: Path) -> list[Path]:
    return [p for p in folder.rglob("*") if p.is_file() and "originals" in p.parts]


def test_the_original_is_kept_byte_for_byte_and_survives_a_restart(tmp_path: Path) -> None:
    first = Repository(tmp_path)
    kept = first.add(PHOTO, "studio.jpg", note=" by the window ")
    first.change(kept.id, "values", Edit("Three groups", {"groups": 3}))
    first.close()
    again = Repository(tmp_path)
    assert again.photograph(kept.sha256) == PHOTO
    found = again.get(kept.id)
    assert (found.name, found.note, found.width, found.height) == ("studio", "by the window", 64, 80)
    assert found.settings.values.groups == 3
    assert found.undo == "Three groups"


def test_the_database_writes_ahead_and_holds_foreign_keys(tmp_path: Path) -> None:
    engine = open_database(tmp_path / "x.sqlite")
    with engine.connect() as connection:
        assert connection.execute(text("PRAGMA journal_mode")).scalar() == "wal"
        assert connection.execute(text("PRAGMA foreign_keys")).scalar() == 1


def test_a_database_of_today_is_opened_without_migrating(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    assert ScriptDirectory(str(database._MIGRATIONS)).get_current_head() == database.NEWEST
    database.open_database(tmp_path / "a.sqlite").dispose()
    monkeypatch.setattr(database, "_migrate", lambda *_: pytest.fail("there is nothing to migrate"))
    database.open_database(tmp_path / "a.sqlite").dispose()


def test_migrations_lead_to_the_tables_the_code_uses(tmp_path: Path) -> None:
    engine = open_database(tmp_path / "x.sqlite")
    with engine.connect() as connection:
        assert compare_metadata(MigrationContext.configure(connection), Base.metadata) == []


def test_a_photograph_that_cannot_be_used_leaves_no_trace(repository: Repository, tmp_path: Path) -> None:
    for bad in (b"", b"words", PHOTO[: len(PHOTO) // 2]):
        with pytest.raises(UnusablePhotograph):
            repository.add(bad, "bad.jpg")
    assert repository.all() == []
    assert files(tmp_path) == []


def test_a_deleted_sitter_comes_back_whole_until_it_is_purged(repository: Repository, tmp_path: Path) -> None:
    kept, twin = repository.add(PHOTO, "a.jpg"), repository.add(PHOTO, "b.jpg")
    repository.change(kept.id, "values", Edit("Four groups", {"groups": 4}))
    repository.delete(kept.id)
    assert [s.id for s in repository.all()] == [twin.id]
    with pytest.raises(UnknownSitter):
        repository.get(kept.id)
    assert repository.restore(kept.id).settings.values.groups == 4

    repository.delete(kept.id)
    repository.purge()
    with pytest.raises(UnknownSitter):
        repository.restore(kept.id)
    assert len(files(tmp_path)) == 1, "the twin still needs the photograph"
    repository.delete(twin.id)
    repository.purge()
    assert files(tmp_path) == []


def test_renaming_needs_a_name(repository: Repository) -> None:
    kept = repository.add(PHOTO, "a.jpg", "Elske")
    assert repository.rename(kept.id, "  Elske Thornbury ").name == "Elske Thornbury"
    with pytest.raises(Refusal, match="name"):
        repository.rename(kept.id, "   ")
    assert repository.get(kept.id).name == "Elske Thornbury"


@pytest.mark.parametrize(
    ("given", "kept"),
    [
        ("../../etc/passwd", "passwd"),
        ("C:\\photos\\wren.jpg", "wren.jpg"),
        ("a\x00b\n.jpg", "ab.jpg"),
        ("", "photograph"),
        ("/", "photograph"),
        ("n" * 500, "n" * 120),
        ("<script>.jpg", "<script>.jpg"),
    ],
)
def test_hostile_file_names_become_plain_ones(given: str, kept: str) -> None:
    assert clean_filename(given) == kept


def test_a_change_that_changes_nothing_is_no_change(repository: Repository) -> None:
    kept = repository.add(PHOTO, "a.jpg")
    assert repository.change(kept.id, "values", Edit("Nothing", {"groups": 5})).revision == 0
    with pytest.raises(Refusal, match="no stage"):
        repository.change(kept.id, "weather", Edit("Rain", {"groups": 5}))


def test_a_write_that_breaks_off_leaves_nothing_behind(tmp_path: Path) -> None:
    blobs = Blobs(tmp_path)
    with patch("os.fsync", side_effect=OSError("disk full")), pytest.raises(OSError, match="disk full"):
        blobs.put(b"half written")
    assert [p for p in tmp_path.rglob("*") if p.is_file()] == []
    name = blobs.put(b"whole")
    assert blobs.put(b"whole") == name
    assert blobs.get(name) == b"whole"
    with pytest.raises(MissingFile, match="missing"):
        blobs.get("0" * 64)
    damaged = next(p for p in tmp_path.rglob("*") if p.is_file())
    damaged.write_bytes(b"hole")
    with pytest.raises(MissingFile, match="damaged"):
        blobs.get(name)
    assert blobs.put(b"whole") == name, "putting it in again mends it"
    assert blobs.get(name) == b"whole"


def test_the_made_up_sitters_are_put_on_an_empty_shelf_only_once(repository: Repository) -> None:
    seed(repository)
    seed(repository)
    sitters = repository.all()
    assert len(sitters) == 3
    assert any(s.settings.hair.guides for s in sitters)
    assert any(s.settings.regions.scribbles for s in sitters)
    assert all(repository.facts.all(s.id, "pass done") and s.note for s in sitters)


class History(RuleBasedStateMachine):
    """Undo and redo against the plainest model there is: a list of states and a position."""

    def __init__(self) -> None:
        super().__init__()
        import tempfile

        self.folder = tempfile.TemporaryDirectory()
        self.repository = Repository(Path(self.folder.name))
        self.id = self.repository.add(PHOTO, "a.jpg").id
        self.states, self.at = [self.repository.get(self.id).settings], 0

    def teardown(self) -> None:
        self.repository.close()
        self.folder.cleanup()

    @rule(groups=st.integers(2, 9))
    def set_groups(self, groups: int) -> None:
        self._apply("values", Edit("groups", {"groups": groups}))

    @rule(zoom=st.sampled_from([1.0, 1.5, 2.0]))
    def set_zoom(self, zoom: float) -> None:
        self._apply("reference", Edit("zoom", {"zoom": zoom}))

    @rule(x=st.sampled_from([0.1, 0.2, 0.3]), start=st.one_of(st.none(), st.integers(0, 6)),
          remove=st.integers(0, 3), add=st.integers(0, 2))  # fmt: skip
    def edit_guides(self, x: float, start: int | None, remove: int, add: int) -> None:
        count = len(self.states[self.at].hair.guides)
        start = None if start is None else min(start, count)
        remove = 0 if start is None else min(remove, count - start)
        guide = {"points": [[x, 0.1], [x, 0.3]], "reach": 0.04}
        self._apply("hair", Edit("guides", {}, {"guides": ListEdit(start, remove, (guide,) * add)}))

    @rule()
    def reorder_guides(self) -> None:
        turned = [g.model_dump(mode="json") for g in reversed(self.states[self.at].hair.guides)]
        self._apply("hair", Edit("turn", {"guides": turned}))

    def _apply(self, stage: str, edit: Edit) -> None:
        now = self.states[self.at]
        after = now.model_copy(update={stage: edited(getattr(now, stage), edit)})
        self.repository.change(self.id, stage, edit)
        if after != now:
            self.states = [*self.states[: self.at + 1], after]
            self.at += 1

    @rule()
    def start_anew(self) -> None:
        self.repository.close()
        self.repository = Repository(Path(self.folder.name))

    @precondition(lambda self: self.at > 0)
    @rule()
    def undo(self) -> None:
        self.repository.undo(self.id)
        self.at -= 1

    @precondition(lambda self: self.at + 1 < len(self.states))
    @rule()
    def redo(self) -> None:
        self.repository.redo(self.id)
        self.at += 1

    @invariant()
    def the_shelf_agrees(self) -> None:
        kept = self.repository.get(self.id)
        assert kept.settings == self.states[self.at]
        assert (kept.undo is None) == (self.at == 0)
        assert (kept.redo is None) == (self.at + 1 == len(self.states))


TestHistory = History.TestCase
TestHistory.settings = settings(max_examples=25, stateful_step_count=20, deadline=None)


def test_there_is_an_end_to_undo_and_redo(repository: Repository) -> None:
    kept = repository.add(PHOTO, "a.jpg")
    with pytest.raises(NothingToUndo, match="undo"):
        repository.undo(kept.id)
    with pytest.raises(NothingToUndo, match="bring back"):
        repository.redo(kept.id)
