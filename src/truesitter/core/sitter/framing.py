"""Which part of a photograph to paint: closer frames round the head that was found, none of which cuts it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.imaging.pixels import in_pixels
from truesitter.core.sitter.face import TEMPLES, Face
from truesitter.core.sitter.tuning import (
    AIR,
    CLOSER,
    CLOSEST,
    CROWN_LEAST,
    CROWN_MOST,
    HEAD_SHARES,
    HEAD_WIDTH_SHARE,
    SIDES_MOST,
)
from truesitter.core.types import Doubles, Floats, Shape

ORDINALS = tuple(f"{word} head" for word in ("second", "third", "fourth", "fifth", "sixth"))
"""Names of frames round heads beside the first."""


@dataclass(frozen=True)
class Head:
    """A whole head with its hair, in fractions of the photograph: crown, chin and sides.

    Attributes
    ----------
    left, top, right, bottom
        The head's box; the chin is its bottom.
    face
        Height of the face alone, from the top of its outline to the chin, in fractions of the
        photograph's height.
    """

    left: float
    top: float
    right: float
    bottom: float
    face: float

    @property
    def height(self) -> float:
        """From crown to chin, in fractions of the photograph's height."""
        return self.bottom - self.top


@dataclass(frozen=True)
class Framing:
    """One way of framing a photograph.

    Attributes
    ----------
    name
        "head", "head and shoulders", "as photographed", or "second head" and on.
    canvas_mm
        Width and height.
    centre
        Of the crop, in fractions of the photograph.
    zoom
        As `reference.frame.Frame` has it: 1 is the largest crop of the canvas's proportions.
    """

    name: str
    canvas_mm: tuple[float, float]
    centre: tuple[float, float]
    zoom: float


def head_of(face: Face, person: Floats) -> Head:
    """The whole head round a face: as far as the sitter reaches above and beside it.

    Parameters
    ----------
    face
        Upright, in fractions of the photograph.
    person
        (h, w) likelihood of being the sitter.

    Returns
    -------
    Head
        Its crown lies a quarter to a whole height of the face above the face's outline: a head
        before something that the detector takes for the sitter is not made endless.
    """
    shape = person.shape
    outline = in_pixels(face.points[:, :2], shape)
    top, chin = outline[:, 1].min(), outline[:, 1].max()
    left, right = outline[:, 0].min(), outline[:, 0].max()
    size = chin - top
    temples = sorted(in_pixels(face.line(TEMPLES), shape)[:, 0])
    crown = top - np.clip(_reach(_above(person, temples, top)), CROWN_LEAST * size, CROWN_MOST * size)
    band = slice(*np.clip(np.round([crown, (top + chin) / 2]), 0, shape[0]).astype(int))
    beside = person[band].mean(axis=0) if band.stop > band.start else np.zeros(shape[1], np.float32)
    middle = int(np.clip(round((left + right) / 2), 0, shape[1] - 1))
    wide = [
        min(max(_reach(side), 0.5 * (right - left)), (0.5 + SIDES_MOST) * (right - left))
        for side in (beside[middle::-1], beside[middle:])
    ]
    return Head(
        float((middle - wide[0]) / shape[1]), float(crown / shape[0]),
        float((middle + wide[1]) / shape[1]), float(chin / shape[0]), float(size / shape[0]),
    )  # fmt: skip


def _above(person: Floats, temples: list[float], top: float) -> Doubles:
    """How surely the sitter is met above a face, row by row upwards, between its temples."""
    first, last = (int(np.clip(round(t), 0, person.shape[1] - 1)) for t in temples)
    row = int(np.clip(round(top), 0, person.shape[0] - 1))
    return np.asarray(person[row::-1, first : last + 1].mean(axis=1), dtype=np.float64)


def _reach(sure: Floats | Doubles) -> float:
    """How many pixels the sitter goes on without a gap."""
    off = np.flatnonzero(sure < 0.5)
    return float(off[0] if len(off) else len(sure))


def framings(
    heads: tuple[Head, ...],
    shape: Shape,
    canvas_mm: tuple[float, float],
    whole_mm: tuple[float, float],
    straighten: float = 0.0,
) -> tuple[Framing, ...]:
    """The frames that a photograph offers: of the first head closest first, the whole, then other heads.

    Parameters
    ----------
    heads
        As found, whom the picture is of first; none when there is none.
    shape
        Height and width of the upright photograph.
    canvas_mm
        Width and height that the closer frames keep.
    whole_mm
        And of a canvas that takes the whole photograph.
    straighten
        Degrees by which the photograph is turned counter-clockwise under the frame.

    Returns
    -------
    tuple of Framing
        "as photographed" is always there. A closer frame is offered where it is one, with air above the
        crown. "second head", "third head" … choose another sitter of the picture.
    """
    whole = Framing("as photographed", whole_mm, (0.5, 0.5), 1.0)
    closer: dict[float, Framing] = {}
    for head in heads[:1]:
        for name, share in HEAD_SHARES.items():
            one = _round(head, name, share, shape, canvas_mm, straighten)
            if one is not None:
                # In a strip both are as high as it is.
                closer.setdefault(one.zoom, one)
    others = [
        _round(head, name, HEAD_SHARES["head"], shape, canvas_mm, straighten)
        for name, head in zip(ORDINALS, heads[1:], strict=False)
    ]
    return (*closer.values(), whole, *filter(None, others))


def on_canvas(heads: tuple[Head, ...], shape: Shape, canvas_mm: tuple[float, float]) -> Framing:
    """As much of a photograph as goes on a canvas, with the whole of the first head and air above it.

    Parameters
    ----------
    heads
        As found, whom the picture is of first; without one, the middle of the photograph is taken.
    shape
        Height and width of the upright photograph.
    canvas_mm
        Width and height; the canvas is laid as the photograph lies.

    Returns
    -------
    Framing
        "usual canvas", as near to the middle of the photograph as the head lets it be. A head that is
        larger than all that the canvas can take stands in its middle.
    """
    height, width = shape[:2]
    lies = (width > height) == (canvas_mm[0] > canvas_mm[1])
    wide_mm, high_mm = canvas_mm if lies else canvas_mm[::-1]
    high = min(height, width * high_mm / wide_mm)
    wide = high * wide_mm / high_mm
    x, y = width / 2, height / 2
    if heads:
        head = heads[0]
        x = _holding(width, wide, head.left * width, head.right * width)
        top, chin = head.top * height, head.bottom * height
        # Air is what gives way, where the canvas has no room for it.
        y = _holding(height, high, max(top - AIR * high, min(top, chin - high)), chin)
    return Framing("usual canvas", (wide_mm, high_mm), (x / width, y / height), 1.0)


def _holding(length: float, crop: float, first: float, last: float) -> float:
    """Middle of a crop that holds a stretch and is nearest to the middle of its photograph."""
    least, most = last - crop / 2, first + crop / 2
    middle = (least + most) / 2 if least > most else np.clip(length / 2, least, most)
    return float(np.clip(middle, crop / 2, length - crop / 2))


def _round(
    head: Head, name: str, share: float, shape: Shape, canvas_mm: tuple[float, float], straighten: float
) -> Framing | None:
    """A frame of which a head takes a share; None where it shows as good as all of the photograph."""
    height, width = shape[:2]
    turn = np.radians(straighten)
    cosine, sine = abs(np.cos(turn)), abs(np.sin(turn))
    down = np.array([-np.sin(turn), np.cos(turn)])
    aspect = canvas_mm[1] / canvas_mm[0]
    # Largest height of a crop of the canvas's proportions that is turned by so much.
    largest = aspect * min(width / (cosine + aspect * sine), height / (sine + aspect * cosine))
    # A head is an ellipse: so wide and high as it is seen along the sides of the frame.
    half_wide, half_high = (head.right - head.left) / 2 * width, head.height / 2 * height
    wide = 2 * np.hypot(half_wide * cosine, half_high * sine)
    high = 2 * np.hypot(half_wide * sine, half_high * cosine)
    crop = float(min(largest, max(high / share, wide / HEAD_WIDTH_SHARE * aspect, largest / CLOSEST)))
    if height * width < CLOSER * crop * crop / aspect:
        return None
    middle = np.array([(head.left + head.right) / 2 * width, (head.top + head.bottom) / 2 * height])
    x, y = middle + down * (crop / 2 - AIR * crop - high / 2)
    centre = (float(np.clip(x / width, 0, 1)), float(np.clip(y / height, 0, 1)))
    return Framing(name, canvas_mm, centre, round(float(largest) / crop, 3))
