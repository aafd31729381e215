"""Light on a made head by Lambert's law, strands of known lie, and the solver against dense algebra."""

from __future__ import annotations

import numpy as np
import pytest
from skimage.feature import structure_tensor as skimage_tensor

from truesitter.core.hair.field.direction_field import AxisField, solve_axes, structure_tensor_field
from truesitter.core.hair.field.field_solver import grid_edges, solve_smooth
from truesitter.core.hair.field.guides import Guide, Handles
from truesitter.core.hair.field.hair_kinds import Kind
from truesitter.core.hair.field.whorls import find_whorls
from truesitter.core.light.key.light_direction import _beside, _in_front, light_direction
from truesitter.core.light.key.tuning import FROM_BEHIND
from truesitter.core.sitter.face import MESH_POINTS, Face

SIZE = (300, 240)


def egg() -> tuple[Face, np.ndarray]:
    """A face whose landmarks lie on the front of an egg, and the egg's normals (H, W, 3), y up."""
    rng = np.random.default_rng(8)
    height, width = SIZE
    radius = np.sqrt(rng.uniform(0, 0.8, 478))
    angle = rng.uniform(0, 2 * np.pi, 478)
    u, v = radius * np.cos(angle), radius * np.sin(angle)
    points = np.column_stack([0.5 + 0.35 * u, 0.5 + 0.36 * v, -0.35 * np.sqrt(1 - u**2 - v**2)])
    y, x = np.mgrid[0:height, 0:width] + 0.5
    a, b = 0.35 * width, 0.36 * height
    up, vp = (x - width / 2) / a, (y - height / 2) / b
    z = np.sqrt(np.clip(1 - up**2 - vp**2, 1e-6, 1))
    normal = np.dstack([up / a, -vp / b, z / a])
    return Face(points), normal / np.linalg.norm(normal, axis=2, keepdims=True)


@pytest.mark.parametrize(
    "light", [(0.0, 0.0, 1.0), (-0.6, 0.5, 0.62), (0.7, 0.3, 0.65), (0.4, -0.5, 0.77), (-0.9, 0.1, 0.42)]
)
def test_the_light_on_a_matt_egg_is_found(light: tuple[float, float, float]) -> None:
    """Source: Lambert (1760), light falls off with the cosine; ambient of a tenth added."""
    face, normal = egg()
    vector = np.array(light) / np.linalg.norm(light)
    luminance = (0.1 + 0.8 * np.clip(normal @ vector, 0, None)).astype(np.float32)
    found = light_direction(luminance, np.ones(SIZE, bool), face)
    assert found is not None
    assert np.degrees(np.arccos(np.clip(np.dot(found.vector, vector), -1, 1))) < 6
    assert found.confidence > 0.95
    noise = np.random.default_rng(1).normal(0, 0.6, SIZE).astype(np.float32)
    unsure = light_direction(luminance + noise, np.ones(SIZE, bool), face)
    assert unsure is not None
    assert unsure.confidence < found.confidence - 0.1


def test_a_refinement_never_steps_behind_the_head() -> None:
    """From farther behind nothing of a face is lit (Lambert 1760), so that such a light fits anything."""
    middle = np.array([0.6, 0.2, FROM_BEHIND + 0.05])
    middle /= np.linalg.norm(middle)
    tried = _beside(middle, 24.0)
    assert (tried[:, 2] <= FROM_BEHIND).any()
    kept = _in_front(tried, middle)
    assert (kept[:, 2] > FROM_BEHIND).all()
    np.testing.assert_array_equal(kept[tried[:, 2] > FROM_BEHIND], tried[tried[:, 2] > FROM_BEHIND])


def test_too_little_skin_tells_nothing_of_the_light() -> None:
    face, _ = egg()
    assert len(face.points) > MESH_POINTS
    skin = np.zeros(SIZE, bool)
    skin[100:110, 100:110] = True
    assert light_direction(np.ones(SIZE, np.float32), skin, face) is None
    assert light_direction(np.zeros(SIZE, np.float32), np.ones(SIZE, bool), face) is None


def stripes(angle: float, period: float, shape: tuple[int, int] = (160, 200)) -> np.ndarray:
    """Sinusoidal strands running at an angle, counter-clockwise from rightwards."""
    y, x = np.mgrid[0 : shape[0], 0 : shape[1]].astype(np.float32)
    across = x * np.sin(np.radians(angle)) + y * np.cos(np.radians(angle))
    return (50 + 20 * np.sin(2 * np.pi * across / period)).astype(np.float32)


@pytest.mark.parametrize("period", [5.0, 9.0, 16.0])
@pytest.mark.parametrize("angle", [-75, -30, 0, 20, 45, 90])
def test_strands_lie_as_they_were_drawn(angle: float, period: float) -> None:
    """The direction of plane waves is known; the field gives it to within 2° away from the rim."""
    z = structure_tensor_field(stripes(angle, period))[30:-30, 30:-30]
    found = np.degrees(np.arctan2(z[..., 1], z[..., 0]) / 2)
    off = np.abs((found - angle + 90) % 180 - 90)
    assert np.quantile(off, 0.95) < 2
    assert np.hypot(z[..., 0], z[..., 1]).min() > 0.5, "and is sure of it"


def test_no_direction_is_sure_where_there_are_no_strands() -> None:
    flat = structure_tensor_field(np.full((100, 100), 50, np.float32))
    assert np.abs(flat).max() < 1e-3
    grain = np.random.default_rng(3).normal(50, 5, (160, 200)).astype(np.float32)
    z = structure_tensor_field(grain)
    assert np.median(np.hypot(z[..., 0], z[..., 1])) < 0.5


def test_the_field_of_hair_follows_strands_and_bends_to_a_guide() -> None:
    hair = np.full((160, 200), Kind.SCALP, np.uint8)
    plain = solve_axes(stripes(0, 9), hair)
    assert isinstance(plain, AxisField)
    assert np.abs(np.degrees(plain.angle)).mean() < 3
    guide = Guide(((0.5, 0.2), (0.5, 0.8)), reach=0.05)
    bent = np.degrees(solve_axes(stripes(0, 9), hair, Handles((guide,))).angle)
    rows, columns = bent.shape
    assert np.abs(np.abs(bent[rows // 3 : 2 * rows // 3, columns // 2]) - 90).mean() < 15
    assert np.abs(bent[:, : columns // 6]).mean() < 6, "far from it nothing changes"


def test_neighbours_of_a_mask_are_each_pair_once() -> None:
    mask = np.array([[1, 1, 0], [1, 0, 1], [1, 1, 1]], bool)
    index, pairs = grid_edges(mask)
    assert index[mask].tolist() == list(range(7))
    assert (index[~mask] == -1).all()
    places = [tuple(p) for p in np.argwhere(mask).tolist()]
    by_hand = {
        (i, j) for i, a in enumerate(places) for j, b in enumerate(places)
        if i < j and abs(a[0] - b[0]) + abs(a[1] - b[1]) == 1
    }  # fmt: skip
    assert {tuple(sorted(p)) for p in pairs.T.tolist()} == by_hand
    assert pairs.shape[1] == len(by_hand)


@pytest.mark.parametrize("seed", range(4))
def test_the_smooth_solution_is_the_least_squares_one(seed: int) -> None:
    """Against numpy's dense least squares of the same sum: data, and neighbours that agree or oppose."""
    rng = np.random.default_rng(seed)
    _, pairs = grid_edges(rng.random((5, 6)) < 0.95)
    n = int(pairs.max()) + 1
    data, weight = rng.normal(size=(n, 2)), rng.uniform(0.1, 2, n)
    coupling = rng.choice([-1.0, 0.5, 2.0], pairs.shape[1])
    rows = [np.sqrt(weight)[:, None] * np.eye(n)]
    for (i, j), c in zip(pairs.T.tolist(), coupling.tolist(), strict=True):
        row = np.zeros((1, n))
        row[0, i], row[0, j] = np.sqrt(abs(c)), -np.sign(c) * np.sqrt(abs(c))
        rows.append(row)
    system = np.concatenate(rows)
    wanted = np.concatenate([np.sqrt(weight)[:, None] * data, np.zeros((len(coupling), 2))])
    expected = np.linalg.lstsq(system, wanted, rcond=None)[0]
    np.testing.assert_allclose(solve_smooth(data, weight, pairs, coupling), expected, atol=1e-8)


@pytest.mark.parametrize("degrees", [0, 20, 45, 70, 90, 120, 150])
def test_structure_tensor_reads_gratings(degrees: float) -> None:
    """Source: gratings at known angles, and skimage.feature.structure_tensor on the same picture."""
    y, x = np.mgrid[0:160, 0:160].astype(np.float32)
    across = np.radians(degrees + 90)
    grating = (50 + 30 * np.sin((x * np.cos(across) - y * np.sin(across)) * 0.8)).astype(np.float32)
    z = structure_tensor_field(grating)
    middle = z[50:110, 50:110].mean(axis=(0, 1))
    ours = np.degrees(0.5 * np.arctan2(middle[1], middle[0])) % 180
    rr, rc, cc = (a[50:110, 50:110].mean() for a in skimage_tensor(grating, sigma=2, order="rc"))
    theirs = np.degrees(0.5 * np.arctan2(2 * rc, rr - cc)) % 180
    for found in (ours, theirs):
        assert min(abs(found - degrees), 180 - abs(found - degrees)) < 1


def test_a_circular_field_winds_once_and_a_saddle_is_none() -> None:
    """Source: the winding number of a circular field is +1."""
    y, x = np.mgrid[-30:31, -30:31].astype(np.float32) + 0.25
    angle = np.arctan2(-y, x) + np.pi / 2
    inside = np.full(angle.shape, Kind.SCALP, np.uint8)
    for factor, expected in ((1, [1.0]), (-1, [])):
        z = np.dstack([np.cos(2 * factor * angle), np.sin(2 * factor * angle)]).astype(np.float32)
        whorls = find_whorls(AxisField(z, np.ones(angle.shape, np.float32), inside))
        assert [w.index for w in whorls] == expected
    assert whorls == ()
