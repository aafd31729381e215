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

# whites.py

WHITE_L = 84.0
"""L* from which on a thing is nearly white: what is printed as paper white begins at about 85 [try]."""

WHITE_CHROMA = 9.0
"""C*ab up to which it has no colour of its own [try]."""

LEAST_WHITE = 0.001
"""Smaller things, in parts of the picture, are accents and no whites."""

MOST_WHITES = 4
"""So many are told, the largest."""

BESIDE = 0.02
"""What lies within this part of the picture's height is beside a thing [try]."""

LEAST_BESIDE = 1.0
"""Its coloured neighbour covers at least so many times the root of its size in pixels: a side of it [try]."""

TRACE = 5.0
"""ΔE of the trace: twice what is just seen between two patches side by side (2.3, Mahy et al. 1994)."""

LIGHTEST_WHITE = 94.0
"""L* it is kept under, so that a light can stand on it: half a value step below paint's own white [try]."""
