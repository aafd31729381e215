"""Films that are wet or dry: types of their own, so that neither can stand for the other."""

from __future__ import annotations

from typing import NewType

WetMm = NewType("WetMm", float)
"""Thickness of a film as it is laid, in mm."""

DryMm = NewType("DryMm", float)
"""Thickness of a film once dry, in mm: what Kubelka–Munk reckons with."""
