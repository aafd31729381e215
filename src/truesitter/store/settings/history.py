"""The history of a sitter's settings: changes by one or more windows, undo and redo."""

from __future__ import annotations

from collections.abc import Set
from datetime import datetime

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from truesitter.core.refusal import Refusal
from truesitter.core.settings import Settings, StudySettings
from truesitter.store.rows.models import ChangeRow, EditRow, SitterRow
from truesitter.store.settings.documents import (
    STAGES,
    apply_patch,
    load_entries,
    load_rows,
    plain,
    reset_patch,
    rows,
)
from truesitter.store.settings.edits import (
    Edit,
    ListEdit,
    ListEntry,
    Patch,
    clash,
    edited,
    field_patch,
    list_change,
    list_patch,
    places,
    touched_by,
)

REMEMBERED = 200
"""So many revisions back a window may be and still have its change joined to the others."""


class NothingToUndo(Refusal):
    """There is no change to take back, or none to bring again."""


class Overtaken(Refusal):
    """Another window changed the same thing first."""


def check_stage(stage: str) -> None:
    """Refuse a stage that there is not."""
    if stage not in STAGES:
        raise Refusal(f"there is no stage called “{stage[:60]}”")


def _since(session: Session, row: SitterRow, expected: int) -> set[str] | None:
    """What was touched since an revision; None when that is too long ago to tell."""
    found = session.scalars(
        select(EditRow).where(EditRow.sitter_id == row.id, EditRow.revision > expected)
    ).all()
    if len(found) != row.revision - expected:
        return None
    return {name for edit in found for name in edit.touched}


def check_edition(session: Session, row: SitterRow, expected: int | None, mine: Set[str], words: str) -> None:
    """Refuse a change that another window has overtaken.

    Raises
    ------
    Overtaken
        When something it touches was touched since the revision it was made on.
    """
    if expected is None or expected == row.revision:
        return
    theirs = _since(session, row, expected) if expected < row.revision else None
    both = "" if theirs is None else clash(mine, theirs)
    if both is not None:
        what = f"the {both.split('.')[-1].replace('_', ' ')}" if both else "this sitter"
        raise Overtaken(
            f"“{words}” was not kept: another window has changed {what} since. "
            "What you see now is what is kept"
        )


def _mark(session: Session, row: SitterRow, touched: list[str]) -> None:
    row.revision += 1
    session.add(EditRow(sitter_id=row.id, revision=row.revision, touched=touched))
    session.execute(
        delete(EditRow).where(EditRow.sitter_id == row.id, EditRow.revision <= row.revision - REMEMBERED)
    )


def _append(
    session: Session, row: SitterRow, stage: str, words: str, patch: Patch, now: datetime, by: str
) -> None:
    session.execute(delete(ChangeRow).where(ChangeRow.sitter_id == row.id, ChangeRow.number > row.head))
    row.head += 1
    session.add(
        ChangeRow(
            sitter_id=row.id, number=row.head, stage=stage, change=words[:200], patch=patch, at=now,
            painter=by,
        )
    )  # fmt: skip


def change(
    session: Session,
    row: SitterRow,
    settings: StudySettings,
    stage: str,
    edit: Edit,
    now: datetime,
    by: str = "",
) -> Settings | None:
    """Apply an edit to a stage and append it to the history; undone changes are forgotten.

    Returns
    -------
    The stage's new settings, or None when the edit changes nothing.
    """
    old: Settings = getattr(settings, stage)
    new = edited(old, edit)
    if new == old:
        return None
    patch = field_patch(plain(old), plain(new))
    for name in type(old).ROWS:
        if name in edit.set:
            kept = load_rows(session, row.id, stage).get((stage, name), [])
            changed = list_patch(kept, rows(getattr(new, name)))
        elif name in edit.lists:
            changed = _spliced(session, row.id, stage, name, edit.lists[name], getattr(new, name))
        else:
            continue
        if any(changed):
            patch.setdefault("lists", {})[name] = list_change(*changed)
    apply_patch(session, row.id, stage, patch, forward=True)
    _append(session, row, stage, edit.words, patch, now, by)
    _mark(session, row, sorted(edit.touches(stage) & _names(stage, patch)))
    return new


def _spliced(
    session: Session, sitter_id: str, stage: str, field: str, edit: ListEdit, new: tuple[Settings, ...]
) -> tuple[list[ListEntry], list[ListEntry]]:
    """Entries that an edit takes out of a list and puts in, without reading the others."""
    count = len(new) - len(edit.add) + edit.remove
    start = count if edit.start is None else edit.start
    around = load_entries(session, sitter_id, stage, field, start - 1, edit.remove + 2)
    before = around.pop(0).at if start > 0 else None
    out, after = around[: edit.remove], around[edit.remove].at if len(around) > edit.remove else None
    added = rows(new[start : start + len(edit.add)])
    spots = places(before, after, len(added))
    if len({before, after, *spots}) < len(spots) + 2:
        # Halved too often: the whole list is laid out anew.
        return list_patch(load_rows(session, sitter_id, stage)[stage, field], rows(new))
    return out, [ListEntry(at, document) for at, document in zip(spots, added, strict=True)]


def _names(stage: str, patch: Patch) -> set[str]:
    plain_names = set(touched_by(stage, patch))
    return plain_names | {f"{name}+" for name in plain_names}


def reset(session: Session, row: SitterRow, stage: str, words: str, now: datetime, by: str = "") -> None:
    """Give a stage its usual settings, whatever is kept of it; this can be undone."""
    patch = reset_patch(session, row.id, stage)
    apply_patch(session, row.id, stage, patch, forward=True)
    _append(session, row, stage, words, patch, now, by)
    _mark(session, row, _all_of(stage))


def _all_of(stage: str) -> list[str]:
    return [f"{stage}.{name}" for name in STAGES[stage].model_fields]


def walk(session: Session, row: SitterRow, forward: bool) -> None:
    """Take back the last change, or bring back the last one taken back."""
    number = row.head + 1 if forward else row.head
    change_row = session.scalar(
        select(ChangeRow).where(ChangeRow.sitter_id == row.id, ChangeRow.number == number)
    )
    if change_row is None:
        raise NothingToUndo("There is nothing to bring back." if forward else "There is nothing to undo.")
    apply_patch(session, row.id, change_row.stage, change_row.patch, forward)
    row.head = number if forward else number - 1
    whole = "whole" in change_row.patch
    _mark(
        session, row, _all_of(change_row.stage) if whole else touched_by(change_row.stage, change_row.patch)
    )


def around(session: Session, *sitter_ids: str) -> dict[str, tuple[str | None, str | None]]:
    """Of each sitter what undo takes back and redo brings again, in words, and in a studio whose it was."""
    found: dict[tuple[str, int], str] = {}
    ahead = ChangeRow.number - SitterRow.head
    query = (
        select(ChangeRow.sitter_id, ahead, ChangeRow.change, ChangeRow.painter)
        .join(SitterRow, SitterRow.id == ChangeRow.sitter_id)
        .where(ChangeRow.number.in_((SitterRow.head, SitterRow.head + 1)), SitterRow.id.in_(sitter_ids))
    )
    for sitter_id, step, change, painter in session.execute(query):
        found[sitter_id, step] = f"{change} ({painter})" if painter else change
    return {s: (found.get((s, 0)), found.get((s, 1))) for s in sitter_ids}
