"""Named places of the face.

A place is a few landmarks; the lists were read off the published canonical face mesh.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.sitter.face import OVAL, Face
from truesitter.core.sitter.tuning import EAR_FROM, EAR_REACH, OWN_REACH

# A place is a few landmarks; a spot is named after the nearest landmark of all.
# "Left" and "right" are those of the picture, as the painter sees it.
PLACES: dict[str, tuple[int, ...]] = {
    "forehead": (9, 151, 10, 67, 297, 108, 337, 69, 299, 104, 333),
    "left temple": (21, 162, 54, 71),
    "right temple": (251, 389, 284, 301),
    "left brow ridge": (105, 66, 52, 65, 63),
    "right brow ridge": (334, 296, 282, 295, 293),
    "left eye socket": (159, 145, 27, 23, 113),
    "right eye socket": (386, 374, 257, 253, 342),
    "nose bridge": (6, 197, 168, 195),
    "nose tip": (4, 1, 5),
    "left side of the nose": (198, 131, 126, 48),
    "right side of the nose": (420, 360, 355, 278),
    "left nostril": (98, 64),
    "right nostril": (327, 294),
    "left cheekbone": (117, 118, 50, 116, 101, 123, 111, 119),
    "right cheekbone": (346, 347, 280, 345, 330, 352, 340, 348),
    "left cheek": (205, 187, 207, 213, 192),
    "right cheek": (425, 411, 427, 433, 416),
    "above the upper lip": (0, 37, 267, 39, 269, 40, 270, 165, 391, 92, 322),
    "lower lip": (17, 84, 314, 181, 405),
    "cleft of the upper lip": (164, 167, 393, 2),
    "chin": (152, 175, 199, 200, 18, 201, 421, 208, 428),
    "left jaw": (172, 136, 149, 138),
    "right jaw": (397, 365, 378, 367),
}


def place_centres(face: Face) -> list[tuple[str, float, float]]:
    """Name and centre (x, y in fractions) of every place of the face."""
    return [(name, *face.spot(*landmarks)) for name, landmarks in PLACES.items()]


@dataclass(frozen=True)
class OwnPlace:
    """A spot (fractions) and what the painter calls it."""

    name: str
    x: float
    y: float


def own_name(x: float, y: float, own: tuple[OwnPlace, ...], aspect: float) -> str | None:
    """The painter's own name for a spot: that of the nearest spot named, none where all are far.

    Parameters
    ----------
    x
        In fractions.
    y
        In fractions, down.
    own
        Places the painter named.
    aspect
        Height ÷ width of the picture.

    Returns
    -------
    str | None
        A name or None.
    """
    away = [float(np.hypot((p.x - x) / aspect, p.y - y)) for p in own]
    if not away or min(away) > OWN_REACH:
        return None
    return own[int(np.argmin(away))].name


def is_unnamed(place: str) -> bool:
    """True for a place of the figure that has no name of its own.

    Examples
    --------
    >>> is_unnamed("chin")
    False
    """
    return place == "figure" or place.endswith("of the figure")


def numbered(names: Iterable[str]) -> tuple[str, ...]:
    """Names made unlike one another: the second ``neck`` becomes ``neck, 2``.

    Examples
    --------
    >>> numbered(["cheek", "chin", "cheek"])
    ('cheek', 'chin', 'cheek, 2')
    """
    used: list[str] = []
    for name in names:
        own, count = name, 1
        while own in used:
            count += 1
            own = f"{name}, {count}"
        used.append(own)
    return tuple(used)


def place_of(x: float, y: float, face: Face | None, aspect: float) -> str:
    """Name the place of the face nearest to a spot.

    Parameters
    ----------
    x, y
        The spot, in fractions of width and height.
    aspect
        Height / width of the picture, so that distances are true.

    Returns
    -------
    str
        A key of `PLACES`, ``"left ear"`` or ``"right ear"`` beside the face, ``"neck"`` below the chin and
        beside the jaw, ``"figure"`` when the spot is away from the face, or a ninth of the picture when there
        is no face.
    """
    if face is None:
        ninth = f"{_third(y, 'upper', 'middle', 'lower')} {_third(x, 'left', 'middle', 'right')}"
        return f"{'middle' if ninth == 'middle middle' else ninth} of the figure"
    scale = np.array([1.0, aspect])
    size = float(np.hypot(*((face.top - face.chin) * scale)))
    spot = np.array([x, y]) * scale
    inside = cv2.pointPolygonTest(
        (face.points[list(OVAL), :2] * scale).astype(np.float32), (float(spot[0]), float(spot[1])), True
    )
    brow, mouth = face.brow_peak_row * aspect, face.mouth_row * aspect
    chin_x, chin_y = face.chin * scale
    if brow < spot[1] <= mouth and EAR_FROM < -inside / size < EAR_REACH:
        return f"{'left' if x < chin_x else 'right'} ear"
    if inside < -0.06 * size:
        # Beside the jaw the neck begins at the mouth.
        near_neck = abs(x - chin_x) < 0.55 * size and mouth < spot[1] < chin_y + 0.7 * size
        return "neck" if near_neck else "figure"
    owners = [name for name, landmarks in PLACES.items() for _ in landmarks]
    landmarks = [i for group in PLACES.values() for i in group]
    away = np.hypot(*((face.points[landmarks, :2] * scale) - spot).T)
    return owners[int(away.argmin())]


def _third(position: float, first: str, second: str, last: str) -> str:
    return first if position < 1 / 3 else second if position < 2 / 3 else last
