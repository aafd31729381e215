"""Laws that hold of every plan, whatever is painted: on a small head in four schools, and on made maps."""

from __future__ import annotations

import re
from functools import cache
from types import SimpleNamespace
from typing import Any

import numpy as np
import pytest

from tests.conftest import begun, small_photo
from tests.core.plan.test_pass_places import COLUMNS, ROWS, SKIN, subject, template
from tests.core.school.test_schools import planned
from truesitter.core.canvas.layer import Layer
from truesitter.core.graph.memo import Memo
from truesitter.core.plan.hand.brush_goes import goes_of
from truesitter.core.plan.kinds.smear_pass import SMEAR
from truesitter.core.plan.kinds.tuning import HANDLE_MM
from truesitter.core.plan.pass_places import Place, patchwork_of
from truesitter.core.plan.pass_plan import PassPlan
from truesitter.core.school.library import school
from truesitter.core.school.school_document import Band
from truesitter.core.settings import StudySettings
from truesitter.core.stages import Study

SCHOOLS = ("layered-oil", "direct-oil", "brown-layer", "watercolour-zones")
_MEMO = Memo()


@cache
def study(key: str) -> Study:
    chosen: dict[str, Any] = begun(512, 640).model_dump()
    chosen["passes"]["school"] = key
    chosen["passes"]["size"] = "every pass"
    return Study.of_bytes(small_photo("tobias"), StudySettings.model_validate(chosen), _MEMO)


def plan(key: str) -> PassPlan:
    return study(key).passes.plan()


@pytest.mark.parametrize("key", SCHOOLS)
def test_what_is_told_of_paint_is_what_is_laid(key: str) -> None:
    """Thinned exactly where a film lets through what lies below; shares of its dilutions add up."""
    for one in plan(key).passes:
        thin = [o for o in one.operations if isinstance(o, Layer) and o.fades and o.pieces.any()]
        assert bool(thin) == bool(one.thinned) or one.lines, one.key
        if len(one.thinned) > 1:
            assert sum(t.share for t in one.thinned) == pytest.approx(1, abs=1e-6)
            assert len({t.group for t in one.thinned}) == len(one.thinned)


@pytest.mark.parametrize("key", ["direct-oil", "brown-layer"])
def test_what_is_taken_off_is_told_in_the_colour_it_leaves(key: str) -> None:
    found = plan(key)
    taken = [n for n, p in enumerate(found.passes) if p.does == "remove" and p.pieces.any() and not p.lines]
    assert taken or key == "brown-layer"
    for n in taken:
        one, canvas = found.passes[n], found.canvases[n]
        sizes = canvas.patchwork.sizes[one.pieces]
        left = np.average(canvas.labs()[one.pieces], axis=0, weights=sizes)
        np.testing.assert_allclose(one.recipe.predicted.lab, left, atol=0.5)


@pytest.mark.parametrize("key", SCHOOLS)
def test_heaps_of_clear_paint_have_no_tone_and_others_have(key: str) -> None:
    """Water makes the tone of a wash, white that of body paint (common practice)."""
    named = [h.name.split(" ")[0] for h in plan(key).heaps]
    toned = [word in ("light", "middle", "dark", "darkest", "lightest") for word in named]
    assert any(toned) != school(key).transparent
    assert named


def test_scratches_are_no_wider_than_a_handle_and_no_finer_than_half_of_it() -> None:
    passes = planned("maren", "brown-layer").passes.plan().passes
    lines = [line for p in passes for line in p.lines if p.does == "remove"]
    widths = np.concatenate([line.widths_mm for line in lines])
    assert widths.max() <= HANDLE_MM
    assert widths.min() == pytest.approx(HANDLE_MM / 2), "where a hair runs out"


def hairy(key: str, mask: np.ndarray) -> Place:
    drawn: Any = SimpleNamespace(lines=())
    return Place(template(Band.HAIR_LAYERS, key="h"), mask, key, key, hair=drawn)


def test_pieces_follow_every_place_also_where_layers_of_hair_cross() -> None:
    one, other, third = (~SKIN & (ROWS < 70)), (~SKIN & (ROWS > 50)), (~SKIN & (COLUMNS > 80) & (ROWS > 30))
    places = [hairy("a", one), hairy("b", other), hairy("c", third)]
    patchwork = patchwork_of(subject(), places)
    for place in places:
        np.testing.assert_array_equal(patchwork.mask(patchwork.at(place.mask)), place.mask)
    light = [
        Place(template(Band.HIGHLIGHTS, key="l"), SKIN & (ROWS > 100) & (COLUMNS < 20), "l", "l"),
    ]
    patchwork = patchwork_of(subject(), light)
    np.testing.assert_array_equal(patchwork.mask(patchwork.at(light[0].mask)), light[0].mask)


def test_goes_of_a_place_add_up_to_it() -> None:
    """Shapes of three sizes that do not touch, at one stroke or in several."""
    mask = np.zeros((120, 100), bool)
    mask[5:15, 5:95], mask[30:60, 10:40], mask[80:110, 20:90] = True, True, True
    for open_minutes in (0.3, 2.0, 500.0):
        goes = goes_of(mask, 2.0, 12.0, open_minutes)
        assert sum(g.area_cm2 for g in goes) == pytest.approx(mask.sum() * 4 / 100)
        assert sorted(goes, key=lambda g: g.y) == list(goes)
    areas = [g.area_cm2 for g in goes_of(mask, 2.0, 12.0, 0.3)]
    assert areas == pytest.approx([36, 36, 84])


@pytest.mark.parametrize(("minutes", "refused"), [((5.0, 60.0), True), ((120.0, 600.0), False)])
def test_only_paint_that_surely_stays_open_is_smeared(minutes: tuple[float, float], refused: bool) -> None:
    """The least time counts: acrylic stays open for an hour in a cellar and sets in minutes at a stove."""
    widths = np.full((4, 6), 3.0, np.float32)
    sums = np.array([[30.0], [40.0]])
    scene: Any = SimpleNamespace(
        subject=SimpleNamespace(smear_mm=widths),
        medium=SimpleNamespace(name="acrylic", open_minutes=minutes),
        patchwork=SimpleNamespace(sums=lambda _: sums, sizes=np.array([12.0, 12.0])),
    )
    canvas: Any = SimpleNamespace(labs=lambda: np.full((2, 3), 50.0))
    found = SMEAR.lay(scene, SimpleNamespace(pieces=np.ones(2, bool)), canvas)  # type: ignore[arg-type]
    assert (found == "acrylic sets too soon; its borders are softened one by one.") == refused


@pytest.mark.parametrize("key", SCHOOLS)
def test_a_border_is_softened_on_one_side_exactly_where_one_side_is_softer(key: str) -> None:
    told = [
        (seam, bool(re.search("one side|soft side", seam.means)))
        for row in study(key).passes.seams()
        for seam in row
    ]
    assert {one for _, one in told} == {True, False}
    for seam, one in told:
        if seam.means not in ("let the two run into one another", "on damp paper, left to run out"):
            assert one == (seam.softer is not None), seam
