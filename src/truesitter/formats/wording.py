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


def clipping_sentence(dark: float, light: float) -> str:
    """What a photograph has lost in black and in white, shares 0–1."""
    lost = [
        f"{share:.1%} of the picture has run into {end}"
        for share, end in ((dark, "black"), (light, "white"))
        if share >= 0.0005
    ]
    if not lost:
        return "Nothing has run into black or white."
    advice = " Photographs strip colour from shadows: look at the sitter, or invent what is missing."
    return f"{' and '.join(lost)}." + (advice if dark >= 0.0005 else "")
