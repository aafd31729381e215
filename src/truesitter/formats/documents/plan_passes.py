"""The passes of plan.json, documented by these models."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from truesitter.core.paint.tubes.cautions import cautions_for
from truesitter.core.plan.hand.seams import Seam
from truesitter.core.plan.pass_plan import Doing, Pass
from truesitter.core.plan.water.ways import Way
from truesitter.core.school.school_document import PaperState
from truesitter.core.stages import Study
from truesitter.core.values.edges import Sharpness
from truesitter.formats.documents.plan_brushes import brush_ids
from truesitter.formats.documents.plan_heaps import PlanMixPart, heaps_of, mix_of, mix_words
from truesitter.formats.documents.plan_wash import (
    PlanCharge,
    PlanReserve,
    charges_of,
    reserves_by_pass,
    told_drops,
)
from truesitter.formats.words.pace_words import pace_words
from truesitter.formats.words.pass_words import (
    edge_words,
    purpose_words,
    seam_place,
    seam_words,
    taken_words,
    varied_words,
)
from truesitter.formats.words.told import Out, PlanDilution, PlanHeap, dilution_of, heap_of
from truesitter.formats.words.wash_words import laid_words, wash_words


class PlanThinned(Out):
    """How the paint of a pass is thinned on one value group, or everywhere."""

    group: int | None
    name: str | None
    dilution: PlanDilution


class PlanSeam(Out):
    """What a pass meets along its border."""

    towards: str
    length_mm: float
    mm: float = Field(description="10–90 % width, over all the steps that lead from light to dark there")
    here_mm: float = Field(description="Of that, on the side of the pass")
    there_mm: float = Field(description="And on the other side")
    kind: Literal["hard", "firm", "soft", "lost"]
    softer: Literal["this", "that"] | None = Field(description="The soft side of an edge crisp on the other")
    tones: int = Field(description="Tones that lead from one side to the other; 0 for a lost edge")
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


class PlanEdge(Out):
    """How the borders of a pass are handled."""

    words: str
    crisp: bool = Field(description="Some of it is sharp")
    soft: bool = Field(description="Some of it is soft or lost")
    mm: float | None = Field(description="Width of its borders on the canvas, the middle one by length")


class PlanInterval(Out):
    """Work on one pass in one sitting."""

    number: int = Field(description="Of the pass, from 1")
    key: str
    start_minutes: float = Field(description="After the beginning of the sitting")
    minutes: float
    ends: bool = Field(description="False where it goes on in a later sitting")


class PlanSitting(Out):
    """One sitting."""

    day: int = Field(description="From 0, the first")
    minutes: float
    intervals: list[PlanInterval]
    waiting: list[int] = Field(description="Numbers of passes still wet below on the day after")


class PlanTime(Out):
    """How long the painting takes."""

    least_hours: float
    likely_hours: float
    most_hours: float
    hair_share: float = Field(description="Part of it that goes into hair, 0–1")
    days: int = Field(description="From the first sitting to the last, both counted")
    sittings: list[PlanSitting]
    usual_hours: float = Field(description="As reckoned, without the painter's own pace")
    paced: int = Field(description="How many passes are told at the painter's own pace")


class PlanPass(Out):
    """One pass, in order."""

    key: str
    name: str
    kind: Doing = Field(description="What is done, in one word")
    layer: str | None = Field(description="Its layer in `hair.layers`; none for all else than hair")
    places: list[str]
    value: float = Field(description="Target value")
    wet_value: float | None = Field(description="Of its paint while wet; None where none is mixed")
    strength: float = Field(description="Part of its puddle that is paint; 1 for paint as it comes")
    way: Way | None = Field(description="How a wash is laid; None for all else")
    paper_state: PaperState | None = Field(description="How wet the paper is for it; None for all else")
    charge: list[PlanCharge] = Field(description="What is dropped into it while it is wet")
    reserve: list[PlanReserve] = Field(description="Lights kept from it on, at the first wash there")
    parts: dict[str, int] = Field(description="Straight from the tubes, without any heap")
    heap: PlanHeap | None = None
    mix: list[PlanMixPart] = Field(description="From the heaps; nothing where it is mixed by itself")
    mix_words: str = Field(description="As a painter says it")
    predicted_hex: str
    film_mm: float = Field(description="As it is laid, wet")
    dilution: PlanDilution | None = Field(description="Of its largest part; none for paint as it comes")
    coats: int = Field(description="In how many equal coats it is laid")
    thinned: list[PlanThinned] = Field(description="Nothing for paint as it comes")
    taken: list[PlanTaken] = Field(description="Nothing where paint is laid")
    lines: int = Field(description="How many lines it is made of; 0 for places")
    into_wet: bool = Field(description="True when what it goes over is still wet")
    seams: list[PlanSeam] = Field(description="Its borders, longest first")
    brush: str | None = Field(description="Its brush among those of the plan; none for what is no brush")
    brush_mm: float = Field(description="How wide that is")
    room_mm: float = Field(description="The widest that goes in")
    area_cm2: float
    ml: float = Field(description="With loss")
    edge: PlanEdge
    tool: str
    note: str
    laid_words: str = Field(
        description="How a wash is laid, on what paper, with what grain; empty for others"
    )
    wash_words: str = Field(description="That, and what is dropped in")
    inspect: str = Field(description="What to look at before going on")
    open_minutes: float = Field(description="Longest time an edge can be moved")
    open_from_minutes: float = Field(description="Shortest")
    goes: list[PlanGo] = Field(description="Whole shapes laid without a break; nothing where one go will do")
    start_minutes: float
    minutes: float = Field(description="Of work")
    share_of_time: float = Field(description="Part of all the work, 0–1")
    dries_minutes: float = Field(description="Before another pass may go over it")
    wait_minutes: float = Field(description="Wait before the next pass")
    value_error: float = Field(description="Mean value error of the canvas left after this pass")
    gain_steps: float = Field(description="Value steps that its place ends nearer to the sitter than without")
    gain_colour: float = Field(description="Likewise in the a*b* plane")
    purpose: str = Field(description="What it is for, in a sentence")
    pace: str = Field("", description="What was learned of the painter's own time; empty for nothing")
    paint_pace: str = Field("", description="Likewise of the paint")


def seam_of(seam: Seam, laid: bool) -> PlanSeam:
    """A border in numbers and in words."""
    return PlanSeam(
        towards=seam_place(seam),
        length_mm=seam.length_mm,
        mm=seam.width_mm,
        here_mm=seam.here_mm,
        there_mm=seam.there_mm,
        kind=seam.kind.value,
        softer=seam.softer,
        tones=seam.tones,
        means=seam.means,
        words=seam_words(seam, laid),
    )


def edge_of(one: Pass, seams: tuple[Seam, ...]) -> PlanEdge:
    """How a pass's borders are handled, in words and in mm: as they are measured where there are any."""
    if not seams:
        soft = any(w in one.edge for w in ("soft", "lost", "gone"))
        crisp = any(w in one.edge for w in ("crisp", "firm", "hard", "even"))
        return PlanEdge(words=one.edge, crisp=crisp or not soft, soft=soft, mm=None)
    widths = sorted((s.width_mm, s.length_mm) for s in seams)
    half = sum(length for _, length in widths) / 2
    middle = next(w for n, (w, _) in enumerate(widths) if sum(k for _, k in widths[: n + 1]) >= half)
    firm = [s.kind in (Sharpness.HARD, Sharpness.FIRM) for s in seams]
    return PlanEdge(words=edge_words(seams), crisp=any(firm), soft=not all(firm), mm=middle)


def time_of(study: Study) -> PlanTime | None:
    """Hours and sittings; none where nothing can be planned."""
    if study.passes.refused():
        return None
    plan, sittings = study.passes.paced(), study.passes.sittings()
    return PlanTime(
        least_hours=plan.hours.least,
        likely_hours=plan.hours.likely,
        most_hours=plan.hours.most,
        hair_share=plan.hours.hair,
        days=sittings[-1].day + 1 if sittings else 0,
        usual_hours=sum(p.usual_minutes for p in plan.passes) / 60,
        paced=sum(p.pace is not None for p in plan.passes),
        sittings=[
            PlanSitting(
                day=s.day,
                minutes=s.minutes,
                intervals=[
                    PlanInterval(
                        number=b.task + 1,
                        key=plan.passes[b.task].key,
                        start_minutes=b.start - s.intervals[0].start,
                        minutes=b.minutes,
                        ends=b.ends,
                    )
                    for b in s.intervals
                ],
                waiting=[n + 1 for n in s.waiting],
            )
            for s in sittings
        ],
    )


def plan_cautions(study: Study, passes: list[PlanPass]) -> tuple[str, ...]:
    """Cautions for the tubes of some passes and for what they are painted in."""
    plan = None if study.passes.refused() else study.passes.plan()
    medium = plan.medium if plan else None
    rack = study.flesh.palette().rack
    used = {k for p in passes for k in p.parts} | {k for h in heaps_of(study) for k in h.parts}
    # A tube that is only touched into some strokes is in the hand all the same.
    told = {p.key for p in passes}
    used |= {
        k for p in (plan.passes if plan else ()) if p.key in told for parts, _ in p.portions for k in parts
    }
    return cautions_for([p.key for p in rack.pigments() if p.key in used], rack, medium)


def passes_of(study: Study) -> tuple[list[PlanPass], list[str]]:
    """Passes of a study and the planner's remarks; none for tubes that cannot paint in its school."""
    refused = study.passes.refused()
    if refused:
        return [], [refused]
    plan, rack, seams = study.passes.paced(), study.flesh.palette().rack, study.passes.seams()
    names, brushes = study.settings.values.group_names(), brush_ids(plan)
    flesh = study.settings.flesh
    # The painter's swatches decide; without them what the plan is painted in dries as usual.
    shift = flesh.drying_shift() if flesh.drying else plan.medium.shift
    reserves = reserves_by_pass(study, plan)
    passes = [
        PlanPass(
            key=p.key,
            name=p.title(names),
            layer=p.layer,
            places=list(p.places),
            value=p.target_value,
            wet_value=shift.wet(p.recipe.predicted.value) if p.recipe.parts else None,
            strength=1 / (1 + p.thinned[-1].dilution.ratio) if p.thinned else 1.0,
            way=p.way,
            paper_state=p.paper,
            charge=(charges := charges_of(p, plan, study)),
            reserve=reserves.get(n, []),
            parts=p.recipe.parts,
            heap=heap_of(p.recipe.parts, rack),
            mix=(mix := mix_of(p, plan, rack)),
            mix_words=mix_words(mix),
            predicted_hex=p.recipe.predicted.hex,
            kind=p.does,
            film_mm=p.film,
            dilution=dilution_of(p.thinned[-1].dilution, plan.thinner) if p.thinned else None,
            coats=p.coats,
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
            brush=brushes[p.brush] if p.brush else None,
            brush_mm=p.brush_mm,
            room_mm=p.room_mm,
            area_cm2=p.area_cm2,
            ml=p.ml,
            edge=edge_of(p, met),
            tool=p.tool,
            note=f"{p.note} {varied_words(p, rack)}".strip(),
            laid_words=laid_words(p, rack, plan.passes),
            wash_words=wash_words(p, rack, told_drops(charges), plan.passes),
            inspect=p.inspect,
            open_minutes=p.open_minutes[1],
            open_from_minutes=p.open_minutes[0],
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
            minutes=p.work_minutes,
            share_of_time=p.work_minutes / 60 / plan.hours.likely,
            dries_minutes=p.dries_minutes,
            wait_minutes=p.wait_minutes,
            value_error=p.value_error,
            gain_steps=p.gain.steps if p.gain else 0.0,
            gain_colour=p.gain.colour if p.gain else 0.0,
            purpose=purpose_words(p, any(n in q.over for q in plan.passes)),
            pace=pace_words(p.pace, "takes you", "takes the usual time"),
            paint_pace=pace_words(p.paint, "needs", "needs the usual paint"),
        )
        for n, (p, met) in enumerate(zip(plan.passes, seams, strict=True))
    ]
    return passes, [r.sentence(names) for r in plan.remarks]
