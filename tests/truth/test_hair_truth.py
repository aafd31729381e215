"""Direction and sense of the hair against the true strands of the made sitters.

Source: `hair_direction.png` of each sitter (the tangent of the nearest strand), averaged in double
angle over 0.5 % of the height. The scale of the detail, the window and the smoothness were chosen on
maren, tobias and selda; the leak of the sense, the height of a natural hairline and the measures of a
knot on all five. The rooms and the mirrored pictures were only looked at.
"""

from __future__ import annotations

import cv2
import numpy as np
import pytest

from tests.combed import BEARD, BROWS, SCALP, combed, mirrored_study, study_in_a_room
from tests.conftest import study_of, truth
from truesitter.core.hair.field.direction_field import solve_axes
from truesitter.core.hair.field.guides import Guide, Handles
from truesitter.core.hair.field.hair_kinds import Kind


@pytest.mark.parametrize(
    ("name", "half", "ninety"),
    [("maren", 5, 15), ("tobias", 5, 17), ("selda", 5, 20.5), ("orsolya", 2.5, 8)],
)
def test_hair_lies_as_it_truly_does(name: str, half: float, ninety: float) -> None:
    """Without guides, on the regions found; before the coarse detail was taken off: 8.1, 7.3, 21 degrees."""
    score = combed(name, study_of(name))
    assert score.axis() <= half
    assert score.axis(90) <= ninety


@pytest.mark.parametrize("name", ["maren", "tobias", "selda", "orsolya", "ines"])
def test_roots_are_told_from_tips(name: str) -> None:
    """0.97–1.0 of scalp and beard, brows 1.0; before: 0.99, 0.89, 0.72, 0.77, 0.30 and brows 0.11–0.99."""
    score = combed(name, study_of(name))
    assert score.sense(SCALP, BEARD) >= 0.96
    if name != "ines":
        assert score.sense(BROWS) >= 0.92
    assert (study_of(name).hair.sense().knot is not None) == (name in ("selda", "ines"))


@pytest.mark.parametrize("name", ["tobias", "selda"])
def test_roots_are_told_from_tips_in_a_mirror(name: str) -> None:
    score = combed(name, mirrored_study(name), mirrored=True)
    assert score.sense(SCALP, BEARD) >= 0.96
    assert score.sense(BROWS) >= 0.92
    assert score.axis() <= 6.5


@pytest.mark.parametrize(("name", "seed"), [("maren", 11), ("orsolya", 11)])
def test_roots_are_told_from_tips_in_rooms_drawn_by_lot(name: str, seed: int) -> None:
    study, mirrored = study_in_a_room(name, seed)
    score = combed(name, study, mirrored)
    assert score.sense(SCALP, BEARD) >= 0.96
    assert score.sense(BROWS) >= 0.92
    assert score.axis() <= 6.5


def six_guides(name: str) -> tuple[Guide, ...]:
    """Guides by rule: along the true strands through the worst places, one after another.

    Each begins where the mean error of the field over 2 % of the height is greatest and follows the
    truth for 8 % of the height.
    """
    mask, undirected, directed = truth(name).smoothed_direction()
    kinds = np.where(mask, Kind.SCALP, 0).astype(np.uint8)
    lightness = study_of(name).picture.lab()[..., 0]
    height, width = mask.shape
    guides: tuple[Guide, ...] = ()
    cover = cv2.GaussianBlur(mask.astype(np.float32), (0, 0), 0.02 * height)
    for _ in range(6):
        field = solve_axes(lightness, kinds, Handles(guides))
        z = cv2.resize(field.z, (width, height))
        off = np.abs(np.angle(np.exp(1j * (np.arctan2(z[..., 1], z[..., 0]) - 2 * undirected)))) * mask
        worst = cv2.GaussianBlur(off.astype(np.float32), (0, 0), 0.02 * height) * mask * (cover > 0.3)
        row, column = np.unravel_index(int(worst.argmax()), worst.shape)
        ends = []
        for way in (-1, 1):
            x, y, points = float(column), float(row), []
            for _ in range(int(0.04 * height / 4)):
                if not (0 <= int(y) < height and 0 <= int(x) < width and mask[int(y), int(x)]):
                    break
                points.append((x / width, y / height))
                angle = directed[int(y), int(x)]
                x, y = x + way * 4 * np.cos(angle), y - way * 4 * np.sin(angle)
            ends.append(points)
        guides = (*guides, Guide((*ends[0][::-1], *ends[1][1:])))
    return guides


@pytest.mark.parametrize(("name", "half", "ninety"), [("maren", 4.4, 12), ("selda", 4.6, 17)])
def test_six_guides_by_rule_mend_the_worst_places(name: str, half: float, ninety: float) -> None:
    """On the true hair. The bars are what is reached (4.8/14.6 and 4.8/23.7 without them): guides mend
    the tail, the middle is set by how finely the field follows strands.
    """
    mask, undirected, _ = truth(name).smoothed_direction()
    kinds = np.where(mask, Kind.SCALP, 0).astype(np.uint8)

    def errors(handles: Handles) -> np.ndarray:
        z = solve_axes(study_of(name).picture.lab()[..., 0], kinds, handles).z
        big = cv2.resize(z, mask.shape[::-1])
        return np.degrees(
            np.abs(np.angle(np.exp(1j * (np.arctan2(big[..., 1], big[..., 0]) - 2 * undirected))))
        )[mask] / 2  # fmt: skip

    free, guided = errors(Handles()), errors(Handles(six_guides(name)))
    assert np.median(guided) <= half
    assert np.percentile(guided, 90) < min(ninety, np.percentile(free, 90))


def test_coils_lie_as_their_locks_do() -> None:
    """Ines' puff, whose strands turn at every pixel: true strands over 2 % of the height; no whorl in it.

    Chosen on her and on drawn curls; before, 11.9 degrees and two half whorls.
    """
    study, direction = study_of("ines"), truth("ines").direction
    axes = study.hair.axes()
    known, angle = direction > 0, np.radians((direction.astype(float) - 1) / 100)
    double = np.dstack([np.cos(2 * angle), np.sin(2 * angle)]) * known[..., None]
    sigma, size = 0.02 * direction.shape[0], axes.kinds.shape[::-1]
    cover = cv2.resize(cv2.GaussianBlur(known.astype(float), (0, 0), sigma), size)
    mean = cv2.resize(cv2.GaussianBlur(double, (0, 0), sigma), size) / (cover[..., None] + 1e-6)
    coiled = (axes.kinds == Kind.SCALP) & (np.hypot(mean[..., 0], mean[..., 1]) < 0.6) & (cover > 0.5)
    assert coiled.sum() > 3000
    off = np.angle(np.exp(1j * (2 * axes.angle - np.arctan2(mean[..., 1], mean[..., 0])))) / 2
    assert np.degrees(np.median(np.abs(off[coiled]))) <= 15
    assert study.hair.sense().whorls == ()


def test_each_lock_has_its_own_type() -> None:
    """Of ines the puff is coiled and the nape is combed; nobody else of the shown sitters has coils."""
    study = study_of("ines")
    locks, types = study.hair.locks(), study.hair_layers.lock_types()
    coiled = {number for number, type_ in types.items() if type_ == "coily"}
    size = (truth("ines").direction.shape[1], truth("ines").direction.shape[0])
    numbers = cv2.resize(locks.numbers, size, interpolation=cv2.INTER_NEAREST)
    known, angle = truth("ines").direction > 0, np.radians((truth("ines").direction.astype(float) - 1) / 100)
    double = np.dstack([np.cos(2 * angle), np.sin(2 * angle)]) * known[..., None]
    sigma = 0.01 * size[1]
    cover = cv2.GaussianBlur(known.astype(float), (0, 0), sigma) + 1e-6
    mean = cv2.GaussianBlur(double, (0, 0), sigma) / cover[..., None]
    order = np.hypot(mean[..., 0], mean[..., 1])
    scores = [(n in coiled, float(np.median(order[(numbers == n) & known]))) for n in types
              if ((numbers == n) & known).sum() > 2000]  # fmt: skip
    assert np.median([s for is_coiled, s in scores if is_coiled]) < 0.6
    assert np.median([s for is_coiled, s in scores if not is_coiled]) > 0.75
    for name in ("maren", "selda", "orsolya", "tobias"):
        assert "coily" not in study_of(name).hair_layers.lock_types().values()
