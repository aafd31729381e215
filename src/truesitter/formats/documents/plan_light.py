"""The light of plan.json, documented by these models."""

from __future__ import annotations

from typing import Literal

from pydantic import ConfigDict, Field

from truesitter.core.light.form.light_form import FormClass
from truesitter.core.light.form.peaks import beside_usual
from truesitter.core.light.form.recesses import Recess
from truesitter.core.light.key.light_direction import LightDirection, direction_words
from truesitter.core.light.mirrored.ceilings import Ceiling
from truesitter.core.light.mirrored.highlights import how_to_make
from truesitter.core.stages import Study
from truesitter.formats.words.told import Out, PlanHeap, heap_of

Lab = tuple[float, float, float]
Vector = tuple[float, float, float]
FormName = Literal[
    "highlight", "light", "halftone", "form shadow", "reflected light", "cast shadow"
]  # fmt: skip


class PlanSecondLight(Out):
    """A second light that the skin shows."""

    vector: Vector
    strength: float = Field(description="As part of the key light's")
    words: str


class PlanDirection(Out):
    """Direction towards the key light: x right, y up, z towards the viewer."""

    vector: Vector
    confidence: float
    words: str
    by_hand: bool = Field(description="Set by the painter")
    from_face: bool = Field(description="False where only the figure's outline told it: less sure")
    second: PlanSecondLight | None = None


class PlanForm(Out):
    """One class of the skin."""

    model_config = ConfigDict(json_schema_serialization_defaults_required=True, populate_by_name=True)

    name: FormName = Field(alias="class")
    share: float = Field(description="Part of the skin, 0–1")
    value: float
    lab: Lab
    parts: dict[str, int]
    heap: PlanHeap | None = None


class PlanLightPeak(Out):
    """One of the brightest places on the skin."""

    place: str
    x: float = Field(description="Fraction of the width")
    y: float = Field(description="Fraction of the height")
    value: float
    prominence: float = Field(description="Value steps above the way to a higher peak")
    ceiling: float = Field(description="The highest value it may take")


class PlanHighlight(Out):
    """One light that the surface mirrors."""

    place: str
    kind: Literal["damp skin", "sheen", "hair", "wet eye or lip"]
    edge: Literal["crisp", "soft", "crisp on one side"]
    value: float
    strength: float = Field(description="Mirrored light as part of the skin's full light")
    temperature: Literal["warmer", "cooler", "alike"]
    x: float
    y: float
    how: str = Field(description="What to do for it in the plan's medium")


class PlanRecess(Out):
    """One narrow dark."""

    place: str
    depth: float = Field(description="Value steps below the lower of its sides")
    width_mm: float
    length_mm: float
    soft: str | None = Field(description="Its softer side")
    x: float
    y: float


class PlanCeiling(Out):
    """How light one light may become."""

    place: str
    value: float
    ceiling: float
    over: float
    neighbour: float
    in_shadow: bool
    vanishing: bool
    x: float
    y: float


class PlanLight(Out):
    """Light on the skin."""

    direction: PlanDirection | None = None
    form: list[PlanForm]
    peaks: list[PlanLightPeak]
    missing: list[str] = Field(description="Usual places without a peak")
    extra: list[str] = Field(description="Peaks at other places")
    highlights: list[PlanHighlight]
    recesses: list[PlanRecess]
    ceilings: list[PlanCeiling] = Field(description="What would hurt the likeness most first")
    shadow_below: float = Field(description="Skin darker than this value counts as shadow")
    face_mm: float | None = Field(description="Height of the face on the canvas; none without a face")


def side_words(way: tuple[float, float] | None) -> str | None:
    """Where a side lies in the picture, e.g. ``below`` or ``left``; `way` is x right, y down."""
    if way is None:
        return None
    x, y = way
    if abs(y) >= abs(x):
        return "below" if y > 0 else "above"
    return "right" if x > 0 else "left"


def direction_of(study: Study) -> PlanDirection | None:
    """The key light, and a second one; None where nothing tells it."""
    own, found = study.settings.light.key, study.light.direction()
    if own is None and found is None:
        return None
    key = study.light.key()
    return PlanDirection(
        vector=key,
        confidence=1.0 if own is not None or found is None else found.confidence,
        words=direction_words(key),
        by_hand=own is not None,
        from_face=study.sitter.face is not None,
        second=None if own is not None or found is None else _second(found),
    )


def _second(found: LightDirection) -> PlanSecondLight | None:
    if found.second is None:
        return None
    return PlanSecondLight(
        vector=found.second, strength=found.second_strength, words=direction_words(found.second)
    )


def form_of(study: Study) -> list[PlanForm]:
    """The classes of the skin."""
    rack = study.flesh.palette().rack
    return [
        PlanForm(
            name=_NAMES[one.form],
            share=one.share,
            value=one.value,
            lab=(float(one.lab[0]), float(one.lab[1]), float(one.lab[2])),
            parts=recipe.parts,
            heap=heap_of(recipe.parts, rack),
        )
        for one, recipe in study.accents.form().classes
    ]


_NAMES: dict[FormClass, FormName] = {
    FormClass.HIGHLIGHT: "highlight",
    FormClass.LIGHT: "light",
    FormClass.HALFTONE: "halftone",
    FormClass.FORM_SHADOW: "form shadow",
    FormClass.REFLECTED_LIGHT: "reflected light",
    FormClass.CAST_SHADOW: "cast shadow",
}


def highlights_of(study: Study) -> list[PlanHighlight]:
    """Every highlight."""
    medium = study.settings.flesh.medium_used()
    return [
        PlanHighlight(
            place=n.place,
            kind=n.light.kind.value,
            edge=n.light.edge.value,
            value=n.light.value,
            strength=n.light.strength,
            temperature=n.light.temperature,
            x=n.light.x,
            y=n.light.y,
            how=how_to_make(n.light, medium.name if medium else "oil"),
        )
        for n in study.accents.highlights()
    ]


def recess_of(recess: Recess, mm_per_px: float) -> PlanRecess:
    """One recess on the canvas."""
    return PlanRecess(
        place=recess.place,
        depth=recess.depth,
        width_mm=recess.width * mm_per_px,
        length_mm=recess.length * mm_per_px,
        soft=side_words(recess.soft),
        x=recess.x,
        y=recess.y,
    )


def ceiling_of(ceiling: Ceiling) -> PlanCeiling:
    """One ceiling."""
    return PlanCeiling(
        place=ceiling.place, value=ceiling.value, ceiling=ceiling.ceiling, over=ceiling.over,
        neighbour=ceiling.neighbour, in_shadow=ceiling.in_shadow, vanishing=ceiling.vanishing,
        x=ceiling.x, y=ceiling.y,
    )  # fmt: skip


def light_of(study: Study) -> PlanLight:
    """Light of a study."""
    zones, face = study.light.zones(), study.sitter.face
    missing, extra = beside_usual(zones.peaks, face)
    found = study.accents.ceilings()
    highest = {(c.x, c.y): c.ceiling for c in found}
    mm_per_px = study.accents.mm_per_px()
    return PlanLight(
        direction=direction_of(study),
        form=form_of(study),
        peaks=[
            PlanLightPeak(
                place=p.place, x=p.x, y=p.y, value=p.value, prominence=p.prominence,
                ceiling=highest[p.x, p.y],
            )
            for p in zones.peaks
        ],
        missing=list(missing),
        extra=list(extra),
        highlights=highlights_of(study),
        recesses=[recess_of(r, mm_per_px) for r in study.light.recesses().recesses],
        ceilings=[ceiling_of(c) for c in found],
        shadow_below=study.light.shadow_value(),
        face_mm=None if face is None else face.height(study.picture.shape) * study.picture.mm_per_px,
    )  # fmt: skip
