"""The drills there are."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

DrillName = Literal[
    "value", "surround", "lighter", "same value", "mix", "warm", "peaks", "masses", "strokes", "contour",
    "steps",
]  # fmt: skip
Answered = Literal["number", "choice", "parts", "points", "shapes", "stroke", "line"]


@dataclass(frozen=True)
class Drill:
    """One kind of exercise.

    Attributes
    ----------
    name, title, asks
        Key, what it is called, and what is to be done.
    unit
        Of what an answer is off, and of the threshold.
    answered
        How it is answered.
    choices
        How many there are to choose from; 0 for answers that are off by something.
    start, least, most
        Level to begin with, hardest and easiest: the difference shown where one is chosen, what still
        counts as right where something is told [try].
    """

    name: DrillName
    title: str
    asks: str
    unit: str
    answered: Answered
    choices: int
    start: float
    least: float
    most: float


DRILLS: dict[DrillName, Drill] = {
    d.name: d
    for d in (
        Drill("value", "Tell a value", "How light is this colour, from 0 to 10?", "steps", "number", 0, 1.0,
              0.1, 4),
        Drill("surround", "A value in company", "How light is the middle, whatever lies round it?",
              "steps", "number", 0, 1.0, 0.1, 4),
        Drill("lighter", "Lighter or darker", "Which of these is lighter?", "steps", "choice", 2, 0.8, 0.05,
              3),
        Drill("same value", "As light as the first", "Which of the four is as light as the first?",
              "steps", "choice", 4, 1.2, 0.1, 3),
        Drill("mix", "Mix what you see", "How many parts of each tube make this?", "ΔE", "parts", 0, 8.0,
              1.0, 40),
        Drill("warm", "The warmer one", "Both are equally light: which is warmer?", "ΔE", "choice", 2, 8.0,
              0.7, 30),
        Drill("peaks", "Where light gathers", "Where is the skin lightest? Mark the places.",
              "% of the height", "points", 0, 4.0, 0.5, 30),
        Drill("masses", "Shadows as shapes", "Draw round the dark, as half-closed eyes see it.",
              "% not shared", "shapes", 0, 40.0, 5.0, 100),
        Drill("strokes", "A hair with the growth", "Draw one from the mark, as it grows, thinning out.",
              "degrees", "stroke", 0, 15.0, 2.0, 90),
        Drill("contour", "A line on its head", "Copy the line, just as it stands on its head.",
              "% of the height", "line", 0, 4.0, 0.5, 30),
        Drill("steps", "How far apart", "By how many steps do these two differ?", "steps", "number",
              0, 1.0, 0.1, 4),
    )
}  # fmt: skip
"""By name, in the order in which they are shown."""
