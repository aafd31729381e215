"""How a glaze looks over each tone of what it goes over."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.paint.recipes.mixing import Colour
from truesitter.core.plan.pass_plan import PassPlan

TONES = ("darks", "middle", "lights")


@dataclass(frozen=True)
class GlazeLook:
    """A glaze over one tone.

    Attributes
    ----------
    tone
        Which third of its place, from dark to light.
    before, after
        Mean colour of the canvas there.
    """

    tone: str
    before: Colour
    after: Colour


def glaze_looks(plan: PassPlan, number: int) -> tuple[GlazeLook, ...]:
    """A glaze over the darks, the middle and the lights of its place; nothing for all other passes.

    Parameters
    ----------
    plan
        The plan.
    number
        Of the pass, counted from 0.
    """
    one = plan.passes[number]
    if one.does != "glaze" or not one.pieces.any():
        return ()
    under = plan.canvases[number - 1] if number else plan.bare
    sizes = plan.bare.patchwork.sizes
    before, after = under.labs(), plan.canvases[number].labs()
    order = np.flatnonzero(one.pieces)[np.argsort(before[one.pieces, 0], kind="stable")]
    share = np.cumsum(sizes[order]) / sizes[order].sum()
    found = []
    for n, tone in enumerate(TONES):
        third = order[(share > n / 3) & (share <= (n + 1) / 3 + 1e-9)]
        if len(third):
            looks = (np.average(labs[third], axis=0, weights=sizes[third]) for labs in (before, after))
            found.append(GlazeLook(tone, *(Colour.of(lab) for lab in looks)))
    return tuple(found)
