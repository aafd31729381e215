"""What the cases are run on: the demo sitters, and a large photograph made of one of them."""

from __future__ import annotations

from functools import cache
from importlib.resources import files

import cv2
import numpy as np

from bench.timing import short
from truesitter.core.settings import StudySettings
from truesitter.core.stages import Study


def demo_bytes(name: str) -> bytes:
    return (files("truesitter.demo") / "sitters" / f"{name}.jpg").read_bytes()


@cache
def study() -> Study:
    return Study.of_bytes(demo_bytes("maren"), StudySettings())


@cache
def large_jpeg(megapixels: float) -> bytes:
    """A demo sitter enlarged, with sensor-like noise so that it packs like a photograph."""
    megapixels = 1.0 if short() else megapixels
    small = cv2.imdecode(np.frombuffer(demo_bytes("maren"), np.uint8), cv2.IMREAD_COLOR)
    scale = (megapixels * 1e6 / (small.shape[0] * small.shape[1])) ** 0.5
    big = cv2.resize(small, None, fx=scale, fy=scale, interpolation=cv2.INTER_CUBIC)
    noise = np.random.default_rng(0).normal(0, 4, big.shape[:2]).astype(np.int16)
    noisy = np.clip(big.astype(np.int16) + noise[..., None], 0, 255).astype(np.uint8)
    return cv2.imencode(".jpg", noisy, [cv2.IMWRITE_JPEG_QUALITY, 92])[1].tobytes()
