"""Bytes of a photograph to an upright sRGB picture.

JPEG, PNG, WebP, TIFF and HEIC; the camera's orientation mark and an embedded
colour profile are respected. The size is checked before anything is unpacked.
"""

from __future__ import annotations

import io
import warnings
from dataclasses import dataclass

import numpy as np
from PIL import Image, ImageCms, ImageOps, UnidentifiedImageError
from pillow_heif import register_heif_opener

from truesitter.core.reference.errors import UnusablePhotograph
from truesitter.core.types import Bytes

register_heif_opener()

LARGEST_FILE = 60 * 1024 * 1024
LARGEST_PIXELS = 80_000_000
SMALLEST_SIDE = 64
FORMATS = ("JPEG", "PNG", "WEBP", "TIFF", "HEIF")
_SRGB = ImageCms.createProfile("sRGB")


@dataclass(frozen=True)
class PhotographInfo:
    """Upright width and height in pixels, and the file's format."""

    width: int
    height: int
    format: str


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
    except (OSError, ValueError, SyntaxError, MemoryError) as error:
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


def inspect(data: bytes) -> PhotographInfo:
    """Read size and format without unpacking the picture.

    Raises
    ------
    UnusablePhotograph
        With a sentence for the painter.
    """
    image = _open(data)
    width, height = image.size
    if image.getexif().get(0x0112, 1) in (5, 6, 7, 8):
        width, height = height, width
    return PhotographInfo(width=width, height=height, format=image.format or "")


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
    image = _open(data)
    try:
        if least_long_side is not None and image.format == "JPEG":
            scale = least_long_side / max(image.size)
            image.draft("RGB", (int(image.width * scale) + 1, int(image.height * scale) + 1))
        image.load()
        profile = image.info.get("icc_profile")
        image = ImageOps.exif_transpose(image)
        image = _to_srgb(image, profile)
    except (OSError, ValueError, SyntaxError, EOFError, MemoryError) as error:
        raise UnusablePhotograph(
            "The photograph is damaged: it ends before the picture is complete, or cannot be unpacked."
        ) from error
    return np.asarray(image)


def _to_srgb(image: Image.Image, profile: bytes | None) -> Image.Image:
    if image.mode in ("I;16", "I;16B", "I;16L", "I", "F"):
        deep = np.asarray(image, dtype=np.float64)
        top = 65535.0 if deep.max() > 255 else 255.0
        image = Image.fromarray((np.clip(deep / top, 0, 1) * 255).round().astype(np.uint8))
    if image.mode in ("RGBA", "LA", "PA") or "transparency" in image.info:
        rgba = image.convert("RGBA")
        paper = Image.new("RGBA", rgba.size, (255, 255, 255, 255))
        image = Image.alpha_composite(paper, rgba).convert("RGB")
    if profile:
        try:
            source = ImageCms.ImageCmsProfile(io.BytesIO(profile))
            mode = image.mode if image.mode in ("RGB", "CMYK", "L") else "RGB"
            turned = ImageCms.profileToProfile(image.convert(mode), source, _SRGB, outputMode="RGB")
            if turned is not None:
                return turned
        except ImageCms.PyCMSError:
            # A profile that does not fit its picture is left aside, as viewers do.
            return image.convert("RGB")
    return image.convert("RGB")
