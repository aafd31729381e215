"""Whether a photograph lies on its side or stands on its head."""

from __future__ import annotations

import numpy as np

from truesitter.core.imaging.reduce import grey, reduced_picture
from truesitter.core.sitter.face import EYES, LIPS, OVAL, Face
from truesitter.core.sitter.landmarks import detect
from truesitter.core.sitter.tuning import ORIENTATION_LONG_SIDE, UPRIGHT
from truesitter.core.types import Bytes


def feature_contrast(picture: Bytes, face: Face) -> float:
    """By how much the lightest of eyes and lips is darker than the face, as a part of its brightness.

    The detector lays its mesh the right way up on faces that stand on their head; then "lips" lie on a
    forehead and "eyes" on cheeks. On a face that stands upright eyes and lips are darker than the skin
    round them, whatever its colour (R. Russell, Perception 38, 2009).

    Parameters
    ----------
    picture
        (H, W, 3) sRGB.
    face
        As found in it.

    Returns
    -------
    float
        Above 0 where all are darker.
    """
    light = grey(picture).astype(np.float32)
    skin = light[face.outline_mask(OVAL, light.shape)]
    if not skin.size:
        return -1.0
    features = [light[face.outline_mask(part, light.shape)] for part in (*EYES, LIPS)]
    return float(min(1 - part.mean() / max(float(skin.mean()), 1.0) for part in features if part.size))


def stands(picture: Bytes, turns: int) -> float:
    """How surely a face stands upright once the picture is turned; −1 when none is found.

    Parameters
    ----------
    picture
        (H, W, 3) sRGB.
    turns
        Quarter turns counter-clockwise.
    """
    turned = np.ascontiguousarray(np.rot90(picture, turns))
    face = detect(turned).face
    if face is None:
        return -1.0
    x, y = face.axis(turned.shape[0] / turned.shape[1])
    upright = -y > abs(x)
    return feature_contrast(turned, face) if upright else -1.0


def turns_wanted(photograph: Bytes) -> int:
    """By how many quarter turns counter-clockwise a photograph should be turned, 0–3.

    0 as well where no face is found whichever way it is turned.

    Parameters
    ----------
    photograph
        (H, W, 3) sRGB, upright as far as its file says.
    """
    small = reduced_picture(photograph, ORIENTATION_LONG_SIDE)
    if stands(small, 0) > UPRIGHT:
        return 0
    sure = [stands(small, turns) for turns in range(4)]
    best = int(np.argmax(sure))
    return best if sure[best] > max(UPRIGHT, sure[0]) else 0
