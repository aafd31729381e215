"""In what way a wash is laid, how wet the paper is for it, and what is dropped into it."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from truesitter.core.paint.media.dilution import Dilution
from truesitter.core.paint.recipes.mixing import Colour
from truesitter.core.types import Mask

Way = Literal["flat", "graded", "charged", "pulled out", "linked"]
"""How a wash is laid: in one strength; from one puddle in several; with other mixtures dropped in; at its
dark end first and drawn out from there; or flat over several regions of one value."""


@dataclass(frozen=True)
class Charge:
    """Paint dropped into a wash while that is wet.

    Attributes
    ----------
    key
        Of the wash it would be by itself, laid over dry paper.
    mix, parts
        What is taken together for it, heaps by `@` and their key, and the same straight from the tubes, which
        is what lies on the paper.
    told
        The way to mix it without any heap; that of the wash itself where only the hue changes.
    dilution
        As it is dropped: stronger than it looks in the end, the water of the wash comes to it.
    pieces
        (n,) where it belongs.
    ml
        Paint in it, before it is thinned, with loss.
    predicted
        Colour of its place in the end.
    same
        True for paint of the wash's own puddle.
    added, base
        Where only the hue changes: what is added to so many parts of the wash's own mixture.
    """

    key: str
    mix: dict[str, int]
    parts: dict[str, int]
    told: dict[str, int]
    dilution: Dilution
    pieces: Mask
    ml: float
    predicted: Colour
    same: bool
    added: dict[str, int] = field(default_factory=dict)
    base: int = 0
