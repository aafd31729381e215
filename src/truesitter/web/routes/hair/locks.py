"""Locks of the hair in the order of painting."""

from __future__ import annotations

import numpy as np
from fastapi import APIRouter

from truesitter.core.hair.field.hair_kinds import Kind
from truesitter.core.hair.locks.lock_shapes import Lock
from truesitter.core.hair.strokes.stroke_types import TYPES
from truesitter.core.stages import Study
from truesitter.core.stages.flesh_stage import MIXING
from truesitter.core.stages.hair_stage import LOCK_MASSES
from truesitter.core.stages.picture_stage import WIDTH_MM
from truesitter.core.usecases.lock_mixtures import lock_mixtures
from truesitter.formats.documents.plan_locks import (
    locks_of,
)
from truesitter.web.http.answers import BenchRoute, answered
from truesitter.web.http.dependencies import CurrentStudy
from truesitter.web.models.hair_answers import (
    LockOut,
    LockShadowOut,
    LocksOut,
    LockToneOut,
    MassOut,
)
from truesitter.web.models.mixture import mixture_out

router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["hair"], route_class=BenchRoute)


_SHARED = {"x", "y", "type", "width_mm", "length_mm", "brush_mm", "disorder", "curl_mm", "swing_mm", "form"}
"""What the answer says of a lock as plan.json does."""


SOFT = 0.4
"""Steps of value between ridge and valley under which locks hardly show [try]."""


@router.get(
    "/hair/locks",
    dependencies=[
        answered(
            "hair/locks",
            (WIDTH_MM, "hair.hand", *MIXING),
            (
                "locks",
                "lock strands",
                "lock forms",
                "lock shadows",
                "stroke types",
                "stroke ground",
                "lab",
                "framed",
            ),
        )
    ],
)
def get_locks(study: CurrentStudy) -> LocksOut:
    """Locks in the order of painting."""
    found, mm = study.hair.locks(), study.hair.mm_per_px()
    pressed = study.hair_layers.presses()
    flesh, mixed = study.settings.flesh, lock_mixtures(study)
    shadows = study.hair.lock_shadows()
    described = {lock.number: lock for lock in found.locks}
    numbers = [place.lock for place in study.hair_layers.places()]
    rank = {number: n for n, number in enumerate(numbers, 1)}
    return LocksOut(
        locks=[
            LockOut(
                **told.model_dump(include=_SHARED),
                place=f"lock {rank[number]}",
                turns=_lightest(described[number]),
                contrast=described[number].contrast,
                over=sorted(rank[n] for n in described[number].over if n in rank),
                shadows=[
                    LockShadowOut(on=rank[one.on], steps=one.steps, width_mm=one.width * mm)
                    for one in shadows.get(number, ())
                    if one.on in rank
                ],
                pull=f"from the {told.pull}",
                typed=told.type in TYPES,
                pressed=pressed.get(number),
                tones=[
                    LockToneOut(name=tone.name, mixed=mixture_out(flesh, tone.seen, tone.recipe))
                    for tone in mixed.get(number, ())
                ],
            )
            for told, number in zip(locks_of(study, mixed), numbers, strict=True)
        ],
        masses=[
            MassOut(
                mass=mass[0].spoken,
                contrast=contrast,
                locks=_count(study, mass),
                words=_standing_out(contrast, _count(study, mass)),
            )
            for mass, contrast in zip(LOCK_MASSES, found.contrasts, strict=True)
            if contrast > 0
        ],
        width_mm=found.width * mm,
    )


def _count(study: Study, mass: tuple[Kind, ...]) -> int:
    _, kinds = study.hair.directed()
    numbers = np.unique(study.hair.locks().numbers[np.isin(kinds, mass)])
    return int((numbers > 0).sum())


def _standing_out(contrast: float, count: int) -> str:
    if not count:
        return "No locks here: a smooth or close-cropped mass. Paint it as one, along the growth lines."
    if contrast < SOFT:
        return "Locks hardly show: treat it as one smooth mass, and use these only to vary it."
    return "Locks stand out plainly." if contrast > 2 * SOFT else "Locks can be seen."


def _lightest(lock: Lock) -> str:
    return "near the root" if lock.turns < 1 / 3 else "near the tip" if lock.turns > 2 / 3 else "half way"
