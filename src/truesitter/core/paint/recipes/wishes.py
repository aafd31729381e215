"""What a painter asks of a recipe."""

from __future__ import annotations

from dataclasses import dataclass, replace

from truesitter.core.paint.recipes.pricing import Tolerance
from truesitter.core.paint.recipes.tuning import WIDER_DELTA_E, WIDER_VALUE
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.refusal import Refusal


@dataclass(frozen=True)
class Wishes:
    """What a recipe must keep to.

    Attributes
    ----------
    most_tubes
        At most so many tubes, 1–6.
    largest_total
        Largest sum of parts of an exact recipe, 1–60; more only when nothing this small comes near.
    must, without
        Tubes that have to be in it, and tubes that may not.
    black
        False leaves black tubes out.
    tube_cost
        What one more tube costs, in ΔE2000: the more, the fewer tubes.
    tolerance
        How far an easy recipe may be from its colour; None asks for exact ones.
    """

    most_tubes: int = 4
    largest_total: int = 24
    must: tuple[str, ...] = ()
    without: tuple[str, ...] = ()
    black: bool = True
    tube_cost: float = 0.15
    tolerance: Tolerance | None = None

    def elsewhere(self) -> Wishes:
        """The same away from flesh and features, where more is left to go."""
        if self.tolerance is None:
            return self
        wider = Tolerance(self.tolerance.delta_e * WIDER_DELTA_E, self.tolerance.value * WIDER_VALUE)
        return replace(self, tolerance=wider)

    def exact(self) -> Wishes:
        """The same without any tolerance."""
        return replace(self, tolerance=None)

    def nearer(self, factor: float) -> Wishes:
        """The same with a part of the tolerance."""
        return self if self.tolerance is None else replace(self, tolerance=self.tolerance.times(factor))

    def palette(self, palette: Palette) -> Palette:
        """The tubes that may be used.

        Raises
        ------
        Refusal
            When the wishes contradict each other or leave nothing to mix with.
        """
        if not 1 <= self.most_tubes <= 6 or not 1 <= self.largest_total <= 60:
            raise Refusal("a recipe has 1 to 6 tubes and 1 to 60 parts")
        missing = [key for key in self.must if key not in palette.tubes]
        if missing:
            raise Refusal(f"{_name(missing[0], palette)} is not set out, so it cannot be asked for")
        clash = [
            key for key in self.must if key in self.without or (not self.black and _is_black(key, palette))
        ]
        if clash:
            raise Refusal(f"{_name(clash[0], palette)} is both asked for and ruled out")
        if len(self.must) > self.most_tubes:
            raise Refusal(f"{len(self.must)} tubes are asked for, but a recipe may hold {self.most_tubes}")
        allowed = tuple(
            key
            for key in palette.tubes
            if key not in self.without and (self.black or not _is_black(key, palette))
        )
        if not allowed:
            raise Refusal("every tube is ruled out: leave at least one")
        return palette.with_tubes(allowed)


def _name(key: str, palette: Palette) -> str:
    return next((p.name for p in palette.rack.pigments() if p.key == key), f"“{key}”")


def _is_black(key: str, palette: Palette) -> bool:
    return palette.pigment(key).family == "black"
