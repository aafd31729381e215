"""Bytes of a photograph to an upright sRGB picture.

JPEG, PNG, WebP, TIFF and HEIC; the camera's orientation mark and an embedded
colour profile are respected. The size is checked before anything is unpacked.
"""

from __future__ import annotations

import io
import struct
import warnings
from dataclasses import dataclass

import cv2
import numpy as np
from PIL import Image, ImageCms, UnidentifiedImageError
from pillow_heif import register_heif_opener

from truesitter.core.reference.errors import UnusablePhotograph
from truesitter.core.reference.room import MemoryRoom
from truesitter.core.reference.tuning import (
    FLOAT_WHITE,
    IN_FLIGHT,
    LARGEST_FILE,
    LARGEST_PIXELS,
    SMALLEST_SIDE,
    STRIP,
)
from truesitter.core.types import Bytes, Floats

register_heif_opener()

FORMATS = ("JPEG", "PNG", "WEBP", "TIFF", "HEIF")
_SRGB = ImageCms.createProfile("sRGB")
_DEEP = ("I;16", "I;16B", "I;16L", "I", "F")

_BYTES_PER_PIXEL = {"L": 1, "P": 1, "1": 1, "I;16": 2, "I;16B": 2, "I;16L": 2, "F": 12, "I": 12}
"""Of the unpacked picture as it is held, by how its pixels are stored; four for all others."""

_UNREADABLE = (OSError, ValueError, SyntaxError, EOFError, MemoryError, TypeError, KeyError, struct.error)
"""What Pillow raises on files that are damaged in one way or another."""


_ROOM = MemoryRoom(IN_FLIGHT)
"""Photographs being unpacked share so many bytes; whoever would go beyond them waits."""


@dataclass(frozen=True)
class PhotographInfo:
    """Upright width and height in pixels, the file's format, and how its pixels are stored."""

    width: int
    height: int
    format: str
    mode: str = "RGB"


def _open(data: bytes) -> Image.Image:
    if not data:
        raise UnusablePhotograph("The file is empty.")
    if len(data) > LARGEST_FILE:
        raise UnusablePhotograph(
            f"The file is {len(data) / 2**20:.0f} MB; photographs up to 60 MB can be used."
        )
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore", Image.DecompressionBombWarning)
            image = Image.open(io.BytesIO(data), formats=FORMATS)
    except UnidentifiedImageError:
        raise UnusablePhotograph(
            "This is not a photograph that can be read. Use JPEG, PNG, WebP, TIFF or HEIC."
        ) from None
    except Image.DecompressionBombError:
        raise UnusablePhotograph(_too_large(None)) from None
    except _UNREADABLE as error:
        raise UnusablePhotograph(f"The photograph is damaged and cannot be opened ({error}).") from error
    if image.width * image.height > LARGEST_PIXELS:
        raise UnusablePhotograph(_too_large(image.width * image.height))
    if min(image.size) < SMALLEST_SIDE:
        raise UnusablePhotograph(
            f"The photograph is only {image.width} × {image.height} pixels; "
            f"at least {SMALLEST_SIDE} on the short side are needed."
        )
    return image


def _too_large(pixels: int | None) -> str:
    size = f"{pixels / 1e6:.0f} megapixels" if pixels else "far too many pixels"
    return f"The photograph has {size}; up to 80 megapixels can be used. Save a smaller copy."


def _orientation(image: Image.Image) -> int:
    """The camera's mark of which way is up, 1–8; 1 where the tags cannot be read."""
    try:
        return int(image.getexif().get(0x0112, 1))
    except Exception:
        return 1


def set_ceiling(most: int) -> None:
    """How many bytes photographs being unpacked may take between them, > 0; a larger one goes alone."""
    _ROOM.resize(most)


def inspect(data: bytes) -> PhotographInfo:
    """Read size and format without unpacking the picture.

    Raises
    ------
    UnusablePhotograph
        With a sentence for the painter.
    """
    image = _open(data)
    width, height = image.size
    if _orientation(image) in (5, 6, 7, 8):
        width, height = height, width
    return PhotographInfo(width=width, height=height, format=image.format or "", mode=image.mode)


def decode(data: bytes, least_long_side: int | None = None) -> Bytes:
    """Unpack a photograph, upright and in sRGB.

    Parameters
    ----------
    data
        The file's bytes.
    least_long_side
        When given, a JPEG may be unpacked at a half, quarter or eighth of its size as
        long as its long side keeps at least this many pixels.

    Returns
    -------
    (H, W, 3) uint8 sRGB. Transparent parts are laid on white.

    Raises
    ------
    UnusablePhotograph
        With a sentence for the painter; truncated files count as damaged.
    """
    with _ROOM.take(estimated_bytes(inspect(data), least_long_side)):
        return _decode(data, least_long_side)


def _decode(data: bytes, least_long_side: int | None) -> Bytes:
    image = _open(data)
    try:
        if least_long_side is not None and image.format == "JPEG":
            scale = least_long_side / max(image.size)
            image.draft("RGB", (int(image.width * scale) + 1, int(image.height * scale) + 1))
        image.load()
        profile = image.info.get("icc_profile")
        if not isinstance(profile, bytes):
            profile = None
        orientation = _orientation(image)
        picture = _by_strips(image, profile, _reduction(image, least_long_side))
    except _UNREADABLE as error:
        raise UnusablePhotograph(
            "The photograph is damaged: it ends before the picture is complete, or cannot be unpacked."
        ) from error
    return np.ascontiguousarray(_upright(picture, orientation))


def _reduction(image: Image.Image | PhotographInfo, least_long_side: int | None) -> int:
    """By how much a picture may be reduced once it is unpacked; what is left keeps twice what is asked."""
    if least_long_side is None or image.format == "JPEG":
        return 1
    most = max(image.width, image.height) // max(1, 2 * least_long_side)
    return max(1, min(most, image.width, image.height))


def _by_strips(image: Image.Image, profile: bytes | None, reduction: int) -> Bytes:
    """The picture in sRGB, (H, W, 3), reduced by a whole number; a strip at a time."""
    if image.mode in ("F", "I"):
        # What counts as white is seen only in the whole of it.
        image = _to_8_bits(image)
    rows = max(1, STRIP // image.width // reduction) * reduction
    # Whole blocks only: what is left over at the edge is less than a pixel of what comes out.
    width, height = (side - side % reduction for side in image.size)
    strips = []
    for top in range(0, height, rows):
        strip = image.crop((0, top, width, min(top + rows, height)))
        strip.info = image.info
        pixels = np.asarray(_to_srgb(strip, profile))
        if reduction > 1:
            size = (pixels.shape[1] // reduction, pixels.shape[0] // reduction)
            pixels = cv2.resize(pixels, size, interpolation=cv2.INTER_AREA)
        strips.append(pixels)
    return np.concatenate(strips)


def _upright(picture: Bytes, orientation: int) -> Bytes:
    """A picture turned as the camera's mark says, 1–8 (EXIF 2.32, tag 0x0112)."""
    if orientation in (5, 6, 7, 8):
        picture = picture.swapaxes(0, 1)
    if orientation in (3, 4, 7, 8):
        picture = picture[::-1]
    if orientation in (2, 3, 6, 7):
        picture = picture[:, ::-1]
    return picture


def _top(mode: str, deep: Floats) -> float:
    """The number that stands for white in a picture of more than 8 bits."""
    if mode.startswith("I;16"):
        return 65535.0
    largest = float(deep.max(initial=0.0))
    if mode == "F" and largest <= FLOAT_WHITE:
        return 1.0
    return 65535.0 if largest > 255 else 255.0


def estimated_bytes(info: PhotographInfo, least_long_side: int | None = None) -> int:
    """How much memory unpacking a photograph takes at most, roughly."""
    pixels = info.width * info.height
    if least_long_side is not None and info.format == "JPEG":
        # A JPEG is unpacked at a half, quarter or eighth of its size where that is enough.
        ratio = max(info.width, info.height) / max(1, least_long_side)
        pixels //= 4 ** min(3, max(0, int(ratio).bit_length() - 1))
    left = pixels // _reduction(info, least_long_side) ** 2
    # The picture as unpacked, then as it is given back: in strips, then in one piece.
    return pixels * _BYTES_PER_PIXEL.get(info.mode, 4) + 6 * left


def _to_8_bits(image: Image.Image) -> Image.Image:
    """A picture of more than 8 bits, or of floating-point numbers, as one of 8."""
    deep = np.asarray(image, dtype=np.float32)
    return Image.fromarray((np.clip(deep / _top(image.mode, deep), 0, 1) * 255).round().astype(np.uint8))


def _to_srgb(image: Image.Image, profile: bytes | None) -> Image.Image:
    if image.mode in _DEEP:
        image = _to_8_bits(image)
    if image.mode in ("RGBA", "LA", "PA") or "transparency" in image.info:
        rgba = image if image.mode == "RGBA" else image.convert("RGBA")
        paper = Image.new("RGB", rgba.size, (255, 255, 255))
        paper.paste(rgba, mask=rgba.getchannel("A"))
        image = paper
    if profile:
        try:
            source = ImageCms.ImageCmsProfile(io.BytesIO(profile))
            mode = image.mode if image.mode in ("RGB", "CMYK", "L") else "RGB"
            turned = ImageCms.profileToProfile(image.convert(mode), source, _SRGB, outputMode="RGB")
            if turned is not None:
                return turned
        except (ImageCms.PyCMSError, OSError, TypeError, ValueError):
            # A profile that is broken or does not fit its picture is left aside, as viewers do.
            return image.convert("RGB")
    return image.convert("RGB")
