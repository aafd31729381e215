"""Hair: a layer of the hair stage, its strokes in paint that flows, predicted over what lies below."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import partial

import numpy as np

from truesitter.core.brushes.line_tools import line_tool, thickest_film, widths_mm
from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.drawn.painted_lines import line_length_mm, piece_cover
from truesitter.core.canvas.layer import Layer
from truesitter.core.colour.spaces import lab_to_xyz, xyz_to_lab
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.hair.layers.job import HairLayer, Role
from truesitter.core.paint.media.dilution import Dilution
from truesitter.core.paint.media.thickness import DryMm, WetMm
from truesitter.core.paint.optics.kubelka_munk import film_reflectance, leave_surface
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.paint.tubes.rack import Rack
from truesitter.core.plan.kinds.glaze_pass import GLAZE
from truesitter.core.plan.kinds.opaque_light_pass import body_recipe, needs_no_body
from truesitter.core.plan.kinds.tuning import (
    FILM_OF_ROLE,
    HAIR_TOP,
    KNOCKED_BACK,
    LEAST_COVER,
    NEARER,
    SMEARED_OPEN_MINUTES,
    THICK_MEDIA,
)
from truesitter.core.plan.kinds.under_glaze import grey_for
from truesitter.core.plan.kinds.water_pass import beneath, washed
from truesitter.core.plan.laying import Laid, Laying, Scene, Step
from truesitter.core.plan.pass_plan import Thinned
from truesitter.core.types import Doubles, Mask

_HAIRS: frozenset[Role] = frozenset({"light hairs", "dark hairs", "early lights"})
"""Few strokes in the tone of their own, which need not fill their place."""


@dataclass(frozen=True)
class _Strokes:
    """How a layer is drawn: film, dilution and tool; what its strokes cover of each piece, (n,)."""

    film: WetMm
    dilution: Dilution
    tool: str
    cover: Doubles | None


def _drawn(scene: Scene, step: Step, hair: HairLayer) -> _Strokes:
    film = WetMm(step.film * FILM_OF_ROLE[hair.role])
    if not hair.lines:
        return _Strokes(film, Dilution(1, 0), "", None)
    usual, thinner = widths_mm(hair.lines)
    long = np.median([line_length_mm(line, scene.subject.size_mm) for line in hair.lines])
    tool = line_tool(usual, float(long))
    cover = piece_cover(hair.lines, scene.patchwork, scene.subject.mm_per_px)
    thin = WetMm(min(film, thickest_film(thinner)))
    return _Strokes(thin, Dilution(tool.paint, tool.thinner), tool.name, cover)


def _wanted(scene: Scene, step: Step, hair: HairLayer, aim: Mask) -> Doubles:
    """Colour of the layer: the mean of its tone, of single hairs what is lightest or darkest there."""
    if hair.role not in _HAIRS:
        return scene.target(aim)
    inside = scene.mapped_lab[scene.patchwork.mask(aim)]
    lightness = inside[:, 0]
    if hair.role == "dark hairs":
        ends = inside[lightness <= np.quantile(lightness, 1 - HAIR_TOP)]
    else:
        ends = inside[lightness >= np.quantile(lightness, HAIR_TOP)]
    return np.asarray(ends.mean(axis=0, dtype=np.float64))


def _asked(wanted: Doubles, below: Doubles, share: float) -> Doubles:
    """What strokes must look like so that they and what shows between them are as light as wanted, (3,).

    The eye sees the mean of covered and bare (Murray & Davies 1936). The hue stays what it is.
    """
    light, bare = (float(lab_to_xyz(lab)[1]) for lab in (wanted, below))
    white = lab_to_xyz(np.array((100.0, 0.0, 0.0)))
    neutral = xyz_to_lab(white * max(1e-4, (light - (1 - share) * bare) / share))
    return np.array((float(np.clip(neutral[0], 0, 100)), wanted[1], wanted[2]))


def _share(scene: Scene, drawn: _Strokes, aim: Mask, hair: HairLayer) -> float:
    if drawn.cover is None or hair.role in _HAIRS or hair.role == "first hairs":
        return 1.0
    return float(max(LEAST_COVER, np.average(drawn.cover[aim], weights=scene.patchwork.sizes[aim])))


def _seen(rack: Rack, parts: dict[str, int], dry: DryMm, below: Doubles) -> Doubles:
    """L*a*b* (3,) of a film of some parts over what lies below, (31,) internal reflectance."""
    k, s = rack.mixture(parts)
    return np.asarray(reflectance_to_lab(leave_surface(film_reflectance(k, s, dry, below))))


def _nearest(
    recipe: Callable[[Doubles], Recipe], rack: Rack, goal: Doubles, dry: DryMm, below: Doubles
) -> Recipe:
    """Of a few mixtures the one whose film comes nearest to a colour (3,), with what shines through it."""
    found, asked = list[Recipe](), goal
    for _ in range(NEARER):
        made = recipe(asked)
        seen = _seen(rack, made.parts, dry, below)
        found.append(replace(Recipe.held(made.parts, seen, goal), film_mm=made.film_mm))
        asked = asked + goal - seen
        asked[0] = np.clip(asked[0], 0, 100)
    return min(found, key=lambda one: one.delta_e)


def _laid(step: Step, hair: HairLayer, drawn: _Strokes, made: Recipe, dry: DryMm) -> Laid:
    """A film of body colour along the strokes."""
    layer = Layer(step.pieces, made.parts, dry, lines=hair.lines, cover=drawn.cover)
    thinned = (Thinned(drawn.dilution),) if drawn.dilution.thinner else ()
    paint = drawn.film * drawn.dilution.left
    return Laid(
        made, (layer,), step.pieces, drawn.film, paint, thinned, said=hair.said, tool=drawn.tool
    )  # fmt: skip


_Lay = Callable[[Scene, Step, Canvas, HairLayer, Mask, _Strokes], Laid | str]


def _layer(lay: _Lay, scene: Scene, step: Step, canvas: Canvas) -> Laid | str:
    """What every school does alike: nothing without hair or tone, a glaze where one is asked for."""
    hair = step.hair
    if hair is None:
        return "there is no hair to stroke."
    if hair.role == "tying glaze":
        laid = GLAZE.lay(scene, step, canvas)
        if isinstance(laid, str):
            return laid
        return replace(laid, said=f"{hair.said} {laid.said}".strip(), does=GLAZE.does)
    aim = step.wanted & step.pieces
    if not aim.any():
        return "there is nothing of its tone."
    return lay(scene, step, canvas, hair, aim, _drawn(scene, step, hair))


def _opaque(
    grey: bool, scene: Scene, step: Step, canvas: Canvas, hair: HairLayer, aim: Mask, drawn: _Strokes
) -> Laid | str:
    """Opaque strokes: as thin as a line of their width can be, mixed for how they look over what is there."""
    if hair.role == "shine" and scene.medium.name not in THICK_MEDIA:
        return f"{scene.medium.name} cannot be laid thick: the light hairs have to do."
    under, wanted = beneath(scene, canvas, aim), _wanted(scene, step, hair, aim)
    wanted = grey_for(scene, step.regions, wanted) if grey else wanted
    goal = _asked(wanted, reflectance_to_lab(under.seen()), _share(scene, drawn, aim, hair))
    dry = DryMm(scene.medium.dry(drawn.film) * drawn.dilution.left)
    if hair.role == "locks" and scene.medium.open_minutes[0] >= SMEARED_OPEN_MINUTES:
        hair = replace(hair, said=f"{hair.said} {KNOCKED_BACK}")
    hues = np.array((1.0, 0.0, 0.0)) if grey else np.ones(3)
    made = _nearest(
        lambda lab: scene.recipe(lab * hues, step.regions), scene.palette.rack, goal, dry, under.internal()
    )
    return _laid(step, hair, drawn, made, dry)


def _wash(
    scene: Scene, step: Step, canvas: Canvas, hair: HairLayer, aim: Mask, drawn: _Strokes
) -> Laid | str:
    """Strokes of a wash, over everything darker than their own tone; lights are never drawn with one."""
    if hair.role in ("light hairs", "early lights"):
        return _body_lines(scene, step, canvas, hair, aim, drawn)
    under = beneath(scene, canvas, aim)
    seen = reflectance_to_lab(under.seen())
    goal = _asked(_wanted(scene, step, hair, aim), seen, _share(scene, drawn, aim, hair))
    thinning = scene.medium.thinning
    if hair.lines:
        thinning = replace(thinning, film=WetMm(min(thinning.film, drawn.film)))
    laid = washed(scene, step, canvas, under, goal, thinning)
    if isinstance(laid, str):
        return laid
    said = f"{hair.said} {laid.said}".strip()
    if not hair.lines:
        return replace(laid, said=said)
    (layer,) = laid.operations
    assert isinstance(layer, Layer)
    stroked = replace(layer, lines=hair.lines, cover=drawn.cover)
    # Water is drawn with rounds, which hold it.
    tool = "round" if drawn.tool == "filbert" else drawn.tool
    return replace(laid, operations=(stroked,), said=said, tool=tool)


def _body_lines(
    scene: Scene, step: Step, canvas: Canvas, hair: HairLayer, aim: Mask, drawn: _Strokes
) -> Laid | str:
    """Light hairs over washes: opaque, since no film lightens; without white they stay as they are left."""
    wanted = _wanted(scene, step, hair, aim)
    refused = needs_no_body(scene, canvas, step.pieces, wanted)
    if refused:
        return refused
    dry = DryMm(scene.medium.dry(drawn.film) * drawn.dilution.left)
    below = beneath(scene, canvas, step.pieces).internal()
    made = _nearest(lambda lab: body_recipe(scene, lab, step.regions), scene.body.rack, wanted, dry, below)
    said = f"{hair.said} In body colour: a wash darkens whatever it goes over."
    return replace(_laid(step, hair, drawn, made, dry), said=said)


HAIR = Laying("hair", partial(_layer, partial(_opaque, False)), "mass", leaves_ground=True)
GREY_HAIR = Laying("grey hair", partial(_layer, partial(_opaque, True)), "mass", leaves_ground=True)
WASHED_HAIR = Laying("washed hair", partial(_layer, _wash), "wash")
