"""The inventory of shapes: what each is, how large, how dark, and which brush goes into it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.imaging.pixels import pixel_at
from truesitter.core.types import Floats, Labels
from truesitter.core.values.shapes import ShapeMap, borders, find_shapes, largest_circles


@dataclass(frozen=True)
class ShapeInfo:
    """One shape.

    Attributes
    ----------
    number
        In the shape map; stable for one label map.
    group, region
        Value group, and the region that fills most of it.
    area_mm2, circle_mm
        Area, and diameter of the largest circle inside.
    x, y
        Centre of that circle, in fractions of the picture.
    value, lab
        Mean value and mean L*a*b*.
    neighbours
        Numbers of the shapes it touches, longest border first.
    """

    number: int
    group: int
    region: int
    area_mm2: float
    circle_mm: float
    x: float
    y: float
    value: float
    lab: tuple[float, float, float]
    neighbours: tuple[int, ...]


def list_shapes(
    labels: Labels, regions: Labels, value: Floats, lab: Floats, mm_per_px: float
) -> tuple[ShapeMap, tuple[ShapeInfo, ...]]:
    """All shapes of a label map; maps of one size (H, W).

    Parameters
    ----------
    labels
        (h, w) numbers of value groups.
    regions
        (h, w) regions of the sitter.
    value
        (h, w) Munsell values 0–10.
    lab
        (h, w, 3) L*a*b*.
    mm_per_px
        Canvas mm to a pixel, > 0.

    Returns
    -------
    tuple[ShapeMap, tuple[ShapeInfo, ...]]
        The map of shapes and what each is.
    """
    shapes = find_shapes(labels)
    circles = largest_circles(shapes)
    flat = shapes.number.ravel()
    count = shapes.count
    area = shapes.area.astype(float)
    means = [
        np.bincount(flat, weights=m.ravel(), minlength=count) / area for m in (value, *np.dsplit(lab, 3))
    ]
    kinds = int(regions.max()) + 1
    votes = np.bincount(flat.astype(np.int64) * kinds + regions.ravel(), minlength=count * kinds)
    region = votes.reshape(count, kinds).argmax(axis=1)
    around: list[list[tuple[int, int]]] = [[] for _ in range(count)]
    for a, b, length in zip(*(x.tolist() for x in borders(shapes.number)), strict=True):
        around[a].append((-length, b))
        around[b].append((-length, a))
    height, width = labels.shape
    return shapes, tuple(
        ShapeInfo(
            number=i,
            group=int(shapes.group[i]),
            region=int(region[i]),
            area_mm2=float(area[i]) * mm_per_px**2,
            circle_mm=2 * float(circles.radius[i]) * mm_per_px,
            x=float(circles.x[i]) / width,
            y=float(circles.y[i]) / height,
            value=float(means[0][i]),
            lab=(float(means[1][i]), float(means[2][i]), float(means[3][i])),
            neighbours=tuple(b for _, b in sorted(around[i])),
        )
        for i in range(count)
    )


def join_shape(labels: Labels, x: float, y: float, group: int) -> Labels:
    """Give the shape under a spot (fractions of the picture) to another group.

    Parameters
    ----------
    labels
        (h, w) numbers of value groups.
    x
        In fractions.
    y
        In fractions, down.
    group
        To join.

    Returns
    -------
    Labels
        Changed copy.
    """
    shapes = find_shapes(labels)
    here = shapes.number[pixel_at(x, y, labels.shape)]
    return np.where(shapes.number == here, np.uint8(group), labels)
