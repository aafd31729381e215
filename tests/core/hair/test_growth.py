"""Growth lines and whorls on made fields."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.spatial import cKDTree

from tests.conftest import study_of
from truesitter.core.hair.field.direction_field import AxisField, solve_axes
from truesitter.core.hair.field.growth_lines import GrowthLine, growth_lines, painting_order
from truesitter.core.hair.field.guides import DrawnWhorl, Guide, Handles
from truesitter.core.hair.field.hair_beliefs import Signs
from truesitter.core.hair.field.hair_kinds import Kind, kinds_of
from truesitter.core.hair.field.root_sense import orient
from truesitter.core.hair.field.whorls import Whorl, find_whorls, with_drawn
from truesitter.core.sitter.region_names import Region

SIZE = 120
ALL = np.full((SIZE, SIZE), Kind.SCALP, np.uint8)


def whorl_field(index: float, centre: tuple[float, float] = (60.3, 60.3)) -> AxisField:
    """A field whose undirected direction winds `index` times round a point; radial for 1."""
    y, x = np.mgrid[0:SIZE, 0:SIZE].astype(float)
    angle = index * np.arctan2(-(y - centre[1]), x - centre[0])
    z = np.dstack([np.cos(2 * angle), np.sin(2 * angle)]).astype(np.float32)
    return AxisField(z, np.ones((SIZE, SIZE), np.float32), ALL)


def signs(*whorls: Whorl, kinds: np.ndarray = ALL) -> Signs:
    return Signs(kinds, np.zeros((SIZE, SIZE), bool), whorls=whorls)


def gaps(lines: tuple[GrowthLine, ...]) -> np.ndarray:
    """Distance from points of each line to the nearest other line, in pixels."""
    dense = []
    for line in lines:
        p = line.points * (SIZE, SIZE)
        dense.append(np.concatenate([np.linspace(a, b, 8) for a, b in pairwise(p)]))
    trees = [cKDTree(p) for p in dense]
    return np.concatenate([
        np.min([tree.query(p[::4])[0] for m, tree in enumerate(trees) if m != n], axis=0)
        for n, p in enumerate(dense)
    ])  # fmt: skip


@pytest.mark.parametrize("spacing", [6.0, 10.0, 16.0])
def test_lines_keep_their_spacing(spacing: float) -> None:
    y, x = np.mgrid[0:SIZE, 0:SIZE].astype(float)
    angle = 0.6 * np.sin(x / 25) + 0.4 * np.cos(y / 30)
    directed = np.dstack([np.cos(angle), np.sin(angle)]).astype(np.float32)
    lines = growth_lines(directed, ALL > 0, spacing)
    apart = gaps(lines) / spacing
    assert apart.min() > 0.7
    assert ((apart > 0.8) & (apart < 1.25)).mean() > 0.8
    assert np.median(apart) == pytest.approx(1, abs=0.1)
    total = sum(np.hypot(*np.diff(line.points * SIZE, axis=0).T).sum() for line in lines)
    assert total * spacing == pytest.approx(SIZE**2, rel=0.25), "and they fill the hair"


def test_no_line_runs_on_where_the_hair_turns_back() -> None:
    facing = np.zeros((SIZE, SIZE, 2), np.float32)
    facing[:, : SIZE // 2, 0], facing[:, SIZE // 2 :, 0] = 1, -1
    for line in growth_lines(facing, np.ones((SIZE, SIZE), bool), 8):
        columns = line.points[:, 0] * SIZE
        assert columns.max() <= SIZE / 2 + 1 or columns.min() >= SIZE / 2 - 1


@given(st.integers(0, 20))
def test_no_line_leaves_the_hair(seed: int) -> None:
    draw = np.random.default_rng(seed)
    y, x = np.mgrid[0:SIZE, 0:SIZE].astype(float)
    mask = np.hypot(x - draw.uniform(30, 90), y - draw.uniform(30, 90)) < draw.uniform(15, 50)
    angle = draw.uniform(0, 6) + np.sin(x / draw.uniform(10, 40))
    directed = np.dstack([np.cos(angle), np.sin(angle)]).astype(np.float32)
    for line in growth_lines(directed, mask, draw.uniform(2, 12)):
        columns, rows = (line.points * (SIZE, SIZE)).astype(int).T
        assert mask[rows, columns].all()


def test_what_lies_behind_is_painted_first() -> None:
    """Shingles: of hanging hair the lowest roots first; of hair drawn up the highest; brows last."""

    def upright(x: float, root: float, tip: float, kind: int = 1) -> GrowthLine:
        return GrowthLine(np.array([(x, root), (x, (root + tip) / 2), (x, tip)]), 1.0, kind)

    hanging = (upright(0.2, 0.1, 0.4), upright(0.4, 0.5, 0.8), upright(0.6, 0.3, 0.6))
    brow = upright(0.5, 0.9, 0.95, Kind.LEFT_BROW)
    order = painting_order((brow, *hanging), (SIZE, SIZE))
    assert [line.points[0, 1] for line in order] == [0.5, 0.3, 0.1, 0.9]
    up = painting_order((upright(0.2, 0.6, 0.2), upright(0.4, 0.4, 0.1)), (SIZE, SIZE))
    assert [line.points[0, 1] for line in up] == [0.4, 0.6]


def test_the_strict_part_is_measured_along_the_line() -> None:
    line = GrowthLine(np.array([(0, 0), (0.1, 0), (0.2, 0), (0.3, 0), (1.0, 0)]))
    assert line.split(0.25) == 3
    assert line.split(0.01) == 1


def test_hair_turns_outward_from_a_whorl() -> None:
    field = whorl_field(1.0)
    (whorl,) = find_whorls(field)
    assert (whorl.x, whorl.y) == pytest.approx((0.5, 0.5), abs=0.02)
    assert whorl.index == 1
    directed = orient(field, signs(whorl))
    y, x = np.mgrid[0:SIZE, 0:SIZE].astype(float)
    outward = np.dstack([x - 60, -(y - 60)])
    near = np.hypot(x - 60, y - 60)
    ring = (near > 3) & (near < 13)
    along = (directed * outward).sum(axis=2)[ring] / near[ring]
    assert (along > 0.9).mean() > 0.97


@pytest.mark.parametrize("tilt", [-12.0, 12.0])
def test_a_lock_beside_a_whorl_grows_away_from_it(tilt: float) -> None:
    """Nearly level hair to the left and to the right: gravity and neighbours have no say."""
    kinds = np.zeros((SIZE, SIZE), np.uint8)
    kinds[58:63, 62:75] = kinds[58:63, 46:59] = Kind.SCALP
    angle = np.full((SIZE, SIZE), np.radians(tilt))
    z = np.dstack([np.cos(2 * angle), np.sin(2 * angle)]).astype(np.float32)
    field = AxisField(z, np.ones((SIZE, SIZE), np.float32), kinds)
    directed = orient(field, signs(Whorl(60.5 / SIZE, 60.5 / SIZE, 1.0), kinds=kinds))
    assert (directed[58:63, 62:75, 0] > 0.9).all()
    assert (directed[58:63, 46:59, 0] < -0.9).all()


def test_half_whorls_close_together_are_one_whorl_and_far_apart_two() -> None:
    y, x = np.mgrid[0:SIZE, 0:SIZE].astype(float)

    def pair(apart: float) -> list[float]:
        angle = sum(0.5 * np.arctan2(-(y - 60.3), x - (60.3 + side * apart / 2)) for side in (-1, 1))
        z = np.dstack([np.cos(2 * angle), np.sin(2 * angle)]).astype(np.float32)
        field = AxisField(z, np.ones((SIZE, SIZE), np.float32), ALL)
        return sorted(w.index for w in find_whorls(field))

    assert pair(3) == [1.0]
    assert pair(40) == [0.5, 0.5]


def test_a_whorl_that_cannot_be_seen_or_winds_the_other_way_is_none() -> None:
    field = whorl_field(1.0)
    faint = AxisField(field.z, field.coherence * 0.2, field.kinds)
    assert find_whorls(faint) == ()
    assert find_whorls(whorl_field(-0.5)) == ()


def test_a_guide_says_which_end_is_the_root_against_gravity() -> None:
    z = np.zeros((SIZE, SIZE, 2), np.float32)
    z[..., 0] = -1  # upright strands
    field = AxisField(z, np.ones((SIZE, SIZE), np.float32), ALL)
    assert orient(field, signs())[60, 60, 1] < -0.9, "hair hangs"
    up = orient(field, signs(), Handles((Guide(((0.5, 0.8), (0.5, 0.2))),)))
    assert up[60, 60, 1] > 0.9


def test_sense_is_carried_past_the_upright() -> None:
    """Strands a little to either side of the upright have opposite axes: neighbours share their sense."""
    x = np.mgrid[0:SIZE, 0:SIZE][1].astype(float)
    angle = np.pi / 2 + 0.15 * np.sin(x / 6)
    z = np.dstack([np.cos(2 * angle), np.sin(2 * angle)]).astype(np.float32)
    field = AxisField(z, np.ones((SIZE, SIZE), np.float32), ALL)
    up = orient(field, signs(), Handles((Guide(((0.1, 0.9), (0.1, 0.1))), Guide(((0.2, 0.9), (0.2, 0.1))))))
    assert (up[:, :40, 1] > 0.9).all()


def level_field() -> AxisField:
    z = np.zeros((SIZE, SIZE, 2), np.float32)
    z[..., 0] = 1
    return AxisField(z, np.ones((SIZE, SIZE), np.float32), ALL)


def test_hair_leaves_a_parting_to_both_sides_and_a_hairline_inward() -> None:
    parting = Handles(partings=(((0.5, 0.1), (0.5, 0.9)),))
    parted = orient(level_field(), signs(), parting)
    assert (parted[30:90, 10:55, 0] < -0.9).all()
    assert (parted[30:90, 66:110, 0] > 0.9).all()
    line = Handles(hairlines=(((0.95, 0.0), (0.95, 1.0)),))
    assert (orient(level_field(), signs(), line)[30:90, 10:90, 0] < -0.9).all()


@pytest.mark.parametrize(("turns", "sign"), [("clockwise", -1), ("anticlockwise", 1), ("straight", 0)])
def test_a_drawn_whorl_turns_the_way_it_was_set(turns: str, sign: int) -> None:
    """Leaving the middle to the right, clockwise hair bends downwards, as seen in the picture."""
    flat = np.full((SIZE * 3, SIZE * 3), 50, np.float32)
    hair = np.full(flat.shape, Kind.SCALP, np.uint8)
    handles = Handles(whorls=(DrawnWhorl(0.5, 0.5, 0.2, turns),))  # type: ignore[arg-type]
    field = solve_axes(flat, hair, handles)
    directed = orient(field, Signs(field.kinds, field.kinds == 0), handles)
    right = directed[SIZE * 3 // 2, SIZE * 3 // 2 + 30]
    assert right[0] > 0.5
    assert np.sign(round(float(right[1]), 1)) == sign
    above = directed[SIZE * 3 // 2 - 30, SIZE * 3 // 2]
    assert above[1] > 0.5, "and outward on every side"


def test_a_whorl_set_by_hand_takes_the_place_of_those_found_in_it() -> None:
    found = (Whorl(0.5, 0.5, 0.5), Whorl(0.8, 0.5, 1.0))
    both = with_drawn(found, (DrawnWhorl(0.52, 0.5, 0.1),), (SIZE, SIZE))
    assert [(w.x, w.index) for w in both] == [(0.52, 1.0), (0.8, 1.0)]
    assert with_drawn(found, (), (SIZE, SIZE)) == found


def test_kinds_do_not_comb_one_another() -> None:
    """Beard beside the hair of the head: each keeps its own way, though their strands agree."""
    kinds = ALL.copy()
    kinds[:, 60:] = Kind.BEARD
    z = np.zeros((SIZE, SIZE, 2), np.float32)
    z[..., 0] = -1  # upright strands
    field = AxisField(z, np.ones((SIZE, SIZE), np.float32), kinds)
    directed = orient(field, signs(kinds=kinds), Handles((Guide(((0.25, 0.9), (0.25, 0.1))),)))
    assert (directed[:, :60, 1] > 0.9).all()
    assert (directed[:, 60:, 1] < -0.9).all()


def test_the_moustache_has_two_halves_and_brows_two_sides() -> None:
    study = study_of("tobias")
    kinds = kinds_of(study.sitter.regions().labels, study.sitter.face)
    assert set(np.unique(kinds)) == {int(k) for k in Kind}
    middle = {k: float(np.nonzero(kinds == k)[1].mean()) for k in Kind}
    assert middle[Kind.LEFT_MOUSTACHE] < middle[Kind.RIGHT_MOUSTACHE]
    assert middle[Kind.LEFT_BROW] < middle[Kind.RIGHT_BROW]
    field, directed = study.hair.axes(), study.hair.sense().directed
    for kind, way in ((Kind.LEFT_MOUSTACHE, -1), (Kind.RIGHT_MOUSTACHE, 1)):
        assert (directed[field.kinds == kind][:, 0] * way > 0).mean() > 0.9, "from the middle outward"


def test_without_a_face_facial_hair_is_beard() -> None:
    labels = np.full((20, 20), Region.FACIAL_HAIR, np.uint8)
    labels[:5] = Region.HAIR
    kinds = kinds_of(labels, None)
    assert (kinds[:5] == Kind.SCALP).all()
    assert (kinds[5:] == Kind.BEARD).all()


@pytest.mark.parametrize("count", [15, 25, 38, 81])
def test_a_spacing_that_goes_evenly_into_the_picture_stays_inside_it(count: int) -> None:
    """Rounding used to put the last seed just past the last column."""
    directed = np.zeros((40, 288, 2), np.float32)
    directed[..., 0] = 1
    found = growth_lines(directed, np.ones((40, 288), bool), 2 * 288 / count, 1.0)
    assert found
    assert all((line.points >= 0).all() and (line.points <= 1).all() for line in found)
