"""Painted lines, and the school that wipes lights out."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import study_of, truth
from truesitter.core.brushes.laying import line_minutes
from truesitter.core.canvas.drawn.face_lines import brow_lines, face_lines
from truesitter.core.canvas.drawn.painted_lines import (
    line_area_cm2,
    line_brush_mm,
    line_cover,
    line_length_mm,
)
from truesitter.core.canvas.drawn.tuning import PARTING_WIDTH, SMALL_BROW_MM, TUFTS
from truesitter.core.canvas.tuning import LEVELS
from truesitter.core.graph.memo import Memo
from truesitter.core.imaging.line import Line
from truesitter.core.paint.media.media_table import MEDIA
from truesitter.core.plan.pass_plan import PassPlan
from truesitter.core.plan.planner import plan_passes
from truesitter.core.school.library import SCHOOLS
from truesitter.core.settings import StudySettings
from truesitter.core.sitter.face import UPPER_LIDS
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages import Study

SHAPE = (120, 160)


def covered(lines: tuple[Line, ...], mm_per_px: float = 0.25) -> np.ndarray:
    out = np.zeros(SHAPE)
    rows, columns, levels = line_cover(lines, SHAPE, mm_per_px)
    out[rows, columns] = levels / LEVELS
    return out


@settings(max_examples=40)
@given(
    st.floats(0.2, 0.8), st.floats(0.2, 0.8), st.floats(0, 2 * np.pi), st.floats(20, 45),
    st.floats(1, 4), st.floats(0.3, 4),
)  # fmt: skip
def test_a_line_covers_what_its_outline_does(
    x: float, y: float, turn: float, long: float, wide: float, end: float
) -> None:
    """Area against shapely's polygon of the same taper, to a quarter of a pixel of its width."""
    along = np.linspace(-0.5, 0.5, 9)[:, None] * long
    points = np.array([x * SHAPE[1], y * SHAPE[0]]) + along * (np.cos(turn), np.sin(turn))
    points = np.clip(points, 8, (SHAPE[1] - 8, SHAPE[0] - 8))
    widths = np.linspace(wide, end, 9)
    length = np.hypot(*(points[-1] - points[0]))
    if length < 12:
        return
    # Along the grid a thin line gains or loses up to a fine pixel at each side.
    slack = 0.25 * length + 1
    line = Line(points / (SHAPE[1], SHAPE[0]), widths * 0.25)
    across = np.array([-np.sin(turn), np.cos(turn)])
    straight = np.linalg.matrix_rank(np.diff(points, axis=0), tol=1e-6) < 2
    if not straight or abs((points[-1] - points[0]) @ across) > 1e-6:
        return
    ring = np.concatenate(
        [points + across * widths[:, None] / 2, (points - across * widths[:, None] / 2)[::-1]]
    )
    assert covered((line,)).sum() == pytest.approx(shapely.Polygon(ring).area, abs=slack)
    size_mm = (SHAPE[1] * 0.25, SHAPE[0] * 0.25)
    assert line_length_mm(line, size_mm) == pytest.approx(length * 0.25)
    assert line_area_cm2(line, size_mm) * 100 / 0.25**2 == pytest.approx(shapely.Polygon(ring).area, rel=0.02)


def test_lines_are_as_wide_as_they_are_told_on_average() -> None:
    """In all directions together, against the area of the strips themselves."""
    made, told = 0.0, 0.0
    for turn in np.linspace(0, np.pi, 37):
        points = np.array([80.0, 60.0]) + np.linspace(-15, 15, 9)[:, None] * (np.cos(turn), np.sin(turn))
        for wide in (1.2, 2.0, 4.0):
            made += covered((Line(points / (SHAPE[1], SHAPE[0]), np.full(9, wide * 0.25)),)).sum()
            told += 30 * wide
    assert made == pytest.approx(told, rel=0.02)


def test_lines_lie_where_they_are_drawn_and_are_clipped_by_the_picture() -> None:
    line = Line(np.array([[0.25, 0.5], [0.75, 0.5]]), np.array([1.0, 1.0]))
    found = covered((line,))
    np.testing.assert_allclose(found[60 - 2 : 60 + 2, 80], 1)
    assert found[:57].sum() == found[64:].sum() == 0
    assert found[60, 38] == 0
    outside = Line(np.array([[-0.5, -0.5], [-0.2, -0.1]]), np.array([1.0, 1.0]))
    assert covered((outside,)).sum() == 0
    assert line_brush_mm((line, Line(line.points, np.array([0.2, 2.3])))) == 3
    assert line_minutes(60) - line_minutes(0) == pytest.approx(4)


@pytest.mark.parametrize("beyond", [(1.5, 0.5), (-0.5, 0.5), (0.5, 1.5), (0.5, -0.5), (1.5, 1.5)])
def test_a_line_wholly_beyond_the_picture_covers_nothing(beyond: tuple[float, float]) -> None:
    points = np.array([beyond, beyond]) + np.array([(0, 0), (0.1, 0.1)])
    assert not covered((Line(points, np.array([2.0, 1.0])),)).any()


@pytest.mark.parametrize("name", ["maren", "tobias"])
def test_the_lines_of_a_face_keep_to_its_features(name: str) -> None:
    study = study_of(name)
    face, size = study.sitter.face, (320.0, 400.0)
    assert face is not None
    lines = face_lines(face, size)
    mouth = float(np.hypot(*((face.line((61, 291))[1] - face.line((61, 291))[0]) * size)))
    (parting,) = lines["lip-parting"]
    assert parting.widths_mm.max() <= max(PARTING_WIDTH * mouth, 0.1) + 1e-9
    assert parting.widths_mm[0] < parting.widths_mm.max() > parting.widths_mm[-1]
    assert len(lines["lid-creases"]) == 2
    for crease, lid in zip(lines["lid-creases"], UPPER_LIDS, strict=True):
        above = face.line(lid)[:, 1].mean() - crease.points[:, 1].mean()
        assert 0 < above * size[1] < 0.2 * mouth, "the crease runs close above its lid"
    for lid in UPPER_LIDS:
        (x0, y0), (x1, y1) = face.line(lid).min(axis=0), face.line(lid).max(axis=0)
        roots = [at.points[0] for at in lines["lashes"] if x0 - 1e-9 <= at.points[0][0] <= x1 + 1e-9]
        assert len({tuple(root) for root in roots}) == len(TUFTS), "each tuft stands at its own root"
        assert all(y0 - 1e-9 <= y <= y1 + 1e-9 for _, y in roots), "and on the lid"
        spread = np.ptp([x for x, _ in roots])
        assert spread == pytest.approx((max(TUFTS) - min(TUFTS)) * (x1 - x0), rel=0.2)
    for key in ("lashes", "lid-creases"):
        assert all(line.widths_mm[-1] < line.widths_mm.max() for line in lines[key])
    regions = study.sitter.regions().labels
    height, width = regions.shape

    def region(point: np.ndarray) -> int:
        return int(regions[int(point[1] * height), int(point[0] * width)])

    middle = region(parting.points[len(parting.points) // 2])
    assert middle in (Region.LIPS, Region.FACIAL_HAIR)
    up = face.axis(400 / 320)
    for lash in lines["lashes"]:
        assert (lash.points[-1] - lash.points[0]) * size @ up > 0, "upper lashes point up"
    two, one = lines["brow-lines"][:2]
    assert two.widths_mm.max() > one.widths_mm.max(), "the lower line is the larger (common practice)"
    assert two.widths_mm[-3] > two.widths_mm[0], "widest toward the nose"
    small = np.array(size) * SMALL_BROW_MM / 60
    assert len(brow_lines(face, small)) == 2, "a very small brow takes one line"
    assert face_lines(None, size) == {}


@pytest.mark.parametrize("name", ["maren", "tobias"])
def test_lines_are_mixed_darker_than_what_they_run_over(name: str) -> None:
    """In the colour of the darkest third along them, within the palette's reach."""
    study = study_of(name)
    subject = study.passes.subject()
    own_tone = ("moustache", "hair", "light-hairs", "lower-rims")
    for one in (p for p in study.passes.plan().passes if p.lines and not p.key.startswith(own_tone)):
        rows, columns, levels = line_cover(one.lines, subject.groups.shape, subject.mm_per_px)
        over = subject.lab[rows, columns][levels > 0]
        assert one.recipe.target_lab[0] < max(np.quantile(over[:, 0], 0.45), 25), one.key


def planned(name: str, school: str, **passes: object) -> Study:
    chosen = {
        "reference": {"canvas_width_mm": 320, "canvas_height_mm": 400},
        "passes": {"school": school, "size": "every pass", **passes},
    }
    return Study.of_bytes(truth(name).data, StudySettings.model_validate(chosen), Memo())


@pytest.fixture(scope="module", params=["maren", "tobias", "ines"])
def direct(request: pytest.FixtureRequest) -> PassPlan:
    return planned(request.param, "direct-oil").passes.plan()


def test_lights_are_wiped_out_of_the_wet_tone(direct: PassPlan) -> None:
    keys = [p.key for p in direct.passes]
    assert keys[:4] == ["ground", "tone", "construction", "wiped-lights"]
    ground, tone, _, wiped = (c.piece_values() for c in direct.canvases[:4])
    lights = direct.passes[3]
    assert lights.recipe.parts == {}
    assert lights.ml == 0
    assert (wiped[lights.pieces] > tone[lights.pieces]).all()
    assert (wiped <= ground + 1e-9).all(), "no lighter than the ground under the tone"
    np.testing.assert_array_equal(wiped[~lights.pieces], tone[~lights.pieces])
    shares = {t.group: t.share for t in lights.taken}
    assert [shares[g] for g in sorted(shares)] == sorted(shares.values(), reverse=True)
    assert all(0.1 <= share <= 1 for share in shares.values())
    assert direct.passes[-1].value_error < 0.5


def test_nothing_is_wiped_that_is_no_longer_open_and_what_dried_is_waited_for() -> None:
    """With paint that is open for a minute the lights stay, in words, and every pass goes over dry paint."""
    study = planned("maren", "direct-oil")
    hasty = replace(MEDIA["oil"], open_minutes=(0.5, 1.0))
    found = plan_passes(study.passes.subject(), study.flesh.palette(), SCHOOLS["direct-oil"], None, hasty)
    assert "wiped-lights" not in {p.key for p in found.passes}
    said = next(r.words for r in found.remarks if r.name == "Lights wiped out")
    assert "takes off only wet paint" in said
    assert not any(p.into_wet for p in found.passes)
    for number, one in enumerate(found.passes):
        for below in found.passes[:number]:
            if (below.pieces & one.pieces).any():
                assert one.start_minutes > below.start_minutes + below.work_minutes + 60


def test_the_tone_is_darker_than_its_ground(direct: PassPlan) -> None:
    ground, tone = (float(np.average(c.piece_values())) for c in direct.canvases[:2])
    assert ground - tone == pytest.approx(2.0, abs=0.3)


def test_what_goes_into_wet_paint_does_not_wait(direct: PassPlan) -> None:
    started = direct.passes[1]
    for before, current in zip(direct.passes[1:], direct.passes[2:], strict=False):
        assert current.into_wet
        assert current.start_minutes == pytest.approx(before.start_minutes + before.work_minutes)
    assert not started.into_wet
    assert started.start_minutes > 24 * 60, "the ground is dry"


def test_hair_is_laid_dark_over_all_of_it_then_inside(direct: PassPlan) -> None:
    hair = [p for p in direct.passes if p.hair and p.hair.role in ("base", "locks", "smaller locks")]
    assert len(hair) in (0, 4), "seen from behind and without strokes no hair is found"
    for outer, inner in pairwise(hair):
        assert (outer.pieces >= inner.pieces).all()
        assert outer.pieces.sum() > inner.pieces.sum() or (outer.lines and inner.lines)
        assert outer.target_value < inner.target_value, "each in the colour of its own band"


def test_a_plan_on_another_support_shows_it() -> None:
    canvas = planned("ines", "direct-oil").passes.plan()
    board = planned("ines", "direct-oil", support="gesso board").passes.plan()
    assert (canvas.support.name, board.support.name) == ("primed canvas", "gesso board")
