"""A painting's four corners in a photograph of it, found without help.

Two ways, neither enough alone. *By what is painted*: small patches of the plan's own canvas, or of the
reference, are found again in the photograph (Lowe 2004), and the homography most of them agree on gives
the corners; it fails on a canvas with hardly anything on it. *By its sides*: two long lines that lean a
little and two that rise, with paint on one side and wall on the other; it fails where the wall is of the
painting's own colour. Whatever either proposes is squared up and held to the plan: the likest wins.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations

import cv2
import numpy as np

from truesitter.core.easel.find.correlation import correlation, normalised_grey
from truesitter.core.easel.find.tuning import (
    COMPARED_LONG_SIDE,
    CORNERS_SURE,
    ENOUGH,
    FEWEST_MATCHES,
    FINDING_LONG_SIDE,
    LEAN,
    LEAST_SHARE,
    MOST_LINES,
    PROPORTION,
    RATIO,
    STRONG,
)
from truesitter.core.easel.find.view import UNIT, View
from truesitter.core.imaging.reduce import grey, reduced_picture
from truesitter.core.refusal import Refusal
from truesitter.core.types import Bytes, Doubles, Floats


@dataclass(frozen=True)
class CornersFound:
    """Corners as found.

    Attributes
    ----------
    corners
        (4, 2) in fractions of the photograph.
    correlation
        Of what lies between them and the plan, −1 to 1.
    how
        ``paint`` or ``sides``.
    """

    corners: Doubles
    correlation: float
    how: str


def _even_contrast(grey_picture: Bytes) -> Bytes:
    """Local contrast made alike, so that patches of dim corners are found as well."""
    return cv2.createCLAHE(3.0, (8, 8)).apply(grey_picture)


def by_paint(photograph: Bytes, template: Bytes) -> Doubles | None:
    """Corners (4, 2) in fractions by patches of the template found again; None when too few agree."""
    finder = cv2.SIFT_create(nfeatures=2000, contrastThreshold=0.02)
    near, far = _even_contrast(grey(photograph)), _even_contrast(grey(template))
    spots_a, looks_a = finder.detectAndCompute(far, None)
    spots_b, looks_b = finder.detectAndCompute(near, None)
    if looks_a is None or looks_b is None or min(len(spots_a), len(spots_b)) < FEWEST_MATCHES:
        return None
    pairs = cv2.BFMatcher(cv2.NORM_L2).knnMatch(looks_a, looks_b, k=2)
    good = [p[0] for p in pairs if len(p) == 2 and p[0].distance < RATIO * p[1].distance]
    if len(good) < FEWEST_MATCHES:
        return None
    height, width = far.shape
    source = np.array([spots_a[m.queryIdx].pt for m in good]) / (width, height)
    target = np.array([spots_b[m.trainIdx].pt for m in good])
    matrix, agree = cv2.findHomography(source, target, cv2.RANSAC, 0.004 * max(near.shape), maxIters=4000)
    if matrix is None or agree is None or int(agree.sum()) < FEWEST_MATCHES:
        return None
    flat = np.c_[UNIT, np.ones(4)] @ matrix.T
    if (flat[:, 2] <= 0).any():
        return None
    return np.asarray(flat[:, :2] / flat[:, 2:] / (near.shape[1], near.shape[0]))


def by_sides(photograph: Bytes, aspect: float, count: int = 12) -> list[Doubles]:
    """Quadrilaterals (4, 2) in fractions that could be the painting's rim, the likeliest first.

    Parameters
    ----------
    aspect
        Height / width of the painting.
    """
    height, width = photograph.shape[:2]
    level, plumb = _lines(photograph)
    slope = _slopes(photograph)
    found: list[tuple[float, Doubles]] = []
    for top, bottom in combinations(level, 2):
        for left, right in combinations(plumb, 2):
            corners = [_cross(*pair) for pair in ((top, left), (top, right), (bottom, right), (bottom, left))]
            if any(c is None for c in corners):
                continue
            quad = np.array(corners)
            likely = _shapely(quad, aspect, (height, width))
            if likely > 0:
                found.append((likely, quad))
    scored = [(likely * _support(quad, slope), quad / (width, height)) for likely, quad in found]
    scored.sort(key=lambda f: -f[0])
    return [quad for _, quad in scored[:count]]


def _lines(photograph: Bytes) -> tuple[list[Doubles], list[Doubles]]:
    """Level and plumb lines (a, b, c) with ax + by = c, longest first, each list by position."""
    detector = cv2.createLineSegmentDetector()
    segments: list[Doubles] = []
    lab = cv2.cvtColor(cv2.GaussianBlur(photograph, (0, 0), 1.2), cv2.COLOR_RGB2LAB)
    for channel in cv2.split(lab):
        found = detector.detect(np.ascontiguousarray(channel))[0]
        if found is not None:
            segments += list(found[:, 0].astype(np.float64))
        segments += _straight(np.ascontiguousarray(channel))
    height, width = photograph.shape[:2]
    out: tuple[list[Doubles], list[Doubles]] = ([], [])
    for plumb in (False, True):
        lines: list[tuple[float, Doubles, float]] = []
        for x1, y1, x2, y2 in segments:
            length = np.hypot(x2 - x1, y2 - y1)
            lean = abs(np.degrees(np.arctan2(y2 - y1, x2 - x1))) % 180
            off = abs(lean - 90) if plumb else min(lean, 180 - lean)
            if off > LEAN or length < 0.03 * max(height, width):
                continue
            a, b = (y2 - y1) / length, (x1 - x2) / length
            c = a * x1 + b * y1
            lines.append((length, np.array((a, b, c)), (x1 + x2) / 2 if plumb else (y1 + y2) / 2))
        lines.sort(key=lambda one: -one[0])
        out[int(plumb)].extend(_grouped(lines, (height, width), plumb))
    return out


def _straight(channel: Bytes) -> list[Doubles]:
    """Long straight borders, however rough: where the relief of strokes breaks short pieces up."""
    long = max(channel.shape)
    edges = cv2.Canny(cv2.GaussianBlur(channel, (0, 0), 2.0), 8, 24)
    found = cv2.HoughLinesP(
        edges, 1, np.pi / 360, round(0.08 * long), minLineLength=0.15 * long, maxLineGap=0.04 * long
    )
    return [] if found is None else list(found[:200, 0].astype(np.float64))


def _grouped(lines: list[tuple[float, Doubles, float]], shape: tuple[int, int], plumb: bool) -> list[Doubles]:
    """Pieces of one line taken together; the longest of what that gives, in order across the picture."""
    height, width = shape
    ends = np.array([(width * 0.5, height * t) if plumb else (width * t, height * 0.5) for t in (0.2, 0.8)])
    near = 0.012 * max(shape)
    groups: list[tuple[Doubles, float, Doubles]] = []
    for length, line, _ in lines:
        # Where it crosses two bars across the picture says which line it is.
        a, b, c = line
        marks = (c - b * ends[:, 1]) / a if plumb else (c - a * ends[:, 0]) / b
        for k, (own, weight, best) in enumerate(groups):
            if np.abs(own - marks).max() < near:
                groups[k] = (own, weight + length, best)
                break
        else:
            groups.append((marks, length, line))
    groups.sort(key=lambda g: -g[1])
    kept = sorted(groups[:MOST_LINES], key=lambda g: float(g[0].mean()))
    return [line for _, _, line in kept]


def _cross(one: Doubles, other: Doubles) -> Doubles | None:
    away = one[0] * other[1] - other[0] * one[1]
    if abs(away) < 0.2:
        return None
    return np.array(
        (
            (one[2] * other[1] - other[2] * one[1]) / away,
            (one[0] * other[2] - other[0] * one[2]) / away,
        )
    )


def _slopes(photograph: Bytes) -> tuple[Floats, Floats]:
    """Change of colour along x and y, (h, w) each: the largest of the channels, small ones made to count."""
    lab = cv2.cvtColor(photograph, cv2.COLOR_RGB2LAB).astype(np.float32)
    lab = cv2.GaussianBlur(lab, (0, 0), 1.5)
    x, y = (cv2.Sobel(lab, cv2.CV_32F, *way, ksize=3) for way in ((1, 0), (0, 1)))
    return np.abs(x).max(axis=2), np.abs(y).max(axis=2)


def _shapely(quad: Doubles, aspect: float, shape: tuple[int, int]) -> float:
    """How well a quadrilateral in pixels has the size and proportions of the painting; 0 for not at all."""
    height, width = shape
    margin = 0.02 * max(shape)
    low, high = quad.min(axis=0), quad.max(axis=0)
    if (low < -margin).any() or high[0] > width + margin or high[1] > height + margin:
        return 0.0
    x, y = quad.T
    area = abs(float(x @ np.roll(y, -1) - y @ np.roll(x, -1))) / 2 / (height * width)
    if area < LEAST_SHARE:
        return 0.0
    lengths = np.hypot(*(np.roll(quad, -1, axis=0) - quad).T)
    tall = (lengths[1] + lengths[3]) / max(1e-6, lengths[0] + lengths[2])
    likely = float(np.exp(-((np.log(tall / aspect) / PROPORTION) ** 2) / 2))
    return likely * float(np.sqrt(area)) if likely > 0.02 else 0.0


def _support(quad: Doubles, slope: tuple[Floats, Floats]) -> float:
    """How much of a quadrilateral's sides lies on borders, the weakest side counting most."""
    height, width = slope[0].shape
    sides = np.roll(quad, -1, axis=0) - quad
    at = quad[:, None] + sides[:, None] * np.linspace(0.04, 0.96, 60)[:, None]
    x = np.clip(np.rint(at[..., 0]), 0, width - 1).astype(int)
    y = np.clip(np.rint(at[..., 1]), 0, height - 1).astype(int)
    strong = np.where(np.arange(4)[:, None] % 2 == 0, slope[1][y, x], slope[0][y, x])
    each = np.minimum(strong / STRONG, 1).mean(axis=1)
    return float(each.min() + 0.25 * each.mean())


def find_corners(photograph: Bytes, templates: tuple[Bytes, ...], aspect: float) -> CornersFound:
    """Where a painting's corners are.

    Parameters
    ----------
    photograph
        (H, W, 3) sRGB.
    templates
        Pictures the painting could look like, the likeliest first: the plan's canvas, the reference.
    aspect
        Height / width of the painting.

    Raises
    ------
    Refusal
        When nothing in the photograph can be a painting of that shape.
    """
    small = reduced_picture(photograph, FINDING_LONG_SIDE)
    size = _compared_size(aspect)
    looks = [_look(t, size) for t in templates]
    found: list[CornersFound] = []
    for template in templates:
        quad = by_paint(small, reduced_picture(template, FINDING_LONG_SIDE))
        found += _held(small, looks, size, "paint", [quad] if quad is not None else [])
        if found and found[-1].correlation >= ENOUGH:
            return found[-1]
    found += _held(small, looks, size, "sides", by_sides(small, aspect))
    if not found:
        raise Refusal("no painting was found in this photograph: set its four corners by hand")
    best = max(found, key=lambda f: f.correlation)
    if best.correlation < CORNERS_SURE:
        # Hardly anything is painted yet: the sides are the better witness.
        return next((f for f in found if f.how == "sides"), best)
    return best


def _held(
    small: Bytes, looks: list[Floats], size: tuple[int, int], how: str, quads: list[Doubles]
) -> list[CornersFound]:
    """Proposals held to what the painting could look like."""
    found = []
    for quad in quads:
        try:
            view = View.of_corners(quad, (small.shape[0], small.shape[1]))
        except Refusal:
            continue
        own = normalised_grey(view.squared(small, size))
        found.append(CornersFound(quad, max((correlation(own, look) for look in looks), default=0.0), how))
    return found


def _compared_size(aspect: float) -> tuple[int, int]:
    long = COMPARED_LONG_SIDE
    return (long, max(8, round(long / aspect))) if aspect >= 1 else (max(8, round(long * aspect)), long)


def _look(template: Bytes, size: tuple[int, int]) -> Floats:
    small = cv2.resize(template, size[::-1], interpolation=cv2.INTER_AREA)
    return normalised_grey(np.asarray(small))
