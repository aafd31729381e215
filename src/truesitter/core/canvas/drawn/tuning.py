"""Numbers of canvas drawn, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# construction_lines.py

CONSTRUCTION_POINTS = 41
"""Points of a line."""

CONSTRUCTION_WIDTH = 0.006
"""Of a line, as a part of the face's height [try]."""

HEAD_WIDE = 0.9
"""No head is wider than this part of its height; what is wider is hair (common practice)."""

GESTURE_DEGREE = 3
"""One bend and its counter-bend: no gesture has more."""

GESTURE_ROWS = 24
"""A figure with fewer rows of the map has no gesture."""

# crease_lines.py

LONG = 2.5
"""A wrinkle is at least so many times as long as it is wide [try]."""

DRAWN = 0.6
"""The line covers this part of the valley's width: its sides are shading [try]."""

CREASE_LINES_POINTS = 17
"""Points of a line."""

MOST = 24
"""The deepest so many: more age the sitter [try]."""

SHORTEST = 0.04
"""Of the face's height [try]."""

# face_lines.py

PARTING_WIDTH = 0.01
"""Of the parting line of the lips, as part of the mouth's width [try]."""

CREASE_WIDTH = 0.02
"""Of the crease of a lid, as part of the eye's width [try]."""

MARGIN_WIDTH = (0.012, 0.035)
"""Of the line of the upper lid's margin at the inner and the outer end, as parts of the eye's width [try]."""

RIM_WIDTH = 0.018
"""Of the lower lid's rim, as a part of the eye's width [try]."""

FINEST_MM = 0.2
"""No brush draws finer."""

TUFTS = (0.04, 0.14, 0.24, 0.33, 0.43, 0.54, 0.66, 0.79)
"""Where on the upper lid tufts of lashes stand, from the outer corner inward: closer outside [try]."""

LASH_LENGTH, LASH_WIDTH = 0.22, 0.016
"""As parts of the eye's width, the outermost ones [try]."""

LASHES = ((0.0, 1.0), (0.22, 0.72), (-0.2, 0.8))
"""Lashes of a tuft: how far each leans from the tuft's own direction, and its length: never even."""

BROW_LINES = ((0.66, 0.16), (0.36, 0.1))
"""Lower and upper line of a brow: how far down they lie, and their width, as parts of its height."""

SMALL_BROW_MM = 1.6
"""A brow lower than this takes one line only [try]."""

FACE_LINES_POINTS = 17
"""Points of a line."""

# hair_lines.py

A_SIDE = 3
"""Lines to each side of a moustache, shorter upward (common practice: two or three)."""

DARK_FROM = 0.35
"""The darker lines begin this part of the way along the others: lower [try]."""

HAIR_WIDTH = 0.0035
"""Of a painted hair, as part of the face's height [try]."""

BEYOND_THE_MOUTH = 0.35
"""Of the mouth's width: farther out it is the beard of the cheek."""

LEAST_ACROSS = 0.01
"""Of the picture's width: a hair of the moustache runs outward."""

LEAST_MOUSTACHE = 0.01
"""Of the face's height squared: less hair than this above the mouth is no moustache."""

# light_lines.py

STREAK_WIDTH = 0.004
"""Of a streak, as part of the face's height [try]."""

ENDS_BEFORE = 0.6
"""A streak covers this part of its ray: it ends long before the line that stops the light [try]."""

LIGHT_LINES_POINTS = 9
"""Points of a line."""

# painted_lines.py

FINER = 4
"""Lines are drawn at so many times the size and reduced by area."""

# wall_strokes.py

STROKE_WIDE, STROKE_WIDE_MM = 0.05, (5.0, 30.0)
"""Width of a stroke as a part of the canvas's shorter side, and its bounds in mm [try]."""

STROKE_APART, STROKE_LONG = 1.7, (4.0, 8.0)
"""Mean distance of strokes, and their length, in widths [try]: they overlap and still let the coat show."""

STROKE_SLANT, STROKE_TURN, STROKE_WAVES = -0.9, 0.5, 0.8
"""Slant of a right hand in radians, how far it turns to either side, and how often over the canvas [try]."""

STROKE_BEND = 0.5
"""Standard deviation of a stroke's own bend in radians [try]."""

STROKE_JOG, STROKE_LEAN, STROKE_RIM = 0.3, 0.25, 0.6
"""Standard deviations of where a stroke lies, in distances, and of its slant, in radians; and how far from
its middle the wall must reach, in widths [try]."""

STROKE_POINTS = 9
"""Points of a stroke."""
