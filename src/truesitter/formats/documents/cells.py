"""Text in cells of a CSV table that no spreadsheet takes for a formula."""

from __future__ import annotations

_FORMULA = ("=", "+", "-", "@", "\t", "\r")


def safe(text: str) -> str:
    """A cell with an apostrophe before whatever a spreadsheet would compute."""
    return f"'{text}" if text.lstrip("'").startswith(_FORMULA) else text


def plain(cell: str) -> str:
    """The text of a cell that `safe` made."""
    return cell[1:] if cell.startswith("'") and cell.lstrip("'").startswith(_FORMULA) else cell
