"""The CIEDE2000 colour difference."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike

from truesitter.core.types import Doubles


def delta_e_2000(lab_1: ArrayLike, lab_2: ArrayLike) -> Doubles:
    """CIEDE2000 difference of L*a*b* colours, shape (..., 3), broadcast against each other.

    References
    ----------
    Sharma, G., Wu, W., Dalal, E. N. (2005). The CIEDE2000 color-difference formula:
    implementation notes, supplementary test data, and mathematical observations.

    Examples
    --------
    >>> round(float(delta_e_2000((50, 2.6772, -79.7751), (50, 0, -82.7485))), 4)
    2.0425
    """
    one, two = np.broadcast_arrays(np.asarray(lab_1, dtype=np.float64), np.asarray(lab_2, dtype=np.float64))
    l1, a1, b1 = np.moveaxis(one, -1, 0)
    l2, a2, b2 = np.moveaxis(two, -1, 0)
    chroma_7 = ((np.hypot(a1, b1) + np.hypot(a2, b2)) / 2) ** 7
    g = 0.5 * (1 - np.sqrt(chroma_7 / (chroma_7 + 25.0**7)))
    a1, a2 = a1 * (1 + g), a2 * (1 + g)
    c1, c2 = np.hypot(a1, b1), np.hypot(a2, b2)
    h1 = np.degrees(np.arctan2(b1, a1)) % 360
    h2 = np.degrees(np.arctan2(b2, a2)) % 360

    # Opposite hues lie exactly half a turn apart; rounding must not push them over.
    half_turn = 180 + 1e-9
    dh = h2 - h1
    dh = np.where(dh > half_turn, dh - 360, np.where(dh < -half_turn, dh + 360, dh))
    # Without chroma in one of the two there is no difference of hue, and its mean has no say.
    d_hue = 2 * np.sqrt(c1 * c2) * np.sin(np.radians(dh) / 2)

    mean_l, mean_c = (l1 + l2) / 2, (c1 + c2) / 2
    h_sum = h1 + h2
    mean_h = np.where(
        np.abs(h1 - h2) <= half_turn, h_sum / 2, np.where(h_sum < 360, h_sum / 2 + 180, h_sum / 2 - 180)
    )

    t = (
        1
        - 0.17 * np.cos(np.radians(mean_h - 30))
        + 0.24 * np.cos(np.radians(2 * mean_h))
        + 0.32 * np.cos(np.radians(3 * mean_h + 6))
        - 0.20 * np.cos(np.radians(4 * mean_h - 63))
    )
    offset = (mean_l - 50) ** 2
    s_l = 1 + 0.015 * offset / np.sqrt(20 + offset)
    s_c = 1 + 0.045 * mean_c
    s_h = 1 + 0.015 * mean_c * t
    mean_7 = mean_c**7
    rotation = (
        -np.sin(np.radians(60 * np.exp(-(((mean_h - 275) / 25) ** 2))))
        * 2
        * np.sqrt(mean_7 / (mean_7 + 25.0**7))
    )
    l_term, c_term, h_term = (l2 - l1) / s_l, (c2 - c1) / s_c, d_hue / s_h
    total = l_term**2 + c_term**2 + h_term**2 + rotation * c_term * h_term
    return np.asarray(np.sqrt(np.maximum(total, 0.0)))
