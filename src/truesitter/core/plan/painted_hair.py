"""The hair as the plan paints it: a picture after each of its passes, and how near it comes."""

from __future__ import annotations

from collections.abc import Sequence

import cv2
import numpy as np

from truesitter.core.canvas.painted import Painted
from truesitter.core.colour.spaces import lab_to_srgb
from truesitter.core.colour.value import linear_to_value, picture_luminance
from truesitter.core.imaging.blur import blur_within
from truesitter.core.imaging.pixels import box_of
from truesitter.core.plan.pass_plan import PassPlan
from truesitter.core.plan.tuning import HAIR_SOFT_MM, HAIR_SQUINT
from truesitter.core.types import Bytes, Floats, Mask


def hair_numbers(plan: PassPlan) -> list[int]:
    """Numbers of the passes that lay hair, counted from 0."""
    return [n for n, one in enumerate(plan.passes) if one.hair is not None]


def hair_picture(plan: PassPlan, painted: Painted, number: int, photograph: Bytes, mm_per_px: float) -> Bytes:
    """The canvas after a pass where hair is painted by then, over the photograph.

    Parameters
    ----------
    plan, painted
        The passes, and the canvas after each.
    number
        Of the pass, counted from 0.
    photograph
        (h, w, 3) sRGB at the canvas's size.
    mm_per_px
        Canvas mm to a pixel.

    Returns
    -------
    Bytes
        (h, w, 3): what is laid flat fades towards its border, strokes end sharp.
    """
    flat = np.zeros(painted.shape, bool)
    stroked = np.zeros(painted.shape[0] * painted.shape[1], bool)
    for n in hair_numbers(plan):
        layer = plan.passes[n].hair
        if n <= number and layer is not None:
            if plan.passes[n].lines:
                stroked[painted.changes[n].where] = True
            else:
                flat |= layer.mask
    fade = cv2.GaussianBlur(flat.astype(np.float32), (0, 0), HAIR_SOFT_MM / mm_per_px)
    share = np.where(flat, np.clip(2 * fade - 1, 0, 1), np.float32(0))
    share[stroked.reshape(painted.shape)] = 1
    out, touched = photograph.copy(), share > 0
    part = share[touched][:, None]
    canvas = painted.picture(number + 1)[touched].astype(np.float32)
    out[touched] = np.round(photograph[touched] * (1 - part) + canvas * part)
    return out


def hair_errors(plan: PassPlan, painted: Painted, wanted: Floats) -> tuple[float, ...]:
    """Mean distance in value of the hair from the reference after each pass of hair, squinted, in steps.

    The last is that of the finished canvas, which a glaze may lie on.

    Parameters
    ----------
    plan, painted
        The passes, and the canvas after each.
    wanted
        (h, w, 3) L*a*b* of the reference in the palette's reach.
    """
    numbers = hair_numbers(plan)
    if not numbers:
        return ()
    masses = _masses(plan, numbers)
    numbers, masses = [*numbers, len(plan.passes) - 1], [*masses, np.any(masses, axis=0)]
    sigma = HAIR_SQUINT * wanted.shape[0]
    # Nothing beyond the reach of the squint counts.
    box = box_of(np.any(masses, axis=0), round(4 * sigma) + 1)
    meant = picture_luminance(np.round(lab_to_srgb(wanted[box].astype(np.float64)) * 255).astype(np.uint8))

    # What lies beside the hair may not be painted yet: only the hair is squinted.
    def squinted(light: Floats, mass: Mask) -> Floats:
        return linear_to_value(blur_within(light, mass[box].astype(np.float32), sigma))

    found, values = [], dict[int, Floats]()
    for number, mass in zip(numbers, masses, strict=True):
        if id(mass) not in values:
            values[id(mass)] = squinted(meant, mass)
        seen = squinted(picture_luminance(painted.picture(number + 1)[box]), mass)
        found.append(float(np.abs(seen - values[id(mass)])[mass[box]].mean()))
    return tuple(found)


def _masses(plan: PassPlan, numbers: Sequence[int]) -> list[Mask]:
    """The whole mass that each pass works on: the place of its first layer."""
    first: dict[str, Mask] = {}
    found = []
    for number in numbers:
        layer = plan.passes[number].hair
        assert layer is not None
        found.append(first.setdefault(layer.mass, layer.whole))
    return found
