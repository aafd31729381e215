"""Growth lines and whorls on made fields."""

from __future__ import annotations

from itertools import combinations

import numpy as np
import pytest
from scipy.spatial import cKDTree

from truesitter.core.hair.field import AxisField, Guide
from truesitter.core.hair.lines import growth_lines
from truesitter.core.hair.sense import GrowthHints, Whorl, find_whorls, orient

SIZE = 120


def swirl(index: float, centre: tuple[float, float] = (60.3, 60.3)) -> AxisField:
    """A field whose undirected direction winds `index` times round a point; radial for 1."""
    y, x = np.mgrid[0:SIZE, 0:SIZE].astype(float)
    angle = index * np.arctan2(-(y - centre[1]), x - centre[0])
    z = np.dstack([np.cos(2 * angle), np.sin(2 * angle)]).astype(np.float32)
    return AxisField(z, np.ones((SIZE, SIZE), np.float32), np.ones((SIZE, SIZE), bool))


def nothing() -> GrowthHints:
    none = np.zeros((SIZE, SIZE), bool)
    return GrowthHints(none, none, None)


@pytest.mark.parametrize("spacing", [6.0, 10.0, 16.0])
def test_no_two_lines_run_closer_than_half_their_spacing(spacing: float) -> None:
    y, x = np.mgrid[0:SIZE, 0:SIZE].astype(float)
    angle = 0.6 * np.sin(x / 25) + 0.4 * np.cos(y / 30)
    directed = np.dstack([np.cos(angle), np.sin(angle)]).astype(np.float32)
    lines = growth_lines(directed, np.ones((SIZE, SIZE), bool), spacing)
    points = [line.points * (SIZE, SIZE) for line in lines]
    assert len(points) > SIZE / spacing / 2
    for one, other in combinations(points, 2):
        assert cKDTree(one).query(other)[0].min() > 0.4 * spacing
    for number, line in enumerate(points[1:], 1):
        clear = cKDTree(np.concatenate(points[:number])).query(line)[0].max()
        assert clear > 0.75 * spacing, "a line begins where there is room"
    total = sum(np.hypot(*np.diff(p, axis=0).T).sum() for p in points)
    assert total * spacing == pytest.approx(SIZE**2, rel=0.45), "and they fill the hair"


def test_no_line_runs_on_where_the_hair_turns_back() -> None:
    facing = np.zeros((SIZE, SIZE, 2), np.float32)
    facing[:, : SIZE // 2, 0], facing[:, SIZE // 2 :, 0] = 1, -1
    for line in growth_lines(facing, np.ones((SIZE, SIZE), bool), 8):
        columns = line.points[:, 0] * SIZE
        assert columns.max() <= SIZE / 2 + 1 or columns.min() >= SIZE / 2 - 1


def test_lines_come_row_by_row() -> None:
    right = np.zeros((SIZE, SIZE, 2), np.float32)
    right[..., 0] = 1
    tops = [line.points[:, 1].mean() for line in growth_lines(right, np.ones((SIZE, SIZE), bool), 10)]
    assert tops == sorted(tops)


def test_hair_turns_outward_from_a_whorl() -> None:
    field = swirl(1.0)
    (whorl,) = find_whorls(field)
    assert (whorl.x, whorl.y) == pytest.approx((0.5, 0.5), abs=0.02)
    assert whorl.index == 1
    directed = orient(field, nothing(), whorls=(whorl,))
    y, x = np.mgrid[0:SIZE, 0:SIZE].astype(float)
    outward = np.dstack([x - 60, -(y - 60)])
    near = np.hypot(x - 60, y - 60)
    ring = (near > 3) & (near < 13)
    along = (directed * outward).sum(axis=2)[ring] / near[ring]
    assert (along > 0.9).mean() > 0.97


@pytest.mark.parametrize("tilt", [-12.0, 12.0])
def test_a_lock_beside_a_whorl_grows_away_from_it(tilt: float) -> None:
    """Nearly level hair to the left and to the right: gravity and neighbours have no say."""
    mask = np.zeros((SIZE, SIZE), bool)
    mask[58:63, 62:75] = mask[58:63, 46:59] = True
    angle = np.full((SIZE, SIZE), np.radians(tilt))
    z = np.dstack([np.cos(2 * angle), np.sin(2 * angle)]).astype(np.float32)
    field = AxisField(z, np.ones((SIZE, SIZE), np.float32), mask)
    directed = orient(field, nothing(), whorls=(Whorl(60.5 / SIZE, 60.5 / SIZE, 1.0),))
    assert (directed[58:63, 62:75, 0] > 0.9).all()
    assert (directed[58:63, 46:59, 0] < -0.9).all()


def test_half_swirls_close_together_are_one_whorl_and_far_apart_two() -> None:
    y, x = np.mgrid[0:SIZE, 0:SIZE].astype(float)

    def pair(apart: float) -> list[float]:
        angle = sum(0.5 * np.arctan2(-(y - 60.3), x - (60.3 + side * apart / 2)) for side in (-1, 1))
        z = np.dstack([np.cos(2 * angle), np.sin(2 * angle)]).astype(np.float32)
        field = AxisField(z, np.ones((SIZE, SIZE), np.float32), np.ones((SIZE, SIZE), bool))
        return sorted(w.index for w in find_whorls(field))

    assert pair(3) == [1.0]
    assert pair(40) == [0.5, 0.5]


def test_a_swirl_that_cannot_be_seen_or_winds_the_other_way_is_no_whorl() -> None:
    field = swirl(1.0)
    faint = AxisField(field.z, field.coherence * 0.2, field.mask)
    assert find_whorls(faint) == ()
    assert find_whorls(swirl(-0.5)) == ()


def test_a_guide_says_which_end_is_the_root_against_gravity() -> None:
    z = np.zeros((SIZE, SIZE, 2), np.float32)
    z[..., 0] = -1  # upright strands
    field = AxisField(z, np.ones((SIZE, SIZE), np.float32), np.ones((SIZE, SIZE), bool))
    assert orient(field, nothing())[60, 60, 1] < -0.9, "hair hangs"
    up = orient(field, nothing(), (Guide(((0.5, 0.8), (0.5, 0.2))),))
    assert up[60, 60, 1] > 0.9
