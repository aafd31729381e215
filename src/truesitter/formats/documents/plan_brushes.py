"""Brushes of a plan in files and answers."""

from __future__ import annotations

from pydantic import Field

from truesitter.core.brushes.brush import Brush, Hair, Length, Point, Shape, Stiffness
from truesitter.core.plan.pass_plan import PassPlan
from truesitter.core.stages import Study
from truesitter.formats.words.told import Out


class PlanBrush(Out):
    """A brush that a plan is painted with."""

    id: str
    name: str
    shape: Shape
    number: str = Field(description="On its handle; empty for one told by its width")
    mm: float
    hair: Hair
    length: Length
    point: Point
    stiffness: Stiffness
    passes: list[int] = Field(description="Numbers of the passes it is for, counted from 1")


class MissingBrush(Out):
    """A brush that is worth buying."""

    name: str
    mm: float
    minutes: float = Field(description="What it would save")
    passes: list[int] = Field(description="Numbers of the passes it would be for, counted from 1")
    too_wide: bool = Field(description="True where nothing that is there is narrow enough")


def brush_ids(plan: PassPlan) -> dict[Brush, str]:
    """An id for every brush of a plan; those of one number with other hair are counted."""
    ids: dict[Brush, str] = {}
    for brush in plan.brushes:
        alike = sum(b.key == brush.key for b in ids)
        ids[brush] = f"{brush.key}-{alike + 1}" if alike else brush.key
    return ids


def brushes_of(study: Study) -> list[PlanBrush]:
    """Brushes of a study's plan, widest first."""
    if study.passes.refused():
        return []
    plan = study.passes.plan()
    return [
        PlanBrush(
            id=key, name=b.name, shape=b.shape, number=b.number, mm=b.mm, hair=b.hair, length=b.length,
            point=b.point, stiffness=b.stiffness,
            passes=[n for n, p in enumerate(plan.passes, 1) if p.brush == b],
        )
        for b, key in brush_ids(plan).items()
    ]  # fmt: skip


def missing_brushes(study: Study) -> list[MissingBrush]:
    """What is worth buying for a study's plan."""
    if study.passes.refused():
        return []
    return [
        MissingBrush(
            name=m.brush.name, mm=m.brush.mm, minutes=m.minutes, passes=[w + 1 for w in m.works],
            too_wide=m.too_wide,
        )
        for m in study.passes.plan().missing
    ]  # fmt: skip
