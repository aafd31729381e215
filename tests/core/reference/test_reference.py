"""Decoding and framing photographs."""

from __future__ import annotations

import io
import struct
import zlib

import cv2
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image, ImageCms

from tests.conftest import jpeg, made_head
from truesitter.core.reference.decode import decode, inspect
from truesitter.core.reference.errors import UnusablePhotograph
from truesitter.core.reference.frame import Crop, Frame, apply, place
from truesitter.core.refusal import Refusal


def saved(picture: np.ndarray, kind: str, **options: object) -> bytes:
    buffer = io.BytesIO()
    Image.fromarray(picture).save(buffer, kind, **options)
    return buffer.getvalue()


def bomb(width: int, height: int) -> bytes:
    """A PNG of a few bytes that claims a huge size."""

    def chunk(kind: bytes, body: bytes) -> bytes:
        return struct.pack(">I", len(body)) + kind + body + struct.pack(">I", zlib.crc32(kind + body))

    header = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    return (
        b"\x89PNG\r\n\x1a\n"
        + chunk(b"IHDR", header)
        + chunk(b"IDAT", zlib.compress(b"\0" * 100))
        + chunk(b"IEND", b"")
    )


@pytest.mark.parametrize("kind", ["PNG", "TIFF", "WEBP", "HEIF", "JPEG"])
def test_every_format_is_read(kind: str) -> None:
    picture = made_head(120, 160)
    options = {"lossless": True} if kind == "WEBP" else {}
    data = saved(picture, kind, **options)
    info = inspect(data)
    assert (info.width, info.height, info.format) == (120, 160, kind)
    np.testing.assert_allclose(
        decode(data).astype(int), picture, atol=0 if kind in ("PNG", "TIFF", "WEBP") else 60
    )
    assert np.abs(decode(data).astype(int) - picture).mean() < 4


@pytest.mark.parametrize(("least", "long_side"), [(90, 100), (150, 200), (300, 400), (420, 800), (4000, 800)])
def test_a_jpeg_is_unpacked_as_small_as_will_do(least: int, long_side: int) -> None:
    assert decode(jpeg(made_head(640, 800)), least).shape[0] == long_side


@pytest.mark.parametrize("orientation", range(1, 9))
def test_the_camera_orientation_is_respected(orientation: int) -> None:
    upright = np.zeros((120, 80, 3), np.uint8)
    upright[:60, :40] = (250, 10, 10)
    turns = {
        1: lambda a: a, 2: np.fliplr, 3: lambda a: np.rot90(a, 2), 4: np.flipud,
        5: lambda a: np.transpose(a, (1, 0, 2)), 6: lambda a: np.rot90(a, 1),
        7: lambda a: np.rot90(np.transpose(a, (1, 0, 2)), 2), 8: lambda a: np.rot90(a, -1),
    }  # fmt: skip
    exif = Image.Exif()
    exif[0x0112] = orientation
    data = saved(np.ascontiguousarray(turns[orientation](upright)), "JPEG", exif=exif, quality=95)
    assert (inspect(data).width, inspect(data).height) == (80, 120)
    read = decode(data)
    assert read.shape == (120, 80, 3)
    assert read[20, 20, 0] > 200
    assert read[100, 60, 0] < 50


def test_an_embedded_profile_is_turned_into_srgb() -> None:
    picture = np.full((80, 80, 3), 120, np.uint8)
    lab = ImageCms.createProfile("LAB")
    srgb = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
    np.testing.assert_allclose(decode(saved(picture, "PNG", icc_profile=srgb)).astype(int), 120, atol=1)
    # A profile of another kind of picture does not fit and is left aside.
    unfit = ImageCms.ImageCmsProfile(lab).tobytes()
    np.testing.assert_allclose(decode(saved(picture, "PNG", icc_profile=unfit)).astype(int), 120, atol=1)


def test_grey_deep_and_transparent_pictures() -> None:
    assert decode(saved(np.full((70, 70), 90, np.uint8), "PNG"))[5, 5].tolist() == [90, 90, 90]
    deep = decode(saved(np.full((70, 70), 32768, np.uint16), "PNG"))
    np.testing.assert_allclose(deep[5, 5].astype(int), 128, atol=1)
    clear = np.zeros((70, 70, 4), np.uint8)
    assert decode(saved(clear, "PNG"))[5, 5].tolist() == [255, 255, 255]


@pytest.mark.parametrize(
    ("data", "sentence"),
    [
        (b"", "empty"),
        (b"just some words", "not a photograph"),
        (bomb(60_000, 60_000), "80 megapixels"),
        (bomb(12_000, 8_000), "80 megapixels"),
        (jpeg(np.zeros((30, 400, 3), np.uint8)), "at least 64"),
        (b"\0" * (61 * 2**20), "is 61 MB; photographs up to 60 MB"),
    ],
)
def test_bad_files_are_refused_with_a_sentence(data: bytes, sentence: str) -> None:
    with pytest.raises(UnusablePhotograph, match=sentence):
        inspect(data)


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP", "TIFF"])
def test_truncated_files_are_damaged(kind: str) -> None:
    data = saved(np.random.default_rng(0).integers(0, 255, (300, 300, 3), dtype=np.uint8), kind)
    with pytest.raises(UnusablePhotograph):
        decode(data[: len(data) // 2])


def test_a_claimed_size_without_its_pixels_is_damaged() -> None:
    with pytest.raises(UnusablePhotograph, match="damaged"):
        decode(bomb(4000, 4000))


@given(
    st.integers(100, 6000), st.integers(100, 6000), st.floats(50, 1000), st.floats(50, 1000),
    st.floats(1, 8), st.floats(-45, 45), st.floats(0, 1), st.floats(0, 1),
)  # fmt: skip
def test_no_corner_of_the_frame_leaves_the_photograph(
    width: int, height: int, cw: float, ch: float, zoom: float, turn: float, x: float, y: float
) -> None:
    try:
        crop = place(Frame((cw, ch), (x, y), zoom, turn), width, height)
    except Refusal:
        assert min(width, height) / zoom < 8 * 20 * 1.5
        return
    corners = crop.corners()
    assert corners[:, 0].min() >= -1e-6 * width
    assert corners[:, 1].min() >= -1e-6 * height
    assert corners[:, 0].max() <= width * (1 + 1e-6)
    assert corners[:, 1].max() <= height * (1 + 1e-6)
    assert crop.size[0] / crop.size[1] == pytest.approx(cw / ch)


@given(st.floats(-180, 180), st.floats(1, 900), st.floats(1, 900))
def test_a_turned_crop_is_a_rectangle_of_its_size_about_its_centre(
    turn: float, width: float, height: float
) -> None:
    corners = Crop((400.0, 300.0), (width, height), turn).corners()
    assert corners.mean(axis=0) == pytest.approx((400, 300))
    top, side = corners[1] - corners[0], corners[3] - corners[0]
    assert top == pytest.approx(width * np.array([np.cos(np.radians(turn)), np.sin(np.radians(turn))]))
    assert side == pytest.approx(height * np.array([-np.sin(np.radians(turn)), np.cos(np.radians(turn))]))
    assert corners[2] == pytest.approx(corners[1] + side)


@pytest.mark.parametrize("frame", [Frame((1, 400)), Frame(zoom=0.5), Frame(straighten=60)])
def test_senseless_frames_are_refused(frame: Frame) -> None:
    with pytest.raises(Refusal, match=r"canvas|closer|straightened"):
        place(frame, 1000, 1000)


def test_the_framed_picture_has_the_canvas_proportions() -> None:
    framed = apply(made_head(900, 1200), Frame((300, 300), zoom=1.5))
    assert framed.shape == (600, 600, 3)
    assert apply(np.zeros((4000, 3000, 3), np.uint8), Frame((300, 400))).shape == (2048, 1536, 3)


def test_straightening_levels_a_tilted_line() -> None:
    picture = np.full((600, 600, 3), 255, np.uint8)
    start, end = (100, 300 + 35), (500, 300 - 35)  # rises to the right by about 10 degrees
    cv2.line(picture, start, end, (0, 0, 0), 5)
    level = apply(picture, Frame((300, 300), straighten=-9.93))
    rows, cols = np.nonzero(level[..., 0] < 128)
    slope = np.polyfit(cols, rows, 1)[0]
    assert abs(np.degrees(np.arctan(slope))) < 0.3
