"""What the six classes of the skin come to: share, colour, and how colour moves from light to shadow."""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
import shapely

from truesitter.core.colour.families import at_one_lightness
from truesitter.core.colour.value import lab_value
from truesitter.core.light.form.light_form import Form, FormClass
from truesitter.core.light.key.casters import caster_of
from truesitter.core.light.tuning import LEAST_SHARE, PLAIN, SHORTEST_TERMINATOR, SLIVER, SMALLEST_CAST
from truesitter.core.types import Doubles, Floats, Labels, Mask


@dataclass(frozen=True)
class ClassColour:
    """One class: its share of the skin, its mean value and its mean L*a*b* (3,)."""

    form: FormClass
    share: float
    value: float
    lab: Doubles


@dataclass(frozen=True)
class Passage:
    """How colour moves from the lit skin to its shadow.

    Attributes
    ----------
    steps
        Value steps down.
    hue
        Degrees of hue towards red; negative towards yellow.
    chroma
        Chroma of the shadow as part of that of the light.
    warmer
        b* and a* at one lightness: how much the shadow side is yellower, and redder.
    """

    steps: float
    hue: float
    chroma: float
    warmer: tuple[float, float]

    def in_words(self) -> str:
        """As a painter says it, e.g. ``3.1 steps down: 8° redder, a third less chroma``."""
        hue = (
            "the same hue"
            if abs(self.hue) < 1.5
            else f"{abs(self.hue):.0f}° {'redder' if self.hue > 0 else 'yellower'}"
        )
        return f"{self.steps:.1f} steps down: {hue}, {_chroma_words(self.chroma)}"

    def sides(self) -> str:
        """The far side against the lit one, light and shade taken out."""
        yellow, red = self.warmer
        said = []
        if abs(yellow) >= PLAIN:
            said.append(f"{'warmer' if yellow > 0 else 'cooler'} by {abs(yellow):.0f}")
        if abs(red) >= PLAIN:
            said.append(f"{'redder' if red > 0 else 'greener'} by {abs(red):.0f}")
        if self.chroma < 0.85:
            said.append("greyer")
        return ", ".join(said) or "of the same colour"


def _chroma_words(part: float) -> str:
    if 0.94 <= part <= 1.06:
        return "as strong in colour"
    change = abs(1 - part)
    words = ((0.15, "a tenth"), (0.225, "a fifth"), (0.29, "a quarter"), (0.42, "a third"), (0.6, "half"))
    much = next((w for most, w in words if change < most), "far")
    return f"{much} {'less' if part < 1 else 'more'} chroma"


@dataclass(frozen=True)
class CastShadow:
    """A cast shadow: where (fractions), its share of the skin, and what casts it where that is plain."""

    x: float
    y: float
    share: float
    caster: str | None


def class_colours(form: Form, lab: Floats) -> tuple[ClassColour, ...]:
    """Every class of some size, in their order."""
    skin = int((form.classes > 0).sum())
    found = []
    for one in FormClass:
        inside = form.classes == one
        if one is FormClass.NONE or not skin or inside.sum() < LEAST_SHARE * skin:
            continue
        mean = lab[inside].mean(axis=0, dtype=np.float64)
        found.append(ClassColour(one, float(inside.sum()) / skin, float(lab_value(mean)), mean))
    return tuple(found)


def passage(form: Form, lab: Floats) -> Passage | None:
    """From light to shadow; None where one of the two is missing."""
    light = np.isin(form.classes, (FormClass.LIGHT, FormClass.HALFTONE))
    shadow = form.classes >= FormClass.FORM_SHADOW
    if not light.any() or not shadow.any():
        return None
    means = [lab[mask].mean(axis=0, dtype=np.float64) for mask in (light, shadow)]
    flat = [at_one_lightness(lab[mask]).mean(axis=0, dtype=np.float64) for mask in (light, shadow)]
    chroma = [float(np.hypot(*m[1:])) for m in means]
    hue = [float(np.degrees(np.arctan2(m[2], m[1]))) for m in means]
    turn = (hue[0] - hue[1] + 180) % 360 - 180
    off = flat[1] - flat[0]
    return Passage(
        float(lab_value(means[0]) - lab_value(means[1])),
        turn,
        chroma[1] / max(chroma[0], 1e-6),
        (float(off[1]), float(off[0])),
    )


def cast_shadows(form: Form, met: Labels, scale: float) -> tuple[CastShadow, ...]:
    """The cast shadows, largest first.

    Parameters
    ----------
    form
        Classes of the skin.
    met
        (h, w) what casts, as from `blocked`.
    scale
        Height of the face in pixels.

    Returns
    -------
    tuple[CastShadow, ...]
        Each with its caster.
    """
    skin = max(1, int((form.classes > 0).sum()))
    _, numbers, stats, centres = cv2.connectedComponentsWithStats(
        (form.classes == FormClass.CAST_SHADOW).astype(np.uint8)
    )
    height, width = form.classes.shape
    found = []
    for n in range(1, len(stats)):
        area = int(stats[n][4])
        if area < (SMALLEST_CAST * scale) ** 2:
            continue
        patch = numbers == n
        x, y = _inside(patch, centres[n])
        found.append(
            CastShadow((x + 0.5) / width, (y + 0.5) / height, area / skin, caster_of(patch, met))
        )  # fmt: skip
    return tuple(sorted(found, key=lambda c: -c.share))


def _inside(patch: Mask, centre: Doubles) -> tuple[float, float]:
    """The pixel of a patch nearest to its centre of gravity."""
    rows, columns = np.nonzero(patch)
    at = int(np.hypot(columns - centre[0], rows - centre[1]).argmin())
    return float(columns[at]), float(rows[at])


def terminator(form: Form, scale: float) -> tuple[Doubles, ...]:
    """The lines along which form turns into its own shadow, (n, 2) x, y in fractions, longest first.

    Parameters
    ----------
    scale
        Height of the face in pixels.
    """
    from skimage.measure import find_contours

    own = np.isin(form.classes, (FormClass.FORM_SHADOW, FormClass.REFLECTED_LIGHT)).astype(np.uint8)
    # Slivers beside hair and features are no forms that turn.
    side = 2 * max(1, round(SLIVER * scale)) + 1
    own = cv2.morphologyEx(own, cv2.MORPH_OPEN, cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (side, side)))
    lit = (form.classes > 0) & (form.classes <= FormClass.HALFTONE)
    near_lit = cv2.dilate(lit.astype(np.uint8), np.ones((5, 5), np.uint8)) > 0
    height, width = own.shape
    lines = []
    soft = cv2.GaussianBlur(own.astype(np.float32), (0, 0), 1.5)
    for contour in find_contours(soft, 0.5):  # type: ignore[no-untyped-call]
        rows, columns = (
            np.clip(np.round(c).astype(int), 0, m - 1) for c, m in zip(contour.T, own.shape, strict=True)
        )
        on = near_lit[rows, columns]
        # Runs along which lit skin lies beside the shadow.
        edges = np.flatnonzero(np.diff(np.concatenate([[0], on.astype(np.int8), [0]])))
        for first, last in zip(edges[::2], edges[1::2], strict=True):
            if last - first >= SHORTEST_TERMINATOR * scale:
                run = shapely.LineString(contour[first:last])
                line = shapely.get_coordinates(run.simplify(0.7, preserve_topology=False))
                lines.append((last - first, (line[:, ::-1] + 0.5) / (width, height)))
    return tuple(np.asarray(line) for _, line in sorted(lines, key=lambda item: -item[0]))
