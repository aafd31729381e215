"""Numbers of light tints, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# borrowing.py

BORROWS = 3.0
"""ΔE by which a shadow has to lean towards a neighbour [try]."""

LIKE = 0.8
"""Least cosine between where a shadow leans and where the neighbour lies."""

LEAST_PATCH = 0.03
"""Dark patches of a cloth are looked at from this part of it."""

# hue_line.py

TOLERANCE = 3.0
"""Between two stops the colour lies no farther than this off the straight way, in ΔE2000 [try]."""

SAMPLES = 64
"""Points along a line that are read."""

LEAST = 0.01
"""Shorter lines, in parts of the picture's width, are spots."""

# skin_colour.py

PLAIN = 2.0
"""ΔE in a*, b* from which the eye sees a change of colour over an area [try]."""

BINS = 24
"""Classes of lightness."""

ENOUGH = 2000
"""Pixels that a median is taken of."""

SMOOTH = 0.015
"""Sigma by which tints are evened out, as part of the face's height [try]."""

RIM = 0.012
"""Of the face's height: skin so near to something else is not told."""

NEAR = 0.05
"""A place reaches this far round its middle, in heights of the face."""

DARKEST = 8.0
"""Below this L* colour says nothing."""
