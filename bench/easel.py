"""How long the easel takes: a photograph of the painting of 12 megapixels to everything it says."""

from __future__ import annotations

import hashlib
import io
import time

import cv2
import numpy as np
from PIL import Image

from bench.inputs import demo_bytes, study
from bench.timing import Figure, figure, repeats
from truesitter.core.colour.spaces import picture_to_linear
from truesitter.core.graph.memo import Memo
from truesitter.core.settings import PaintingSettings
from truesitter.core.stages import Study
from truesitter.devices.camera import Studio, photograph

_REPEATS = 7
_LONG_SIDE = 4000


def _file(picture: np.ndarray) -> bytes:
    buffer = io.BytesIO()
    Image.fromarray(picture).save(buffer, "JPEG", quality=92)
    return buffer.getvalue()


def easel() -> list[Figure]:
    planned = study()
    canvas = planned.passes.painted().picture(planned.easel.pass_count())
    planned.accents.ceilings(), planned.sitter.areas(), planned.surround.surround()
    shots = {}
    for seed in range(repeats(_REPEATS)):
        data = _file(photograph(canvas, Studio.by_lot(seed), _LONG_SIDE).picture)
        shots[hashlib.sha256(data).hexdigest()] = data
    there = Study(
        planned.sha256, lambda: demo_bytes("maren"), planned.settings, planned.source.memo or Memo(),
        paintings=shots.__getitem__,
    )  # fmt: skip
    whole, naive = [], []
    for sha256, data in shots.items():
        one = PaintingSettings(key=sha256[:12], sha256=sha256, name="", taken_at="2026-01-01")
        start = time.perf_counter()
        there.easel.compared(one)
        whole.append((time.perf_counter() - start) * 1000)
        start = time.perf_counter()
        _plain(data, canvas)
        naive.append((time.perf_counter() - start) * 1000)
    return [
        figure("a painting of 12 megapixels to its findings", np.array(whole), "< 2000"),
        figure(
            "  beside it: patches matched, homography, difference of L*a*b*, nothing else", np.array(naive)
        ),
    ]


def _plain(data: bytes, canvas: np.ndarray) -> None:
    """The general-purpose way: no lamp, no lens, no places, no remedies."""
    picture = cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_COLOR)
    finder, matcher = cv2.ORB_create(4000), cv2.BFMatcher(cv2.NORM_HAMMING, crossCheck=True)
    spots_a, looks_a = finder.detectAndCompute(cv2.cvtColor(canvas, cv2.COLOR_RGB2GRAY), None)
    spots_b, looks_b = finder.detectAndCompute(cv2.cvtColor(picture, cv2.COLOR_BGR2GRAY), None)
    pairs = matcher.match(looks_a, looks_b)
    source = np.array([spots_b[m.trainIdx].pt for m in pairs], np.float32)
    target = np.array([spots_a[m.queryIdx].pt for m in pairs], np.float32)
    matrix, _ = cv2.findHomography(source, target, cv2.RANSAC, 5)
    squared = cv2.warpPerspective(picture, matrix, canvas.shape[1::-1])
    both = [cv2.cvtColor(picture_to_linear(np.ascontiguousarray(p)), cv2.COLOR_LRGB2Lab) for p in (
        squared[..., ::-1], canvas)]  # fmt: skip
    np.abs(both[0] - both[1]).mean()
