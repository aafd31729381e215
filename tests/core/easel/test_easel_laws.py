"""Laws of finding, lighting and comparing a painting, on made pictures of a few hundred pixels."""

from __future__ import annotations

import cv2
import numpy as np
import pytest

from tests.conftest import study_of
from tests.core.easel.test_easel_parts import soft_step
from truesitter.core.colour.spaces import linear_to_srgb
from truesitter.core.easel.compare.border_widths import edges_off, read_both
from truesitter.core.easel.compare.difference_words import colour_words
from truesitter.core.easel.compare.drawing_offsets import features_of, figure_parts
from truesitter.core.easel.compare.small_finish import finish_off
from truesitter.core.easel.correct.dab import check_dab
from truesitter.core.easel.correct.stop import stop_test
from truesitter.core.easel.find.corners import by_paint, by_sides, find_corners
from truesitter.core.easel.find.view import View
from truesitter.core.easel.lamp.lighting import gloss
from truesitter.core.easel.lamp.printed_sheet import PrinterCurve
from truesitter.core.easel.lamp.rectified import MixtureMark, take_in
from truesitter.core.paint.tubes.palettes import starter
from truesitter.core.refusal import Refusal
from truesitter.core.sitter.areas import Areas
from truesitter.core.sitter.face import EYES, LIPS

CORNERS = np.array([(0.22, 0.12), (0.8, 0.15), (0.78, 0.9), (0.2, 0.86)])
"""Of a painting on a wall, seen a little from the side."""


def painting(seed: int = 1, shape: tuple[int, int] = (500, 400)) -> np.ndarray:
    """Blots of colour in three sizes: what no two places share."""
    rng = np.random.default_rng(seed)
    out = np.full((*shape, 3), 128.0, np.float32)
    for sigma, amount in ((40, 3000), (12, 900), (4, 250)):
        out += amount * cv2.GaussianBlur(rng.normal(0, 1, (*shape, 3)).astype(np.float32), (0, 0), sigma)
    return np.clip(out, 0, 255).astype(np.uint8)


def on_a_wall(picture: np.ndarray, corners: np.ndarray = CORNERS) -> np.ndarray:
    """A photograph of 900 × 800 pixels."""
    height, width = picture.shape[:2]
    there = (corners * (900, 800)).astype(np.float32)
    here = np.array([(0, 0), (width, 0), (width, height), (0, height)], np.float32)
    matrix = cv2.getPerspectiveTransform(here, there)
    wall = np.full((800, 900, 3), (172, 168, 160), np.uint8)
    laid = cv2.warpPerspective(picture, matrix, (900, 800), flags=cv2.INTER_AREA)
    mask = cv2.warpPerspective(np.ones((height, width), np.uint8), matrix, (900, 800)) > 0
    wall[mask] = laid[mask]
    return wall


def test_a_painting_is_found_by_what_is_painted() -> None:
    found = by_paint(on_a_wall(painting()), painting())
    assert found is not None
    np.testing.assert_allclose(found, CORNERS, atol=0.005)
    assert by_paint(on_a_wall(painting(1)), painting(2)) is None, "another picture is not there"
    assert by_paint(np.full((300, 300, 3), 128, np.uint8), painting()) is None
    best = find_corners(on_a_wall(painting()), (painting(3), painting()), 500 / 400)
    assert best.how == "paint"
    np.testing.assert_allclose(best.corners, CORNERS, atol=0.005)


@pytest.mark.parametrize("corners", [CORNERS, CORNERS[:, ::-1][[0, 3, 2, 1]] * (1.0, 0.95)])
def test_a_primed_canvas_is_found_by_its_sides(corners: np.ndarray) -> None:
    """Nothing is painted: four straight borders of the right proportions, upright or lying."""
    sides = np.hypot(*((np.roll(corners, -1, axis=0) - corners) * (900, 800)).T)
    aspect = float((sides[1] + sides[3]) / (sides[0] + sides[2]))
    quads = by_sides(on_a_wall(np.full((500, 400, 3), 245, np.uint8), corners), aspect)
    assert quads
    np.testing.assert_allclose(quads[0], corners, atol=0.015)
    assert all(quad.min() + 0.03 >= 0 and quad.max() <= 1.03 for quad in quads)


def test_a_painting_as_small_as_a_stamp_is_refused() -> None:
    View.of_corners(CORNERS, (800, 900))
    with pytest.raises(Refusal, match="too near together"):
        View.of_corners(0.5 + (CORNERS - 0.5) * 0.1, (800, 900))


def test_a_mixture_laid_on_the_canvas_stands_for_the_light() -> None:
    """CIE 1976: L* of 50 has a luminance factor of 0.184; a grey dab under a lamp twice as strong."""
    grey = np.full((250, 200, 3), 0.184, np.float32)
    shot = np.clip(linear_to_srgb(2 * grey) * 255, 0, 255).astype(np.uint8)
    view = View.of_corners(np.array([(0, 0), (1, 0), (1, 1), (0, 1.0)]), (250, 200))
    wanted = np.full((250, 200, 3), 0.5, np.float32)
    found = take_in(shot, view, wanted, (), MixtureMark(0.5, 0.5, (50.0, 0.0, 0.0)))
    middle = found.light[100:150, 80:120].reshape(-1, 3).mean(axis=0)
    np.testing.assert_allclose(middle, 0.184, atol=0.01)


def test_a_lamp_mirrored_in_dark_paint_is_gloss_with_its_skirt() -> None:
    """A burnt-out core, a grey halo that runs out: neither is paint; paint as light as that all over is."""
    y, x = np.indices((200, 160))
    away = np.hypot(x - 80, y - 90)
    paint = np.full((200, 160, 3), (0.20, 0.10, 0.05), np.float32)
    halo = (1.2 * np.exp(-((away / 14) ** 2)))[..., None].astype(np.float32)
    lit = paint + halo
    found = gloss(np.clip(lit, 0, 1), lit, paint)
    assert found[away < 5].all()
    assert found[(away > 9) & (away < 13)].mean() > 0.9, "the skirt lightens too"
    assert found[away > 45].mean() < 0.02
    assert not gloss(paint, paint, paint).any()


def test_free_work_is_judged_by_its_own_habit() -> None:
    """A painter who paints every border half as wide as the photograph has it: only what differs is told."""
    labels = np.zeros((300, 400), np.uint8)
    labels[:, 200:] = 1
    trusted = np.ones((300, 400), bool)
    halves = np.zeros((300, 400), np.uint8)
    halves[200:] = 1
    areas = Areas(halves, ("cheek", "chin"), ("face", "face"))
    plan, alike = soft_step(10), soft_step(2)
    read = read_both(labels, alike, plan, trusted, 0.4)
    assert {e.words.split("; ")[1] for e in edges_off(read, areas)} == {"too hard."}
    assert edges_off(read, areas, free=True) == ()
    uneven = alike.copy()
    uneven[200:] = soft_step(16)[200:]
    found = edges_off(read_both(labels, uneven, plan, trusted, 0.4), areas, free=True)
    assert [e.words.split("; ")[1] for e in found] == ["too soft."]


def test_windows_of_features_hold_them_with_room_and_those_of_a_figure_its_outline() -> None:
    face = study_of("maren").sitter.face
    assert face is not None
    shape = (1000, 800)
    named = {f.name: f.box for f in features_of(face, shape)}
    for name, marks in (("left eye", EYES[0]), ("right eye", EYES[1]), ("mouth", LIPS)):
        points = face.points[list(marks), :2] * (shape[1], shape[0])
        low, high = points.min(axis=0), points.max(axis=0)
        left, top, right, bottom = named[name]
        assert left < low[0] - 0.3 * (high - low)[0]
        assert right > high[0] + 0.3 * (high - low)[0]
        assert top < low[1]
        assert bottom > high[1]
    y, x = np.indices((240, 200))
    figure = np.hypot(x - 100, (y - 120) / 1.3) < 70
    rim = cv2.morphologyEx(figure.astype(np.uint8), cv2.MORPH_GRADIENT, np.ones((3, 3), np.uint8)) > 0
    covered = np.zeros(figure.shape, bool)
    for part in figure_parts(figure):
        left, top, right, bottom = part.box
        covered[top:bottom, left:right] = True
    assert covered[rim].mean() > 0.85
    assert figure_parts(figure & False) == ()


@pytest.mark.parametrize(
    ("red", "yellow", "word"),
    [(2.0, 2.2, "warm"), (2.2, -2.0, "violet"), (-2.0, 2.2, "green (yellowish)"), (-2.2, -2.0, "cold"),
     (0.0, 4.0, "yellow"), (4.0, 0.0, "red")],
)  # fmt: skip
def test_a_colour_off_both_ways_has_a_name(red: float, yellow: float, word: str) -> None:
    assert word in colour_words((0, red, yellow), (60.0, 0.0, 0.0))


@pytest.mark.parametrize(
    ("dab", "direction"),
    [((60.0, 12.0, 30.0), "cooler"), ((60.0, 12.0, 14.0), "warmer"), ((60.0, 20.0, 22.0), "greener")],
)
def test_a_dab_is_turned_the_way_it_is_off_most(dab: tuple[float, float, float], direction: str) -> None:
    assert check_dab(dab, (60.0, 12.0, 22.0), {}, starter("earth-four")).direction == direction


def test_a_printer_is_judged_inside_its_reach_alone() -> None:
    """One that prints no darker than 2: what is asked for below is not its error."""
    curve = PrinterCurve(((0.0, 2.0), (2.5, 3.5), (5.0, 5.2), (7.5, 7.8), (9.5, 9.6)))
    assert curve.worst(np.linspace(2.1, 9.5, 40)) < 0.02
    assert curve.worst(np.linspace(0, 10, 60)) < 0.02
    assert curve.worst(np.array([0.5, 1.0])) == 0


def test_a_painting_is_looked_at_again_after_a_day_or_two() -> None:
    assert "after 1 or 2 days" in stop_test((0.5, 0.49), 0.8, True).words


def test_gloss_is_seen_in_a_photograph_that_is_not_burnt_out_and_is_never_most_of_a_painting() -> None:
    """By a weak lamp nothing is clipped: what is whiter than white once the lamp is taken out mirrors it."""
    y, x = np.indices((200, 160))
    away = np.hypot(x - 80, y - 90)
    paint = np.full((200, 160, 3), 0.25, np.float32)
    lit = paint + (0.9 * np.exp(-((away / 10) ** 2)))[..., None].astype(np.float32)
    found = gloss(0.4 * lit, lit, paint)
    assert found[away < 4].all()
    assert found[away > 40].mean() < 0.02
    # Half a painting that is lighter than its plan is painted so.
    wide = lit + np.where(x > 60, 0.35, 0.0)[..., None].astype(np.float32)
    assert not gloss(0.4 * wide, wide, paint).any()


def test_what_a_free_painter_usually_adds_is_no_fault_whatever_the_camera_adds() -> None:
    rng = np.random.default_rng(5)
    small, marks = (
        cv2.GaussianBlur(rng.normal(0, 1, (300, 400)).astype(np.float32), (0, 0), s) for s in (1.5, 1.3)
    )
    plan = (5 + 0.15 * small / small.std()).astype(np.float32)
    marks /= marks.std()
    labels = (np.arange(400) // 100).astype(np.uint8)[None].repeat(300, 0)
    areas = Areas(labels, ("a", "b", "c", "d"), ("a", "b", "c", "d"))
    trusted = np.ones(plan.shape, bool)
    grain = rng.normal(0, 0.7, plan.shape).astype(np.float32)
    usual = (plan + grain + 0.5 * marks).astype(np.float32)
    assert finish_off(usual, plan, areas, trusted, 0.4, free=True) == ()
    more = np.where(labels == 2, plan + grain + 2 * marks, usual).astype(np.float32)
    found = finish_off(more, plan, areas, trusted, 0.4, free=True)
    assert [(f.place, f.ratio > 1.5) for f in found] == [("c", True)]
    nowhere_quiet = (5 + 2 * marks).astype(np.float32)
    assert finish_off(nowhere_quiet, nowhere_quiet, areas, trusted, 0.4) == ()


def test_a_painting_half_done_is_still_found_by_what_is_there() -> None:
    """Where the likeness is middling, what is painted says better where the corners lie than the rim does."""
    half = (0.55 * painting() + 0.45 * painting(7)).astype(np.uint8)
    best = find_corners(on_a_wall(half), (painting(),), 500 / 400)
    assert best.correlation > 0.3
    assert best.how == "paint" or best.correlation > 0.5
    np.testing.assert_allclose(best.corners, CORNERS, atol=0.01)
