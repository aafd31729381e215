"""Tables shipped with the core, read from the package itself."""

from __future__ import annotations

import csv
from importlib.resources import files


def read_table(name: str) -> list[dict[str, str]]:
    """Rows of a shipped CSV table, as text by column name."""
    with (files(__name__) / name).open(encoding="utf-8") as file:
        return list(csv.DictReader(file))


def read_text(name: str) -> str:
    """A shipped text file."""
    return (files(__name__) / name).read_text(encoding="utf-8")
