"""What single spots at the hair are mixed from: its shadow on the skin, the lights of a beard."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from truesitter.core.imaging.pixels import pixel_at
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.stages.study import Study
from truesitter.core.types import Doubles


def hair_shadow(study: Study) -> tuple[Doubles, Recipe] | None:
    """Mean L*a*b* (3,) of the skin in the shadow of the hair, and its mixture; None where there is none."""
    return _mixed(study, [(x, y) for x, y in study.hair.hairline().shaded])


def beard_lights(study: Study) -> tuple[Doubles, Recipe] | None:
    """Mean L*a*b* (3,) of those light-forms of a grey beard that add most, and its mixture; None without."""
    found = study.hair_layers.light_forms()
    forms = found.forms[: max(1, len(found.forms) // 2)] if found else ()
    return _mixed(study, [(form.x, form.y) for form in forms])


def _mixed(study: Study, spots: Sequence[tuple[float, float]]) -> tuple[Doubles, Recipe] | None:
    """Mean L*a*b* (3,) of some spots, x, y in fractions, and its mixture; None for no spots."""
    if not spots:
        return None
    lab = study.picture.lab()
    rows, columns = np.transpose([pixel_at(x, y, lab.shape) for x, y in spots])
    seen = np.asarray(lab[rows, columns].mean(axis=0, dtype=np.float64))
    return seen, study.flesh.best(seen)
