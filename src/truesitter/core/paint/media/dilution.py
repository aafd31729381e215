"""Dilution: a thin layer told as a hand makes it, so many parts of water or medium to one of paint.

A wet film holds paint in proportion: 1 part in 1 + n leaves 1/(1 + n) of what undiluted paint
would, times the strength of the tube. Nobody can lay half a thousandth of a millimetre; anybody
can add another part of water.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from truesitter.core.paint.media.thickness import DryMm, WetMm
from truesitter.core.paint.media.tuning import (
    BLOTTED,
    HALVES_BELOW,
    LEAST_STRENGTH,
    MOST_STRENGTH,
    MOST_WATER,
)
from truesitter.core.refusal import Refusal
from truesitter.core.types import Doubles


@dataclass(frozen=True)
class Consistency:
    """How thinned paint behaves under the brush.

    Attributes
    ----------
    name
        In a word.
    most
        Parts of thinner to one of paint up to which it is so [try].
    """

    name: str
    most: float


CONSISTENCIES = (
    Consistency("stiff", 0.5),
    Consistency("soft", 2.0),
    Consistency("runny", 6.0),
    Consistency("thin", 20.0),
    Consistency("a trace", math.inf),
)
"""From paint as it comes to hardly tinted water."""


@dataclass(frozen=True)
class Dilution:
    """Whole parts of paint and of what thins it.

    Attributes
    ----------
    paint
        1, or 2 where half parts count.
    thinner
        0 for paint as it comes.
    blotted
        True when the layer is blotted at once.
    """

    paint: int
    thinner: int
    blotted: bool = False

    def __post_init__(self) -> None:
        """Refuse what nobody measures.

        Raises
        ------
        Refusal
            Without paint, for negative water, or for more than `MOST_WATER` parts of it to one.
        """
        if self.paint < 1 or not 0 <= self.thinner <= MOST_WATER * self.paint:
            raise Refusal(f"paint is thinned with 0 to {MOST_WATER} parts to one")

    @property
    def ratio(self) -> float:
        """Parts of thinner to one of paint."""
        return self.thinner / self.paint

    @property
    def consistency(self) -> str:
        """One of the five names."""
        return next(c.name for c in CONSISTENCIES if self.ratio <= c.most)

    @property
    def left(self) -> float:
        """Paint in the layer as a part of what the same film of undiluted paint holds."""
        return (BLOTTED if self.blotted else 1.0) / (1 + self.ratio)


THINNEST = Dilution(1, MOST_WATER, blotted=True)


@dataclass(frozen=True)
class Thinning:
    """How paint of one medium is thinned, and how thick it is laid then.

    Attributes
    ----------
    thinner
        What it is thinned with, in the painter's word.
    strength
        Dry film, in the reckoning of full-strength paint, that one mm of undiluted wet film leaves.
    film
        Wet film of one thin layer.
    """

    thinner: str
    strength: float
    film: WetMm

    def __post_init__(self) -> None:
        """Refuse what no paint is.

        Raises
        ------
        Refusal
            For a strength out of range, or no film.
        """
        if not LEAST_STRENGTH <= self.strength <= MOST_STRENGTH or self.film <= 0:
            raise Refusal(
                f"the strength of a paint lies between {LEAST_STRENGTH} and {MOST_STRENGTH:g}, "
                "and a layer has a thickness"
            )

    def dry(self, dilution: Dilution) -> DryMm:
        """Dry film that one thin layer of so diluted paint leaves."""
        return DryMm(self.strength * self.film * dilution.left)

    def dilution(self, film: DryMm) -> Dilution:
        """The dilution whose layer is that thick or, by less than a part of water, thinner.

        Films stronger than undiluted paint give undiluted paint, films weaker than `THINNEST`
        give that.
        """
        if film <= 0:
            raise Refusal("a layer has a thickness")
        ratio = max(0.0, self.strength * self.film / film - 1)
        blotted = _whole(ratio).ratio > MOST_WATER
        if blotted:
            ratio = min(self.strength * self.film * BLOTTED / film - 1, float(MOST_WATER))
        whole = _whole(ratio)
        return Dilution(whole.paint, whole.thinner, blotted)

    def laid(self, films: Doubles) -> Doubles:
        """Films (…) that can be laid, each the next thinner one of a whole dilution."""
        found = [self.dry(self.dilution(DryMm(float(film)))) for film in np.ravel(films)]
        return np.array(found).reshape(np.shape(films))

    def every(self) -> tuple[Dilution, ...]:
        """All there are, from paint as it comes to the thinnest."""
        halves = [Dilution(1, 0), Dilution(2, 1), Dilution(1, 1), Dilution(2, 3)]
        whole = [Dilution(1, n) for n in range(2, MOST_WATER + 1)]
        # Blotting twice the paint gives every film of the upper half again.
        blotted = [Dilution(1, n, blotted=True) for n in range(MOST_WATER // 2, MOST_WATER + 1)]
        return (*halves, *whole, *blotted)

    @property
    def thinnest(self) -> DryMm:
        """Below this no layer can be laid."""
        return self.dry(THINNEST)

    @property
    def thickest(self) -> DryMm:
        """What undiluted paint leaves in one thin layer."""
        return DryMm(self.strength * self.film)

    def strength_of(self, dilution: Dilution, film: DryMm) -> float:
        """Strength of a tube of which a layer of known dilution was found to be that thick, dry."""
        return film / (self.film * dilution.left)


@dataclass(frozen=True)
class _Whole:
    paint: int
    thinner: int

    @property
    def ratio(self) -> float:
        return self.thinner / self.paint


def _whole(ratio: float) -> _Whole:
    """Rounded up to what can be counted; what is a hair beyond a whole part counts as whole."""
    if ratio < HALVES_BELOW:
        halves = math.ceil(2 * ratio - 1e-9)
        return _Whole(1, halves // 2) if halves % 2 == 0 else _Whole(2, halves)
    return _Whole(1, math.ceil(ratio - 1e-9))
