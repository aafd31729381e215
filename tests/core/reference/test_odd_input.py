"""Photographs, swatches and readings that are right but odd."""

from __future__ import annotations

import io

import numpy as np
import pytest
from PIL import Image

from tests.conftest import made_head
from truesitter.core.colour.spaces import linear_to_srgb
from truesitter.core.paint.tubes.sheet_photo import SheetMark, read_patches
from truesitter.core.reference.decode import decode, inspect
from truesitter.core.values.shapes import absorb_small


@pytest.mark.parametrize("top", [1.0, 255.0, 65535.0])
def test_deep_tiffs_are_as_light_as_they_say(top: float) -> None:
    """32-bit greys from 0 to 1, to 255 or to 65535: the middle is the middle."""
    ramp = np.linspace(0, top, 64, dtype=np.float32)[None].repeat(64, axis=0)
    buffer = io.BytesIO()
    Image.fromarray(ramp, mode="F").save(buffer, "TIFF")
    picture = decode(buffer.getvalue())
    assert picture.shape == (64, 64, 3)
    np.testing.assert_allclose(picture[0, :, 1], np.linspace(0, 255, 64), atol=1.01)


RUBBISH = {"exif": b"Exif\0\0rubbish", "icc_profile": b"no profile at all"}


@pytest.mark.parametrize(
    ("kind", "beside"),
    [*((kind, beside) for kind in ("PNG", "WEBP", "JPEG") for beside in RUBBISH), ("TIFF", "icc_profile")],
)
def test_rubbish_beside_the_picture_does_not_spoil_it(kind: str, beside: str) -> None:
    buffer = io.BytesIO()
    Image.fromarray(made_head(120, 160)).save(buffer, kind, **{beside: RUBBISH[beside]})
    data = buffer.getvalue()
    assert (inspect(data).width, inspect(data).height) == (120, 160)
    assert np.abs(decode(data).astype(int) - made_head(120, 160)).mean() < 6


def sheet(light: np.ndarray, patch: float = 0.4) -> np.ndarray:
    """A photograph of a grey sheet under a light (H, W), the middle of it a patch."""
    reflectance = np.full(light.shape, 0.8)
    reflectance[90:110] = patch
    grey = np.round(linear_to_srgb(np.clip(reflectance * light, 0, 1)) * 255).astype(np.uint8)
    return np.repeat(grey[..., None], 3, axis=2)


TOP, BOTTOM = (tuple(SheetMark(x, y, x + 0.1, y + 0.05) for x in (0.05, 0.45, 0.85)) for y in (0.02, 0.92))
PATCH = {"masstone": SheetMark(0.3, 0.46, 0.5, 0.54)}


@pytest.mark.parametrize("whites", [TOP, TOP + BOTTOM, TOP[:1]], ids=["one row", "two rows", "one"])
def test_even_light_stays_even_however_the_whites_lie(whites: tuple[SheetMark, ...]) -> None:
    """L* of 40 % of the light is 69.5 (CIE 15), with whites in one row as with whites all round."""
    noise = np.random.default_rng(2).normal(1, 0.004, (200, 200))
    read = read_patches(sheet(0.9 * noise), PATCH, whites, 0.8)
    assert read["masstone"].lab[0] == pytest.approx(69.5, abs=0.4)


def test_whites_above_and_below_tell_of_light_from_above() -> None:
    falling = np.linspace(1.0, 0.5, 200)[:, None].repeat(200, axis=1)
    both = read_patches(sheet(falling), PATCH, TOP + BOTTOM, 0.8)["masstone"].lab[0]
    assert both == pytest.approx(69.5, abs=0.5)
    assert read_patches(sheet(falling), PATCH, TOP, 0.8)["masstone"].lab[0] < 63, "one row cannot know"


def test_two_stripes_too_small_alone_are_kept_where_they_are_large_enough_together() -> None:
    """Each of 30 pixels, 50 wanted: one goes over to the other, and the pair of 60 stays."""
    labels = np.zeros((40, 40), np.uint8)
    labels[10:13, 10:20], labels[13:16, 10:20] = 3, 4
    kept = absorb_small(labels, 50)
    assert len(np.unique(kept[10:16, 10:20])) == 1
    assert kept[12, 12] in (3, 4)
    assert (kept > 0).sum() == 60
    assert not absorb_small(labels, 70).any()
