"""Ten photographs of 79 megapixels, 16 bits a channel, at the same time."""

from __future__ import annotations

import tempfile
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import cv2
import numpy as np

from siege.server import Server

SIDE, AT_ONCE = 8900, 10


def large_photograph(side: int) -> bytes:
    """A 16-bit PNG with transparency that is small as a file and large unpacked."""
    picture = np.zeros((side, side, 4), np.uint16)
    picture[: side // 2, :, :3], picture[..., 3] = 40000, 65535
    return cv2.imencode(".png", picture, [cv2.IMWRITE_PNG_COMPRESSION, 9])[1].tobytes()


def uploads(side: int = SIDE, at_once: int = AT_ONCE) -> dict[str, object]:
    data = large_photograph(side)
    with tempfile.TemporaryDirectory() as folder, Server(Path(folder)) as server:

        def put(_: int) -> int:
            with server.client() as client:
                return client.post("/api/sitters", files={"photo": ("a.png", data)}).status_code

        with ThreadPoolExecutor(at_once) as pool:
            answers = list(pool.map(put, range(at_once)))
        return {"file KiB": len(data) >> 10, "answers": answers, "peak MiB": server.peak >> 20}
