"""Colour families: a region of several colours, as a garment of two cloths, split by hue.

Light changes how strong a colour is: chroma rises with lightness. Colours are compared as they would
be at one lightness, so that the light and the shadow of one cloth stay together.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations

import cv2
import numpy as np

from truesitter.core.colour.tuning import APART, CLEAR, DARKEST, GREY, HUES, LEAST_SHARE, MOST, SAMPLE
from truesitter.core.types import Doubles, Floats, Labels


@dataclass(frozen=True)
class Families:
    """The colour families of a region.

    Attributes
    ----------
    centres
        (k, 2) a* and b* at L* 45, the largest family first.
    shares
        (k,) parts of the region.
    names
        A word for each, unlike the others.
    """

    centres: Doubles
    shares: Doubles
    names: tuple[str, ...]

    def of(self, lab: Floats) -> Labels:
        """Family of each colour (…, 3)."""
        away = ((at_one_lightness(lab)[..., None, :] - self.centres.astype(np.float32)) ** 2).sum(axis=-1)
        return np.asarray(away.argmin(axis=-1).astype(np.uint8))


def at_one_lightness(lab: Floats) -> Floats:
    """a* and b* (…, 2) as they would be at L* 45: chroma over lightness is nearly even in one light."""
    return np.asarray(lab[..., 1:] * (45 / (lab[..., :1] + 18)) * ((45 + 18) / 45), dtype=np.float32)


def hue_word(a: float, b: float) -> str:
    """Grey, or the word for a hue.

    Examples
    --------
    >>> hue_word(40, 40)
    'orange'
    >>> hue_word(0, -30)
    'blue'
    """
    if np.hypot(a, b) < GREY:
        return "grey"
    angle = float(np.degrees(np.arctan2(b, a)) % 360)
    return next(word for end, word in HUES if angle < end)


def colour_families(lab: Floats) -> Families:
    """The families of some colours.

    Parameters
    ----------
    lab
        (n, 3) of one region, grain evened out.

    Returns
    -------
    Families
        One where the region is of one colour.
    """
    step = max(1, len(lab) // SAMPLE)
    seen = at_one_lightness(lab[::step][lab[::step][:, 0] > DARKEST])
    if len(seen) < 100:
        flat = at_one_lightness(lab).mean(axis=0, dtype=np.float64) if len(lab) else np.zeros(2)
        return Families(np.asarray(flat)[None], np.ones(1), (hue_word(*flat),))
    for count in range(MOST, 1, -1):
        found = _parted(seen, count)
        if found:
            return found
    mean = seen.mean(axis=0, dtype=np.float64)
    return Families(mean[None], np.ones(1), (hue_word(*mean),))


def _parted(seen: Floats, count: int) -> Families | None:
    """So many families, where they lie clearly apart."""
    cv2.setRNGSeed(1)
    stop = (cv2.TERM_CRITERIA_EPS + cv2.TERM_CRITERIA_MAX_ITER, 30, 0.1)
    _, which, centres = cv2.kmeans(seen, count, None, stop, 3, cv2.KMEANS_PP_CENTERS)
    which = which.ravel()
    shares = np.bincount(which, minlength=count) / len(seen)
    if shares.min() < LEAST_SHARE:
        return None
    for i, j in combinations(range(count), 2):
        way = centres[j] - centres[i]
        distance = float(np.hypot(*way))
        if distance < APART:
            return None
        spread = max(float((seen[which == n] @ (way / distance)).std()) for n in (i, j))
        if spread > CLEAR * distance:
            return None
    order = np.argsort(-shares)
    ab = centres[order].astype(np.float64)
    words = [hue_word(*centres[i]) for i in order]
    names = tuple(_unlike(words, n, ab) for n in range(count))
    return Families(ab, shares[order], names)


def _unlike(words: list[str], number: int, centres: Doubles) -> str:
    """The word of a family; weaker ones of the same word say so."""
    chroma = np.hypot(*centres.T)
    stronger = [i for i, word in enumerate(words) if word == words[number] and chroma[i] > chroma[number]]
    return f"{('', 'greyer ', 'greyest ')[len(stronger)]}{words[number]}"
