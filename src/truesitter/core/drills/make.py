"""Making rounds: the same drill, picture, level and seed give the same round."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from truesitter.core.drills.drawing_rounds import (
    contour_upside_down,
    find_the_peaks,
    mass_the_shadows,
    stroke_along,
)
from truesitter.core.drills.drill_kinds import DRILLS, DrillName
from truesitter.core.drills.drill_picture import DrillPicture
from truesitter.core.drills.looking_rounds import (
    among_others,
    name_value,
    same_value,
    steps_between,
    warm_or_cool,
    which_is_lighter,
)
from truesitter.core.drills.mixing_rounds import mix_by_eye
from truesitter.core.drills.rounds import Places, Rng, Round

Maker = Callable[[DrillPicture, float, Rng, Places], Round]
"""What makes a round of a drill: from a picture, at a level in the drill's own unit, by a source of chance,
of places to prefer (none for anywhere). It gives what is shown, and how an answer is scored."""

MAKERS: dict[DrillName, Maker] = {
    "value": name_value,
    "surround": among_others,
    "lighter": which_is_lighter,
    "same value": same_value,
    "mix": mix_by_eye,
    "warm": warm_or_cool,
    "peaks": find_the_peaks,
    "masses": mass_the_shadows,
    "strokes": stroke_along,
    "contour": contour_upside_down,
    "steps": steps_between,
}


def make_round(
    drill: DrillName, picture: DrillPicture, level: float, seed: int, places: Places = ()
) -> Round:
    """One round.

    Parameters
    ----------
    level
        How hard it is, inside the drill's range.
    seed
        ≥ 0; what is drawn by lot follows from it.
    places
        Places the painter tends to get wrong: some rounds are about them.

    Raises
    ------
    NotHere
        When the picture has nothing to make it from.
    """
    one = DRILLS[drill]
    level = float(np.clip(level, one.least, one.most))
    return MAKERS[drill](picture, level, np.random.default_rng(seed), places)
