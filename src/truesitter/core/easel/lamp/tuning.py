"""Numbers of easel lamp, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

import numpy as np

# lighting.py

CLIPPED_SRGB = 0.985
"""A pixel whose brightest channel is above this is blown out [try]."""

FIT_LONG_SIDE = 120
"""The surface of the light is fitted at this size."""

DISAGREES = 0.08
"""Natural logarithm of light from which on a place counts for half: a fifth of a value step."""

CURVED = 6.0
"""How unwilling the surface is to curve beside to slope: a lamp at some distance hardly does."""

ROUNDS = 25
"""Of weighting down what disagrees."""

DIM = 0.02
"""Light, in parts of white, below which ratios are mostly the room's stray light."""

GREY = 0.8
"""Mirrored light has the lamp's colour: what it adds differs between the channels by no more than this."""

LEAST_GLOSS = 0.04
"""Light, in parts of white, that mirrored light adds at least to be called gloss [try]."""

MOST_GLOSS = 0.2
"""What covers more of the painting than this is no gloss, but light paint."""

GLOSS_LONG_SIDE = 500
"""Gloss is soft: it is looked for at this size."""

OVERLOOKED = 2.0
"""Value steps that nobody overlooks: grey light beyond that is gloss [try]."""

FAINT = 0.05
"""Mirrored light beside what the paint reflects that shows: a tenth of a step."""

SKIRT = 1.2
"""How far the rim of a gloss reaches, in its own radii [try]."""

LIGHTEST = 0.97
"""No paint reflects more than this part of the light."""

# printed_sheet.py

WEDGE_VALUES = tuple(float(v) for v in np.linspace(0.5, 9.5, 13))
"""Values of the printed wedge."""

TOLERANCE = 0.3
"""Value steps within which a printed step is right."""

LEAST_RISE = 0.02
"""Value steps by which each step of a printed scale has to be lighter than the one before [try]."""

INVERTED = 4001
"""Points at which a printer's curve is inverted."""

# rectified.py

RIM = 0.006
"""The outermost part of a painting, in parts of its long side, mixes with the wall in a photograph [try]."""
