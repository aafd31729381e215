"""The usual proportions of a face beside those of this sitter.

The usual ones are rules of thumb of the drawing class: common practice, no source. A sitter
who differs is not wrong; the difference is the likeness.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.sitter.face import (
    BROW_MIDDLE,
    CHEEKS,
    CHIN,
    LEFT_EYE_CORNERS,
    MOUTH_CORNERS,
    NOSE_BASE,
    NOSE_WINGS,
    PUPILS,
    RIGHT_EYE_CORNERS,
    Face,
)


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
    face: Face,
    aspect: float,
    crown: tuple[float, float] | None = None,
    hairline: tuple[float, float] | None = None,
) -> tuple[Proportion, ...]:
    """Proportions of a face, turned with the head's own axis.

    Parameters
    ----------
    face
        As found.
    aspect
        Height / width of the picture.
    crown
        (x, y) in fractions: the top of the head with its hair; without it the eye line is
        not compared.
    hairline
        (x, y) where the hair begins above the brows; without it the forehead is not
        compared (the landmarks end below it).
    """
    points, up = face.points[:, :2] * (1.0, aspect), face.axis(aspect)

    def height(index: int) -> float:
        return float(points[index] @ up)

    def apart(pair: tuple[int, int]) -> float:
        return float(np.hypot(*(points[pair[1]] - points[pair[0]])))

    def show(a: int, b: int) -> tuple[tuple[float, float], tuple[float, float]]:
        return face.spot(a), face.spot(b)

    chin, nose, brow = (height(i) for i in (CHIN, NOSE_BASE, BROW_MIDDLE))
    eye_line = (height(PUPILS[0]) + height(PUPILS[1])) / 2
    eye = (apart(LEFT_EYE_CORNERS) + apart(RIGHT_EYE_CORNERS)) / 2
    between = apart((LEFT_EYE_CORNERS[1], RIGHT_EYE_CORNERS[0]))
    found = []
    if crown is not None:
        head = float(np.array(crown) * (1.0, aspect) @ up) - chin
        found.append(
            Proportion(
                "eye line above the chin over the height of the head",
                0.5,
                (eye_line - chin) / head,
                show(*PUPILS),
            )
        )
    if hairline is not None:
        forehead = float(np.array(hairline) * (1.0, aspect) @ up) - brow
        found.append(
            Proportion(
                "hairline to brow over brow to nose base",
                1.0,
                forehead / (brow - nose),
                (hairline, face.spot(BROW_MIDDLE)),
            )
        )
    return (
        *found,
        Proportion("brow to nose base over nose base to chin", 1.0, (brow - nose) / (nose - chin),
                   show(BROW_MIDDLE, NOSE_BASE)),
        Proportion("between the eyes over the width of an eye", 1.0, between / eye,
                   show(LEFT_EYE_CORNERS[1], RIGHT_EYE_CORNERS[0])),
        Proportion("width of the face over the width of an eye", 5.0, apart(CHEEKS) / eye,
                   show(*CHEEKS)),
        Proportion("width of the nose over the distance between the eyes", 1.0,
                   apart(NOSE_WINGS) / between, show(*NOSE_WINGS)),
        Proportion("width of the mouth over the distance between the pupils", 0.8,
                   apart(MOUTH_CORNERS) / apart(PUPILS), show(*MOUTH_CORNERS)),
    )  # fmt: skip
