"""How long the hair takes: direction, sense, lines, volumes, locks, strokes, and the painted hair."""

from __future__ import annotations

import numpy as np
from skimage import feature

from bench.inputs import study
from bench.timing import Figure, figure, ratio, times
from truesitter.core.colour.value import picture_luminance
from truesitter.core.hair.field.direction_field import solve_axes
from truesitter.core.hair.field.growth_lines import growth_lines
from truesitter.core.hair.field.guides import Guide, Handles
from truesitter.core.hair.field.hair_beliefs import Signs
from truesitter.core.hair.field.hair_kinds import Kind
from truesitter.core.hair.field.root_sense import orient
from truesitter.core.hair.field.whorls import find_whorls
from truesitter.core.hair.layers.nested import plan_hair
from truesitter.core.hair.locks.lock_regions import split_locks
from truesitter.core.hair.locks.volumes import hair_volumes
from truesitter.core.hair.strokes.hair_strokes import Wish, lay_strokes
from truesitter.core.hair.strokes.stroke_types import WAVY
from truesitter.core.plan.painted_hair import hair_numbers, hair_picture
from truesitter.core.plan.pass_places import HAIR_ROLES
from truesitter.core.plan.planner import plan_passes
from truesitter.core.school.library import SCHOOLS
from truesitter.core.sitter.region_names import Region


def hair() -> list[Figure]:
    there = study()
    stage, layers = there.hair, there.hair_layers
    lightness, kinds, face = there.picture.lab()[..., 0], stage.kinds(), there.sitter.face
    handles = Handles((Guide(((0.44, 0.19), (0.36, 0.19), (0.28, 0.24), (0.22, 0.32))),))
    field = times(lambda: solve_axes(lightness, kinds, handles, face), 7)
    plain = times(lambda: feature.structure_tensor(lightness, sigma=4), 3)
    axes = solve_axes(lightness, kinds, handles, face)
    small = there.sitter.regions().labels[:: lightness.shape[0] // axes.kinds.shape[0]]
    skin = np.zeros(axes.kinds.shape, bool)
    rows = np.minimum(np.arange(skin.shape[0]), len(small) - 1)
    columns = np.arange(skin.shape[1]) * small.shape[1] // skin.shape[1]
    skin[:] = small[np.ix_(rows, columns)] == Region.SKIN
    signs = Signs(axes.kinds, skin, face, None, find_whorls(axes))
    sense = times(lambda: orient(axes, signs, handles), 7)
    directed = orient(axes, signs, handles)
    lines = times(lambda: growth_lines(directed, axes.mask, 6.0), 7)

    large, all_kinds = stage.directed()
    light, scale = picture_luminance(stage.photograph()), stage.scale()
    volumes = times(lambda: hair_volumes(light, large, all_kinds > 0, scale), 7)
    found = stage.volumes()
    value, width = found.skull + found.locks, stage.locks().width
    locks = times(lambda: split_locks(value, large, found.mask, width), 7)

    ground, limit = layers.ground()
    scalp = all_kinds == Kind.SCALP
    strokes = times(lambda: lay_strokes(ground, scalp, Wish(WAVY, 0.5, 1.5, 1), limit), 5)
    planned = times(lambda: plan_hair(layers.job(False, "portrait")), 3)
    subject, school, palette = there.passes.subject(), SCHOOLS["direct-oil"], there.flesh.palette()
    bald = school.model_copy(update={"passes": tuple(p for p in school.passes if p.band not in HAIR_ROLES)})
    with_hair, without = (times(lambda s=s: plan_passes(subject, palette, s), 3) for s in (school, bald))
    plan, painted, photograph = there.passes.plan(), there.passes.painted(), stage.photograph()
    last, mm = hair_numbers(plan)[-1], stage.mm_per_px()
    picture = times(lambda: hair_picture(plan, painted, last, photograph, mm), 7)
    count = len(lay_strokes(ground, scalp, Wish(WAVY, 0.5, 1.5, 1), limit))
    return [
        figure(
            "hair field with a guide", field, "< 300", ratio(field, plain, "one-scale structure tensor alone")
        ),
        figure("root-to-tip sense", sense, "< 120"),
        figure("growth lines", lines, "< 100"),
        figure("three volumes", volumes, "< 300"),
        figure("locks", locks, "< 500"),
        figure(f"{count} strokes over the whole head", strokes, "< 1000"),
        figure("layers of a portrait", planned, "< 1000"),
        figure("the hair of a plan, on top of its layers", with_hair - np.median(without), "< 500"),
        figure("picture of a layer", picture, "< 300"),
    ]
