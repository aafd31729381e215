"""The tubes as a school uses them: thick, or thinned over white."""

from __future__ import annotations

from dataclasses import dataclass, replace

from truesitter.core.paint.layered.tuning import MOST_COATS
from truesitter.core.paint.media.media_table import Medium
from truesitter.core.paint.media.supports import Support
from truesitter.core.paint.media.thickness import WetMm
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.refusal import Refusal
from truesitter.core.school.school_document import School
from truesitter.core.school.tuning import MOST_FILM, MOST_WASHES


@dataclass(frozen=True)
class Palettes:
    """One set of tubes in three uses.

    Attributes
    ----------
    used
        As the school mixes them.
    clear
        Without whites, thinned over what shows through: as strong as all washes of one mixture together.
    body
        All of them, laid thick enough to hide.
    """

    used: Palette
    clear: Palette
    body: Palette


def palettes_for(
    school: School, palette: Palette, wishes: Wishes, medium: Medium, support: Support
) -> Palettes:
    """The tubes that are set out, as a school uses them.

    Parameters
    ----------
    school
        Its document.
    palette
        The tubes set out.
    wishes
        What the painter asks of recipes.
    medium
        What is painted in.
    support
        What is painted on.

    Returns
    -------
    Palettes
        For opaque passes, washes and greys.

    Raises
    ------
    Refusal
        When opaque paint is wanted without a white, or washes of nothing but white.
    """
    allowed = wishes.palette(palette)
    body = allowed.opaque()
    coloured = any(body.pigment(key).family != "white" for key in body.tubes)
    if school.transparent and not coloured:
        raise Refusal(f"{school.name} needs colours besides white")
    clear = body.without_whites() if coloured and allowed.washes_on is None else body
    thinning = medium.thinning
    films = MOST_COATS if medium.sprayed else MOST_WASHES * MOST_FILM
    deep = replace(thinning, film=WetMm(thinning.film * films))
    clear = replace(clear, washes_on=support, rack=clear.rack.for_washes(), thinning=deep)
    if school.transparent:
        return Palettes(clear, clear, body)
    if allowed.transparent and all(body.pigment(key).family != "white" for key in body.tubes):
        raise Refusal(f"{school.name} needs opaque paint; choose a palette with white for the passes")
    return Palettes(body, clear, body)
