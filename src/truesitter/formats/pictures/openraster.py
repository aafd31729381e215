"""Layers as an OpenRaster file, and the canvas after every pass: a layer a pass, the first at the bottom.

OpenRaster 0.0.5, baseline: a ZIP with an uncompressed ``mimetype`` first, ``stack.xml``, the layers
as PNG, a merged image and a thumbnail.
"""

from __future__ import annotations

import io
import zipfile
from collections.abc import Sequence
from xml.sax.saxutils import quoteattr

import cv2
import numpy as np

from truesitter.core.canvas.painted import Painted
from truesitter.core.types import Bytes
from truesitter.formats.pictures.png import encode_png

_THUMBNAIL = 256


def passes_ora(painted: Painted, titles: tuple[str, ...]) -> bytes:
    """Every pass as a layer that holds what it changed.

    Parameters
    ----------
    titles
        Name of each pass.
    """
    height, width = painted.shape
    layers = [("Bare support", _opaque(painted.picture(0)))]
    for number, (title, change) in enumerate(zip(titles, painted.changes, strict=True), 1):
        layer, where = np.zeros((height * width, 4), np.uint8), change.where
        layer[where, :3] = painted.picture(number).reshape(-1, 3)[where]
        layer[where, 3] = 255
        layers.append((f"{number} {title}", layer.reshape(height, width, 4)))
    return layers_ora(layers, painted.picture(len(titles)))


def layers_ora(layers: Sequence[tuple[str, Bytes]], merged: Bytes) -> bytes:
    """Pictures of one size as layers, the first at the bottom.

    Parameters
    ----------
    layers
        Name and picture of each, RGB or RGBA.
    merged
        (H, W, 3) what they look like together.
    """
    merged = _opaque(merged)
    height, width = merged.shape[:2]
    scale = _THUMBNAIL / max(width, height)
    small = cv2.resize(merged, (round(width * scale), round(height * scale)), interpolation=cv2.INTER_AREA)
    entries = "".join(
        f'<layer name={quoteattr(name)} src="data/layer{n:03d}.png" x="0" y="0" opacity="1.0" '
        'visibility="visible" composite-op="svg:src-over"/>'
        for n, (name, _) in reversed(list(enumerate(layers)))
    )
    stack = (
        f'<?xml version="1.0" encoding="UTF-8"?><image version="0.0.5" w="{width}" h="{height}">'
        f"<stack>{entries}</stack></image>"
    )
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_STORED) as file:
        put(file, "mimetype", b"image/openraster")
        put(file, "stack.xml", stack.encode())
        for n, (_, layer) in enumerate(layers):
            put(file, f"data/layer{n:03d}.png", encode_png(layer))
        put(file, "mergedimage.png", encode_png(merged))
        put(file, "Thumbnails/thumbnail.png", encode_png(small))
    return buffer.getvalue()


def passes_zip(painted: Painted, titles: tuple[str, ...]) -> bytes:
    """The canvas after each pass as a row of PNG pictures in a ZIP."""
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_STORED) as file:
        for number in range(len(titles) + 1):
            put(file, f"canvas_{number:02d}.png", encode_png(painted.picture(number)))
    return buffer.getvalue()


def put(file: zipfile.ZipFile, name: str, data: bytes) -> None:
    """Add a file of no date, so that equal plans give equal bytes."""
    file.writestr(zipfile.ZipInfo(name, (1980, 1, 1, 0, 0, 0)), data)


def _opaque(picture: Bytes) -> Bytes:
    return np.asarray(np.dstack([picture, np.full(picture.shape[:2], 255, np.uint8)]))
