"""Section by section: everything that concerns one piece of the painting, and nothing else."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from truesitter.core.colour.value import lightness_map_to_value
from truesitter.core.imaging.pixels import pixel_at
from truesitter.core.light.mirrored.ceilings import Ceiling
from truesitter.core.plan.pass_plan import Pass
from truesitter.core.stages.study import Study
from truesitter.core.types import Mask, Shape
from truesitter.core.usecases.tuning import LEAST_SHARE

Order = Literal["dark first", "focus first"]


@dataclass(frozen=True)
class Box:
    """A section, in fractions of the picture."""

    x1: float
    y1: float
    x2: float
    y2: float

    def slices(self, shape: Shape) -> tuple[slice, slice]:
        """Rows and columns of a map."""
        (top, left), (bottom, right) = (
            pixel_at(x, y, shape) for x, y in ((self.x1, self.y1), (self.x2, self.y2))
        )
        return slice(top, max(top + 1, bottom)), slice(left, max(left + 1, right))

    def holds(self, x: float, y: float) -> bool:
        """True for a spot inside it."""
        return self.x1 <= x <= self.x2 and self.y1 <= y <= self.y2


@dataclass(frozen=True)
class Section:
    """One section with what it takes.

    Attributes
    ----------
    key, name
        Stable key and name.
    box
        Where.
    value, weight
        Mean value of the reference there, and how much it is looked at, 0–1.
    """

    key: str
    name: str
    box: Box
    value: float
    weight: float


@dataclass(frozen=True)
class Needs:
    """What a section takes.

    Attributes
    ----------
    passes
        Number of each pass that covers some of it, counted from 1, and what part.
    ceilings
        Of the lights in it.
    edges
        Length in mm of what is hard, firm, soft and lost in it.
    """

    passes: tuple[tuple[int, Pass, float], ...]
    ceilings: tuple[Ceiling, ...]
    edges: dict[str, float]


def sections(study: Study, order: Order = "focus first") -> tuple[Section, ...]:
    """The fields of the grid in the order in which they are worked."""
    settings = study.settings.reference
    rows, columns = settings.grid_rows, settings.grid_columns
    finish = study.finish.finish()
    value = lightness_map_to_value(study.surround.surround().background.lab[..., 0])
    found = []
    for row in range(rows):
        for column in range(columns):
            box = Box(column / columns, row / rows, (column + 1) / columns, (row + 1) / rows)
            piece = box.slices(value.shape)
            found.append(
                Section(
                    f"{row + 1}-{column + 1}", f"Row {row + 1}, column {column + 1}", box,
                    float(value[piece].mean()), float(np.quantile(finish.weight[piece], 0.9)),
                )
            )  # fmt: skip
    if order == "dark first":
        return tuple(sorted(found, key=lambda s: s.value))
    return tuple(sorted(found, key=lambda s: -s.weight))


def needs_of(study: Study, box: Box, inside: Mask | None = None) -> Needs:
    """What a section takes.

    Parameters
    ----------
    inside
        (h, w) the part of the box that counts, for a lasso; all of it when not given.
    """
    passes: list[tuple[int, Pass, float]] = []
    if study.easel.planned():
        plan = study.passes.plan()
        labels = plan.bare.patchwork.labels
        piece = box.slices(labels.shape)
        counted = labels[piece] if inside is None else labels[piece][inside[piece]]
        share = np.bincount(counted.ravel(), minlength=len(plan.bare.patchwork.sizes)) / max(1, counted.size)
        for number, one in enumerate(plan.passes, 1):
            part = float(share[one.pieces].sum())
            if one.lines:
                spots = np.concatenate([line.points for line in one.lines])
                part = float(np.mean([box.holds(float(x), float(y)) for x, y in spots[::4]]))
            if part >= LEAST_SHARE:
                passes.append((number, one, part))
    lights = tuple(c for c in study.accents.ceilings() if box.holds(c.x, c.y))
    kinds = {"hard": 0.0, "firm": 0.0, "soft": 0.0, "lost": 0.0}
    for edge in study.looking.edges():
        if box.holds(*edge.middle):
            kinds[edge.kind.value] += edge.length_mm
    return Needs(tuple(passes), lights, kinds)
