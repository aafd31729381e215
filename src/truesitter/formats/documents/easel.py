"""What a comparison of a painting with its plan says, as data and as pictures."""

from __future__ import annotations

import numpy as np
from pydantic import Field

from truesitter.core.colour.spaces import Lab, lab_to_srgb, srgb_to_hex
from truesitter.core.easel.compare.findings import Finding
from truesitter.core.easel.comparison import Comparison
from truesitter.core.easel.correct.remedy import Remedy
from truesitter.core.easel.correct.stop import Stop
from truesitter.core.settings import PaintingSettings
from truesitter.core.stages import Study
from truesitter.formats.words.told import Out, PlanHeap, heap_of
from truesitter.formats.words.wording import dilution_words, duration, parts_sentence

MOST_REMEDIES = 12
"""Of the heaviest findings; the rest are asked for one by one."""

Numbers = tuple[float, float, float]


class RemedyOut(Out):
    """What can be done about a place."""

    kind: str = Field(description="glaze, scumble, repaint, lift, neighbour, opaque touch or wipe")
    parts: dict[str, int] = Field(description="Whole parts by volume, by tube key")
    heap: PlanHeap | None
    dilution: str | None = Field(description="How it is thinned, in words")
    film_mm: float = Field(description="Wet film as it is laid; 0 where paint comes off")
    predicted_lab: Numbers
    predicted_hex: str
    steps_left: float = Field(description="Value steps by which the place is then still too light")
    enough: bool = Field(description="True when the place is right after it")
    wait_minutes: float
    whole: bool
    into_wet: bool
    how: str = Field(description="What is done, without the mixture")
    words: str


class DeltaOut(Out):
    """How far a colour is off."""

    L: float
    a: float
    b: float


class FindingOut(Out):
    """One thing that is wrong, the heaviest first."""

    number: int
    place: str
    what: str = Field(description="value, colour, key, range, drawing, edge or finish")
    value_steps: float = Field(description="Too light positive")
    delta: DeltaOut
    offset_mm: tuple[float, float] | None = Field(description="Right and down; of drawing only")
    area_cm2: float
    words: str
    x: float
    y: float
    measured_lab: Numbers
    wanted_lab: Numbers
    measured_hex: str
    wanted_hex: str
    remedy: RemedyOut | None = Field(description="What disturbs least; none where drawing is wrong")
    others: list[RemedyOut]


class VerdictOut(Out):
    """What a rule of the trade found."""

    rule: str
    holds: bool
    words: str
    measured: float
    limit: float
    place: str


class RelationOut(Out):
    """How two things stand to one another."""

    one: str
    other: str
    painted: float
    planned: float
    off: float
    holds: bool
    words: str


class RangeOut(Out):
    """Key and range as a whole."""

    shift: float
    contrast: float
    darkest: tuple[float, float] = Field(description="Painted and planned")
    lightest: tuple[float, float]


class RegistrationOut(Out):
    """How the painting lies in its photograph."""

    corners: list[tuple[float, float]] = Field(description="Fractions of the photograph, top left first")
    rms_px: float | None = Field(description="Left over at a long side of 1500 pixels; none without refining")
    how: str = Field(description="plan or photograph: what it was laid on and is held to")
    found: str = Field(description="paint, sides or hand")
    correlation: float
    radial_distortion: float


class LightOut(Out):
    """The light that was taken out."""

    gains: Numbers = Field(description="Linear RGB in the middle of the painting")
    fall_off: float = Field(description="Part lost from the lightest to the dimmest corner")
    taken_from: str
    absolute: bool = Field(description="True when a key that is wrong as a whole can be seen")
    gloss: float = Field(description="Part of the painting under gloss")


class EaselStop(Out):
    """Whether to go on."""

    stop: bool
    moved: float | None
    largest: float
    words: str


class EaselComparison(Out):
    """A painting held to its plan."""

    key: str
    registration: RegistrationOut
    light: LightOut
    findings: list[FindingOut]
    relations: list[RelationOut]
    rules: list[VerdictOut]
    holds: list[str]
    range: RangeOut
    stop: EaselStop


def _hex(lab: Lab) -> str:
    return srgb_to_hex(np.clip(lab_to_srgb(np.array(lab)), 0, 1))


def remedy_out(one: Remedy, study: Study) -> RemedyOut:
    """A remedy as it is told."""
    bench = study.easel.bench(False)
    rack = bench.palettes.body.rack
    thinned = dilution_words(one.dilution, bench.medium.thinning.thinner) if one.dilution else None
    dry = one.wait_minutes and not one.into_wet
    first = f" Let what is there dry first ({duration(one.wait_minutes)})." if dry else ""
    mixed = f" {parts_sentence(one.parts, rack, thinned)}." if one.parts else ""
    return RemedyOut(
        kind=one.kind, parts=one.parts, heap=heap_of(one.parts, rack) if one.parts else None,
        dilution=thinned,
        film_mm=one.film_mm, predicted_lab=one.predicted, predicted_hex=_hex(one.predicted),
        steps_left=one.steps_left, enough=one.enough, wait_minutes=one.wait_minutes, whole=one.whole,
        into_wet=one.into_wet, how=f"{one.words}{first}", words=f"{one.words}{mixed}{first}",
    )  # fmt: skip


CORRECTED = ("value", "colour")
"""Kinds of findings that paint corrects."""


def remedies_of(study: Study, one: Finding, wet: bool) -> list[RemedyOut]:
    """What can be done about a finding, what disturbs least first."""
    if one.what not in CORRECTED:
        return []
    found = study.easel.remedies(one.measured, one.wanted, wet, True)
    return [remedy_out(r, study) for r in found]


def finding_out(number: int, one: Finding, remedies: list[RemedyOut]) -> FindingOut:
    """A finding as it is told."""
    return FindingOut(
        number=number, place=one.place, what=one.what, value_steps=one.steps,
        delta=DeltaOut(L=one.delta[0], a=one.delta[1], b=one.delta[2]), offset_mm=one.offset_mm,
        area_cm2=one.area_cm2, words=one.words, x=one.x, y=one.y, measured_lab=one.measured,
        wanted_lab=one.wanted, measured_hex=_hex(one.measured), wanted_hex=_hex(one.wanted),
        remedy=remedies[0] if remedies else None, others=remedies[1:],
    )  # fmt: skip


def comparison_of(
    study: Study, painting: PaintingSettings, corrected: int = MOST_REMEDIES
) -> EaselComparison:
    """Everything a comparison says; remedies for so many of the heaviest findings."""
    easel = study.easel
    seen, taken, found = easel.seen(painting), easel.taken(painting), easel.compared(painting)
    registered = seen.registered
    findings = [
        finding_out(n, one, remedies_of(study, one, painting.wet) if n <= corrected else [])
        for n, one in enumerate(found.findings, 1)
    ]
    gains = taken.lighting.gains
    return EaselComparison(
        key=painting.key,
        registration=RegistrationOut(
            corners=[(float(x), float(y)) for x, y in registered.view.corners()],
            rms_px=registered.rms_px if np.isfinite(registered.rms_px) else None,
            how=seen.how, found=seen.found, correlation=registered.correlation,
            radial_distortion=registered.view.radial_distortion,
        ),
        light=LightOut(
            gains=(float(gains[0]), float(gains[1]), float(gains[2])), fall_off=taken.lighting.fall_off,
            taken_from=taken.lighting.words, absolute=taken.lighting.absolute, gloss=taken.gloss,
        ),
        findings=findings,
        relations=[
            RelationOut(one=r.one, other=r.other, painted=r.painted, planned=r.planned, off=r.off,
                        holds=r.holds, words=r.words)
            for r in found.relations
        ],
        rules=[
            VerdictOut(rule=v.rule, holds=v.holds, words=v.words, measured=v.measured, limit=v.limit,
                       place=v.place)
            for v in found.verdicts
        ],
        holds=list(found.holds),
        range=range_of(found),
        stop=stop_out(easel.stop(painting)),
    )  # fmt: skip


def range_of(found: Comparison) -> RangeOut:
    """Key and range of a comparison."""
    whole = found.whole
    return RangeOut(
        shift=whole.shift, contrast=whole.contrast, darkest=whole.darkest, lightest=whole.lightest
    )


def stop_out(one: Stop) -> EaselStop:
    """Whether to go on, as it is told."""
    return EaselStop(stop=one.stop, moved=one.moved, largest=one.largest, words=one.words)
