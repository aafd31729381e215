"""Numbers as a painter writes them down."""

from __future__ import annotations

from truesitter.core.paint.pigments import pigment_library


def duration(minutes: float) -> str:
    """Minutes as days, hours or minutes, rounded to what matters."""
    if minutes >= 2 * 24 * 60:
        return f"{minutes / 1440:.0f} days"
    if minutes >= 90:
        return f"{minutes / 60:.0f} hours"
    return f"{minutes:.0f} minutes"


def parts_sentence(parts: dict[str, int], film_mm: float | None = None) -> str:
    """Parts as ``8 Titanium white : 3 Yellow ochre``, with the wash's film when there is one."""
    sentence = " : ".join(f"{n} {pigment_library()[k].name}" for k, n in parts.items())
    return sentence if film_mm is None else f"{sentence}, dry film {film_mm * 1000:.2g} µm"
