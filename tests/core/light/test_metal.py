"""Polished metal in its tones: on a drawn buckle whose bands are known, and on painted cloth."""

from __future__ import annotations

import cv2
import numpy as np
import pytest

from tests.conftest import study_of
from truesitter.core.colour.value import value_to_lightness
from truesitter.core.graph.memo import Memo
from truesitter.core.light.mirrored.metal import MetalPart, metal_map
from truesitter.core.light.mirrored.polish import Polish
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages import Study
from truesitter.core.stages.flesh_stage import FleshStage
from truesitter.core.types import Floats, Mask
from truesitter.formats.pictures.light_pictures import metal_picture
from truesitter.formats.pictures.png import encode_png

BANDS = ((1.5, 80), (5.0, 40), (9.0, 40), (2.0, 40))
"""Value of each band of the buckle, and its width in pixels."""


def buckle(mm_per_px: float = 0.25) -> tuple[Floats, Mask, float]:
    """A square of upright bands on a grey ground, 240 × 240."""
    value = np.full((240, 240), 5.0, np.float32)
    value[20:220, 20:220] = np.concatenate([np.full(width, v) for v, width in BANDS])
    mask = np.zeros((240, 240), bool)
    mask[20:220, 20:220] = True
    lab = np.zeros((240, 240, 3), np.float32)
    lab[..., 0] = value_to_lightness(value)
    return lab, mask, mm_per_px


def test_the_tones_are_the_bands_that_were_drawn() -> None:
    lab, mask, mm = buckle()
    found = metal_map(lab, mask, mm)
    assert [t.part for t in found.tones] == [MetalPart.DARK, MetalPart.BETWEEN, MetalPart.LIGHT]
    assert [t.share for t in found.tones] == pytest.approx([0.6, 0.2, 0.2], abs=0.01)
    assert found.tones[2].lab[0] == pytest.approx(float(value_to_lightness(np.array(9.0))), abs=0.2)
    assert (found.codes[~mask] == MetalPart.NONE).all()
    assert (found.codes[50, 25], found.codes[50, 120], found.codes[50, 160]) == (1, 2, 3)


def test_hard_edges_lie_between_the_bands_and_soft_ones_nowhere() -> None:
    lab, mask, mm = buckle()
    found = metal_map(lab, mask, mm)
    columns = np.flatnonzero(found.hard[120])
    assert found.hard_share > 0.6
    for border in (100, 140, 180):
        assert np.abs(columns - border).min() <= 1
    assert all(min(abs(c - b) for b in (100, 140, 180)) <= 3 for c in columns)
    ramp = np.zeros((240, 240, 3), np.float32)
    ramp[..., 0] = np.linspace(20, 95, 240, dtype=np.float32)
    soft = metal_map(ramp, mask, mm)
    assert soft.hard_share == 0
    assert "100 % of its edges" not in soft.words("buckle")
    assert found.words("buckle").startswith("Buckle: 60 % mirrored dark, 20 % between, 20 % mirrored light.")


def test_a_wall_that_shines_is_no_metal(monkeypatch: pytest.MonkeyPatch) -> None:
    base = study_of("orsolya")
    study = Study(base.sha256, base.source.load, base.settings, Memo())

    def shines(self: FleshStage, family: str) -> Polish | None:
        return Polish(1, 9, 1, None, None) if self.family_mask(family).mean() > 0.01 else None

    monkeypatch.setattr(FleshStage, "polish", shines)
    names = [name for name, _ in study.flesh.metals()]
    assert names
    assert not any(name.startswith("background") for name in names)


def test_a_breastplate_is_told_in_tones_and_cloth_is_not() -> None:
    """The cloth of a sitter given the bands of metal; as it is no metal is seen on her."""
    base = study_of("orsolya")
    assert base.flesh.metals() == ()
    picture = base.picture.framed().copy()
    assert metal_picture(base).shape == picture.shape
    cloth = base.sitter.regions().labels == Region.GARMENT
    bands = np.array([25, 240, 40, 225], np.uint8)[np.arange(picture.shape[1]) // 60 % 4]
    picture[cloth] = np.broadcast_to(bands, cloth.shape)[cloth][:, None]
    study = Study.of_bytes(encode_png(picture), base.settings)
    ((name, metal),) = study.flesh.metals()
    assert name.startswith("garment")
    assert [t.part for t in metal.tones][:: len(metal.tones) - 1] == [MetalPart.DARK, MetalPart.LIGHT]
    assert metal.tones[0].share + metal.tones[-1].share > 0.7
    assert metal.hard_share > 0.4
    shown = metal_picture(study).astype(int)
    inside = cv2.erode(cloth.astype(np.uint8), np.ones((41, 41), np.uint8)) > 0
    dark = inside & (np.broadcast_to(bands, cloth.shape) < 100)
    assert shown[dark].mean() < 70
    assert shown[inside & ~dark].mean() > 150
