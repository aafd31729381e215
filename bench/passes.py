"""How long the passes take: each school planned, the canvas with soft borders, and maps of coats."""

from __future__ import annotations

from functools import partial

import cv2
import numpy as np

from bench.inputs import demo_bytes, study
from bench.timing import Figure, figure, ratio, times
from truesitter.core.canvas.painted import Painting, paint
from truesitter.core.canvas.painted_borders import measure_borders
from truesitter.core.colour.value import lightness_map_to_value
from truesitter.core.paint.layered.coat_count import coat_map, coats_of
from truesitter.core.paint.media.dilution import Dilution
from truesitter.core.paint.media.media_table import MEDIA
from truesitter.core.paint.media.supports import WHITE_PAPER
from truesitter.core.plan.planner import plan_passes
from truesitter.core.school.library import SCHOOLS, School
from truesitter.core.settings import StudySettings
from truesitter.core.stages import Study


def in_school(key: str) -> Study:
    """A demo sitter that follows a school."""
    settings = StudySettings.model_validate({"passes": {"school": key}})
    return Study.of_bytes(demo_bytes("maren"), settings, study().source.memo)


def _planned(one: School) -> Figure:
    there = in_school(one.key)
    subject, tubes = there.passes.subject(), there.flesh.palette()
    return figure(f"{one.name}: planned", times(partial(plan_passes, subject, tubes, one), 7), "< 800")


def passes() -> list[Figure]:
    return [*(_planned(one) for one in SCHOOLS.values()), *soft_canvas(), *coats()]


def soft_canvas() -> list[Figure]:
    """Every pass on a canvas with soft borders, measured first; beside it the wrong way, blurring."""
    stage = study().passes
    plan, lab = stage.plan(), stage.subject().lab
    value, mm_per_px = lightness_map_to_value(lab[..., 0]), stage.subject().mm_per_px
    patchwork = plan.canvases[0].patchwork
    passes = [Painting(p.operations, p.into_wet) for p in plan.passes]
    painted = paint(measure_borders(patchwork, value, mm_per_px), passes)
    every = range(1, len(passes) + 1)
    ours = times(lambda: paint(measure_borders(patchwork, value, mm_per_px), passes), 9)
    pictures = times(lambda: [painted.picture(n) for n in every], 5)
    blurred = times(lambda: [cv2.GaussianBlur(plan.canvases[n - 1].picture(), (0, 0), 4) for n in every], 3)
    return [
        figure(
            f"{len(passes)} passes with soft borders at {lab.shape[1]} × {lab.shape[0]}",
            ours,
            "< 500",
            ratio(ours + np.median(pictures), blurred, "hard canvases, each blurred as sRGB,"),
        ),
        figure("a picture after every pass", pictures, ""),
    ]


def coats() -> list[Figure]:
    lab = study().passes.subject().lab
    film = MEDIA["airbrush"].thinning.dry(Dilution(1, 8))

    def ours() -> None:
        found = coats_of({"burnt-sienna": 1}, {"burnt-umber": 2, "ultramarine-blue": 1}, (film, film),
                         WHITE_PAPER.internal())  # fmt: skip
        coat_map(lab, found)

    return [figure("map of whole coats of two mixtures", times(ours, 9), "< 300")]
