"""The passes of plan.json, documented by these models."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from truesitter.core.passes.seams import Seam
from truesitter.core.study import Study
from truesitter.formats.pass_words import seam_place, seam_words, taken_words
from truesitter.formats.told import Out, PlanDilution, PlanHeap, dilution_of, heap_of


class PlanThinned(Out):
    """How the paint of a pass is thinned on one value group, or everywhere."""

    group: int | None
    name: str | None
    dilution: PlanDilution


class PlanSeam(Out):
    """What a pass meets along its border."""

    toward: str
    length_mm: float
    here_mm: float = Field(description="Width of the border's side in the pass")
    there_mm: float = Field(description="Width of its other side; both make the 10–90 % width")
    kind: Literal["hard", "firm", "soft", "lost"]
    softer: Literal["this", "that"] | None = Field(description="The soft side of an edge crisp on the other")
    stairs: int = Field(description="Tones that lead from one side to the other; 0 for a lost edge")
    means: str
    words: str


class PlanGo(Out):
    """Part of a pass that is laid without a break."""

    place: str
    x: float
    y: float
    area_cm2: float
    minutes: float
    in_time: bool = Field(description="False for one shape too large to be softened in time")


class PlanTaken(Out):
    """How much paint is taken off one value group."""

    group: int
    name: str
    share: float = Field(description="Part of the film left, 0–1")
    pressure: float = Field(description="0–1; the value moves evenly with it")
    words: str


class PlanPass(Out):
    """One pass, in order."""

    key: str
    name: str
    places: list[str]
    value: float = Field(description="Target value")
    parts: dict[str, int]
    heap: PlanHeap | None = None
    predicted_hex: str
    film_mm: float = Field(description="As it is laid, wet")
    thinned: list[PlanThinned] = Field(description="Nothing for paint as it comes")
    taken: list[PlanTaken] = Field(description="Nothing where paint is laid")
    lines: int = Field(description="How many lines it is made of; 0 for places")
    into_wet: bool = Field(description="True when what it goes over is still wet")
    seams: list[PlanSeam] = Field(description="Its borders, longest first")
    brush_mm: float
    area_cm2: float
    ml: float = Field(description="With loss")
    edge: str
    tool: str
    note: str
    open_minutes: tuple[float, float] = Field(description="Shortest and longest time an edge can be moved")
    goes: list[PlanGo] = Field(description="Whole shapes laid without a break; nothing where one go will do")
    start_minutes: float
    work_minutes: float
    wait_minutes: float = Field(description="Wait before the next pass")
    value_error: float = Field(description="Mean value error of the canvas left after this pass")


def seam_of(seam: Seam, laid: bool) -> PlanSeam:
    """A border in numbers and in words."""
    return PlanSeam(
        toward=seam_place(seam),
        length_mm=seam.length_mm,
        here_mm=seam.here_mm,
        there_mm=seam.there_mm,
        kind=seam.kind.value,
        softer=seam.softer,
        stairs=seam.stairs,
        means=seam.means,
        words=seam_words(seam, laid),
    )


def passes_of(study: Study) -> tuple[list[PlanPass], list[str]]:
    """Passes of a study and the planner's remarks; none for a palette of washes."""
    if study.flesh.palette().transparent:
        return [], ["Passes need opaque paint: the schools for washes on paper are not in this version."]
    plan, rack, seams = study.passes.plan(), study.flesh.palette().rack, study.passes.seams()
    names = study.settings.values.group_names()
    passes = [
        PlanPass(
            key=p.key,
            name=p.title(names),
            places=list(p.places),
            value=p.target_value,
            parts=p.recipe.parts,
            heap=heap_of(p.recipe.parts, rack),
            predicted_hex=p.recipe.predicted.hex,
            film_mm=p.film,
            thinned=[
                PlanThinned(
                    group=t.group,
                    name=None if t.group is None else names[t.group],
                    dilution=dilution_of(t.dilution, plan.thinner),
                )
                for t in p.thinned
            ],
            taken=[
                PlanTaken(
                    group=t.group,
                    name=names[t.group],
                    share=t.share,
                    pressure=t.pressure,
                    words=taken_words(t.share, t.pressure),
                )
                for t in p.taken
            ],
            lines=len(p.lines),
            into_wet=p.into_wet,
            seams=[seam_of(s, not p.taken) for s in met],
            brush_mm=p.brush_mm,
            area_cm2=p.area_cm2,
            ml=p.ml,
            edge=p.edge,
            tool=p.tool,
            note=p.note,
            open_minutes=p.open_minutes,
            goes=[
                PlanGo(
                    place=study.sitter.place_at(g.x, g.y),
                    x=g.x,
                    y=g.y,
                    area_cm2=g.area_cm2,
                    minutes=g.minutes,
                    in_time=g.in_time,
                )
                for g in p.goes
            ],
            start_minutes=p.start_minutes,
            work_minutes=p.work_minutes,
            wait_minutes=p.wait_minutes,
            value_error=p.value_error,
        )
        for p, met in zip(plan.passes, seams, strict=True)
    ]
    return passes, [r.sentence(names) for r in plan.remarks]
