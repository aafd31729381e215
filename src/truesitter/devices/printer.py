"""A simulated printer: its darks run together, and its middle tones fill in."""

from __future__ import annotations

import numpy as np

from truesitter.core.types import Doubles

PAPER, BLACK = 9.4, 1.6
"""Lightest and darkest value that it prints (from memory)."""

GAMMA = 1.28
"""How much its middle tones fill in (from memory)."""

NOISE = 0.05
"""Value steps by which a reading of one printed step wavers (one sigma, from memory)."""


def printed(values: Doubles) -> Doubles:
    """Values that come out for values asked for, 0–10."""
    share = np.clip(np.asarray(values, dtype=np.float64) / 10, 0, 1)
    return BLACK + (PAPER - BLACK) * share**GAMMA


def read_wedge(values: Doubles, seed: int | None = None) -> Doubles:
    """A wedge of values printed and read with a meter."""
    rng = np.random.default_rng(seed)
    return np.asarray(np.clip(printed(values) + rng.normal(0, NOISE, len(values)), 0, 10))
