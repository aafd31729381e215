"""Simple solids under a light: against Lambert's law in closed form, and against the sitters.

Of a matt ball the light reaches half, and it is lightest where it faces the light; seen from the front a ball
lit at an angle t to the line of sight shows (1 - cos t) / 2 of its disc in shadow (phases of the moon).
"""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import study_of
from truesitter.core.light.form.solids import BODY, PARTS, Solid, lit, lit_solids, solid_normals

ANGLES = st.floats(0.05, 3.0)


@given(ANGLES, st.floats(0, 2 * np.pi))
def test_a_ball_has_the_phases_of_the_moon(angle: float, turn: float) -> None:
    key = (np.sin(angle) * np.cos(turn), np.sin(angle) * np.sin(turn), np.cos(angle))
    (ball,) = lit_solids((("x", Solid.BALL),), key, 96)
    assert ball.shadow == pytest.approx((1 - np.cos(angle)) / 2, abs=0.03)
    if angle < np.pi / 2 - 0.15:
        assert (ball.x, ball.y) == pytest.approx(key[:2], abs=0.05)


@given(ANGLES, st.floats(0, 2 * np.pi))
def test_a_bowl_is_lightest_across_from_the_light(angle: float, turn: float) -> None:
    key = (np.sin(angle) * np.cos(turn), np.sin(angle) * np.sin(turn), np.cos(angle))
    ball, bowl = lit_solids((("x", Solid.BALL), ("x", Solid.BOWL)), key, 96)
    assert (bowl.x, bowl.y) == pytest.approx((-ball.x, -ball.y), abs=0.05)
    assert bowl.shadow == pytest.approx(ball.shadow, abs=0.01)


@pytest.mark.parametrize(("solid", "moves"), [(Solid.UPRIGHT, 0), (Solid.LYING, 1)])
def test_a_cylinder_turns_only_round_its_axis(solid: Solid, moves: int) -> None:
    cosine, inside = lit(solid, (0.6, 0.48, 0.64), 64)
    assert inside.all()
    along = cosine if solid is Solid.UPRIGHT else cosine.T
    np.testing.assert_allclose(along, along[:1].repeat(64, axis=0))
    one = lit_solids((("x", solid),), (0.6, 0.48, 0.64))[0]
    # Where its normal lies in the plane of light and axis: tan of the angle is across / front.
    across = (0.6, 0.48)[moves]
    assert (one.x, one.y)[moves] == pytest.approx(across / np.hypot(across, 0.64), abs=0.03)
    assert (one.x, one.y)[1 - moves] == pytest.approx(0, abs=0.02)


@pytest.mark.parametrize("solid", list(Solid))
def test_every_surface_is_made_of_unit_vectors_towards_the_viewer(solid: Solid) -> None:
    normals, inside = solid_normals(solid, 40)
    np.testing.assert_allclose(np.linalg.norm(normals[inside], axis=-1), 1, atol=1e-9)
    assert (normals[inside][:, 2] >= 0).all()


def test_a_dome_leans_back() -> None:
    """It faces upwards in its middle, so what comes from below meets it squarely only near its foot."""
    dome, ball = lit_solids((("x", Solid.DOME), ("x", Solid.BALL)), (0.0, -0.5, 0.866))
    assert dome.y < ball.y
    assert dome.words.startswith("X, a dome: lightest along its foot")


@pytest.mark.parametrize("name", ["maren", "tobias", "selda", "orsolya", "hedda"])
def test_cheeks_of_the_sitters_are_lit_as_balls_are(name: str) -> None:
    """The cheek on the ball's light side is the lighter one in the photograph."""
    study = study_of(name)
    x = study.light.key()[0]
    areas, value = study.sitter.areas(), study.picture.value()
    step = value.shape[0] / areas.labels.shape[0]
    means = []
    for side in ("left", "right"):
        rows, columns = np.nonzero(areas.mask(f"{side} cheek"))
        means.append(float(value[(rows * step).astype(int), (columns * step).astype(int)].mean()))
    assert abs(x) > 0.15
    assert np.sign(means[1] - means[0]) == np.sign(x)
    words = {s.part: s.words for s in study.light.solids()}
    assert tuple(words) == tuple(part for part, _ in PARTS)
    assert ("right" if x > 0 else "left") in words["chin"]
    assert ("left" if x > 0 else "right") in words["iris"]


def test_a_body_without_a_face_has_its_own_parts() -> None:
    assert [s.part for s in study_of("ines").light.solids()] == [part for part, _ in BODY]
