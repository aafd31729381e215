"""Photographs are turned into sRGB a strip at a time: as if at once, and upright as Pillow has them."""

from __future__ import annotations

import io
from typing import Any

import numpy as np
import pytest
from PIL import Image, ImageOps

from truesitter.core.reference import decode as module
from truesitter.core.reference.decode import PhotographInfo, decode, estimated_bytes

RNG = np.random.default_rng(3)


def png(image: Image.Image, **options: Any) -> bytes:
    out = io.BytesIO()
    image.save(out, "PNG", **options)
    return out.getvalue()


def pictures() -> dict[str, bytes]:
    rgba = RNG.integers(0, 256, (97, 130, 4), dtype=np.uint8)
    deep = RNG.integers(0, 65536, (97, 130), dtype=np.uint16)
    rgb = Image.fromarray(rgba[..., :3])
    float_tiff = io.BytesIO()
    Image.fromarray(RNG.random((97, 130), dtype=np.float32)).save(float_tiff, "TIFF")
    return {
        "RGB": png(rgb),
        "RGBA": png(Image.fromarray(rgba)),
        "L": png(rgb.convert("L")),
        "LA": png(Image.fromarray(rgba).convert("LA")),
        "P": png(rgb.quantize(20)),
        "P with a clear colour": png(rgb.quantize(20), transparency=3),
        "1": png(rgb.convert("1")),
        "16 bits": png(Image.fromarray(deep)),
        "float": float_tiff.getvalue(),
    }


@pytest.mark.parametrize("kind", list(pictures()))
def test_strips_make_no_difference(kind: str, monkeypatch: pytest.MonkeyPatch) -> None:
    data = pictures()[kind]
    whole = decode(data)
    small = decode(data, 32)
    monkeypatch.setattr(module, "STRIP", 130 * 10)
    assert np.array_equal(decode(data), whole)
    assert whole.shape == (97, 130, 3)
    in_strips = decode(data, 32)
    assert in_strips.shape[1] == small.shape[1] == 65
    assert np.array_equal(in_strips, small)


@pytest.mark.parametrize("orientation", range(1, 9))
def test_upright_as_pillow_has_it(orientation: int) -> None:
    """Outside check: `PIL.ImageOps.exif_transpose`."""
    image = Image.fromarray(RNG.integers(0, 256, (70, 90, 3), dtype=np.uint8))
    exif = Image.Exif()
    exif[0x0112] = orientation
    data = png(image, exif=exif)
    expected = np.asarray(ImageOps.exif_transpose(Image.open(io.BytesIO(data))))
    assert np.array_equal(decode(data), expected)


def test_what_is_reduced_is_the_mean_of_what_it_stands_for() -> None:
    picture = RNG.integers(0, 256, (800, 1200, 3), dtype=np.uint8)
    reduced = decode(png(Image.fromarray(picture)), 100)
    assert reduced.shape == (133, 200, 3)
    blocks = picture[:798].reshape(133, 6, 200, 6, 3).mean(axis=(1, 3))
    assert np.abs(reduced - blocks).max() <= 0.51


def test_a_picture_that_is_reduced_is_reckoned_smaller() -> None:
    large = PhotographInfo(8900, 8900, "PNG", "RGBA")
    assert estimated_bytes(large, 256) < 4.1 * 8900**2
    assert estimated_bytes(large) == 10 * 8900**2
    jpeg = PhotographInfo(8900, 8900, "JPEG", "RGB")
    assert estimated_bytes(jpeg, 256) < 0.2 * 8900**2
