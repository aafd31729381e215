"""Numbers of easel find, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# corners.py

FINDING_LONG_SIDE = 720
"""Features are matched at this size."""

COMPARED_LONG_SIDE = 240
"""Guesses at the corners are held to the plan at this size."""

FEWEST_MATCHES = 12
"""Matches; fewer tell no corners [try]."""

RATIO = 0.8
"""A patch counts when its best likeness is so much nearer than its second (Lowe 2004)."""

MOST_LINES = 12
"""Lines to each side that are tried as its border."""

LEAN = 25.0
"""Degrees by which a side may lean from level or plumb."""

LEAST_SHARE = 0.12
"""A painting takes at least this part of its photograph."""

ENOUGH = 0.5
"""Corners by paint that give this likeness need no second opinion [try]."""

CORNERS_SURE = 0.3
"""From this likeness on the painting is the one that was planned [try]."""

PROPORTION = 0.12
"""Sigma by which perspective may change a painting's proportions, as a logarithm."""

STRONG = 12.0
"""A border from this slope of the 8-bit picture on counts in full."""

# correlation.py

SURROUNDINGS = 25 / 600
"""Sigma of a spot's surroundings, in parts of the picture's long side (by trial)."""

FLAT = 0.02
"""Places that vary by less than this, in parts of how the whole varies, tell nothing."""

# registration.py

COARSE_LONG_SIDE = 600
"""Windows are matched at this size first."""

FINE_LONG_SIDE = 1000
"""And then at this one."""

ROUNDS = 3
"""Of matching windows and fitting them."""

WINDOW = 72
"""Side of a window in pixels."""

STEP = 44
"""Pixels from one window to the next."""

REGISTRATION_SURE = 0.08
"""Correlation that a window has at least [try]."""

FARTHEST = 14.0
"""A window off by more than so many pixels has found something else."""

FEWEST = 12
"""Windows; fewer tell no perspective and bow [try]."""

MOST_BOW = 0.08
"""Radial distortion of a lens at most, either way [try]."""

# view.py

LEAST_SIDE = 0.1
"""A side of a painting is at least so long in a photograph, in parts of the photograph's long side."""

# on_easel.py

LIKELIER = 0.01
"""The photograph is what is painted from when it is likelier than the plan by so much [try]."""

LEAST_LIKENESS = 0.12
"""Below this the photograph shows something else than the plan [try]."""

FLAT_CANVAS = 2.0
"""Of a canvas whose values spread by less than this in 8-bit steps nothing can be likened."""
