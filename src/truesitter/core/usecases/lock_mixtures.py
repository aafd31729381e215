"""What the dark, middle and light of every lock are mixed from, in few mixtures for all of them."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.colour.spaces import Lab, as_lab
from truesitter.core.hair.locks.tuning import DARK, LIGHT, MIDDLE
from truesitter.core.imaging.reduce import reduced_to
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.stages.study import Study
from truesitter.core.types import Doubles
from truesitter.core.usecases.tuning import LOCK_TONES_APART

TONE_NAMES = {DARK: "dark", MIDDLE: "middle", LIGHT: "light"}


@dataclass(frozen=True)
class LockTone:
    """One tone of a lock.

    Attributes
    ----------
    name
        Dark, middle or light.
    seen
        Its mean colour in the photograph.
    recipe
        What it is mixed from, shared with tones of other locks that are hardly another colour.
    """

    name: str
    seen: Lab
    recipe: Recipe


def lock_mixtures(study: Study) -> dict[int, tuple[LockTone, ...]]:
    """The tones of every lock by its number, dark first; a flat lock has a middle alone."""
    locks = study.hair.locks()
    if not locks.locks:
        return {}
    lab = reduced_to(study.picture.lab(), locks.numbers.shape)
    inside = locks.tones > 0
    spots = locks.numbers[inside].astype(np.int64) * 4 + locks.tones[inside]
    keys, which = np.unique(spots, return_inverse=True)
    counts = np.bincount(which)
    means = np.stack([np.bincount(which, channel) / counts for channel in lab[inside].T], axis=1)
    recipes = _mixed(study, means)
    found: dict[int, tuple[LockTone, ...]] = {}
    for key, seen, recipe in zip(keys, means, recipes, strict=True):
        number, tone = divmod(int(key), 4)
        found[number] = (*found.get(number, ()), LockTone(TONE_NAMES[tone], as_lab(seen), recipe))
    return found


def _mixed(study: Study, colours: Doubles) -> list[Recipe]:
    """A mixture for each colour, (n, 3) L*a*b*; colours hardly apart share one for their mean."""
    _, which = np.unique(np.round(colours / LOCK_TONES_APART), axis=0, return_inverse=True)
    which = which.ravel()
    made = [study.flesh.best(colours[which == n].mean(axis=0)) for n in range(int(which.max()) + 1)]
    return [made[n] for n in which]
