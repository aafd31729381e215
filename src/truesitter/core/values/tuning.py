"""Numbers of values, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

import numpy as np

# contrast.py

WINDOW = 3.0
"""Contrast is judged in a window of so many squints."""

# cuts.py

LEAST_GROUPS, MOST_GROUPS = 2, 9
"""Value groups; common practice is three to seven."""

# edge_runs.py

SMOOTH_MM = 6.0
"""Readings within so many mm are evened out together [try]."""

JOIN_MM = 3.2
"""Readings nearer than this belong to one run: half again their distance."""

SHORTEST_MM = 4.0
"""Shorter runs are not told [try]."""

# edge_sides.py

TENTH = 1.2815515655446004
"""σ between the middle of a Gaussian and its 10 % point."""

UNLIKE = 2.0
"""A side this many times as wide as the other is the soft one [try]."""

MOST = 20.0
"""Sides are told apart up to this ratio: beyond it the three points hardly move."""

# edges.py

HARD_MM, FIRM_MM, SOFT_MM = 1.5, 4.0, 10.0
"""Widest hard, firm and soft edge on a canvas of some 300 × 400 mm (from memory)."""

LEAST_CONTRAST = 0.4
"""Sides nearer in value than this have lost their edge (from memory)."""

REACH_MM = 14.0
"""An edge is read so far to either side [try]."""

STEP_MM = 2.0
"""And every so many mm along it."""

GRAIN = 0.2
"""A fall by less than this, in value steps, is grain and not the end of an edge."""

TANGENT_SPAN = 5
"""Pixels along a border that tell its direction."""

MOST_ROWS = 1 << 14
"""OpenCV takes no larger maps at a time."""

# outlines.py

ROUNDING = 3.0
"""Corners are rounded from so many tolerances away."""

# posterise.py

THINNEST = 0.6
"""A shape with no room for a circle of this part of the smallest width cannot be painted either."""

TOOTH, LARGEST_MEDIAN = 0.8, 61
"""A median so wide, in smallest shapes, takes teeth off a border; and the widest there is, in pixels."""

# value_comparison.py

SPOT, RING = 0.006, 0.035
"""Radius of a spot and of its surround, in parts of the picture's long side [try]."""

FELT = 1.0
"""A surround that differs by less than this, in value steps, changes little of what is seen."""

# smoothing.py

CORNER_STEPS = np.array([0.0, 0.25, 0.5, 0.75, 1.0])
"""Where along a rounded corner its curve is drawn, 0–1."""
