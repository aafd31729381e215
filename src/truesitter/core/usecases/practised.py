"""Practised strokes judged where they lie: hair by its growth, all else by its form."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from truesitter.core.hair.checks.practice import PracticeReport, StrokeFault
from truesitter.core.hair.field.guides import Points
from truesitter.core.imaging.pixels import pixel_at
from truesitter.core.light.form.brush_direction import BrushWay
from truesitter.core.light.form.plane_strokes import check_plane_stroke
from truesitter.core.stages.study import Study
from truesitter.core.types import Doubles


def practised(
    study: Study, strokes: Sequence[Points], widths_mm: Sequence[Doubles | None] | None = None,
    way: BrushWay | None = None,
) -> PracticeReport:  # fmt: skip
    """Check strokes that were drawn for practice.

    Parameters
    ----------
    study
        Of the sitter they were drawn on.
    strokes
        Each at least two x, y in fractions, in the order of drawing.
    widths_mm
        Of each, (n,) along it, evenly spaced; None where no brush drew it.
    way
        How strokes off the hair were meant; None when only hair is practised.
    """
    kinds = study.hair.directed()[1]
    on_hair = [bool(kinds[pixel_at(*points[len(points) // 3], kinds.shape)]) for points in strokes]
    if way is None or all(on_hair):
        return study.hair_layers.practised(strokes, widths_mm)
    hair = [n for n, there in enumerate(on_hair) if there]
    faults, right = list[StrokeFault](), 0
    if hair:
        wide = None if widths_mm is None else [widths_mm[n] for n in hair]
        report = study.hair_layers.practised([strokes[n] for n in hair], wide)
        faults += [replace(f, stroke=hair[f.stroke] if f.stroke >= 0 else -1) for f in report.faults]
        right = report.right
    directions = study.brush.directions(way == "across the planes")
    for number in (n for n, there in enumerate(on_hair) if not there):
        fault = check_plane_stroke(strokes[number], directions)
        right += fault is None
        if fault is not None:
            faults.append(StrokeFault(number, fault.kind, fault.said, fault.x, fault.y))
    order = np.argsort([f.stroke for f in faults], kind="stable")
    return PracticeReport(tuple(faults[n] for n in order), right, len(strokes))
