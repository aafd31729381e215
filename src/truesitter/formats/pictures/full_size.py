"""Views at the photograph's own resolution, for printing."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.refusal import Refusal
from truesitter.core.stages import Study
from truesitter.core.types import Bytes
from truesitter.core.values.posterise import paint_groups
from truesitter.core.values.value_map import paint_values, squint, value_map
from truesitter.formats.pictures.views import group_values

FULL_VIEWS = ("colour", "grey", "squint", "groups")


def full_picture(study: Study, view: str) -> Bytes:
    """One view as large as the photograph allows; (H, W) or (H, W, 3) uint8 sRGB.

    Raises
    ------
    Refusal
        For a view that has no full size.
    """
    if view not in FULL_VIEWS:
        raise Refusal(f"full size is for {', '.join(FULL_VIEWS)}")
    picture = study.picture.full_size()
    if view == "colour":
        return picture
    if view == "grey":
        return paint_values(value_map(picture))
    if view == "squint":
        return squint(picture, study.settings.reference.squint)
    return _groups(study, (picture.shape[1], picture.shape[0]))


def _groups(study: Study, size: tuple[int, int]) -> Bytes:
    """Groups enlarged with smooth borders: each group's own mask is, and the strongest wins."""
    plan = study.values.plan()
    best = np.zeros((size[1], size[0]), np.uint8)
    top = np.full((size[1], size[0]), -1, np.float32)
    for group in range(len(plan.groups)):
        mask = cv2.inRange(plan.labels, group, group).astype(np.float32)
        large = cv2.resize(mask, size, interpolation=cv2.INTER_LINEAR)
        best[large > top] = group
        top = np.maximum(top, large)
    return paint_groups(best, np.array(group_values(study)))
