"""A painting found in its photograph, and which of the pictures it may have been painted after it follows."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.easel.find.corners import find_corners
from truesitter.core.easel.find.correlation import correlation, normalised_grey
from truesitter.core.easel.find.registration import Registered, register
from truesitter.core.easel.find.tuning import FLAT_CANVAS, LEAST_LIKENESS, LIKELIER
from truesitter.core.easel.find.view import View
from truesitter.core.refusal import Refusal
from truesitter.core.types import Bytes, Doubles, Floats


@dataclass(frozen=True)
class OnEasel:
    """A painting found in its photograph.

    Attributes
    ----------
    registered
        How the camera saw it.
    how
        ``plan``, ``photograph`` or ``drawing``: what it was laid on, and is held to.
    found
        ``paint``, ``sides``, or ``hand`` for corners set by the painter.
    """

    registered: Registered
    how: str
    found: str


def has_drawing(template: Bytes) -> bool:
    """True when a canvas has enough on it to be recognised by."""
    return float(cv2.cvtColor(template, cv2.COLOR_RGB2GRAY).std()) >= FLAT_CANVAS


def check_likeness(correlation: float, template: Bytes) -> None:
    """Refuse what is not the painting at all.

    Raises
    ------
    Refusal
        With what to look at.
    """
    if has_drawing(template) and correlation < LEAST_LIKENESS:
        raise Refusal(
            "this does not look like the painting of this sitter at that pass: check the corners and the "
            "pass, or whether it is the right photograph"
        )


def find_on_easel(
    picture: Bytes, ways: tuple[str, ...], templates: tuple[Bytes, ...], corners: Doubles | None, refine: bool
) -> OnEasel:
    """Where a painting lies in its photograph.

    Parameters
    ----------
    picture
        (H, W, 3) sRGB.
    ways, templates
        What it may be held to, by name and as pictures (h, w, 3): one or two.
    corners
        (4, 2) in fractions, set by hand; None to find them.
    refine
        True to make the corners exact by the template.

    Returns
    -------
    OnEasel
        Held to the second way only where that is clearly likelier.

    Raises
    ------
    Refusal
        When no painting is found, or it is not one of this sitter.
    """
    shape = (picture.shape[0], picture.shape[1])
    if corners is None:
        found = find_corners(picture, templates, templates[0].shape[0] / templates[0].shape[1])
        view, by = View.of_corners(found.corners, shape), found.how
    else:
        view, by = View.of_corners(corners, shape), "hand"
    chosen = 0
    if len(ways) > 1:
        own = view.squared(picture, templates[0].shape[:2])
        looks = [_look(t) for t in templates]
        liked = [correlation(_look(np.asarray(own, dtype=np.uint8)), look) for look in looks]
        chosen = 1 if liked[1] > liked[0] + LIKELIER else 0
    template = templates[chosen]
    if refine and has_drawing(template):
        done = register(picture, view, template)
    else:
        done = Registered(view, float("nan"), _liked(picture, view, template), 0)
    check_likeness(done.correlation, template)
    return OnEasel(done, ways[chosen], by)


def _look(picture: Bytes) -> Floats:
    small = cv2.resize(picture, None, fx=0.4, fy=0.4, interpolation=cv2.INTER_AREA)
    return normalised_grey(np.asarray(small))


def _liked(picture: Bytes, view: View, template: Bytes) -> float:
    own = view.squared(picture, template.shape[:2])
    return correlation(_look(own), _look(template))
