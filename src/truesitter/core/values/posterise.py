"""Value groups: the picture cut into a few flat values, each shape large enough to paint."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.colour.value import value_to_srgb
from truesitter.core.types import Bytes, Codes, Doubles, Floats, Labels, Mask
from truesitter.core.values.shapes import absorb_small
from truesitter.core.values.tuning import LARGEST_MEDIAN, THINNEST, TOOTH


@dataclass(frozen=True)
class Group:
    """One value group.

    Attributes
    ----------
    index
        0 = darkest.
    low, high
        Its cuts, in value steps.
    value, lab
        Mean value and mean L*a*b* of the picture inside it.
    share
        Its part of the picture, 0–1.
    """

    index: int
    low: float
    high: float
    value: float
    share: float
    lab: tuple[float, float, float]


def value_codes(value: Floats) -> Codes:
    """Values 0–10 in 256ths of a step, as `cut_codes` wants them; uint16."""
    return np.asarray(np.clip(value * 256, 0, 2560), np.uint16)


def cut_codes(codes: Codes, cuts: tuple[float, ...]) -> Labels:
    """Group number of every pixel of `value_codes`; a value on a cut belongs to the lighter group."""
    steps = np.arange(2561) / 256
    return np.searchsorted(np.array(cuts), steps, side="right").astype(np.uint8)[codes]


def cut_labels(value: Floats, cuts: tuple[float, ...]) -> Labels:
    """Group number of every pixel of a value map.

    Examples
    --------
    >>> cut_labels(np.array([[1.0, 4.9, 5.1, 9.0]], np.float32), (5.0,)).tolist()
    [[0, 0, 1, 1]]
    """
    return cut_codes(value_codes(value), cuts)


def posterise(
    smoothed: Floats,
    cuts: tuple[float, ...],
    smallest_px: float,
    finer: Mask | None = None,
    finer_px: float = 0.0,
) -> Labels:
    """Cut a smoothed value map into groups of paintable shapes.

    Parameters
    ----------
    smoothed
        (H, W) value map after `value_map.smooth_shapes`.
    cuts
        Rising cuts in value steps.
    smallest_px
        Width in pixels of the smallest shape worth painting; shapes smaller than a
        disc of that width, or thinner than a part of it, are given to a neighbour.
    finer, finer_px
        Where shapes may be smaller (features), and their smallest width there.
    """
    labels = cut_labels(smoothed, cuts)
    if smallest_px >= 2:
        # The groups are ordered, so their median is the majority of dark or light: stripes and
        # teeth narrower than half of it close, which no rule about whole shapes would see.
        window = min(LARGEST_MEDIAN, max(3, round(TOOTH * smallest_px) | 1))
        softened = cv2.medianBlur(labels, window)
        labels = np.where(finer, labels, softened) if finer is not None else np.asarray(softened)
    area = np.pi / 4 * smallest_px**2
    return absorb_small(labels, area, finer, np.pi / 4 * finer_px**2, THINNEST * smallest_px)


def describe_groups(labels: Labels, value: Floats, lab: Floats, cuts: tuple[float, ...]) -> tuple[Group, ...]:
    """Mean value, mean colour and share of every group; empty groups take their middle value.

    Parameters
    ----------
    labels
        (h, w) numbers of value groups.
    value
        (h, w) Munsell values 0–10.
    lab
        (h, w, 3) L*a*b*.
    cuts
        Ascending values between groups.

    Returns
    -------
    tuple[Group, ...]
        The darkest first.
    """
    edges = (0.0, *cuts, 10.0)
    groups = []
    for i in range(len(cuts) + 1):
        inside = cv2.inRange(labels, i, i)
        size = cv2.countNonZero(inside)
        middle = (edges[i] + edges[i + 1]) / 2
        means = (middle, middle * 10, 0.0, 0.0)
        if size:
            means = (cv2.mean(value, inside)[0], *cv2.mean(lab, inside)[:3])
        groups.append(
            Group(
                index=i,
                low=edges[i],
                high=edges[i + 1],
                value=means[0],
                share=size / labels.size,
                lab=(means[1], means[2], means[3]),
            )
        )
    return tuple(groups)


def paint_groups(labels: Labels, values: Doubles) -> Bytes:
    """Groups as flat greys of their values; (H, W) uint8 sRGB."""
    greys = np.zeros(256, np.uint8)
    greys[: len(values)] = np.round(value_to_srgb(values) * 255)
    return cv2.LUT(labels, greys)
