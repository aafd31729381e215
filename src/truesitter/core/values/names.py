"""Names of value groups."""

from __future__ import annotations

_NAMES = {
    2: ("dark", "light"),
    3: ("dark", "middle", "light"),
    4: ("dark accent", "shadow", "halftone", "light"),
    5: ("dark accent", "shadow", "halftone", "light", "highlight"),
}


def group_names(count: int) -> tuple[str, ...]:
    """Names of value groups, darkest first; above five they are numbered.

    Examples
    --------
    >>> group_names(3)
    ('dark', 'middle', 'light')
    """
    return _NAMES.get(count, tuple(f"group {i + 1}" for i in range(count)))
