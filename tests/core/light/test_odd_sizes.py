"""Photographs of odd sizes: what is reduced twice may be a row longer than what is reduced once."""

from __future__ import annotations

from itertools import product

import cv2
import pytest

from tests.conftest import begun, jpeg, truth
from truesitter.core.graph.memo import Memo
from truesitter.core.imaging.reduce import reduced_size
from truesitter.core.light.form.tuning import WORKING_LONG_SIDE
from truesitter.core.reference.decode import decode
from truesitter.core.stages import Study
from truesitter.core.stages.tuning import LIGHT_LONG_SIDE


def longer(height: int, width: int) -> int:
    """By how many columns a map reduced twice is wider than one reduced once."""
    light_width, light_height = reduced_size((height, width), LIGHT_LONG_SIDE)
    twice = reduced_size((light_height, light_width), WORKING_LONG_SIDE)
    return twice[0] - reduced_size((height, width), WORKING_LONG_SIDE)[0]


@pytest.mark.parametrize("off", [-1, 1])
def test_light_is_read_of_photographs_of_any_size(off: int) -> None:
    photograph = decode(truth("maren").data)
    for height, width in product(range(1040, 1100), range(780, 880)):
        if longer(height, width) != off:
            continue
        picture = cv2.resize(photograph, (width, height), interpolation=cv2.INTER_AREA)
        study = Study.of_bytes(jpeg(picture), begun(width, height), Memo())
        if longer(*study.picture.shape) == off:
            assert study.light.zones().zones.shape == study.picture.shape
            return
    pytest.fail("no size of these is odd")
