"""Laws of what is drawn on the canvas: hairs, strokes of the wall, streaks and folds, on made fields."""

from __future__ import annotations

import numpy as np
import pytest

from tests.conftest import study_of
from truesitter.core.canvas.drawn.crease_lines import crease_lines
from truesitter.core.canvas.drawn.hair_lines import moustache
from truesitter.core.canvas.drawn.light_lines import streaks
from truesitter.core.canvas.drawn.tuning import (
    DRAWN,
    STROKE_LEAN,
    STROKE_TURN,
)
from truesitter.core.canvas.drawn.wall_strokes import wall_strokes
from truesitter.core.canvas.layer import Layer, Smear
from truesitter.core.canvas.painted import Painting, paint
from truesitter.core.canvas.painted_borders import even_borders
from truesitter.core.canvas.patchwork import Patchwork
from truesitter.core.canvas.taking_off import TOOLS
from truesitter.core.light.form.recesses import Recess, Recesses
from truesitter.core.light.form.zones import Ray
from truesitter.core.sitter.face import MOUTH_CORNERS, MOUTH_MIDDLE, NOSE_BASE, Face

SIZE = (320.0, 400.0)
SHAPE = (250, 200)


def face() -> Face:
    found = study_of("tobias").sitter.face
    assert found is not None
    return found


@pytest.mark.parametrize("side", [-1, 1])
def test_a_moustache_on_one_side_has_lines_on_that_side_alone(side: int) -> None:
    """Hair from wall to wall: lines end a little beyond the corners of the mouth, and thin out evenly."""
    head, (height, width) = face(), SHAPE
    middle_x = head.at(NOSE_BASE, MOUTH_MIDDLE)[0]
    columns = (np.arange(width) + 0.5) / width
    hair = np.zeros(SHAPE, bool)
    rows = slice(round(head.nose_base_row * height), round(head.mouth_row * height))
    hair[rows] = (columns - middle_x) * side > 0.01
    directed = np.zeros((*SHAPE, 2), np.float32)
    directed[..., 0] = side
    middle, dark = moustache(directed, hair, head, SIZE)
    assert middle
    assert dark
    mouth = float(np.ptp(head.line(MOUTH_CORNERS)[:, 0]))
    for line in (*middle, *dark):
        away = (line.points[:, 0] - middle_x) * side
        assert away.min() > 0
        assert away.max() < 0.9 * mouth, "half of it, and a third beyond its corner"
        np.testing.assert_allclose(line.widths_mm, line.widths_mm[::-1], rtol=1e-6)
        assert line.widths_mm[0] < 0.2 * line.widths_mm.max()


def test_strokes_of_a_wall_turn_slowly_over_it() -> None:
    """Neighbours lean alike but for the hand's own lean; far ones need not."""
    lines = wall_strokes(np.ones(SHAPE, bool), SIZE, 3)
    paths = [line.points * SIZE for line in lines]
    middle = np.array([p.mean(axis=0) for p in paths])
    slant = np.array([np.arctan2(*(p[-1] - p[0])[::-1]) for p in paths])
    away = np.hypot(*(middle[:, None] - middle[None]).transpose(2, 0, 1)) + 1e9 * np.eye(len(middle))
    beside = np.abs(slant - slant[away.argmin(axis=0)])
    shuffled = np.abs(slant - np.random.default_rng(1).permutation(slant))
    assert np.sqrt((beside**2).mean()) < 2 * STROKE_LEAN
    assert (shuffled**2).mean() > 1.3 * (beside**2).mean()
    assert np.ptp(slant) < 4 * STROKE_TURN + 8 * STROKE_LEAN


@pytest.mark.parametrize("tall_mm", [80.0, 300.0])
def test_a_streak_of_light_is_as_fine_as_a_hair(tall_mm: float) -> None:
    ray = Ray((0.2, 0.2), (0.6, 0.4))
    (line,) = streaks((ray,), tall_mm)
    assert 0.1 <= line.widths_mm.max() <= max(0.006 * tall_mm, 0.5)
    np.testing.assert_allclose(line.points[0], ray.start)
    assert np.linalg.norm(line.points[-1] - ray.start) < np.linalg.norm(np.subtract(ray.end, ray.start))


def test_a_fold_is_drawn_along_its_middle_and_as_wide_as_its_dark() -> None:
    dark = np.zeros(SHAPE, bool)
    dark[100:112, 40:160] = True
    recess = Recess("crease, forehead", 0.5, 0.42, 1.0, 12.0, 120.0, None, 1)
    recesses = Recesses((recess,), dark.astype(np.int32), dark, dark.astype(np.float32), 150.0)
    (line,) = crease_lines(recesses, 1.6)
    np.testing.assert_allclose(line.points[3:-3, 1] * SHAPE[0], 106, atol=1)
    assert line.widths_mm.max() == pytest.approx(12 * 1.6 * DRAWN, rel=0.12)
    assert abs(np.ptp(line.points[:, 0])) * SHAPE[1] > 100
    nostril = Recess("nostril, left", 0.5, 0.42, 1.0, 12.0, 120.0, None, 1)
    assert not crease_lines(Recesses((nostril,), recesses.first, dark, recesses.valleys, 150.0), 1.6)


def test_what_tools_can_do() -> None:
    """Common practice: only water reaches what is dry and lifts again; only a point draws lines."""
    assert {name for name, tool in TOOLS.items() if tool.lines} == {"brush handle"}
    assert {name for name, tool in TOOLS.items() if tool.dry} == {"damp brush", "eraser"}
    assert {name for name, tool in TOOLS.items() if tool.wet} == set(TOOLS) - {"eraser"}
    assert all(0 < tool.least < 0.5 for tool in TOOLS.values())
    assert max(TOOLS.values(), key=lambda tool: tool.least).name == "damp brush", "a stain stays"


@pytest.mark.parametrize("corner", [(10, 12), (60, 90)])
def test_smearing_reaches_the_same_wherever_it_lies(corner: tuple[int, int]) -> None:
    """A black square on white smeared along its rim: alike in the corner of a canvas and in its middle."""
    shape, (top, left) = (120, 150), corner
    square = np.zeros(shape, np.uint8)
    square[top : top + 30, left : left + 30] = 1
    patchwork = Patchwork.of(shape, square)
    borders = even_borders(patchwork, 0.0, 0.5)
    black = Layer(patchwork.at(square) == 1, {"ivory-black": 1}, None)
    white = Layer(patchwork.at(square) == 0, {"titanium-white": 1}, None)
    widths = np.zeros(shape, np.float32)
    widths[top + 5 : top + 25, left - 6 : left + 6] = 4.0
    smeared = Painting((Smear(np.ones(2, bool), widths),), True)
    picture = paint(borders, [Painting((black, white)), smeared]).picture(2)[..., 1].astype(int)
    rows = picture[top + 14, left - 6 : left + 6]
    assert (np.diff(rows) <= 0).all(), "from white to black"
    assert rows[0] > 200
    assert rows[-1] < 90
    assert 60 < rows[5] < 230
    assert picture[top + 15, left + 15] == picture[top + 2, left + 15]
