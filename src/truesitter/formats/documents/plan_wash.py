"""Washes of plan.json: what is dropped into one while it is wet, and what is kept out of it."""

from __future__ import annotations

import numpy as np
from pydantic import Field

from truesitter.core.design.reserve import Means, Reserve, reserve_for
from truesitter.core.imaging.pixels import pixel_at
from truesitter.core.plan.pass_plan import Pass, PassPlan
from truesitter.core.plan.water.ways import Charge
from truesitter.core.sitter.areas import middle_of
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages import Study
from truesitter.formats.documents.plan_heaps import PlanMixPart, mix_parts, mix_words
from truesitter.formats.words.told import Out, PlanDilution, PlanHeap, dilution_of, heap_of
from truesitter.formats.words.wash_words import charge_words


class PlanCharge(Out):
    """Paint dropped into a wash while that is wet."""

    key: str = Field(description="Of the wash it would be by itself")
    parts: dict[str, int] = Field(description="Straight from the tubes, without any heap or what is added")
    heap: PlanHeap | None = Field(description="How, where a tube is too strong to count")
    added: dict[str, int] = Field(description="What is dropped in, where only the hue changes")
    base: int = Field(description="Into so many parts of the wash's own mixture; 0 where nothing is told so")
    mix: list[PlanMixPart]
    dilution: PlanDilution
    same_puddle: bool = Field(description="True for the wash's own mixture, only stronger")
    predicted_hex: str
    value: float = Field(description="Of its place in the end")
    ml: float
    area_cm2: float
    place: str
    x: float = Field(description="A spot inside its largest shape, in fractions of the picture")
    y: float
    words: str


class PlanReserve(Out):
    """A light that is kept out of a wash, or taken out of it."""

    place: str
    means: Means
    why: str
    mm: float = Field(description="Across, on the canvas")
    until: int = Field(description="Number of the last pass it is kept out of, from 1")


def charges_of(one: Pass, plan: PassPlan, study: Study) -> list[PlanCharge]:
    """What is dropped into a pass, in order."""
    return [_charge_of(charge, plan, study) for charge in one.charges]


def _charge_of(charge: Charge, plan: PassPlan, study: Study) -> PlanCharge:
    rack, patchwork = study.flesh.palette().rack, plan.bare.patchwork
    mask = patchwork.mask(charge.pieces)
    x, y = middle_of(mask)
    mix = mix_parts(charge.mix, plan, rack)
    mm = study.passes.subject().mm_per_px
    return PlanCharge(
        key=charge.key, parts=charge.told, heap=heap_of(charge.told, rack), added=charge.added,
        base=charge.base, mix=mix,
        dilution=dilution_of(charge.dilution, plan.thinner), same_puddle=charge.same,
        predicted_hex=charge.predicted.hex, value=charge.predicted.value, ml=charge.ml,
        area_cm2=float(np.count_nonzero(mask)) * mm**2 / 100, place=study.sitter.place_at(x, y), x=x, y=y,
        words=charge_words(charge, rack, mix_words(mix)),
    )  # fmt: skip


def told_drops(charges: list[PlanCharge]) -> list[str]:
    """What goes into a wash and where, for paper."""
    return [f"{charge.words}, {charge.place}" for charge in charges]


def reserves_of(study: Study) -> tuple[Reserve, ...]:
    """What is done to keep each light of a sitter."""
    mm, support = study.accents.mm_per_px(), study.passes.support()
    return tuple(
        reserve_for(named.place, named.light.edge, named.light.width * mm, support)
        for named in study.accents.highlights()
    )


def reserves_by_pass(study: Study, plan: PassPlan) -> dict[int, list[PlanReserve]]:
    """Lights that are kept, by the number, from 0, of the first wash that would cover them."""
    if not any(p.way for p in plan.passes):
        return {}
    labels, found = study.sitter.regions().labels, dict[int, list[PlanReserve]]()
    for named, kept in zip(study.accents.highlights(), reserves_of(study), strict=True):
        region = Region(int(labels[pixel_at(named.light.x, named.light.y, labels.shape)])).spoken
        washes = [n for n, p in enumerate(plan.passes) if p.way and not p.lines and region in p.places]
        if washes and kept.means != "opaque":
            found.setdefault(washes[0], []).append(
                PlanReserve(
                    place=kept.place, means=kept.means, why=kept.why, mm=kept.size_mm, until=washes[-1] + 1
                )
            )
    return found
