"""Numbers of light key, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# body_normals.py

CURVED = 2.0
"""Right side of the equation: 2 makes limbs round; a ball would want 4 [try]."""

LONG_SIDE = 140
"""Normals of the body are reckoned at this size."""

# casters.py

REACH = 0.9
"""What casts a shadow lies nearer than this in the picture, in heights of the face: a head shades neck and
shoulder [try]."""

STEPS = 24
"""Steps on the way from a shadow to what may cast it."""

SPOTS = 150
"""Spots of a shadow that are asked."""

LEAST_VOTES = 0.3
"""Part of the votes that names what casts a shadow [try]."""

# face_normals.py

DEPTH = 1.1
"""The detector's depth is taken so many times [try].

Against the true normals of maren, tobias, selda and orsolya 1.0 is nearest (median 12 to 15°); for where
the light comes from 1.1 to 1.2 is, because the mesh ends before the cheeks have turned away.
"""

FINER, SMALL = 2, 200
"""Triangles of a face lower than so many pixels are drawn at so many times the size."""

# light_direction.py

FACE_PX = 72
"""The face is compared at this height."""

FIGURE_PX = 200
"""The figure is compared at this long side."""

SQUINT = 0.012
"""Of the face's height: both sides are squinted by this much before they are compared [try].

Chosen on maren, tobias, selda, orsolya and on ten pictures of them lit anew, from behind as well.
"""

ENOUGH = 0.94
"""No second light is looked for where one explains so much [try]: one light left 0.90 to 0.98 unaided."""

SECOND_STRENGTH = 0.2
"""A second light is worth telling from this part of the key's strength [try]."""

SECOND_GAIN = 0.08
"""And when it explains so much of what the key leaves unexplained [try].

Chosen on maren, tobias, selda and orsolya under 24 pairs of lights each, every one in four crops: with
0.05 a third of the scenes changed their key between crops, with 0.12 two lights were often told as one.
"""

SECOND_APART = 70.0
"""Degrees between two lights that are two [try]."""

SECOND_LEAST_Z = -0.2
"""A second light from farther behind cannot be told from the error of the mesh [try]."""

DIRECTIONS = 300
"""That are tried first: about ten degrees apart."""

FROM_BEHIND = -0.75
"""Least z of a direction: from farther behind nothing of the face is lit."""

REFINE = (8.0, 2.5)
"""Steps of the refinements, in degrees."""

COARSER = 2
"""Pairs are tried of every such direction of the grid."""

PAIRS, PAIRS_APART = 3, 25.0
"""So many pairs are refined, each so many degrees from those that explain more [try]: the best of the coarse
grid is not always the best of all, and which one it is changes with a crop."""

# lit_form.py

TRUSTED = 0.85
"""The best fitting part of the skin; the rest holds highlights, cast shadows and moles [try]."""

LEAST_PIXELS = 200
"""Fewer lit pixels tell no direction [try]."""

SAMPLES = 1000
"""Pixels that the light is fitted to."""

ROUNDS = 3
"""Of weighting what does not fit down."""
