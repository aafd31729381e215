"""Shine of the hair: how glossy it is, where its band of light should lie, and whether that is cooler."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.hair.locks.tuning import (
    AT_LEAST,
    BAND,
    BAND_FROM,
    GLOSSY,
    LIGHTS,
    MATTE,
    OWN,
    PLAIN,
    SHARPNESS,
    TOLD,
)
from truesitter.core.hair.locks.volumes import Volumes
from truesitter.core.imaging.blur import blur_within
from truesitter.core.types import Doubles, Floats, Mask


@dataclass(frozen=True)
class HairShine:
    """Shine of one mass.

    Attributes
    ----------
    index
        0 matte … 1 glossy.
    range_steps
        From the own value to the lights.
    cooler
        b* of the lights beside what their lightness alone would give them: below zero cooler.
    agrees
        Correlation of the lights seen with where they should lie for this light, −1…1.
    """

    index: float
    range_steps: float
    cooler: float
    agrees: float

    @property
    def word(self) -> str:
        """In a word."""
        return ("matte", "satin", "glossy")[min(2, int(self.index * 3))]

    @property
    def temperature(self) -> str:
        """Of the lights, in a word."""
        if abs(self.cooler) < TOLD:
            return "as warm as the hair"
        return "cooler than the hair" if self.cooler < 0 else "warmer than the hair"

    @property
    def advice(self) -> str:
        """What to do about the range."""
        if self.index < 1 / 3:
            return (
                f"Keep the lights within {max(self.range_steps, 0.3):.1f} steps of the hair's own value, "
                "near its own colour."
            )
        if self.index < 2 / 3:
            return f"Lights rise {self.range_steps:.1f} steps; soften their ends along the lock."
        return (
            f"Lights rise {self.range_steps:.1f} steps: few, bright, crisp across the lock, fading along it."
        )


def shine_of(volumes: Volumes, lab: Floats, mask: Mask, expected: Floats) -> HairShine | None:
    """How a mass shines; None where it is too small.

    Parameters
    ----------
    volumes
        Of all hair.
    lab
        (h, w, 3) L*a*b*.
    mask
        (h, w) the mass.
    expected
        (h, w) where light should lie, 0–1, as `expected_band` gives it.
    """
    inside = mask & volumes.mask
    if inside.sum() < AT_LEAST:
        return None
    above = (volumes.locks + volumes.surface)[inside]
    light, own = np.quantile(above, (LIGHTS, OWN))
    rise = float(light - own)
    index = float(np.clip((rise - MATTE) / (GLOSSY - MATTE), 0, 1))
    colours = lab[inside].astype(np.float64)
    lights, plain = above >= light, above <= np.quantile(above, PLAIN)
    # A line through colour against lightness, of hair without lights, says what lightness alone would give.
    slope, start = np.polyfit(colours[plain, 0], colours[plain, 2], 1)
    cooler = float((colours[lights, 2] - (slope * colours[lights, 0] + start)).mean())
    seen, meant = volumes.locks[inside], expected[inside]
    agrees = float(np.corrcoef(seen, meant)[0, 1]) if seen.std() > 0 and meant.std() > 0 else 0.0
    return HairShine(index, rise, cooler, agrees)


def shining(volumes: Volumes, mask: Mask, fade_px: float) -> Mask:
    """Where a mass mirrors the light, (h, w): what stands above its own value once strands are squinted away.

    Parameters
    ----------
    volumes
        Of all hair.
    mask
        (h, w) the mass.
    fade_px
        Lights finer than this are single hairs, and no band; in pixels.
    """
    inside = mask & volumes.mask
    if inside.sum() < AT_LEAST:
        return np.zeros(mask.shape, bool)
    above = blur_within(volumes.locks + volumes.surface, inside.astype(np.float32), fade_px)
    return np.asarray(inside & (above >= np.quantile(above[inside], BAND_FROM)))


def expected_band(directed: Floats, head: Mask, key: tuple[float, float, float]) -> Floats:
    """Where the band of light should lie on hair that lies round a head, 0–1; (h, w).

    A hair mirrors along a cone: it is lightest where it lies at right angles to the middle between
    light and eye (Kajiya & Kay 1989). The head is taken for an ellipsoid that fills its outline.

    Parameters
    ----------
    directed
        (h, w, 2) direction in the picture, y up.
    head
        (h, w) head with its hair.
    key
        Unit vector towards the light: x right, y up, z towards the viewer.
    """
    if head.sum() < AT_LEAST:
        return np.zeros(head.shape, np.float32)
    normal = _round_head(head)
    half = np.array(key) + np.array((0.0, 0.0, 1.0))
    half /= np.linalg.norm(half) + 1e-9
    # The strand in space: its direction in the picture, laid on the round of the head.
    x, y = directed[..., 0], directed[..., 1]
    z = -(x * normal[..., 0] + y * normal[..., 1]) / np.maximum(normal[..., 2], 0.15)
    length = np.sqrt(x * x + y * y + z * z) + 1e-6
    along = (x * half[0] + y * half[1] + z * half[2]) / length
    facing = np.clip(normal @ np.array(key), 0, 1)
    band = np.maximum(1 - along**2, 0) ** (SHARPNESS / 2) * facing
    return np.where(np.hypot(x, y) > 0.1, band, 0).astype(np.float32)


def _round_head(head: Mask) -> Doubles:
    """Normals of an ellipsoid over the head's outline, (h, w, 3): x right, y up, z to the viewer."""
    height, width = head.shape
    rows, columns = np.nonzero(head)
    middle = np.array((columns.mean(), rows.mean()))
    reach = 2.0 * np.array((columns.std(), rows.std())) + 1.0
    y, x = np.mgrid[0:height, 0:width].astype(np.float64)
    u, v = (x - middle[0]) / reach[0], (y - middle[1]) / reach[1]
    out = np.sqrt(u * u + v * v)
    scale = np.where(out > 0.97, 0.97 / np.maximum(out, 1e-6), 1.0)
    u, v = u * scale, v * scale
    z = np.sqrt(np.maximum(1 - u * u - v * v, 0.05))
    normal = np.dstack([u / reach[0], -v / reach[1], z / reach.min()])
    return np.asarray(normal / np.linalg.norm(normal, axis=2, keepdims=True))


def band_mask(expected: Floats, mask: Mask) -> Mask:
    """Where a band of light should lie inside a mass."""
    most = float(expected[mask].max()) if mask.any() else 0.0
    return np.asarray(mask & (expected > BAND * most) & (most > 0))
