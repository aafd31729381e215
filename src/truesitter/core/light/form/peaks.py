"""Light peaks: where the skin is brightest, ranked by how far they stand above the way to others."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.imaging.pixels import pixel_at
from truesitter.core.light.form.tuning import (
    ABOVE_MIDDLE,
    APART,
    BESIDE_MIDDLE,
    LEAST_PROMINENCE,
    PEAKS_LEVEL,
    PEAKS_MOST,
)
from truesitter.core.sitter import places
from truesitter.core.sitter.face import Face
from truesitter.core.types import Floats, Mask, Shape

USUAL = (
    "left side of the forehead", "right side of the forehead", "left brow ridge", "right brow ridge",
    "left upper lid", "right upper lid", "nose bridge", "nose tip", "left cheekbone", "right cheekbone",
    "left wing of the nose", "right wing of the nose", "chin", "neck",
)  # fmt: skip
"""Where light begins on any face (common practice)."""

_AS_USUAL = {
    "left nostril": "left wing of the nose",
    "right nostril": "right wing of the nose",
    "left eye socket": "left upper lid",
    "right eye socket": "right upper lid",
}


@dataclass(frozen=True)
class LightPeak:
    """One of the brightest places on the skin.

    Attributes
    ----------
    place
        Name of the place, unlike that of any other peak.
    x, y
        In fractions of width and height.
    value
        Squinted value there, in value steps.
    prominence
        Value steps above the way to the next higher peak; above the darkest lit skin for the highest.
    """

    place: str
    x: float
    y: float
    value: float
    prominence: float


def usual_place(
    x: float, y: float, face: Face | None, shape: Shape, own: tuple[places.OwnPlace, ...] = ()
) -> str:
    """The place of a spot by the name it has among the usual places, or by the painter's own.

    Parameters
    ----------
    x
        In fractions.
    y
        In fractions, down.
    face
        As found by the detector; None without one.
    shape
        Height and width in pixels; more is ignored.
    own
        Places the painter named.

    Returns
    -------
    str
        A name.
    """
    height, width = shape[:2]
    place = places.place_of(x, y, face, height / width)
    if places.is_unnamed(place):
        return places.own_name(x, y, own, height / width) or place
    if face is None:
        return place
    if place == "forehead":
        up = face.axis(height / width)
        off = (np.array([x, y]) - face.brow_middle) * (1.0, height / width)
        across = float(off[0] * -up[1] + off[1] * up[0])
        if abs(across) > BESIDE_MIDDLE * face.height(shape) / width:
            return f"{'right' if across > 0 else 'left'} side of the forehead"
    return _AS_USUAL.get(place, place)


def prominences(value: Floats, where: Mask, spots: list[tuple[int, int]]) -> list[float]:
    """How far each spot (row, column), highest first, stands above the way to a higher one.

    The water falls by steps of 0.05: a spot's prominence is how far it has to fall until the spot's island
    joins that of a higher one.

    Parameters
    ----------
    value
        (h, w) Munsell values 0–10.
    where
        (h, w) what water can lie on.
    spots
        Row, column, highest first.

    Returns
    -------
    list[float]
        Value steps, one a spot.
    """
    found = [0.0] * len(spots)
    if not spots:
        return found
    tops = [float(value[s]) for s in spots]
    bottom = float(value[where].min())
    alone = set(range(1, len(spots)))
    found[0] = tops[0] - bottom
    for level in np.arange(tops[0], bottom - PEAKS_LEVEL, -PEAKS_LEVEL):
        if not alone:
            break
        _, islands = cv2.connectedComponents((where & (value >= level)).astype(np.uint8), connectivity=8)
        for n in tuple(alone):
            own = islands[spots[n]]
            if own and any(islands[s] == own for s in spots[:n]):
                found[n] = max(0.0, tops[n] - float(level))
                alone.discard(n)
    for n in alone:
        found[n] = tops[n] - bottom
    return found


def find_peaks(
    value: Floats, lit: Mask, face: Face | None, scale: float, own: tuple[places.OwnPlace, ...] = ()
) -> tuple[LightPeak, ...]:
    """Peaks of the squinted value on the lit skin, most prominent first.

    Parameters
    ----------
    value, lit
        (h, w) squinted value and lit skin.
    scale
        Height of the face in pixels.
    own
        Places the painter named.
    """
    if not lit.any():
        return ()
    inner = cv2.erode(lit.astype(np.uint8), np.ones((3, 3), np.uint8)) > 0
    inside = np.where(inner, value, 0).astype(np.float32)
    side = 2 * max(2, round(scale * APART)) + 1
    window = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (side, side))
    top = inner & (inside >= cv2.dilate(inside, window)) & (value > np.median(value[lit]) + ABOVE_MIDDLE)
    rows, columns = np.nonzero(top)
    spots: list[tuple[int, int]] = []
    for r, c in sorted(zip(rows.tolist(), columns.tolist(), strict=True), key=lambda p: -value[p]):
        if all(np.hypot(r - s[0], c - s[1]) >= side / 2 for s in spots):
            spots.append((r, c))
    ranked = sorted(zip(prominences(value, lit, spots), spots, strict=True), key=lambda p: (-p[0], p[1]))
    height, width = value.shape
    return _named(
        (
            ((c + 0.5) / width, (r + 0.5) / height, float(value[r, c]), rise)
            for rise, (r, c) in ranked[:PEAKS_MOST]
            if rise >= LEAST_PROMINENCE
        ),
        face,
        value.shape,
        own,
    )


def own_peaks(
    spots: tuple[tuple[float, float], ...],
    value: Floats,
    lit: Mask,
    face: Face | None,
    own: tuple[places.OwnPlace, ...] = (),
) -> tuple[LightPeak, ...]:
    """The painter's own peaks (x, y in fractions), in their order.

    Parameters
    ----------
    spots
        x, y in fractions.
    value
        (h, w) Munsell values 0–10.
    lit
        (h, w) skin in the light.
    face
        As found by the detector; None without one.
    own
        Places the painter named.

    Returns
    -------
    tuple[LightPeak, ...]
        As they were set.
    """
    pixels = [pixel_at(*s, value.shape) for s in spots]
    order = sorted(range(len(spots)), key=lambda i: -value[pixels[i]])
    where = lit.copy()
    for p in pixels:
        where[p] = True
    rises = dict(zip(order, prominences(value, where, [pixels[i] for i in order]), strict=True))
    return _named(
        ((*spots[i], float(value[pixels[i]]), rises[i]) for i in range(len(spots))),
        face,
        value.shape,
        own,
    )


def _named(
    found: Iterable[tuple[float, float, float, float]],
    face: Face | None,
    shape: Shape,
    own: tuple[places.OwnPlace, ...],
) -> tuple[LightPeak, ...]:
    """Peaks with names of their own, from x, y, value and prominence."""
    spots = list(found)
    names = places.numbered(usual_place(x, y, face, shape, own) for x, y, _, _ in spots)
    return tuple(LightPeak(name, *spot) for name, spot in zip(names, spots, strict=True))


def beside_usual(peaks: tuple[LightPeak, ...], face: Face | None) -> tuple[tuple[str, ...], tuple[str, ...]]:
    """Usual places without a peak, and peaks at other places; neither without a face."""
    if face is None:
        return (), ()
    names = {p.place.partition(", ")[0] for p in peaks}
    missing = tuple(place for place in USUAL if place not in names)
    extra = tuple(p.place for p in peaks if p.place.partition(", ")[0] not in USUAL)
    return missing, extra
