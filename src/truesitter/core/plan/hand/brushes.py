"""The brushes of a plan: few for all of it, and for each pass the one it is laid with."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from truesitter.core.brushes.brush import Brush
from truesitter.core.brushes.choice import Missing, Work, chosen, tool_words
from truesitter.core.brushes.laying import goes_needed
from truesitter.core.brushes.tuning import THICK_MM
from truesitter.core.plan.hand.brush_goes import UnbrokenPatch, goes_of
from truesitter.core.plan.laying import Scene
from truesitter.core.plan.pass_plan import Pass


@dataclass(frozen=True)
class InHand:
    """Passes with their brushes, the brushes, and what is worth buying."""

    passes: tuple[Pass, ...]
    brushes: tuple[Brush, ...]
    missing: tuple[Missing, ...]


def with_brushes(passes: Sequence[Pass], scene: Scene) -> InHand:
    """Choose the brushes of a plan; passes take longer with one that is narrower than their place.

    Parameters
    ----------
    passes
        In order, with the minutes they take with the widest brush that goes in.
    scene
        What they are painted from.
    """
    found = chosen([_work(p, scene) for p in passes], scene.subject.brushes)
    done = []
    for one, brush, longer in zip(passes, found.taken, found.longer, strict=True):
        mm = brush.mm if brush else one.room_mm
        done.append(
            replace(
                one, brush=brush, brush_mm=mm, tool=tool_words(one.tool, brush),
                work_minutes=one.work_minutes + longer, goes=_goes(one, mm, scene),
            )
        )  # fmt: skip
    return InHand(tuple(done), found.brushes, found.missing)


def _work(one: Pass, scene: Scene) -> Work:
    widths = np.array([float(line.widths_mm.max()) for line in one.lines])
    watery = scene.medium.watery and one.does not in ("ground", "remove")
    return Work(
        one.tool, one.room_mm, one.area_cm2 * one.coats, widths, watery, not watery and one.film >= THICK_MM
    )


def _goes(one: Pass, brush_mm: float, scene: Scene) -> tuple[UnbrokenPatch, ...]:
    """Several goes where one is too slow for paint whose edges are softened; none else."""
    softened = "soft" in one.edge or "lost" in one.edge
    if one.lines or not softened or scene.medium.sprayed:
        # Nothing is softened after spraying.
        return ()
    subject, longest = scene.subject, one.open_minutes[1]
    if goes_needed(one.area_cm2, brush_mm, longest) == 1:
        return ()
    return goes_of(scene.patchwork.mask(one.pieces), subject.mm_per_px, brush_mm, longest)
