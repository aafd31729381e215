"""Finding entries of the log."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from datetime import date, timedelta
from zoneinfo import ZoneInfo

from pydantic import BaseModel

from truesitter.core.log.days import midnight
from truesitter.core.log.entry import Entry
from truesitter.core.log.events import Used


def found_in(
    entries: Iterable[Entry], names: Mapping[str, str], words: str = "", *, kind: str = "", painter: str = "",
    sitter: str = "", since: date | None = None, until: date | None = None, zone: ZoneInfo,
) -> list[Entry]:  # fmt: skip
    """Entries that fit everything asked for, newest first; what is struck out too.

    Parameters
    ----------
    names
        Of the sitters, by key: they are searched too.
    words
        All of them have to be said, in any order and case.
    kind, painter, sitter
        Empty for all.
    since, until
        Days where the painter lives, both counted.
    """
    wanted = words.casefold().split()
    first = midnight(since, zone) if since else None
    last = midnight(until + timedelta(days=1), zone) if until else None
    found = [
        e
        for e in entries
        if (not kind or e.what.kind == kind)
        and (not painter or e.painter == painter)
        and (not sitter or e.sitter == sitter)
        and (first is None or e.at >= first)
        and (last is None or e.at < last)
        and _says(e, names, wanted)
    ]
    return found[::-1]


def _says(entry: Entry, names: Mapping[str, str], wanted: list[str]) -> bool:
    if not wanted:
        return True
    said = " ".join(_words(entry.what)) + f" {entry.painter} {names.get(entry.sitter, '')}"
    folded = said.casefold()
    return all(word in folded for word in wanted)


_TOLD = ("words", "why", "by", "name", "place", "mixture", "school", "paper", "medium", "subject")
"""Fields that hold what a painter wrote or sees; ids, kinds and hashes are none of them."""


def _words(what: BaseModel) -> list[str]:
    """What an entry says in words."""
    said = [value for name in _TOLD if isinstance(value := getattr(what, name, None), str)]
    said += list(getattr(what, "marks", {}))
    if isinstance(what, Used) and not what.name:
        # A tube that has no name is called by its key.
        said.append(what.tube)
    work = getattr(what, "work", None)
    return said + (_words(work) if isinstance(work, BaseModel) else [])
