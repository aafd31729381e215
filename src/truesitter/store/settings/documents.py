"""Settings of a sitter in the database: documents, rows, and what to do with those that cannot be read."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from sqlalchemy import delete, insert, select
from sqlalchemy.orm import Session

from truesitter.core.refusal import Refusal
from truesitter.core.settings import Settings, StudySettings
from truesitter.core.settings.base import Document
from truesitter.store.rows.models import ItemRow, StageRow
from truesitter.store.settings.edits import ListEntry, Patch

STAGES: dict[str, type[Settings]] = {
    name: type(getattr(StudySettings(), name)) for name in StudySettings.model_fields
}


Lists = dict[tuple[str, str], list[ListEntry]]
"""Entries of lists in their order, by stage and field."""


@dataclass(frozen=True)
class Trouble:
    """A stage whose settings cannot be read: the usual ones stand in for them."""

    stage: str
    sentence: str


def plain(model: Settings) -> Document:
    """The document of a stage's settings without its rows."""
    return model.model_dump(mode="json", exclude=set(type(model).ROWS))


def rows(entries: Sequence[Settings]) -> list[Document]:
    """The documents of a list's entries."""
    return [entry.model_dump(mode="json") for entry in entries]


Loaded = tuple[StudySettings, tuple[Trouble, ...]]
"""All settings of a sitter, and what of them could not be read."""


def load_settings(session: Session, sitter_id: str) -> Loaded:
    """All settings of a sitter; stages that cannot be read keep to the usual, and are named."""
    return load_all_settings(session, [sitter_id])[sitter_id]


def load_all_settings(session: Session, sitter_ids: Sequence[str]) -> dict[str, Loaded]:
    """The same of several sitters, in as many queries as of one."""
    entries: dict[str, Lists] = {sitter_id: defaultdict(list) for sitter_id in sitter_ids}
    query = select(ItemRow.sitter_id, ItemRow.stage, ItemRow.field, ItemRow.at, ItemRow.document).where(
        ItemRow.sitter_id.in_(sitter_ids)
    )
    for of, stage, field, at, document in session.execute(query.order_by(ItemRow.at)):
        entries[of][stage, field].append(ListEntry(at, document))
    kept: dict[str, dict[str, StageRow]] = {sitter_id: {} for sitter_id in sitter_ids}
    for row in session.scalars(select(StageRow).where(StageRow.sitter_id.in_(sitter_ids))):
        kept[row.sitter_id][row.stage] = row
    return {sitter_id: _read(kept[sitter_id], entries[sitter_id]) for sitter_id in sitter_ids}


def _read(kept: dict[str, StageRow], entries: Lists) -> Loaded:
    found: dict[str, Settings] = {}
    troubles = []
    for stage, model in STAGES.items():
        row = kept.get(stage)
        lists = {name: [e.document for e in entries[stage, name]] for name in model.ROWS}
        try:
            document = {} if row is None else dict(row.document)
            document.update({name: values for name, values in lists.items() if values})
            found[stage] = model.read(document, model.VERSION if row is None else row.version)
        except (Refusal, TypeError, ValueError) as error:
            troubles.append(Trouble(stage, f"The settings of {stage} cannot be read ({error})."))
            found[stage] = model()
    return StudySettings.model_validate(found), tuple(troubles)


def load_rows(
    session: Session, sitter_id: str, stage: str | None = None
) -> dict[tuple[str, str], list[ListEntry]]:
    """Entries of all lists of a sitter, or of one stage, in their order, by stage and field."""
    query = select(ItemRow.stage, ItemRow.field, ItemRow.at, ItemRow.document).where(
        ItemRow.sitter_id == sitter_id
    )
    if stage is not None:
        query = query.where(ItemRow.stage == stage)
    found: dict[tuple[str, str], list[ListEntry]] = defaultdict(list)
    for of, field, at, document in session.execute(query.order_by(ItemRow.at)):
        found[of, field].append(ListEntry(at, document))
    return found


def load_entries(
    session: Session, sitter_id: str, stage: str, field: str, start: int, count: int
) -> list[ListEntry]:
    """Some entries of one list from a number on; one that is below nothing is left out."""
    query = (
        select(ItemRow.at, ItemRow.document)
        .where(ItemRow.sitter_id == sitter_id, ItemRow.stage == stage, ItemRow.field == field)
        .order_by(ItemRow.at)
        .offset(max(0, start))
        .limit(count + min(0, start))
    )
    return [ListEntry(at, document) for at, document in session.execute(query)]


def apply_patch(session: Session, sitter_id: str, stage: str, patch: Patch, forward: bool) -> None:
    """Change the kept settings of a stage by a patch, or take the patch back."""
    after = 1 if forward else 0
    model = STAGES[stage]
    row = session.get(StageRow, (sitter_id, stage))
    if "whole" in patch:
        state = patch["whole"][after]
        document, version = state["document"], state["version"]
    else:
        document = plain(model()) if row is None else dict(model.upgraded(row.document, row.version))
        version = model.VERSION
        document.update({name: pair[after] for name, pair in patch.get("set", {}).items()})
    session.merge(StageRow(sitter_id=sitter_id, stage=stage, version=version, document=document))
    for field, change in patch.get("lists", {}).items():
        gone, put = (change["out"], change["in"]) if forward else (change["in"], change["out"])
        if gone:
            session.execute(
                delete(ItemRow).where(
                    ItemRow.sitter_id == sitter_id, ItemRow.stage == stage, ItemRow.field == field,
                    ItemRow.at.in_([at for at, _ in gone]),
                )
            )  # fmt: skip
        if put:
            new: list[dict[str, Any]] = [
                {"sitter_id": sitter_id, "stage": stage, "field": field, "at": at, "document": document}
                for at, document in put
            ]
            session.execute(insert(ItemRow), new)


def reset_patch(session: Session, sitter_id: str, stage: str) -> Patch:
    """The patch that gives a stage its usual settings, whatever is kept of it now."""
    row = session.get(StageRow, (sitter_id, stage))
    model = STAGES[stage]
    kept = {"document": row.document, "version": row.version} if row is not None else None
    usual = {"document": plain(model()), "version": model.VERSION}
    entries = load_rows(session, sitter_id, stage)
    lists = {
        field: {"out": [[e.at, e.document] for e in found], "in": []} for (_, field), found in entries.items()
    }
    return {"whole": [kept or usual, usual], **({"lists": lists} if lists else {})}
