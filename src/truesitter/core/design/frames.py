"""Frames: how each would stand beside the rim of the picture."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.colour.spaces import Lab
from truesitter.core.colour.value import lab_value
from truesitter.core.design.tuning import FRAMES, LOUD_STEPS, LOUDER_CHROMA, QUIET_STEPS, RIM
from truesitter.core.types import Floats


@dataclass(frozen=True)
class Framed:
    """A frame beside a picture.

    Attributes
    ----------
    name, lab
        What it is, and its colour.
    contrast
        Value steps that it is lighter than the picture's rim.
    quiet, loud
        Whether it hardly closes the picture off; whether it takes the eye outward.
    outdoes
        Whether it is more colourful than nearly all of the picture.
    """

    name: str
    lab: Lab
    contrast: float
    quiet: bool
    loud: bool
    outdoes: bool


def frames_for(lab: Floats) -> tuple[Framed, ...]:
    """Every usual frame beside a picture (h, w, 3) in L*a*b*, the calmest first that closes it off."""
    margin = max(1, round(RIM * min(lab.shape[:2])))
    rim = np.ones(lab.shape[:2], bool)
    rim[margin:-margin, margin:-margin] = False
    beside = float(lab_value(lab[rim].mean(axis=0, dtype=np.float64)))
    colourful = float(np.quantile(np.hypot(lab[..., 1], lab[..., 2]), 0.9))
    found = []
    for name, colour in FRAMES.items():
        contrast = float(lab_value(np.array(colour))) - beside
        chroma = float(np.hypot(colour[1], colour[2]))
        found.append(
            Framed(
                name, colour, contrast, abs(contrast) < QUIET_STEPS, abs(contrast) > LOUD_STEPS,
                chroma > LOUDER_CHROMA * max(colourful, 1.0),
            )
        )  # fmt: skip
    return tuple(sorted(found, key=lambda f: (f.quiet or f.loud, f.outdoes, abs(f.contrast))))
