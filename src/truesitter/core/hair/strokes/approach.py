"""Masses or strands: big brushes and few hours, or fine ones and many; never in between."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from truesitter.core.hair.strokes.tuning import (
    DENSITY,
    FACE_MM,
    FINEST_BRUSH_MM,
    FULLNESS,
    HAIR_MM,
    HAIRS_DENSITY,
    LENGTH_MM,
    LESS_EACH_LAYER,
    NEITHER,
    SMALLER_FROM,
)

Way = Literal["masses", "strands"]


WAYS: tuple[Way, ...] = ("masses", "strands")


@dataclass(frozen=True)
class WayPlan:
    """One way of painting the hair.

    Attributes
    ----------
    way
        Masses or strands.
    brushes_mm
        Of each layer after the base; the last one draws single hairs.
    strokes, hours
        How many strokes, and how long.
    lost
        What it gives up, in a sentence.
    neither
        True when one of its brushes lies in the band that gives neither.
    """

    way: Way
    brushes_mm: tuple[float, ...]
    strokes: int
    hours: float
    lost: str
    neither: bool

    @property
    def layers(self) -> int:
        """How many, the base counted."""
        return len(self.brushes_mm) + 1


@dataclass(frozen=True)
class Approach:
    """Both ways and the one that fits.

    Attributes
    ----------
    hair_mm
        Thickness of a hair on this canvas.
    masses, strands
        Both plans.
    chosen
        The one that fits the hours.
    why
        In a sentence.
    """

    hair_mm: float
    masses: WayPlan
    strands: WayPlan
    chosen: Way
    why: str

    @property
    def plan(self) -> WayPlan:
        """The way that is followed."""
        return self.strands if self.chosen == "strands" else self.masses


def brushes(way: Way, layers: int, wide: float, fine: float, band: tuple[float, float]) -> tuple[float, ...]:
    """Width of the brush of every layer after the base, in mm.

    Masses keep to brushes above the band; smaller locks take half the width. Strands get finer
    evenly and jump over the band. The last layer of both is single hairs.

    Parameters
    ----------
    way
        Masses or strands.
    layers
        After the base.
    wide
        Widest brush, mm.
    fine
        Finest, mm.
    band
        Widths between masses and single hairs that are jumped, mm.

    Returns
    -------
    tuple[float, ...]
        Widths in mm.
    """
    count = layers - 1
    widths: list[float] = []
    for n in range(count - 1):
        part = (n + 2) / layers
        if way == "masses":
            width = wide if part <= SMALLER_FROM else max(wide / 2, band[1])
        else:
            width = wide * (fine / wide) ** (n / max(count - 1, 1))
            if band[0] < width < band[1]:
                width = band[1] if width > (band[0] * band[1]) ** 0.5 else fine
        widths.append(min([width, *widths[-1:]]))
    return (*widths, fine)


def strokes_needed(area_mm2: float, widths: tuple[float, ...], length_mm: float, hair_mm: float) -> int:
    """Strokes of nested layers over an area.

    Parameters
    ----------
    area_mm2
        Area of the hair.
    widths
        Of each layer, mm.
    length_mm
        Of a stroke.
    hair_mm
        Width of a single hair.

    Returns
    -------
    int
        Number of strokes.
    """
    total = 0.0
    for n, width in enumerate(widths):
        density = HAIRS_DENSITY if width <= NEITHER[0] * hair_mm or n == len(widths) - 1 else DENSITY
        place = area_mm2 * LESS_EACH_LAYER ** (n + 1)
        total += place * density / (width * FULLNESS * length_mm)
    return round(total)


def choose_approach(
    area_cm2: float, lock_width_mm: float, face_mm: float, hours: float | None,
    minutes_cm2: dict[Way, float], layers: dict[Way, int], own: Way | None = None,
    length_mm: float | None = None,
) -> Approach:  # fmt: skip
    """Masses or strands.

    Parameters
    ----------
    area_cm2
        Of all hair on the canvas, > 0.
    lock_width_mm
        Median width of a lock on the canvas; 0 without locks.
    face_mm
        Height of the face on the canvas.
    hours
        Hours there are for the hair; None when the painter did not say.
    minutes_cm2
        What each way takes for a cm², as the plan reckons.
    layers
        Of each way, the base counted, 3 or more.
    own
        The painter's own choice, which overrules.
    length_mm
        Mean length of a stroke; a part of the face's height when not given.
    """
    hair = HAIR_MM * face_mm / FACE_MM
    band = (NEITHER[0] * hair, NEITHER[1] * hair)
    wide = max(2 / 3 * lock_width_mm if lock_width_mm else 0.05 * face_mm, 1.2 * band[1])
    fine = max(FINEST_BRUSH_MM, hair)

    def plan(way: Way, lost: str) -> WayPlan:
        widths = brushes(way, layers[way], wide, fine, band)
        strokes = strokes_needed(area_cm2 * 100, widths, length_mm or LENGTH_MM * face_mm, hair)
        neither = any(band[0] < w < band[1] for w in (widths if way == "strands" else widths[:-1]))
        return WayPlan(way, widths, strokes, area_cm2 * minutes_cm2[way] / 60, lost, neither)

    masses = plan(
        "masses", "Single hairs, except the few of the last layer; it reads as hair from a step away."
    )
    lost = "Breadth and speed: every stroke counts, and tired strokes show."
    if fine > band[0]:
        hairs = f"{fine / hair:.0f}"
        lost += f" The finest brush is {hairs} hairs wide on this canvas: work larger, or in masses."
    strands = plan("strands", lost)
    if own is not None:
        return Approach(hair, masses, strands, own, "As you chose.")
    if hours is None:
        return Approach(hair, masses, strands, "masses", "Masses, until you say how many hours there are.")
    if hours >= strands.hours:
        return Approach(hair, masses, strands, "strands", f"{hours:g} h are enough for strands.")
    why = f"Strands would take about {strands.hours:.0f} h, and there are {hours:g}."
    return Approach(hair, masses, strands, "masses", why)
