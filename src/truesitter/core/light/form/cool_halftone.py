"""The cool halftone: skin turning from the light where it is cooler than light and shadow make it."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.colour.spaces import WARM_AXIS, lab_to_xyz, xyz_to_lab
from truesitter.core.imaging.blur import blur_within
from truesitter.core.light.form.light_form import FormClass
from truesitter.core.light.form.tuning import COOL_SMOOTH, COOLER, LEAST_COOL, TERMINATOR_REACH, WAY_STEPS
from truesitter.core.types import Floats, Labels, Mask


def cool_halftone(lab: Floats, classes: Labels, scale: float) -> Mask:
    """Where the halftone along the shadow's edge is cooler than a blend of light and shadow.

    Light adds: skin that only gets less of the key has a colour on the line, in XYZ, from its shadows
    to its lights. What lies cooler than that by more than is just seen is a halftone of its own.

    Parameters
    ----------
    lab
        (h, w, 3) L*a*b*.
    classes
        (h, w) of `FormClass`.
    scale
        Height of the face in pixels.

    Returns
    -------
    Mask
        (h, w); empty without light or shadow on the skin, or where hardly any of the strip is cooler.
    """
    light = classes == FormClass.LIGHT
    shadow = (classes == FormClass.FORM_SHADOW) | (classes == FormClass.REFLECTED_LIGHT)
    nowhere = np.zeros(classes.shape, bool)
    if not light.any() or not shadow.any():
        return nowhere
    far = cv2.distanceTransform((~shadow).astype(np.uint8), cv2.DIST_L2, 5)
    strip = (classes == FormClass.HALFTONE) & (far < TERMINATOR_REACH * scale)
    if not strip.any():
        return nowhere
    warm = (lab[..., 1:] @ WARM_AXIS).astype(np.float32)
    bright, dark = (lab_to_xyz(lab[where].mean(axis=0, dtype=np.float64)) for where in (light, shadow))
    way = xyz_to_lab(dark + np.linspace(0, 1, WAY_STEPS)[:, None] * (bright - dark))
    expected = np.interp(lab[..., 0], way[:, 0], way[:, 1:] @ WARM_AXIS)
    away = blur_within((warm - expected).astype(np.float32), strip.astype(np.float32), COOL_SMOOTH * scale)
    cool = strip & (away < -COOLER)
    # A few cool spots are of the skin or of the photograph, no halftone.
    return np.asarray(cool if cool.sum() >= LEAST_COOL * strip.sum() else nowhere)
