"""The usual proportions of a face beside those of this sitter.

The usual ones are rules of thumb of the drawing class: common practice, no source. A sitter
who differs is not wrong; the difference is the likeness.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.types import Doubles

_BROW, _NOSE_BASE, _CHIN, _TOP = 9, 2, 152, 10
_LEFT_EYE, _RIGHT_EYE = (33, 133), (362, 263)
_MOUTH, _PUPILS, _NOSE_WINGS, _FACE_SIDES = (61, 291), (468, 473), (129, 358), (234, 454)


@dataclass(frozen=True)
class Proportion:
    """One rule of thumb.

    Attributes
    ----------
    name
        What is compared with what.
    usual, here
        The rule's ratio and this sitter's.
    line
        Two points (x, y) in fractions that show it.
    """

    name: str
    usual: float
    here: float
    line: tuple[tuple[float, float], tuple[float, float]]


def face_proportions(
    landmarks: Doubles,
    aspect: float,
    crown: tuple[float, float] | None = None,
    hairline: tuple[float, float] | None = None,
) -> tuple[Proportion, ...]:
    """Proportions of a face, turned with the head's own axis.

    Parameters
    ----------
    landmarks
        (478, 3) of a frontal or three-quarter face.
    aspect
        Height / width of the picture.
    crown
        (x, y) in fractions: the top of the head with its hair; without it the eye line is
        not compared.
    hairline
        (x, y) where the hair begins above the brows; without it the forehead is not
        compared (the landmarks end below it).
    """
    points = landmarks[:, :2] * (1.0, aspect)
    up = points[_TOP] - points[_CHIN]
    up /= np.hypot(*up)

    def height(index: int) -> float:
        return float(points[index] @ up)

    def apart(pair: tuple[int, int]) -> float:
        return float(np.hypot(*(points[pair[1]] - points[pair[0]])))

    def show(a: int, b: int) -> tuple[tuple[float, float], tuple[float, float]]:
        first, second = landmarks[a, :2], landmarks[b, :2]
        return (float(first[0]), float(first[1])), (float(second[0]), float(second[1]))

    chin, nose, brow = (height(i) for i in (_CHIN, _NOSE_BASE, _BROW))
    eye_line = (height(_PUPILS[0]) + height(_PUPILS[1])) / 2
    eye = (apart(_LEFT_EYE) + apart(_RIGHT_EYE)) / 2
    between = apart((_LEFT_EYE[1], _RIGHT_EYE[0]))
    found = []
    if crown is not None:
        head = float(np.array(crown) * (1.0, aspect) @ up) - chin
        found.append(
            Proportion(
                "eye line above the chin over the height of the head",
                0.5,
                (eye_line - chin) / head,
                show(*_PUPILS),
            )
        )
    if hairline is not None:
        forehead = float(np.array(hairline) * (1.0, aspect) @ up) - brow
        x, y = landmarks[_BROW, :2]
        found.append(
            Proportion(
                "hairline to brow over brow to nose base",
                1.0,
                forehead / (brow - nose),
                (hairline, (float(x), float(y))),
            )
        )
    return (
        *found,
        Proportion("brow to nose base over nose base to chin", 1.0, (brow - nose) / (nose - chin),
                   show(_BROW, _NOSE_BASE)),
        Proportion("between the eyes over the width of an eye", 1.0, between / eye,
                   show(_LEFT_EYE[1], _RIGHT_EYE[0])),
        Proportion("width of the face over the width of an eye", 5.0, apart(_FACE_SIDES) / eye,
                   show(*_FACE_SIDES)),
        Proportion("width of the nose over the distance between the eyes", 1.0,
                   apart(_NOSE_WINGS) / between, show(*_NOSE_WINGS)),
        Proportion("width of the mouth over the distance between the pupils", 0.8,
                   apart(_MOUTH) / apart(_PUPILS), show(*_MOUTH)),
    )  # fmt: skip
