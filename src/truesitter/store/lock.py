"""One program to a data folder: a second start must not touch what the first is working on."""

from __future__ import annotations

import fcntl
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from truesitter.core.refusal import Refusal


@contextmanager
def folder_lock(folder: Path) -> Iterator[None]:
    """Hold a data folder, made if it is missing; it is let go with the process at the latest.

    Raises
    ------
    Refusal
        When another process holds it.
    """
    folder.mkdir(parents=True, exist_ok=True)
    with (folder / ".lock").open("w") as file:
        try:
            fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            raise Refusal(
                f"another True Sitter is working on the sitters in {folder}: stop it first"
            ) from None
        yield
