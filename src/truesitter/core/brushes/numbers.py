"""Numbers of brushes: what is written on a handle for a width in mm.

Makers differ; the tables are typical (from memory).
"""

from __future__ import annotations

ROUND_MM = {
    "0": 1.3, "1": 1.6, "2": 2.0, "3": 2.4, "4": 2.9, "5": 3.4, "6": 4.2, "7": 5.0, "8": 5.8, "10": 7.2,
    "12": 9.0, "14": 11.0, "16": 13.0, "20": 17.0, "24": 21.0,
}  # fmt: skip
"""Width of the belly of a round."""

FLAT_MM = {
    "1": 3.0, "2": 5.0, "4": 8.0, "6": 11.0, "8": 15.0, "10": 20.0, "12": 24.0, "14": 28.0, "16": 32.0,
    "20": 38.0, "24": 50.0,
}  # fmt: skip
"""Width of the edge of a flat or a filbert."""

LINER_MM = {"00": 0.5, "0": 0.7, "1": 0.9, "2": 1.1, "4": 1.6, "6": 2.2}
"""Width of the line a liner draws."""

MOP_MM = {"2": 8.0, "4": 12.0, "6": 18.0, "8": 25.0, "10": 35.0}
"""Width of a soft mop."""
