"""Hair in the plan: direction, locks, shine, hairline, layers."""

from __future__ import annotations

from pydantic import Field

from truesitter.core.hair.field.hair_kinds import Kind
from truesitter.core.hair.locks.hairline import Hairline
from truesitter.core.paint.tubes.rack import Rack
from truesitter.core.plan.glaze_looks import glaze_looks
from truesitter.core.plan.painted_hair import hair_numbers
from truesitter.core.plan.pass_plan import Pass, StrokeTone
from truesitter.core.stages import Study
from truesitter.core.usecases.lock_mixtures import lock_mixtures
from truesitter.formats.documents.plan_heaps import PlanMixPart, mix_of
from truesitter.formats.documents.plan_locks import PlanLock, locks_of
from truesitter.formats.words.pass_words import touch_words
from truesitter.formats.words.told import Out, PlanDilution, PlanHeap, dilution_of, heap_of


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
    """One reading of the passage from skin to hair, and how it is to be painted."""

    x: float
    y: float
    seen_mm: float = Field(description="10–90 % width of the passage as photographed")
    wanted_mm: float = Field(description="As it is to be painted: softer than it is seen")
    shadow_steps: float = Field(description="Value steps that the hair shades the skin before it")
    through: float = Field(description="Share of skin that shows through the first hair, 0–1")
    too_hard: bool


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


class PlanHairTone(Out):
    """One of the tones that the strokes of a layer vary in."""

    value: float
    hex: str
    parts: dict[str, int] = Field(description="Straight from the tubes: the layer's own mixture")
    heap: PlanHeap | None = Field(None, description="How, where a tube is too strong to count")
    added: dict[str, int] = Field(description="What goes into `base` parts of that; nothing for the first")
    base: int
    words: str = Field(description="What is added, as a painter says it; empty for the first")
    strokes: int


class PlanGlazeLook(Out):
    """A glaze over one tone of what it goes over."""

    tone: str
    before_hex: str
    after_hex: str


class PlanHairLayer(Out):
    """One layer of hair: a pass of the plan."""

    id: str = Field(description="That of its pass, in `passes[].layer`")
    number: int = Field(description="Of its pass, from 1")
    name: str
    mass: str
    role: str
    said: str
    strokes: int
    strays: int
    type: str = Field(description="How its strokes run; empty where it is laid flat")
    tones: list[PlanHairTone]
    looks: list[PlanGlazeLook] = Field(description="A glaze over each tone; nothing for all else")
    mixture: list[PlanMixPart] = Field(description="From the heaps; nothing where it is mixed by itself")
    parts: dict[str, int] = Field(description="Straight from the tubes")
    heap: PlanHeap | None = None
    dilution: PlanDilution | None = Field(description="None for paint as it comes")
    film_mm: float = Field(description="As it is laid, wet; a line is at least twice as wide")
    tool: str
    width_mm: float = Field(description="Of its widest stroke, or of its brush where it is laid flat")
    minutes: float
    gain: float = Field(description="Value steps that its place ends nearer to the sitter than without it")
    value: float
    hex: str
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
    locks: list[PlanLock]
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
    return spots_of(study.hair.hairline())


def spots_of(line: Hairline) -> list[PlanHairlineSpot]:
    """Every reading of a border of hair."""
    return [
        PlanHairlineSpot(
            x=s.x, y=s.y, seen_mm=s.width_mm, wanted_mm=s.width_mm + s.soften_mm, shadow_steps=s.shadow,
            through=s.through,
            too_hard=s.too_hard,
        )
        for s in line.spots
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
    """Every pass that lays hair; none where nothing can be planned."""
    if study.passes.refused():
        return []
    plan, rack = study.passes.paced(), study.flesh.palette().rack
    names, errors = study.settings.values.group_names(), study.passes.hair_errors()
    found = []
    for number, error in zip(hair_numbers(plan), errors, strict=False):
        one = plan.passes[number]
        layer, predicted = one.hair, one.recipe.predicted
        assert layer is not None
        found.append(
            PlanHairLayer(
                id=one.key,
                number=number + 1,
                name=one.title(names),
                mass=layer.mass,
                role=layer.role,
                said=one.note,
                strokes=len(one.lines),
                strays=layer.strays if one.lines else 0,
                type=", ".join(layer.types) if one.lines else "",
                tones=tones_of(one, rack),
                looks=[
                    PlanGlazeLook(tone=look.tone, before_hex=look.before.hex, after_hex=look.after.hex)
                    for look in glaze_looks(plan, number)
                ],
                mixture=mix_of(one, plan, rack),
                parts=one.recipe.parts,
                heap=heap_of(one.recipe.parts, rack),
                dilution=dilution_of(one.thinned[-1].dilution, plan.thinner) if one.thinned else None,
                film_mm=float(one.film),
                tool=one.tool,
                width_mm=widest_mm(one),
                minutes=one.work_minutes,
                gain=one.gain.steps if one.gain else 0.0,
                value=predicted.value,
                hex=predicted.hex,
                error=error,
            )
        )
    return found


def tones_of(one: Pass, rack: Rack) -> list[PlanHairTone]:
    """What the strokes of a pass are mixed of, tone by tone; counted as the pass is."""
    own = StrokeTone(one.recipe.parts, {}, 0, len(one.lines), one.recipe.predicted)
    heap = heap_of(one.recipe.parts, rack)
    return [
        PlanHairTone(
            value=tone.predicted.value, hex=tone.predicted.hex, parts=one.recipe.parts, heap=heap,
            added=tone.added, base=tone.base, words=touch_words(tone, rack), strokes=tone.strokes,
        )
        for tone in (one.tones or (own,))
        if one.recipe.parts
    ]  # fmt: skip


def widest_mm(one: Pass) -> float:
    """Width of the widest stroke of a pass, or of the brush that lays it flat."""
    return max((float(line.widths_mm.max()) for line in one.lines), default=one.brush_mm)


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
        locks=locks_of(study, lock_mixtures(study)),
        layers=layers_of(study),
    )
