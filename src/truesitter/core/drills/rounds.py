"""A round: what is shown, what was answered, and what it comes to."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field

import numpy as np

from truesitter.core.colour.spaces import Lab, as_lab, hex_to_srgb, lab_to_srgb, srgb_to_hex, srgb_to_lab
from truesitter.core.colour.value import lab_value, value_to_lightness
from truesitter.core.drills.drill_picture import DrillPicture
from truesitter.core.drills.tuning import EDGE, OWN_PLACES
from truesitter.core.refusal import Refusal
from truesitter.core.types import Doubles

Point = tuple[float, float]
Rng = np.random.Generator
"""What is drawn by lot."""
Places = tuple[str, ...]
"""Names of places the painter tends to get wrong."""


@dataclass(frozen=True)
class Patch:
    """A colour as the screen shows it: its 8-bit number, and what that truly is."""

    hex: str
    lab: Lab
    value: float

    @classmethod
    def of(cls, lab: Doubles) -> Patch:
        """The nearest colour that can be shown."""
        shown = srgb_to_hex(np.clip(lab_to_srgb(lab), 0, 1))
        true = srgb_to_lab(hex_to_srgb(shown))
        return cls(shown, as_lab(true), float(lab_value(true)))


@dataclass(frozen=True)
class Question:
    """What is shown.

    Attributes
    ----------
    patches
        Colours, as ``#rrggbb``.
    around
        Colour round the first of them; empty for the wall's grey.
    tubes
        Tubes to mix from: key, name, colour.
    count
        How many places are asked for.
    at
        Where to begin, or what is meant, in fractions of the picture; None for all of it.
    line
        A line to copy, in fractions.
    pictured
        True when the picture itself is shown.
    """

    patches: tuple[str, ...] = ()
    around: str = ""
    tubes: tuple[tuple[str, str, str], ...] = ()
    count: int = 0
    at: Point | None = None
    line: tuple[Point, ...] = ()
    pictured: bool = False


@dataclass(frozen=True)
class Answer:
    """What was answered; what is not asked stays empty.

    Attributes
    ----------
    number, choice
        A number, or which of the patches, counted from 0.
    parts
        Parts of each tube.
    points
        Places or a line, in fractions of the picture.
    widths
        Of a stroke at each of its points, in any unit.
    shapes
        Closed lines, in fractions.
    """

    number: float | None = None
    choice: int | None = None
    parts: dict[str, int] = field(default_factory=dict)
    points: tuple[Point, ...] = ()
    widths: tuple[float, ...] = ()
    shapes: tuple[tuple[Point, ...], ...] = ()


@dataclass(frozen=True)
class Score:
    """What an answer comes to.

    Attributes
    ----------
    off
        By how much, in the drill's unit; 0 for a right choice and the level for a wrong one.
    right
        Whether it counts as right at the round's level.
    words
        In a sentence.
    number, choice, patches, points, lines
        The truth, to be shown beside the answer.
    """

    off: float
    right: bool
    words: str
    number: float | None = None
    choice: int | None = None
    patches: tuple[str, ...] = ()
    points: tuple[Point, ...] = ()
    lines: tuple[tuple[Point, ...], ...] = ()


@dataclass(frozen=True)
class Round:
    """One round.

    Attributes
    ----------
    question
        What is shown.
    score
        Scores an answer; refuses one that is none.
    """

    question: Question
    score: Callable[[Answer], Score]


class NotHere(Refusal):
    """The picture has nothing to make this drill from."""


def chosen(answer: Answer, choices: int) -> int:
    """Which was chosen.

    Raises
    ------
    Refusal
        For none, or one that is not there.
    """
    if answer.choice is None or not 0 <= answer.choice < choices:
        raise Refusal(f"choose one of the {choices}")
    return answer.choice


def told(answer: Answer, least: float, most: float) -> float:
    """The number that was told, inside its range.

    Parameters
    ----------
    answer
        As it came.
    least, most
        Of the range.

    Returns
    -------
    float
        The number.

    Raises
    ------
    Refusal
        For none, or one outside.
    """
    if answer.number is None or not least <= answer.number <= most:
        raise Refusal(f"the answer is a number from {least:g} to {most:g}")
    return answer.number


def patch_of(picture: DrillPicture, rng: Rng, places: Places = ()) -> Doubles:
    """Mean L*a*b* of a small spot of the picture, now and then of places that are asked for.

    Parameters
    ----------
    picture
        What the round is made from.
    rng
        Source of chance.
    places
        Names of places to prefer; none for anywhere.

    Returns
    -------
    Doubles
        (3,) L*a*b*.
    """
    height, width = picture.shape
    radius = max(2, height // 60)
    inside = np.zeros(picture.shape, bool)
    inside[radius : height - radius, radius : width - radius] = True
    wanted = [n for n, name in enumerate(picture.names) if name in places]
    here = inside & np.isin(picture.places, wanted) if wanted and rng.random() < OWN_PLACES else inside
    ys, xs = np.nonzero(here if here.any() else inside)
    if not len(ys):
        raise NotHere("this picture is too small for drills")
    n = int(rng.integers(len(ys)))
    spot = picture.lab[ys[n] - radius : ys[n] + radius + 1, xs[n] - radius : xs[n] + radius + 1]
    return np.asarray(spot.reshape(-1, 3).mean(axis=0), dtype=np.float64)


def at_value(lab: Doubles, value: float) -> Doubles:
    """A colour with another value; its chroma goes down until the screen can show it."""
    moved = np.array([float(value_to_lightness(np.clip(value, 0, 10))), lab[1], lab[2]])
    for share in np.linspace(1, 0, 21):
        tried = moved * (1, share, share)
        rgb = lab_to_srgb(tried)
        if np.all((rgb >= -EDGE) & (rgb <= 1 + EDGE)):
            return np.asarray(tried)
    return np.asarray(moved * (1, 0, 0))
