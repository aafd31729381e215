"""A simulated thermometer and hygrometer that hangs in the studio: what a small sensor on the wall would say.

A heated room: cool at night, warm in the afternoon, its air the drier the warmer it is. Readings are
rounded and a little noisy, as cheap sensors are (±0.3 °C and ±2 %, from memory).
"""

from __future__ import annotations

import hashlib
import math
from dataclasses import dataclass
from datetime import datetime

NIGHT, DAY = 16.5, 22.5
"""Coolest and warmest, in °C."""

_WARMEST_AT = 16.0
_WATER = 8.3
"""Grams of water in a cubic metre of its air."""


@dataclass(frozen=True)
class Air:
    """One reading: °C, and relative humidity in per cent."""

    temperature: float
    humidity: float


def saturation(temperature: float) -> float:
    """Most water in a cubic metre of air, in grams (Magnus formula by Alduchov and Eskridge 1996)."""
    pressure = 610.94 * math.exp(17.625 * temperature / (temperature + 243.04))
    return pressure * 0.018015 / (8.314 * (temperature + 273.15)) * 1000


def read_air(at: datetime) -> Air:
    """What hangs on the wall says at a time of day; the same for the same minute."""
    hour = at.hour + at.minute / 60
    middle, swing = (NIGHT + DAY) / 2, (DAY - NIGHT) / 2
    warm = middle + swing * math.cos((hour - _WARMEST_AT) / 24 * 2 * math.pi)
    humid = 100 * _WATER / saturation(warm)
    digest = hashlib.sha256(at.strftime("%Y-%m-%d %H:%M").encode()).digest()
    noise = [(byte / 255 - 0.5) * 2 for byte in digest[:2]]
    return Air(round(warm + 0.3 * noise[0], 1), round(min(95.0, humid + 2 * noise[1])))
