"""Edits of a stage's settings, and the patches they leave behind."""

from __future__ import annotations

from collections.abc import Sequence, Set
from dataclasses import dataclass, field
from typing import Any

from pydantic import ValidationError

from truesitter.core.refusal import Refusal
from truesitter.core.settings import Settings
from truesitter.core.settings.base import Document, first_fault

STEP = 1.0
"""Distance between entries added at the end of a list."""


@dataclass(frozen=True)
class ListEdit:
    """Entries of a list taken out and put in at one place.

    Attributes
    ----------
    start
        Number of the first entry taken out, or before which entries are put in; None for the end.
    remove
        How many are taken out.
    add
        Documents of those put in.
    """

    start: int | None = None
    remove: int = 0
    add: tuple[Document, ...] = ()

    @property
    def appends(self) -> bool:
        """True when entries are only added at the end: no two such edits are in each other's way."""
        return self.start is None and not self.remove


@dataclass(frozen=True)
class Edit:
    """What a painter changes at once: fields of a stage set anew, and entries of its lists."""

    words: str
    set: dict[str, Any] = field(default_factory=dict)
    lists: dict[str, ListEdit] = field(default_factory=dict)

    def touches(self, stage: str) -> frozenset[str]:
        """Names of what it touches; a list that is only added to has a name of its own."""
        lists = {f"{stage}.{name}{'+' if edit.appends else ''}" for name, edit in self.lists.items()}
        return frozenset({f"{stage}.{name}" for name in self.set} | lists)


def clash(mine: Set[str], theirs: Set[str]) -> str | None:
    """The name of a field that both touch; None when both can be kept."""
    for name in sorted(mine):
        plain = name.rstrip("+")
        others = {plain} if name.endswith("+") else {plain, f"{plain}+"}
        if others & theirs:
            return plain
    return None


def edited(model: Settings, edit: Edit) -> Settings:
    """A stage's settings with an edit applied.

    Raises
    ------
    Refusal
        For fields that are not there, entries that are not there, or settings that make no sense.
    """
    unknown = [n for n in (*edit.set, *edit.lists) if n not in type(model).model_fields]
    if unknown:
        raise Refusal(f"there is nothing called “{unknown[0][:60]}” to be set")
    fields: dict[str, Any] = {name: getattr(model, name) for name in type(model).model_fields}
    for name, change in edit.lists.items():
        if name not in type(model).ROWS:
            raise Refusal(f"“{name}” is no list of rows")
        rows = list(fields[name])
        start = len(rows) if change.start is None else change.start
        if not 0 <= start <= start + change.remove <= len(rows):
            raise Refusal("what is to be taken away is not there any more")
        rows[start : start + change.remove] = change.add
        fields[name] = tuple(rows)
    fields.update(edit.set)
    try:
        return type(model).model_validate(fields)
    except ValidationError as error:
        raise Refusal(first_fault(error)) from error


@dataclass(frozen=True)
class ListEntry:
    """An entry of a list: its place among the others, and its document."""

    at: float
    document: Document


def places(before: float | None, after: float | None, count: int) -> list[float]:
    """Places for new entries between two neighbours."""
    if after is None:
        return [(before or 0.0) + STEP * (i + 1) for i in range(count)]
    low = after - STEP * (count + 1) if before is None else before
    return [low + (after - low) * (i + 1) / (count + 1) for i in range(count)]


def list_patch(old: Sequence[ListEntry], new: Sequence[Document]) -> tuple[list[ListEntry], list[ListEntry]]:
    """Entries to take out of a list, and those to put in, that make it hold other documents."""
    same = 0
    while same < min(len(old), len(new)) and old[same].document == new[same]:
        same += 1
    tail = 0
    while tail < min(len(old), len(new)) - same and old[-1 - tail].document == new[-1 - tail]:
        tail += 1
    out = list(old[same : len(old) - tail])
    added = new[same : len(new) - tail]
    before = old[same - 1].at if same else None
    after = old[len(old) - tail].at if tail else None
    spots = places(before, after, len(added))
    if len(set(spots)) < len(spots) or before in spots or after in spots:
        # Halved too often: the whole list is laid out anew.
        out, added, spots = list(old), list(new), places(None, None, len(new))
    return out, [ListEntry(at, document) for at, document in zip(spots, added, strict=True)]


Patch = dict[str, Any]
"""``{"set": {field: [before, after]}, "lists": {field: {"out": [[at, document]], "in": […]}}}``"""


def field_patch(old: Document, new: Document) -> Patch:
    """The patch between two documents of a stage; empty when they are the same."""
    changed = {k: [old.get(k), new.get(k)] for k in {*old, *new} if old.get(k) != new.get(k)}
    return {"set": dict(sorted(changed.items()))} if changed else {}


def list_change(out: Sequence[ListEntry], put: Sequence[ListEntry]) -> dict[str, list[list[Any]]]:
    """Entries taken out and put in, as a patch holds them."""
    return {"out": [[e.at, e.document] for e in out], "in": [[e.at, e.document] for e in put]}


def touched_by(stage: str, patch: Patch) -> list[str]:
    """Names of the fields a patch touches."""
    return [f"{stage}.{name}" for name in (*patch.get("set", {}), *patch.get("lists", {}))]
