"""Numbers of drills, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

from datetime import timedelta

# drawing_rounds.py

MOST_PEAKS = 5
"""Peaks of light that are asked for at most [try]."""

FAR = 30.0
"""A mark counts as no further off than so many per cent of the height."""

ROOT = 0.25
"""The first quarter of a stroke shows how it leaves its root [try]."""

NEAR_MARK = 0.05
"""A stroke begins within so much of the picture's height of its mark: fingers are broad [try]."""

THINS_TO = 0.7
"""A stroke thins out when its end is no wider than this part of its widest [try]."""

SHOWN = 0.08
"""Length of the growth that is shown afterwards, in heights."""

LONG = 0.55
"""Length of a contour to copy, in heights of the picture [try]."""

POINTS = 120
"""Points at which a drawn line is held to the true one."""

LEAST_PART = 0.001
"""Parts of the picture; smaller places have no outline to draw [try]."""

# drill_kinds.py

ROUNDS = 10
"""In one go."""

# looking_rounds.py

FOOLING = 3.5
"""Steps by which a fooling surround is lighter or darker, at most [try]."""

DARK, LIGHT = 0.8, 9.2
"""Values between which patches lie, so that both neighbours can be shown."""

# mixing_rounds.py

TUBES = 4
"""Tubes that a drill mixes from at most [try]."""

MOST_PARTS = 12
"""Of one tube."""

TARGET_PARTS = 6
"""Most parts of a tube in what is to be mixed [try]."""

# rounds.py

OWN_PLACES = 0.5
"""Part of the rounds that are about places the painter tends to get wrong [try]."""

EDGE = 1e-4
"""Linear light by which a colour may leave sRGB: rounding only."""

# spacing.py

EARLY = timedelta(hours=6)
"""Whoever practises every evening is now and then a little earlier: due all the same [try]."""

DAYS = (1, 2, 4, 8, 16)
"""After how many days each box is due."""

WELL = 0.7
"""Part of a go's rounds that are right when it went well [try]."""

# staircase.py

SLOPE = 3.5
"""Of the Weibull function over the difference (Watson and Pelli 1983 for contrast)."""

LAPSE = 0.02
"""Part of the rounds in which the hand slips."""

SURE = 0.5
"""Standard deviation of the first belief, in tenfolds [try]."""

REMEMBERED = 60
"""Older rounds count no longer: an eye learns [try]."""

GRID = 600
"""Thresholds that are weighed."""
