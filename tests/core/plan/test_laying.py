"""Ways of laying: the wash, the unifying glaze, the ground, masses and lights, each against brute force."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from truesitter.core.brushes.laying import widest_brush
from truesitter.core.brushes.tuning import WIDTHS_MM
from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Layer
from truesitter.core.canvas.patchwork import Patchwork
from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value, value_to_lightness
from truesitter.core.paint.layered.films import film_for_value
from truesitter.core.paint.layered.glazes import find_glazes, glaze_blends
from truesitter.core.paint.media.media_table import MEDIA
from truesitter.core.paint.media.supports import PRIMED_CANVAS, SUPPORTS
from truesitter.core.paint.media.thickness import DryMm, WetMm
from truesitter.core.paint.optics.kubelka_munk import film_reflectance, leave_surface
from truesitter.core.paint.recipes.pricing import recipe_cost
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.paint.tubes.palettes import STARTERS
from truesitter.core.paint.tubes.rack import LIBRARY
from truesitter.core.plan.kinds.glaze_pass import GLAZE
from truesitter.core.plan.kinds.opaque_passes import LIGHT, MASS
from truesitter.core.plan.kinds.taken_passes import ERASE, WIPE
from truesitter.core.plan.kinds.wash_pass import WASH
from truesitter.core.plan.laying import Laid, Laying, Scene, Step
from truesitter.core.plan.planner import plan_passes
from truesitter.core.plan.subject import Subject
from truesitter.core.school.library import school
from truesitter.core.school.school_palettes import palettes_for
from truesitter.core.sitter.region_names import Region

SIZE = (24, 30)
ONE = Patchwork.of(SIZE)
SIX = STARTERS[1]


def scene(
    lab: np.ndarray,
    groups: np.ndarray | None = None,
    patchwork: Patchwork = ONE,
    wishes: Wishes | None = None,
) -> Scene:
    maps = np.zeros(SIZE, np.uint8)
    skin = np.full(SIZE, Region.SKIN, np.uint8)
    value = lab_value(lab.astype(float)).astype(np.float32)
    subject = Subject(maps if groups is None else groups, skin, maps, lab, value, 1.0)
    wishes = wishes or Wishes()
    used = palettes_for(school("layered-oil"), SIX, wishes, MEDIA["oil"], PRIMED_CANVAS)
    ground = school("layered-oil").ground_lab
    return Scene(
        subject, patchwork, used.used, used.clear, used.body, wishes, MEDIA["oil"], PRIMED_CANVAS, ground, lab
    )


def flat(lightness: float, a: float = 12.0, b: float = 16.0) -> np.ndarray:
    return np.broadcast_to(np.array([lightness, a, b], np.float32), (*SIZE, 3)).copy()


def step(pieces: np.ndarray | None = None, film: float = 0.1, group: int | None = None) -> Step:
    return Step(np.ones(1, bool) if pieces is None else pieces, group, (Region.SKIN,), WetMm(film))


def toned(parts: dict[str, int], patchwork: Patchwork = ONE) -> Canvas:
    return Canvas.bare(patchwork).do(Layer(np.ones(len(patchwork.sizes), bool), parts, None))


def recipe_of(kind: Laying, there: Scene, one: Step) -> Recipe:
    laid = kind.lay(there, one, Canvas.bare(there.patchwork))
    assert isinstance(laid, Laid)
    return laid.recipe


def test_bare_canvas_looks_as_white_as_it_is_primed() -> None:
    lab = Canvas.bare(ONE).labs()[0]
    luminance = ((lab[0] + 16) / 116) ** 3
    assert luminance == pytest.approx(PRIMED_CANVAS.reflectance, abs=1e-6)
    assert luminance == pytest.approx(0.85)


def test_the_glaze_chosen_is_the_best_of_all_there_are() -> None:
    canvas, wanted = toned({"titanium-white": 1}), flat(78.0, 8.0, 30.0)
    found = GLAZE.lay(scene(wanted), step(), canvas)
    assert isinstance(found, Laid)
    (layer,) = found.operations
    below, errors = canvas.spectra[-1], {}
    for parts in glaze_blends(SIX):
        k, s = LIBRARY.mixture(parts)
        for dilution in MEDIA["oil"].thinning.every()[::3]:
            film = MEDIA["oil"].thinning.dry(dilution)
            lab = reflectance_to_lab(leave_surface(film_reflectance(k, s, film, below)))
            errors[str(parts), film] = float(delta_e_2000(lab, wanted[0, 0].astype(float)))
    best = min(errors, key=lambda key: errors[key])
    assert (str(layer.parts), layer.film_mm) == best
    assert found.recipe.delta_e == pytest.approx(errors[best])
    thinning, (thinned,) = MEDIA["oil"].thinning, found.thinned
    assert found.film == thinning.film, "what is laid is wet"
    assert thinning.dry(thinned.dilution) == layer.film_mm
    assert found.paint_mm * thinning.strength == pytest.approx(layer.film_mm), "paint without water"


def test_a_glaze_that_gains_nothing_is_left_out_in_words() -> None:
    canvas = toned({"titanium-white": 3, "yellow-ochre": 1})
    there = canvas.labs()[-1].astype(np.float32)
    found = GLAZE.lay(scene(flat(*(float(v) for v in there))), step(), canvas)
    assert isinstance(found, str)
    assert "no thin film" in found


def test_glazes_for_a_spot_come_best_first() -> None:
    ground = leave_surface(np.full(31, 0.6)) * 0 + 0.6
    glazes = find_glazes(ground, np.array([60.0, 15.0, 25.0]), SIX, MEDIA["oil"].thinning)
    costs = [g.cost for g in glazes]
    assert len(costs) > 1
    assert costs[0] <= min(costs) + 0.3
    for g in glazes:
        assert g.cost == pytest.approx(
            float(recipe_cost(np.array(g.after.lab), np.array([60.0, 15.0, 25.0])))
        )


@pytest.mark.parametrize("value", [3.2, 4.0, 5.5, 7.0])
def test_a_wash_is_as_thick_as_its_value_asks_for(value: float) -> None:
    ground = Canvas.bare(ONE).spectra[0]
    film = film_for_value(ground, {"raw-umber": 1}, LIBRARY, value, DryMm(0.2))
    k, s = LIBRARY.mixture({"raw-umber": 1})
    seen = leave_surface(film_reflectance(k, s, film, ground))
    assert lab_value(reflectance_to_lab(seen)) == pytest.approx(value, abs=0.01)
    assert film_for_value(ground, {"raw-umber": 1}, LIBRARY, 0.5, DryMm(0.001)) == 0.001
    bare = float(lab_value(reflectance_to_lab(leave_surface(ground))))
    assert film_for_value(ground, {"raw-umber": 1}, LIBRARY, bare + 0.1, DryMm(0.2)) == 0, "it is dark enough"


def test_washes_bring_every_darker_group_to_its_value_and_keep_to_their_place() -> None:
    groups = np.zeros(SIZE, np.uint8)
    groups[:, 10:20], groups[:, 20:] = 1, 2
    lab = flat(0.0)
    for group, value in enumerate((3.4, 4.2, 8.8)):
        lab[groups == group, 0] = value_to_lightness(value)
    place = np.zeros(SIZE, bool)
    place[:12] = True
    pieces = Patchwork.of(SIZE, groups, place)
    canvas = toned({"titanium-white": 12, "ivory-black": 1}, pieces)
    ground = float(canvas.values()[0, 0])
    found = WASH.lay(scene(lab, groups, pieces), step(pieces.at(place), film=0.1), canvas)
    assert isinstance(found, Laid)
    assert len(found.operations) == 2, "what is lighter than the ground is left as ground"
    assert [t.group for t in found.thinned] == [0, 1]
    strength = MEDIA["oil"].thinning.strength
    undiluted = [0.1 * t.dilution.left for t in found.thinned]
    assert [layer.film_mm for layer in found.operations] == pytest.approx([strength * mm for mm in undiluted])
    assert found.paint_mm == pytest.approx(np.mean(undiluted)), "the mean of two equal areas"
    for layer in found.operations:
        canvas = canvas.do(layer)
    values = canvas.values()
    assert values[5, 5] == pytest.approx(3.4, abs=0.05)
    assert values[5, 15] == pytest.approx(4.2, abs=0.05)
    assert values[5, 25] == pytest.approx(ground)
    np.testing.assert_allclose(values[12:], ground)
    assert not (pieces.mask(found.pieces) & ~place).any()


def test_lights_are_mixed_for_their_place_without_its_darkest_quarter() -> None:
    lab = flat(50.0)
    lab[..., 0] = np.linspace(40, 80, SIZE[1])
    recipe = recipe_of(LIGHT, scene(lab), step())
    top = lab[..., 0][lab[..., 0] >= np.quantile(lab[..., 0], 0.25)].mean()
    assert recipe.target_lab[0] == pytest.approx(top, abs=0.5)
    mass = recipe_of(MASS, scene(lab), step())
    assert mass.target_lab[0] == pytest.approx(60, abs=0.5)


def test_flesh_is_laid_in_the_mixtures_of_the_flesh_stage() -> None:
    own = recipe_of(MASS, scene(flat(40.0)), step())
    there = scene(flat(60.0))
    kept = replace(there, subject=replace(there.subject, flesh={1: own}))
    assert recipe_of(MASS, kept, step(group=1)) is own
    assert recipe_of(MASS, kept, step(group=0)) is not own


def test_a_film_is_laid_wet_and_reckoned_dry() -> None:
    laid = MASS.lay(scene(flat(60.0)), step(film=0.1), Canvas.bare(ONE))
    assert isinstance(laid, Laid)
    assert laid.film == 0.1
    assert laid.operations[0].film_mm == pytest.approx(0.1 * MEDIA["oil"].solids)


@pytest.mark.parametrize("circle", [1.0, 3.0, 7.6, 15.1, 30.0, 74.0, 200.0])
def test_a_brush_leaves_room_to_turn(circle: float) -> None:
    """Two thirds of the largest circle of its shape (from memory)."""
    fitting = [w for w in WIDTHS_MM if w <= circle * 2 / 3]
    assert widest_brush(circle) == (max(fitting) if fitting else 1)


def test_last_lights_are_the_fewest_strokes_however_light_a_forehead_is() -> None:
    """A broad light with two sparks in it: they are touched, and no more than a twenty-fifth of the skin."""
    lab = flat(60.0)
    y, x = np.mgrid[0 : SIZE[0], 0 : SIZE[1]]
    away = np.hypot(y - 12, x - 15)
    lab[..., 0] += 15 * np.exp(-((away / 14) ** 2))
    lab[10:12, 8:10, 0] += 6
    lab[10:12, 20:22, 0] += 6
    zones = np.zeros(SIZE, np.uint8)
    zones[away < 12], zones[away < 9] = 2, 1
    subject = Subject(**{**vars(scene(lab).subject), "zones": zones, "mm_per_px": 3.0})
    found = plan_passes(subject, SIX, school("layered-oil"))
    assert found.passes[-1].key == "last-lights"
    last = found.mask(len(found.passes) - 1)
    assert last[10:12, 8:10].all()
    assert last[10:12, 20:22].all()
    skin = np.count_nonzero(subject.regions == Region.SKIN)
    assert np.count_nonzero(last) <= 0.045 * skin


def test_last_lights_take_the_shape_the_light_has() -> None:
    """In the zones round a peak only what is light is touched: a streak stays a streak."""
    lab = flat(60.0)
    lab[11:13, 8:22, 0] = 78.0
    zones = np.zeros(SIZE, np.uint8)
    y, x = np.mgrid[0 : SIZE[0], 0 : SIZE[1]]
    away = np.hypot(y - 12, x - 15)
    zones[away < 12], zones[away < 3] = 2, 1
    there = scene(lab)
    subject = Subject(**{**vars(there.subject), "zones": zones, "mm_per_px": 3.0})
    found = plan_passes(subject, SIX, school("layered-oil"))
    assert found.passes[-1].key == "last-lights"
    last = found.mask(len(found.passes) - 1)
    assert last[12, 8:22].all()
    assert not last[6].any()


def test_a_rag_takes_off_wet_paint_and_an_eraser_dry_paint_on_a_board_that_lets_go() -> None:
    there = replace(scene(flat(70.0)), support=SUPPORTS["gesso board"])
    wet = Canvas.bare(ONE).do(Layer(np.ones(1, bool), {"raw-umber": 1}, 0.02))
    for kind, works in ((WIPE, wet), (ERASE, wet.dried())):
        done = kind.lay(there, step(), works)
        assert isinstance(done, Laid)
        assert done.taken
        lighter = works
        for operation in done.operations:
            lighter = lighter.do(operation)
        assert lighter.values()[0, 0] > works.values()[0, 0] + 0.2
    assert "only wet paint" in str(WIPE.lay(there, step(), wet.dried()))
