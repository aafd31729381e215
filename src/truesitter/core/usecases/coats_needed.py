"""The sitter in whole coats of two mixtures of the painter's choice."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.colour.spaces import lab_to_srgb
from truesitter.core.colour.value import lab_value
from truesitter.core.imaging.reduce import reduced, reduced_labels
from truesitter.core.paint.layered.coat_count import Coats, coat_map, coats_error, coats_of, paintable
from truesitter.core.paint.media.dilution import Dilution
from truesitter.core.paint.media.supports import WHITE_PAPER
from truesitter.core.paint.recipes.ingredients import MARK, expand
from truesitter.core.paint.recipes.mixing import Colour
from truesitter.core.stages.study import Study
from truesitter.core.types import Bytes, Ints
from truesitter.core.usecases.tuning import COATS_LONG_SIDE, SMALLEST_MM


@dataclass(frozen=True)
class GroupCoats:
    """Mean coats of either mixture on one value group, and the values wanted and made."""

    group: int
    first: float
    second: float
    wanted_value: float
    made_value: float


@dataclass(frozen=True)
class CoatPlan:
    """The sitter in coats.

    Attributes
    ----------
    dilution, thinner
        How both mixtures are thinned.
    first_hexes, second_hexes
        Colour of the paper, and after each coat of one of them alone, as many as are used.
    groups
        One for each value group.
    error
        Mean distance from the picture.
    picture
        (h, w, 3) sRGB.
    """

    dilution: Dilution
    thinner: str
    first_hexes: tuple[str, ...]
    second_hexes: tuple[str, ...]
    groups: tuple[GroupCoats, ...]
    error: float
    picture: Bytes


def coat_plan(study: Study, first: str, second: str, water: int) -> CoatPlan:
    """Coats of two mixtures or tubes over white paper.

    Parameters
    ----------
    first, second
        A tube's key, or `@` and the name of a mixture.
    water
        Parts that one part of paint is thinned with.

    Raises
    ------
    Refusal
        For a tube or a mixture nobody knows.
    """
    rack, thinning = study.flesh.palette().rack.for_washes(), study.settings.flesh.washes()
    plain = tuple(name for name in (first, second) if not name.startswith(MARK))
    if plain:
        rack.check(plain)
    known = {} if len(plain) == 2 else study.flesh.named()
    mixtures = [expand({name: 1}, known) for name in (first, second)]
    film = thinning.dry(Dilution(1, water))
    coats = coats_of(mixtures[0], mixtures[1], (film, film), WHITE_PAPER.internal(), rack)
    lab = reduced(study.picture.lab(), COATS_LONG_SIDE)
    radius = SMALLEST_MM / 2 / (study.settings.reference.canvas_width_mm / lab.shape[1])
    one, two = (paintable(counts, radius) for counts in coat_map(lab, coats))
    labels = reduced_labels(study.values.plan().labels, COATS_LONG_SIDE)
    made = coats.labs[one, two]
    groups = tuple(
        GroupCoats(
            group,
            float(one[inside].mean()),
            float(two[inside].mean()),
            float(lab_value(lab[inside].mean(axis=0, dtype=np.float64))),
            float(lab_value(made[inside].mean(axis=0))),
        )
        for group in range(int(labels.max()) + 1)
        if (inside := labels == group).any()
    )
    table = np.round(lab_to_srgb(coats.labs) * 255).astype(np.uint8)
    picture: Bytes = table[one, two]
    return CoatPlan(
        Dilution(1, water), thinning.thinner, _hexes(coats, one, 0), _hexes(coats, two, 1), groups,
        coats_error(lab, one, two, coats), picture,
    )  # fmt: skip


def _hexes(coats: Coats, counts: Ints, which: int) -> tuple[str, ...]:
    row = coats.labs[:, 0] if which == 0 else coats.labs[0]
    return tuple(Colour.of(lab).hex for lab in row[: int(counts.max()) + 1])
