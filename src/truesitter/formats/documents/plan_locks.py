"""Locks of hair in the plan: how each is built, stroked and mixed."""

from __future__ import annotations

import numpy as np
from pydantic import Field

from truesitter.core.hair.locks.lock_forms import LockForm
from truesitter.core.hair.strokes.stroke_types import StrokeType
from truesitter.core.paint.tubes.rack import Rack
from truesitter.core.stages import Study
from truesitter.core.usecases.lock_mixtures import LockTone
from truesitter.formats.words.hair_words import form_words
from truesitter.formats.words.told import Out, PlanHeap, heap_of


class PlanLockTone(Out):
    """The dark, middle or light of a lock."""

    value: float
    hex: str
    parts: dict[str, int]
    heap: PlanHeap | None = Field(description="How, where a tube is too strong to count")


class PlanLockForm(Out):
    """The solid shape of a lock."""

    form: str = Field(description="round, two planes or ribbon")
    lit: str = Field(description="Its lighter side, seen from the root: left, right or middle")
    edge: float | None = Field(description="Where its planes meet, −1 left … 1 right; None where none do")
    words: str


class PlanLockShadow(Out):
    """The shadow that a lock casts on one below it."""

    on: str = Field(description="Id of the lock it falls on")
    steps: float = Field(description="Value that it takes there")
    width_mm: float = Field(description="Where half of that is left")


class PlanLock(Out):
    """A lock, in the order of painting."""

    id: str
    x: float
    y: float
    type: str = Field(description="How it is stroked: straight, wavy, coily, frizz, short, beard, moustache")
    width_mm: float
    length_mm: float
    brush_mm: float = Field(description="The widest brush that follows it")
    disorder: float = Field(description="Degrees by which its strands lie off its way on average")
    curl_mm: float | None = Field(description="Length of one curl; None where none is seen")
    swing_mm: float | None = Field(description="How far a curl swings to either side")
    over: list[str] = Field(description="Ids of the locks that it lies over")
    shadows: list[PlanLockShadow] = Field(description="That it casts on them, the darkest first")
    pull: str = Field(description="Root or tip: from where its strokes are pulled")
    form: PlanLockForm | None = Field(description="None for what is too small")
    dark: PlanLockTone | None
    middle: PlanLockTone | None
    light: PlanLockTone | None


def locks_of(study: Study, mixed: dict[int, tuple[LockTone, ...]]) -> list[PlanLock]:
    """Every lock in the order of painting for the painter's hand."""
    layers, mm = study.hair_layers, study.hair.mm_per_px()
    locks = {lock.number: lock for lock in study.hair.locks().locks}
    places = layers.places()
    ids = {place.lock: f"lock-{n}" for n, place in enumerate(places, 1)}
    types, strands = layers.stroked_as(), study.hair.strands()
    brushes, forms, shadows = layers.lock_brushes(), study.hair.forms(), study.hair.lock_shadows()
    rack = study.flesh.palette().rack
    found = []
    for place in places:
        lock, run = locks[place.lock], strands.get(place.lock)
        x, y = lock.spine[len(lock.spine) // 2]
        tones = {one.name: _lock_tone(one, rack) for one in mixed.get(place.lock, ())}
        curled = run is not None and run.period > 0
        found.append(
            PlanLock(
                id=ids[place.lock], x=float(x), y=float(y), type=_name(types.get(place.lock)),
                width_mm=lock.width * mm, length_mm=lock.length * mm, brush_mm=brushes[place.lock],
                disorder=float(np.degrees(run.disorder)) if run else 0.0,
                curl_mm=run.period * mm if run and curled else None,
                swing_mm=run.amplitude * mm if run and curled else None,
                over=[ids[n] for n in lock.over if n in ids],
                shadows=[
                    PlanLockShadow(on=ids[one.on], steps=one.steps, width_mm=one.width * mm)
                    for one in shadows.get(place.lock, ()) if one.on in ids
                ], pull=place.pull,
                form=_form(forms.get(place.lock)),
                dark=tones.get("dark"), middle=tones.get("middle"), light=tones.get("light"),
            )
        )  # fmt: skip
    return found


def _form(form: LockForm | None) -> PlanLockForm | None:
    if form is None:
        return None
    return PlanLockForm(form=form.form, lit=form.lit, edge=form.edge, words=form_words(form))


def _name(type_: StrokeType | None) -> str:
    return type_.name if type_ else ""


def _lock_tone(tone: LockTone, rack: Rack) -> PlanLockTone:
    made = tone.recipe
    return PlanLockTone(
        value=made.predicted.value, hex=made.predicted.hex, parts=made.parts, heap=heap_of(made.parts, rack)
    )
