"""Named places of the face, as outlines and points on the 478 landmarks.

The index lists were read off the published canonical face mesh of the detector
(the numbering is fixed by the model); the names are the painter's.
"""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.types import Doubles, Mask, Shape

OVAL = (
    10, 338, 297, 332, 284, 251, 389, 356, 454, 323, 361, 288, 397, 365, 379, 378, 400, 377,
    152, 148, 176, 149, 150, 136, 172, 58, 132, 93, 234, 127, 162, 21, 54, 103, 67, 109,
)  # fmt: skip
LIPS = (
    61, 185, 40, 39, 37, 0, 267, 269, 270, 409, 291, 375, 321, 405, 314, 17, 84, 181, 91, 146,
)  # fmt: skip
EYES = (
    (33, 246, 161, 160, 159, 158, 157, 173, 133, 155, 154, 153, 145, 144, 163, 7),
    (263, 466, 388, 387, 386, 385, 384, 398, 362, 382, 381, 380, 374, 373, 390, 249),
)
BROWS = (
    (70, 63, 105, 66, 107, 55, 65, 52, 53, 46),
    (300, 293, 334, 296, 336, 285, 295, 282, 283, 276),
)
NOSTRILS = (
    (98, 97, 2, 60, 99, 240),
    (327, 326, 2, 290, 328, 460),
)

UPPER_LIP_FIELD = (
    98, 97, 2, 326, 327, 322, 410, 291, 308, 415, 310, 311, 312, 13, 82, 81, 80, 191, 78, 61, 186, 92,
)  # fmt: skip

_EAR_FROM, _EAR_REACH = 0.02, 0.25
"""How far an ear stands off the outline of the face, in heights of the face."""

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
    "upper lip": (0, 37, 267, 39, 269, 40, 270, 165, 391, 92, 322),
    "lower lip": (17, 84, 314, 181, 405),
    "cleft of the upper lip": (164, 167, 393, 2),
    "chin": (152, 175, 199, 200, 18, 201, 421, 208, 428),
    "left jaw": (172, 136, 149, 138),
    "right jaw": (397, 365, 378, 367),
}


def outline_mask(landmarks: Doubles, indices: tuple[int, ...], shape: Shape, grow: float = 1.0) -> Mask:
    """Filled outline through landmarks, scaled about its centre by `grow`; bool (h, w)."""
    height, width = shape
    points = landmarks[list(indices), :2] * (width, height)
    centre = points.mean(axis=0)
    polygon = np.round((points - centre) * grow + centre).astype(np.int32)
    canvas = np.zeros(shape, np.uint8)
    cv2.fillPoly(canvas, [polygon], 1)
    return canvas.astype(bool)


def feature_mask(landmarks: Doubles, shape: Shape, grow: float = 1.25) -> Mask:
    """Eyes, nostrils and mouth: where shapes must be allowed to be smaller; bool (h, w)."""
    mask = outline_mask(landmarks, LIPS, shape, grow)
    for outline in EYES + NOSTRILS:
        mask |= outline_mask(landmarks, outline, shape, grow)
    return mask


def face_height(landmarks: Doubles, shape: Shape) -> float:
    """Distance from the top of the face outline to the chin, in pixels of `shape`."""
    height, width = shape
    top, chin = landmarks[10, :2] * (width, height), landmarks[152, :2] * (width, height)
    return float(np.hypot(*(chin - top)))


def place_centres(landmarks: Doubles) -> list[tuple[str, float, float]]:
    """Name and centre (x, y in fractions) of every place of the face."""
    return [
        (name, *(float(v) for v in landmarks[list(indices), :2].mean(axis=0)))  # type: ignore[misc]
        for name, indices in PLACES.items()
    ]


def place_of(x: float, y: float, landmarks: Doubles | None, aspect: float) -> str:
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
    if landmarks is None:
        ninth = f"{_third(y, 'upper', 'middle', 'lower')} {_third(x, 'left', 'middle', 'right')}"
        return "figure, " + ("centre" if ninth == "middle middle" else ninth)
    chin = landmarks[152]
    scale = np.array([1.0, aspect])
    face = float(np.hypot(*((landmarks[10, :2] - chin[:2]) * scale)))
    spot = np.array([x, y]) * scale
    inside = cv2.pointPolygonTest(
        (landmarks[list(OVAL), :2] * scale).astype(np.float32), (float(spot[0]), float(spot[1])), True
    )
    brow, mouth = landmarks[[105, 334], 1].mean() * aspect, landmarks[14, 1] * aspect
    if brow < spot[1] <= mouth and _EAR_FROM < -inside / face < _EAR_REACH:
        return f"{'left' if x < chin[0] else 'right'} ear"
    if inside < -0.06 * face:
        # Beside the jaw the neck begins at the mouth.
        near_neck = abs(x - chin[0]) < 0.55 * face and mouth < spot[1] < chin[1] * aspect + 0.7 * face
        return "neck" if near_neck else "figure"
    owners = [name for name, indices in PLACES.items() for _ in indices]
    indices = [i for group in PLACES.values() for i in group]
    away = np.hypot(*((landmarks[indices, :2] * scale) - spot).T)
    return owners[int(away.argmin())]


def _third(position: float, first: str, second: str, last: str) -> str:
    return first if position < 1 / 3 else second if position < 2 / 3 else last
