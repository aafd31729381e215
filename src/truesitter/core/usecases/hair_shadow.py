"""What the shadow that the hair throws on the skin is mixed from."""

from __future__ import annotations

import numpy as np

from truesitter.core.imaging.pixels import pixel_at
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.stages.study import Study
from truesitter.core.types import Doubles


def hair_shadow(study: Study) -> tuple[Doubles, Recipe] | None:
    """Mean L*a*b* (3,) of the skin in the shadow of the hair, and its mixture; None where there is none."""
    lab = study.picture.lab()
    places = [pixel_at(x, y, lab.shape) for x, y in study.hair.hairline().shaded]
    if not places:
        return None
    rows, columns = np.transpose(places)
    seen = np.asarray(lab[rows, columns].mean(axis=0, dtype=np.float64))
    return seen, study.flesh.best(seen)
