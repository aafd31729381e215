"""Near mixtures of an area, all from one heap."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import study_of
from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.paint.board.near import near_mixtures, near_targets
from truesitter.core.paint.board.tuning import LEAST_APART, MOST_APART
from truesitter.core.paint.recipes.mixing import mix
from truesitter.core.paint.recipes.pricing import recipe_cost
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.paint.tubes.palettes import STARTERS
from truesitter.core.refusal import Refusal


def area(
    spread: tuple[float, float, float], mean: tuple[float, float, float] = (60.0, 14.0, 20.0)
) -> np.ndarray:
    """Pixels round a mean, spread so much in L*, a* and b*."""
    return np.random.default_rng(4).normal(mean, spread, (4000, 3)).astype(np.float32)


@given(st.tuples(*[st.floats(0, 12)] * 3), st.floats(15, 90))
def test_targets_lie_round_the_mean_neither_too_near_nor_too_far(
    spread: tuple[float, float, float], light: float
) -> None:
    lab = area(spread, (light, 12.0, 16.0))
    mean, *others = near_targets(lab)
    np.testing.assert_allclose(mean, lab.mean(axis=0), atol=0.01)
    varies = sorted(np.sqrt(np.maximum(np.linalg.eigvalsh(np.cov(lab.astype(float).T, bias=True)), 0)))[1:]
    assert len(others) == 2 * sum(s >= 0.2 for s in varies)
    for other in others:
        assert LEAST_APART - 0.1 <= float(delta_e_2000(other, mean)) <= MOST_APART + 0.1


def test_targets_follow_the_areas_own_two_axes() -> None:
    """An area that varies most in lightness, then in b*: those two, lighter first, and hardly in a*."""
    mean, lighter, darker, one, other = near_targets(area((7.0, 0.2, 3.5)))
    assert lighter[0] - mean[0] == pytest.approx(7, abs=0.4)
    assert darker[0] - mean[0] == pytest.approx(-7, abs=0.4)
    assert abs(one[2] - other[2]) > 6
    assert abs(one[1] - other[1]) < 1
    with pytest.raises(Refusal, match="without pixels"):
        near_targets(np.zeros((0, 3), np.float32))


@pytest.mark.parametrize("palette", [STARTERS[0], STARTERS[1]], ids=lambda p: p.key)
def test_all_come_from_one_heap_and_are_what_they_say(palette: object) -> None:
    found = near_mixtures(area((5.0, 2.0, 3.0)), palette, Wishes(most_tubes=4))  # type: ignore[arg-type]
    total = sum(found.heap.parts.values())
    heap = np.array(found.heap.predicted.lab)
    assert len(found.near) == 4
    for one in found.near:
        assert sum(one.added.values()) <= one.base, "a small addition"
        amounts = {k: one.base * n / total for k, n in found.heap.parts.items()}
        for key, n in one.added.items():
            amounts[key] = amounts.get(key, 0.0) + n
        assert mix(amounts, palette).lab == pytest.approx(one.made.lab, abs=1e-6)  # type: ignore[arg-type]
        assert float(delta_e_2000(np.array(one.made.lab), heap)) < 11
        wanted = np.array(one.target.lab) + heap - np.array(found.heap.target_lab)
        nearer = float(recipe_cost(np.array(one.made.lab), wanted))
        assert nearer <= float(recipe_cost(heap, wanted)) + 0.01, "no addition leads away"
    assert sum(bool(one.added) for one in found.near) >= 2
    lighter, darker = found.near[0].made.value, found.near[1].made.value
    assert darker < found.heap.predicted.value < lighter


def test_greys_stay_grey_and_flat_colour_has_no_neighbours() -> None:
    """A monochrome painting, and a wall of one colour."""
    grey = area((8.0, 0.0, 0.0), (50.0, 0.0, 0.0))
    targets = near_targets(grey)
    assert targets.shape == (3, 3)
    np.testing.assert_allclose(targets[:, 1:], 0, atol=1e-6)
    assert near_targets(area((0.0, 0.0, 0.0))).shape == (1, 3)
    assert near_mixtures(area((0.0, 0.0, 0.0)), STARTERS[0]).near == ()


@pytest.mark.parametrize("most", [2, 3, 4, 6])
def test_no_near_mixture_takes_more_tubes_than_the_painter_allows(most: int) -> None:
    wishes = Wishes(most_tubes=most, without=("phthalo-blue",))
    found = near_mixtures(area((5.0, 2.0, 3.0)), STARTERS[1], wishes)
    for one in found.near:
        tubes = {*found.heap.parts, *one.added}
        assert len(tubes) <= most
        assert "phthalo-blue" not in tubes


def test_a_cheek_varies_as_the_picture_does() -> None:
    study = study_of("maren")
    face = study.sitter.face
    assert face is not None
    x, y = face.spot(50)
    found = study.flesh.near((x, y), "group")
    _, mean = study.flesh.colour_of_group((x, y))
    assert float(delta_e_2000(np.array(found.heap.target_lab), np.array(study.flesh.target(mean)))) < 0.1
    assert len(found.near) == 4
