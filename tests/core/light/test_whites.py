"""White things beside coloured ones: on a drawn patch, and on the sitters with their cloth bleached.

No shown sitter wears white, so none is told; bleached, each takes the hue of what really lies beside it. The
hue is worked out here from the photograph, not from the program's own rim.
"""

from __future__ import annotations

import numpy as np
import pytest

from tests.conftest import study_of
from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.light.tints.whites import tinted_whites
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Floats, Labels

NAMES = ("maren", "tobias", "selda", "orsolya", "hedda")


def patch(beside: tuple[float, float, float], white: tuple[float, float, float]) -> tuple[Floats, Labels]:
    """A white collar, 40 × 60, with skin above it and a wall to its sides."""
    lab = np.full((200, 160, 3), (50, 0, 0), np.float32)
    regions = np.full((200, 160), Region.BACKGROUND, np.uint8)
    lab[40:100, 50:110], regions[40:100, 50:110] = beside, Region.SKIN
    lab[100:140, 50:110], regions[100:140, 50:110] = white, Region.GARMENT
    return lab, regions


@pytest.mark.parametrize("beside", [(60, 18, 20), (60, -12, 4), (40, 3, -25)])
def test_a_white_takes_the_hue_of_its_neighbour_and_keeps_its_value(
    beside: tuple[float, float, float],
) -> None:
    (one,) = tinted_whites(*patch(beside, (90, 0, -1)))
    assert (one.place, one.neighbour) == ("garment", "skin")
    assert one.tint[0] == pytest.approx(90)
    moved = np.array(one.tint[1:]) - (0, -1)
    assert np.hypot(*moved) == pytest.approx(5, abs=0.01)
    np.testing.assert_allclose(np.arctan2(*moved[::-1]), np.arctan2(beside[2], beside[1]), atol=0.01)
    assert 50 < one.x * 160 < 110
    assert 100 < one.y * 200 < 140
    assert ("warmth" in one.words) == (beside[2] > 0)
    assert 2.3 < float(delta_e_2000(np.array(one.tint), np.array(one.lab))) < 10


def test_the_trace_is_that_of_the_neighbour_named_not_of_all_that_is_near() -> None:
    lab, regions = patch((60, 18, 20), (90, 0, 0))
    regions[100:140, 40:50] = regions[100:140, 110:120] = Region.HAIR
    lab[100:140, 40:50] = lab[100:140, 110:120] = (30, -20, 15)
    found = tinted_whites(lab, regions)[0]
    theirs = {"skin": (18, 20), "hair": (-20, 15)}[found.neighbour]
    np.testing.assert_allclose(
        np.arctan2(found.tint[2], found.tint[1]), np.arctan2(theirs[1], theirs[0]), atol=0.01
    )


def test_what_has_a_colour_or_no_coloured_neighbour_is_left_alone() -> None:
    assert tinted_whites(*patch((60, 18, 20), (90, 6, 9))) == ()
    assert tinted_whites(*patch((60, 18, 20), (80, 0, 0))) == ()
    assert tinted_whites(*patch((60, 2, 2), (90, 0, 0))) == ()


def test_a_glaring_white_is_kept_below_the_lights() -> None:
    (one,) = tinted_whites(*patch((60, 18, 20), (99, 0, 0)))
    assert one.tint[0] == 94


@pytest.mark.parametrize("name", NAMES)
def test_bleached_cloth_takes_a_trace_of_skin_or_hair(name: str) -> None:
    study = study_of(name)
    assert study.accents.whites() == ()
    lab, regions = study.accents.lab().copy(), study.light.regions()
    cloth = regions == Region.GARMENT
    lab[cloth] = lab[cloth] * (0.05, 0.05, 0.05) + (89, 0, 0)
    found = tinted_whites(lab, regions)
    assert found
    # Hair parts the cloth of one sitter in pieces.
    assert sum(one.share for one in found) == pytest.approx(cloth.mean(), rel=0.3)
    assert found[0].neighbour in ("skin", "hair", "facial hair")
    mean = np.mean([lab[regions == r].mean(axis=0)[1:] for r in (Region.SKIN, Region.HAIR)], axis=0)
    moved = np.array(found[0].tint[1:]) - found[0].lab[1:]
    assert moved @ mean > 0.8 * np.hypot(*moved) * np.hypot(*mean)
