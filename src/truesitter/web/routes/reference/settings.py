"""Changes of a sitter's settings, undo and redo.

A change says with If-Match which revision it was made on. Changes of other fields by another
window are joined; a change of the same field is refused in words (412).
"""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter
from pydantic import BaseModel, Field

from truesitter.core.settings import Settings
from truesitter.store.settings.edits import Edit, ListEdit
from truesitter.store.settings.sitter import Sitter
from truesitter.web.http.answers import WritingRoute
from truesitter.web.http.dependencies import Bench, By, CurrentSitter, Expected
from truesitter.web.routes.studio.sitters import SitterOut, sitter_out

router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["settings"], route_class=WritingRoute)


class ListEditIn(BaseModel):
    """Entries of a list taken out and put in at one place; without a start, at the end."""

    start: int | None = Field(None, ge=0)
    remove: int = Field(0, ge=0)
    add: list[dict[str, Any]] = Field(default=[], max_length=500)

    def edit(self) -> ListEdit:
        """For the store."""
        return ListEdit(self.start, self.remove, tuple(self.add))


class EditIn(BaseModel):
    """Fields to set anew, and lists to change, in one go."""

    change: str = Field("Change", max_length=200)
    set: dict[str, Any] = Field(default={}, max_length=40)
    lists: dict[str, ListEditIn] = Field(default={}, max_length=10)


class ChangeOut(BaseModel):
    """What a change came to: only what it touched."""

    before: int
    """Edition it was applied to; a browser that knows another one asks for the whole sitter."""
    revision: int
    keys: dict[str, str]
    undo: str | None
    redo: str | None
    set: dict[str, Any]
    lists: dict[str, ListEditIn]


def _change_out(stage: str, edit: EditIn, before: int, new: Sitter, bench: Bench) -> ChangeOut:
    model: Settings = getattr(new.settings, stage)
    plain = model.model_dump(mode="json", include=set(edit.set))
    lists = {}
    for name, change in edit.lists.items():
        rows = getattr(model, name)
        end = len(rows) if change.start is None else change.start + len(change.add)
        added = rows[end - len(change.add) : end]
        lists[name] = ListEditIn(
            start=change.start, remove=change.remove, add=[r.model_dump(mode="json") for r in added]
        )
    return ChangeOut(
        before=before, revision=new.revision, keys=bench.keys(new), undo=new.undo,
        redo=new.redo, set=plain, lists=lists,
    )  # fmt: skip


@router.patch("/settings/{stage}")
def change_settings(
    sitter_id: str, stage: str, edit: EditIn, bench: Bench, expected: Expected, by: By
) -> ChangeOut:
    """Change a stage's settings."""
    lists = {name: change.edit() for name, change in edit.lists.items()}
    before, changed = bench.repository.apply(
        sitter_id, stage, Edit(edit.change, edit.set, lists), expected, by
    )  # fmt: skip
    return _change_out(stage, edit, before, changed, bench)


@router.post("/settings/{stage}/reset")
def reset_settings(stage: str, sitter: CurrentSitter, bench: Bench, by: By) -> SitterOut:
    """Give a stage its usual settings, also one that cannot be read."""
    return sitter_out(bench.repository.reset(sitter.id, stage, f"Begin {stage} anew", by), bench)


@router.post("/undo")
def undo(sitter: CurrentSitter, bench: Bench, expected: Expected) -> SitterOut:
    """Take back the last change."""
    return sitter_out(bench.repository.undo(sitter.id, expected), bench)


@router.post("/redo")
def redo(sitter: CurrentSitter, bench: Bench, expected: Expected) -> SitterOut:
    """Bring back the last change taken back."""
    return sitter_out(bench.repository.redo(sitter.id, expected), bench)
