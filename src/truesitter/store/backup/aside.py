"""Photographs that no row of the database speaks of: set aside, never thrown away at a start.

A database can be lost, emptied, or put back from yesterday. What it does not know then is not what a
painter deleted. Such files are moved to ``set-aside/`` in the data folder, come back by themselves as soon
as the database speaks of them again, and are let go only long after.
"""

from __future__ import annotations

import os
import time
from datetime import date, timedelta
from pathlib import Path

from truesitter.store.backup.backup import BLOBS
from truesitter.store.backup.copies import COPIES
from truesitter.store.files.blobs import Blobs
from truesitter.store.rows.database import DATABASE, form_of
from truesitter.store.trouble import UnusableFolder

ASIDE = "set-aside"
KEPT_DAYS = 90
"""For so long what was set aside is kept [try]."""


def check_not_lost(folder: Path) -> None:
    """Refuse to begin a new database where photographs lie that an old one spoke of.

    Raises
    ------
    UnusableFolder
        Saying how to put a copy back.
    """
    photographs = sum(len(Blobs(folder / name).names()) for name in BLOBS)
    if not photographs or form_of(folder / DATABASE) is not None:
        return
    copies = sorted(path for path in (folder / COPIES).glob("????-??-??") if (path / DATABASE).is_file())
    source = copies[-1] if copies else "BACKUP"
    raise UnusableFolder(
        f"the folder {folder} holds {photographs} photographs and no database ({DATABASE} is missing or "
        "empty); nothing in it was touched. Put the database back in its place, or make a new folder of a "
        f"copy: truesitter restore {source} --data NEW"
    )


def kept_aside(folder: Path) -> int:
    """How many files of a data folder are set aside."""
    return sum(len(Blobs(folder / ASIDE / name).names()) for name in BLOBS)


def set_aside(folder: Path, name: str, wanted: set[str], before: float) -> list[str]:
    """Set aside what nobody knows of one folder of photographs, and bring back what is known again.

    Parameters
    ----------
    folder
        The data folder.
    name
        Its folder of photographs.
    wanted
        Hashes that the database speaks of.
    before
        Only what was written earlier is set aside, in seconds since 1970: a file comes before its row.

    Returns
    -------
    list of str
        What was done, in sentences.
    """
    here, aside = Blobs(folder / name), Blobs(folder / ASIDE / name)
    back = [sha for sha in wanted & aside.names() if not here.sound(sha)]
    for sha in back:
        _move(aside.path(sha), here.path(sha))
    unknown = [sha for sha in here.names() - wanted if here.path(sha).stat().st_mtime < before]
    for sha in unknown:
        _move(here.path(sha), aside.path(sha))
        # From now on it is kept for its days.
        os.utime(aside.path(sha))
    oldest = time.time() - KEPT_DAYS * 86400
    for sha in aside.names():
        if aside.path(sha).stat().st_mtime < oldest:
            aside.path(sha).unlink()
    here.clear_broken_off(before)
    said = []
    if unknown:
        until = (date.today() + timedelta(days=KEPT_DAYS)).isoformat()
        said.append(
            f"{len(unknown)} photographs in {folder / name} belong to no sitter of this database: they are "
            f"set aside in {folder / ASIDE / name} until {until}, and come back when a database that knows "
            "them is put back."
        )
    if back:
        said.append(f"{len(back)} photographs that were set aside are known again and are back.")
    return said


def _move(source: Path, target: Path) -> None:
    target.parent.mkdir(parents=True, exist_ok=True)
    source.replace(target)
