"""Numbers of paint media, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# dilution.py

MOST_WATER = 60
"""Beyond so many parts to one nobody measures [try]: the layer is laid stronger and blotted."""

BLOTTED = 0.5
"""What blotting at once leaves of a wet layer [try]."""

LEAST_STRENGTH, MOST_STRENGTH = 0.001, 2.0
"""No paint is weaker or stronger than this."""

HALVES_BELOW = 8
"""Thinner by less than this, half parts are counted: 2 of paint to 1 or 3."""

# drying.py

MOST_SHIFT = 4.0
"""Value steps; no paint dries by more [try]."""

# media_table.py

IN_WATER = 0.05
"""Strength of thin layers in water [try].

With 0.1 the lightest flesh of three tubes on white paper (L* 92) comes out 0.7 step too dark even at
1 to 60, blotted; with 0.05 it is 0.2, and the darkest single wash loses half a step.
"""

# quantity.py

TUBE_OPENING_MM = 8.0
"""Opening of a usual 37 ml tube (from memory)."""

NORMAL_FILM_MM = 0.1
"""A coat of opaque paint, neither thin nor thick (from memory)."""

DEFAULT_LOSS = 0.15
"""Part of the paint that never reaches the canvas (from memory)."""
