"""Every spot of a painting by the name a painter would call it."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.imaging.pixels import in_pixels
from truesitter.core.sitter.face import OVAL, Face
from truesitter.core.sitter.places import PLACES, OwnPlace
from truesitter.core.sitter.region_names import Region
from truesitter.core.sitter.tuning import EAR, NEAR_OVAL, NECK, OWN_REACH
from truesitter.core.types import Doubles, Floats, Labels, Mask

_ON_FACE = (Region.SKIN, Region.LIPS, Region.EYES, Region.BROWS, Region.FACIAL_HAIR, Region.MOUTH)


@dataclass(frozen=True)
class Areas:
    """A painting divided by name.

    Attributes
    ----------
    labels
        (h, w) number of the area at each pixel.
    names
        Their names.
    whole
        For each area the name of the larger thing it is part of: hair, garment, background, face, skin.
    """

    labels: Labels
    names: tuple[str, ...]
    whole: tuple[str, ...]

    def mask(self, name: str) -> Mask:
        """Where an area of some name lies."""
        return np.asarray(self.labels == self.names.index(name))

    def wholes(self, name: str) -> Mask:
        """Where the parts of a larger thing lie."""
        return np.isin(self.labels, [i for i, w in enumerate(self.whole) if w == name])


def areas_of(regions: Labels, face: Face | None, own: tuple[OwnPlace, ...] = ()) -> Areas:
    """Divide a picture by the places of the face and the parts of its regions.

    Parameters
    ----------
    regions
        (h, w) numbers of the regions.
    face
        None where there is none: skin goes by the painter's own names, or by the thirds of the figure.
    own
        Spots that the painter has named.
    """
    labels = np.zeros(regions.shape, np.uint8)
    names: list[str] = []
    wholes: list[str] = []

    def give(where: Mask, name: str, whole: str) -> None:
        if name not in names:
            names.append(name)
            wholes.append(whole)
        labels[where] = names.index(name)

    skin = np.isin(regions, _ON_FACE)
    for region in Region:
        if region in _ON_FACE and region is not Region.FACIAL_HAIR:
            continue
        for where, part in _thirds(regions == region):
            give(where, f"{region.spoken}{part}", region.spoken)
    if face is None:
        for where, part in _thirds(skin):
            give(where, f"skin{part}", "skin")
    else:
        for where, name, whole in _face_places(skin, face):
            give(where, name, whole)
    for where, name in _own_places(skin, own):
        give(where, name, "skin")
    if not names:
        give(np.ones(regions.shape, bool), "the picture", "the picture")
    return Areas(labels, tuple(names), tuple(wholes))


def _thirds(where: Mask) -> list[tuple[Mask, str]]:
    """A region cut into upper, middle and lower, left and right parts of its own box."""
    if not where.any():
        return []
    rows, columns = (np.flatnonzero(where.any(axis=axis)) for axis in (1, 0))
    y = (np.arange(where.shape[0]) - rows[0]) / max(1, rows[-1] - rows[0] + 1)
    x = (np.arange(where.shape[1]) - columns[0]) / max(1, columns[-1] - columns[0] + 1)
    found = []
    for upright, low, high in (("upper", -1, 1 / 3), ("middle", 1 / 3, 2 / 3), ("lower", 2 / 3, 2)):
        for side, near, far in (("left", -1, 0.5), ("right", 0.5, 2)):
            part = where & ((y >= low) & (y < high))[:, None] & ((x >= near) & (x < far))[None]
            if part.any():
                found.append((part, f", {upright} {side}"))
    return found


def _face_places(skin: Mask, face: Face) -> list[tuple[Mask, str, str]]:
    """Places of the face by their nearest landmark, ears, neck, and other skin."""
    height, width = skin.shape
    points = in_pixels(face.points[:, :2], skin.shape)
    owners = [name for name, marks in PLACES.items() for _ in marks]
    marks = [i for group in PLACES.values() for i in group]
    seeds = np.full(skin.shape, 255, np.uint8)
    at: dict[tuple[int, int], str] = {}
    for name, (x, y) in zip(owners, points[marks], strict=True):
        column, row = int(np.clip(x, 0, width - 1)), int(np.clip(y, 0, height - 1))
        seeds[row, column] = 0
        at[(row, column)] = name
    _, nearest = cv2.distanceTransformWithLabels(seeds, cv2.DIST_L2, 5, labelType=cv2.DIST_LABEL_PIXEL)
    of_label = {int(nearest[spot]): name for spot, name in at.items()}
    outline = np.round(points[list(OVAL)]).astype(np.int32)
    inside = np.zeros(skin.shape, np.uint8)
    cv2.fillPoly(inside, [outline.reshape(-1, 1, 2)], 1)
    size = float(np.hypot(*(points[10] - points[152])))
    away = cv2.distanceTransform(np.uint8(1) - inside, cv2.DIST_L2, 5)
    on_face = skin & (away <= NEAR_OVAL * size)
    found: list[tuple[Mask, str, str]] = []
    names = list(PLACES)
    table = np.zeros(int(nearest.max()) + 1, np.uint8)
    for label, name in of_label.items():
        table[label] = names.index(name)
    which = table[nearest]
    for number, name in enumerate(names):
        where = on_face & (which == number)
        if where.any():
            found.append((where, name, "face"))
    rest = skin & ~on_face
    rows, columns = np.mgrid[0:height, 0:width]
    brow, mouth = face.brow_peak_row * height, face.mouth_row * height
    chin_x, chin_y = face.chin * (width, height)
    ear = rest & (rows > brow) & (rows <= mouth) & (away < EAR * size)
    near_neck = (np.abs(columns - chin_x) < 0.55 * size) & (rows > mouth) & (rows < chin_y + NECK * size)
    neck = rest & ~ear & near_neck
    for where, name in (
        (ear & (columns < chin_x), "left ear"), (ear & (columns >= chin_x), "right ear"), (neck, "neck"),
        (rest & ~ear & ~neck & (columns < chin_x), "skin on the left"),
        (rest & ~ear & ~neck & (columns >= chin_x), "skin on the right"),
    ):  # fmt: skip
        if where.any():
            found.append((where, name, "face" if "ear" in name else "skin"))
    return found


def _own_places(skin: Mask, own: tuple[OwnPlace, ...]) -> list[tuple[Mask, str]]:
    if not own:
        return []
    height, width = skin.shape
    rows, columns = np.mgrid[0:height, 0:width]
    away = np.stack([np.hypot(columns - p.x * width, rows - p.y * height) for p in own])
    nearest, near = away.argmin(axis=0), away.min(axis=0) < OWN_REACH * height
    return [
        (where, place.name)
        for number, place in enumerate(own)
        if (where := skin & near & (nearest == number)).any()
    ]


def middle_of(where: Mask) -> tuple[float, float]:
    """A spot of an area, in fractions, as far inside it as can be."""
    room = cv2.distanceTransform(np.pad(where.astype(np.uint8), 1), cv2.DIST_L2, 3)[1:-1, 1:-1]
    row, column = np.unravel_index(int(room.argmax()), room.shape)
    return float((column + 0.5) / where.shape[1]), float((row + 0.5) / where.shape[0])


def share_by_area(areas: Areas, weight: Doubles) -> Doubles:
    """Sum of a map (h, w) over each area, (n,)."""
    sums = np.bincount(areas.labels.ravel(), weights=weight.ravel(), minlength=len(areas.names))
    return np.asarray(sums, dtype=np.float64)


def median_by_area(areas: Areas, where: Mask, *maps: Floats) -> tuple[Doubles, ...]:
    """Median of each map (h, w) over each area inside a mask, (n,); 0 where an area has none of it."""
    inside = np.flatnonzero(where)
    labels = areas.labels.ravel()[inside]
    # Numbers of one byte are put in order without comparing them.
    order = np.argsort(labels, kind="stable")
    ends = np.cumsum(np.bincount(labels, minlength=len(areas.names)))[:-1]
    found = []
    for one in maps:
        parts = np.split(one.ravel()[inside[order]], ends)
        found.append(np.array([float(np.median(p)) if len(p) else 0.0 for p in parts]))
    return tuple(found)
