"""Lit and shadow sides of hair, beard, hat and cloth, on forms whose light is known."""

from __future__ import annotations

import numpy as np
import pytest

from tests.conftest import study_of
from truesitter.core.colour.value import linear_to_value
from truesitter.core.light.form.two_sides import Side, SidedForms, two_sides
from truesitter.core.sitter.region_names import Region

SHAPE = (240, 300)


def parted(
    direction: tuple[float, float], pattern: float = 0.0, even: float = 0.12, region: Region = Region.GARMENT
) -> tuple[SidedForms, np.ndarray]:
    """An upright half cylinder of cloth lit from a side (Lambert), striped or not; and its true cosine."""
    rows, columns = np.indices(SHAPE)
    x = (columns - 150) / 90
    where = (np.abs(x) < 0.98) & (rows > 40)
    normal = np.stack([x, np.zeros(SHAPE), np.sqrt(np.clip(1 - x**2, 0, 1))])
    light = np.array((*direction, 0.5))
    light /= np.hypot(*light[[0, 2]]) if not direction[1] else np.linalg.norm(light)
    cosine = np.clip(np.tensordot(light, normal, 1), 0, 1)
    albedo = 0.35 * np.exp(pattern * np.sign(np.sin(rows / 4) * np.sin(columns / 4)))
    luminance = (albedo * (cosine + even) / (1 + even)).astype(np.float32)
    regions = np.where(where, region, Region.BACKGROUND).astype(np.uint8)
    found = two_sides(luminance, linear_to_value(luminance), regions, direction, 150.0)
    return found, np.where(where, cosine, np.nan)


@pytest.mark.parametrize("side", [-1.0, 1.0])
@pytest.mark.parametrize("pattern", [0.0, 0.5])
@pytest.mark.parametrize("region", [Region.HAIR, Region.FACIAL_HAIR, Region.GARMENT, Region.HAT])
def test_what_faces_the_light_is_lit_whatever_its_pattern(
    side: float, pattern: float, region: Region
) -> None:
    found, cosine = parted((side, 0.0), pattern, region=region)
    (part,) = found.parts
    assert part.region == region
    inside = ~np.isnan(cosine)
    assert (found.sides[~inside] == 0).all()
    assert set(np.unique(found.sides[inside])) == {Side.LIT, Side.SHADOW}
    lit = found.sides == Side.LIT
    assert lit[inside & (cosine > 0.6)].mean() > 0.95
    assert lit[inside & (cosine < 0.05)].mean() < 0.05
    assert part.lit_share == pytest.approx(lit[inside].mean())
    assert part.lit_value > part.shadow_value + 1


def test_mirrored_the_sides_are_mirrored() -> None:
    one, _ = parted((0.8, 0.0))
    two, _ = parted((-0.8, 0.0))
    # Half a pixel aside, for the cylinder's middle is a pixel.
    assert (one.sides[:, 1:] == two.sides[:, :0:-1]).mean() > 0.99


def test_cloth_in_one_light_has_no_sides_and_a_dark_half_towards_the_lamp_is_a_pattern() -> None:
    assert parted((0.0, 0.0), even=5.0)[0].parts == ()
    rows, columns = np.indices(SHAPE)
    regions = np.where(rows > 40, Region.GARMENT, Region.BACKGROUND).astype(np.uint8)
    halves = np.where(columns < 150, 0.1, 0.4).astype(np.float32)
    assert two_sides(halves, linear_to_value(halves), regions, (-1.0, 0.0), 150.0).parts == ()
    assert two_sides(halves, linear_to_value(halves), regions, (1.0, 0.0), 150.0).parts != ()


@pytest.mark.parametrize("name", ["tobias", "selda"])
def test_beard_and_hair_of_a_sitter_are_parted_towards_its_light(name: str) -> None:
    study = study_of(name)
    found, regions = study.light.sides(), study.light.regions()
    towards = np.array(study.light.towards())
    assert Region.HAIR in {p.region for p in found.parts}
    if name == "tobias":
        assert Region.FACIAL_HAIR in {p.region for p in found.parts}
    for part in found.parts:
        middles = [
            np.array(np.nonzero((found.sides == side) & (regions == part.region)))[::-1].mean(axis=1)
            for side in (Side.LIT, Side.SHADOW)
        ]
        assert (middles[0] - middles[1]) @ towards > 0
