"""What is told of a sitter does not hang on accidents: crops, mirrors, compression, exposure, size, grain."""

from __future__ import annotations

from collections.abc import Iterator

import cv2
import numpy as np
import pytest

from tests.conftest import jpeg, truth
from tests.lit import degrees
from truesitter.core.colour.spaces import linear_to_srgb, picture_to_linear
from truesitter.core.graph.memo import Memo
from truesitter.core.reference.decode import decode
from truesitter.core.settings import ReferenceSettings, StudySettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages import Study
from truesitter.core.types import Bytes

SITTERS = ("tobias", "maren", "selda", "orsolya", "hedda")


def variants(picture: Bytes) -> Iterator[tuple[str, Bytes]]:
    """Nearly the same photograph, eight times over."""
    height, width = picture.shape[:2]
    rim = round(0.03 * width)
    yield "cropped", picture[rim : height - rim, rim : width - rim]
    yield "cropped to one corner", picture[: round(0.94 * height), : round(0.94 * width)]
    yield "mirrored", picture[:, ::-1]
    yield "compressed", np.asarray(cv2.imdecode(cv2.imencode(".jpg", picture, [1, 80])[1], 1))
    for stops in (-0.3, 0.3):
        light = np.clip(picture_to_linear(picture) * 2**stops, 0, 1)
        yield f"{stops} stops", np.round(linear_to_srgb(light) * 255).astype(np.uint8)
    yield "smaller", cv2.resize(picture, None, fx=0.8, fy=0.8, interpolation=cv2.INTER_AREA)
    grain = np.random.default_rng(1).normal(0, 3, picture.shape)
    yield "grained", np.clip(picture + grain, 0, 255).astype(np.uint8)


def told(picture: Bytes) -> tuple[np.ndarray, dict[Region, float]]:
    """Towards the key light, and pixels of skin and hair as parts of a picture of one pixel a square."""
    settings = StudySettings(reference=ReferenceSettings.of_photograph(picture.shape[1], picture.shape[0]))
    study = Study.of_bytes(jpeg(np.ascontiguousarray(picture)), settings, Memo())
    labels = study.sitter.regions().labels
    square = picture.shape[0] * picture.shape[1]
    areas = {r: float((labels == r).mean()) * square for r in (Region.SKIN, Region.HAIR)}
    return np.array(study.light.key()), areas


@pytest.mark.parametrize("name", SITTERS)
def test_accidents_move_neither_light_nor_regions(name: str) -> None:
    """Key light within 8° in all eight; skin within 15 % where nothing of it was cut off.

    Reached: light within 5°; skin within 3 %, but for maren, in whose shadow hair and skin are hard to tell
    apart (13 % at four fifths of the size).
    """
    picture = decode(truth(name).data, 1100)
    key, areas = told(picture)
    for how, other in variants(picture):
        light, found = told(other)
        if how == "mirrored":
            light = light * (-1, 1, 1)
        assert degrees(light, key) <= 8, how
        if not how.startswith("cropped"):
            scale = picture.shape[0] * picture.shape[1] / (other.shape[0] * other.shape[1])
            assert found[Region.SKIN] * scale == pytest.approx(areas[Region.SKIN], rel=0.15), how
