"""Finish of a painting against its plan: places worked too far, or less far than planned.

A camera puts grain over every place alike: the small contrast that most places gained is taken out first.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.colour.value import luminance_to_srgb, value_to_luminance
from truesitter.core.easel.compare.tuning import (
    LEAST_CM2,
    LEAST_SMALL,
    OVER,
    QUIET,
    SMALL_PX,
    TOO_DARK,
    TRIMS,
    UNDER,
)
from truesitter.core.imaging.blur import blur
from truesitter.core.sitter.areas import Areas, median_by_area, share_by_area
from truesitter.core.types import Doubles, Floats, Mask


@dataclass(frozen=True)
class FinishOff:
    """A place worked farther, or less far, than planned.

    Attributes
    ----------
    place
        Its name.
    ratio
        Small contrast painted ÷ planned.
    painted, planned
        In value steps.
    """

    place: str
    ratio: float
    painted: float
    planned: float

    @property
    def words(self) -> str:
        """In a sentence."""
        how = "worked farther" if self.ratio > 1 else "less finished"
        return (
            f"{self.place[:1].upper()}{self.place[1:]}: {how} than planned "
            f"({self.painted:.2f} steps of small contrast instead of {self.planned:.2f})."
        )


def small_contrast(value: Floats) -> Floats:
    """Square of small marks, in value steps squared, (h, w)."""
    fine = blur(value, 1.0) - blur(value, SMALL_PX)
    return np.asarray(fine * fine, dtype=np.float32)


@dataclass(frozen=True)
class _Energy:
    """Small contrast of each of n areas, in value steps squared.

    Attributes
    ----------
    painted, planned
        (n,) that of the painting as photographed, and of the plan.
    room
        (n,) pixels that are counted.
    grain
        (n,) what the camera and the relief of the strokes add.
    """

    painted: Doubles
    planned: Doubles
    room: Doubles
    grain: Doubles


def _mean_energy(
    own: Floats, planned: Floats, plan: Floats, areas: Areas, trusted: Mask, least_px: float
) -> _Energy:
    """Means over whole areas: what is missing shows in them."""
    room = share_by_area(areas, trusted.astype(np.float64))
    mine, wanted = (
        share_by_area(areas, np.where(trusted, e, 0).astype(np.float64)) / np.maximum(room, 1)
        for e in (own, planned)
    )
    grain = _camera_grain(plan, mine - wanted, areas, trusted, room, room >= least_px)
    return _Energy(mine, wanted, room, grain)


def _quiet_energy(
    own: Floats, planned: Floats, plan: Floats, areas: Areas, trusted: Mask, least_px: float
) -> _Energy:
    """Medians where the plan is quiet: a border that was moved shows in few pixels, marks in all."""
    around = blur(planned, SMALL_PX)
    quiet = trusted & (around < QUIET**2)
    room = share_by_area(areas, quiet.astype(np.float64))
    mine, wanted = median_by_area(areas, quiet, blur(own, SMALL_PX), around)
    grain = _camera_grain(plan, mine - wanted, areas, quiet, room, room >= least_px)
    return _Energy(mine, wanted, room, grain)


def finish_off(
    own: Floats, plan: Floats, areas: Areas, trusted: Mask, mm_per_px: float, free: bool = False
) -> tuple[FinishOff, ...]:
    """Places whose finish is not as planned, the farthest off first.

    Free work is held to its own usual finish.

    Parameters
    ----------
    own
        (h, w) of the painting.
    plan
        (h, w) of the plan, in the same unit.
    areas
        The picture by name.
    trusted
        (h, w) where the photograph can be believed.
    mm_per_px
        Canvas mm to a pixel, > 0.
    free
        True for free work, held to a photograph.

    Returns
    -------
    tuple[FinishOff, ...]
        One entry a place at most.
    """
    least_px = LEAST_CM2 * 100 / mm_per_px**2
    mine, wanted = small_contrast(own), small_contrast(plan)
    room = share_by_area(areas, trusted.astype(np.float64))
    if not (room >= least_px).any():
        return ()
    values = share_by_area(areas, np.where(trusted, plan, 0).astype(np.float64)) / np.maximum(room, 1)
    found: dict[str, FinishOff] = {}
    # What was added is told where the plan is quiet, what is missing over all of a place.
    for read, farther in ((_quiet_energy, True), (_mean_energy, False)):
        energy = read(mine, wanted, plan, areas, trusted, least_px)
        for number in np.flatnonzero((energy.room >= least_px) & (values >= TOO_DARK)):
            one = _off_by(areas.names[number], number, energy, _usual(energy, least_px) if free else 1.0)
            if one is not None and (one.ratio > 1) == farther:
                found.setdefault(one.place, one)
    return tuple(sorted(found.values(), key=lambda f: -abs(np.log(f.ratio))))


def _usual(energy: _Energy, least_px: float) -> float:
    """How much farther than planned a painter usually works."""
    on = energy.room >= least_px
    if not on.any():
        return 1.0
    clean = np.maximum(0, energy.painted - energy.grain)[on]
    return max(0.1, float(np.median(np.sqrt(clean / np.maximum(energy.planned[on], 1e-6)))))


def _off_by(place: str, number: int, energy: _Energy, usual: float) -> FinishOff | None:
    """How one area is off; None where it is not, or drowns in the camera's own grain."""
    painted = float(np.sqrt(max(0.0, energy.painted[number] - energy.grain[number]))) / usual
    planned, noise = float(np.sqrt(energy.planned[number])), float(np.sqrt(energy.grain[number]))
    if max(painted, planned) < max(LEAST_SMALL, noise):
        return None
    ratio = (painted + 0.3 * LEAST_SMALL) / (planned + 0.3 * LEAST_SMALL)
    if UNDER <= ratio <= OVER or abs(painted - planned) < LEAST_SMALL:
        return None
    return FinishOff(place, ratio, painted, planned)


def _camera_grain(
    plan: Floats, gained: Doubles, areas: Areas, trusted: Mask, room: Doubles, large: Mask
) -> Doubles:
    """Mean square (n,) that the camera's grain and the relief of the strokes add to each area.

    Grain is even in the photograph's own 8-bit steps, relief in parts of the light; either shows more in
    value steps the darker a place is. How much there is of both is what most places have gained.
    """
    from scipy.optimize import nnls

    if not large.any():
        return np.zeros(len(room))
    table = np.linspace(0.3, 10, 98)
    luminance = value_to_luminance(table)
    per_light = np.gradient(table, luminance)
    srgb = luminance_to_srgb(luminance)
    per_step = np.gradient(table, np.maximum(srgb, 1e-4) * 255)
    parts = []
    for square in (per_step**2, (per_light * luminance) ** 2):
        spread = np.where(trusted, np.interp(plan, table, square), 0)
        parts.append(share_by_area(areas, spread) / np.maximum(room, 1))
    basis = np.stack(parts, axis=1)
    weight = np.sqrt(room) * large
    for _ in range(TRIMS):
        much, _ = nnls(basis * weight[:, None], np.maximum(gained, 0) * weight)
        over = gained - basis @ much
        # Places worked farther than planned must not pass for grain.
        limit = 2.0 * float(np.median(np.abs(over[large]))) + 1e-5
        weight = np.sqrt(room) * large * np.where(over > limit, 0.1, 1.0)
    return np.asarray(basis @ much)
