"""Hair in the plan: direction, locks, shine, hairline, layers."""

from __future__ import annotations

import numpy as np
from pydantic import Field

from truesitter.core.hair.field.hair_kinds import Kind
from truesitter.core.stages import Study
from truesitter.formats.words.told import Out, PlanHeap, heap_of


class PlanWhorl(Out):
    """A whorl and its winding number."""

    x: float
    y: float
    index: float


class PlanHairKind(Out):
    """A mass of hair and how it is stroked."""

    kind: str
    type: str
    share: float = Field(description="Of the picture")


class PlanShine(Out):
    """Shine of a mass: 0 matte … 1 glossy."""

    mass: str
    index: float
    word: str
    range_steps: float
    temperature: str
    agrees: float
    advice: str


class PlanHairlineSpot(Out):
    """Width of the passage from skin to hair, and how much softer to paint it."""

    x: float
    y: float
    width_mm: float
    soften_mm: float
    shadow: float
    through: float
    too_hard: bool


class PlanLocks(Out):
    """How many locks there are and how wide they are."""

    count: int
    width_mm: float = Field(description="Median, 0 without locks")


class PlanWay(Out):
    """One way of painting the hair."""

    way: str
    brushes_mm: list[float]
    strokes: int
    hours: float
    lost: str
    neither: bool


class PlanApproach(Out):
    """Masses or strands."""

    chosen: str
    why: str
    hair_mm: float
    masses: PlanWay
    strands: PlanWay


class PlanHairLayer(Out):
    """One layer of hair."""

    name: str
    mass: str
    said: str
    strokes: int
    strays: int
    brush_mm: float
    film_mm: float
    minutes: float
    value: float
    hex: str
    parts: dict[str, int]
    heap: PlanHeap | None = None
    error: float = Field(description="Mean distance in value from the squinted reference after it, in steps")


class PlanHair(Out):
    """Hair: the field file holds 1 + round(100·degrees), 0 outside hair; the locks file their numbers."""

    lines: int
    whorls: list[PlanWhorl]
    field: str
    kind: list[PlanHairKind]
    approach: PlanApproach
    shine: list[PlanShine]
    hairline: list[PlanHairlineSpot]
    locks: PlanLocks
    layers: list[PlanHairLayer]


def shine_of_study(study: Study) -> list[PlanShine]:
    """Shine of every mass."""
    return [
        PlanShine(
            mass=mass,
            index=s.index,
            word=s.word,
            range_steps=s.range_steps,
            temperature=s.temperature,
            agrees=s.agrees,
            advice=s.advice,
        )
        for mass, s in study.hair.shine().items()
    ]


def hairline_of(study: Study) -> list[PlanHairlineSpot]:
    """Every reading of the hairline."""
    return [
        PlanHairlineSpot(
            x=s.x, y=s.y, width_mm=s.width_mm, soften_mm=s.soften_mm, shadow=s.shadow, through=s.through,
            too_hard=s.too_hard,
        )
        for s in study.hair.hairline().spots
    ]  # fmt: skip


def kinds_of_study(study: Study) -> list[PlanHairKind]:
    """Every kind of hair there is."""
    _, kinds = study.hair.directed()
    return [
        PlanHairKind(kind=kind.spoken, type=type_.name, share=float((kinds == kind).mean()))
        for kind, type_ in study.hair_layers.types()
        if kind is not Kind.NONE
    ]


def approach_of(study: Study) -> PlanApproach:
    """Both ways of painting it."""
    found = study.hair_layers.approach()
    both = [
        PlanWay(
            way=w.way, brushes_mm=list(w.brushes_mm), strokes=w.strokes, hours=w.hours, lost=w.lost,
            neither=w.neither,
        )
        for w in (found.masses, found.strands)
    ]  # fmt: skip
    return PlanApproach(
        chosen=found.chosen, why=found.why, hair_mm=found.hair_mm, masses=both[0], strands=both[1]
    )


def layers_of(study: Study) -> list[PlanHairLayer]:
    """Every layer with its mixture."""
    errors, rack = study.hair_layers.errors(), study.flesh.palette().rack
    return [
        PlanHairLayer(
            name=layer.name,
            mass=layer.mass,
            said=layer.said,
            strokes=len(layer.lines),
            strays=layer.strays,
            brush_mm=layer.brush_mm,
            film_mm=float(layer.film),
            minutes=layer.minutes,
            value=layer.recipe.predicted.value,
            hex=layer.recipe.predicted.hex,
            parts=layer.recipe.parts,
            heap=heap_of(layer.recipe.parts, rack),
            error=error,
        )
        for layer, error in zip(study.hair_layers.layers(), errors, strict=True)
    ]


def locks_of(study: Study) -> PlanLocks:
    """How many locks, and how wide."""
    widths = [lock.width * study.hair.mm_per_px() for lock in study.hair.locks().locks]
    return PlanLocks(count=len(widths), width_mm=float(np.median(widths)) if widths else 0.0)


def hair_of(study: Study) -> PlanHair:
    """Hair of a study."""
    hair = study.hair.map()
    return PlanHair(
        lines=len(hair.lines),
        whorls=[PlanWhorl(x=w.x, y=w.y, index=w.index) for w in hair.whorls],
        field="hair_direction.png",
        kind=kinds_of_study(study),
        approach=approach_of(study),
        shine=shine_of_study(study),
        hairline=hairline_of(study),
        locks=locks_of(study),
        layers=layers_of(study),
    )
