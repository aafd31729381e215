"""A painting's progress as a film: its photographs squared up, in order, as PNG pictures or as layers."""

from __future__ import annotations

import io
import zipfile
from collections.abc import Sequence

from truesitter.core.types import Bytes
from truesitter.formats.pictures.openraster import layers_ora, put
from truesitter.formats.pictures.png import encode_png


def film_zip(pictures: Sequence[Bytes]) -> bytes:
    """Pictures of one size as a row of PNG pictures in a ZIP."""
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_STORED) as file:
        for number, picture in enumerate(pictures, 1):
            put(file, f"painting_{number:03d}.png", encode_png(picture))
    return buffer.getvalue()


def film_ora(pictures: Sequence[Bytes], titles: Sequence[str]) -> bytes:
    """The same as layers of an OpenRaster file, the first at the bottom."""
    return layers_ora(list(zip(titles, pictures, strict=True)), pictures[-1])
