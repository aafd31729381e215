"""Numbers of hair strokes, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# approach.py

HAIR_MM = 0.08
"""Thickness of a hair of the head, in mm (from memory: 0.06–0.1)."""

FACE_MM = 185.0
"""Height of a grown face from hairline to chin, in mm (from memory)."""

NEITHER = (2.0, 8.0)
"""Widths of a brush, in hairs, that give neither hair nor a mass [try]."""

FINEST_BRUSH_MM = 0.12
"""What the tip of the finest liner draws with thin paint (from memory)."""

DENSITY, HAIRS_DENSITY = 2.2, 0.35
"""Area of the strokes of a layer of locks, and of one of single hairs, as part of its place [try]."""

SMALLER_FROM = 0.6
"""Smaller locks begin past this part of the layers (common practice: more than half)."""

LESS_EACH_LAYER = 0.6
"""Each nested layer covers about this part of the one before [try]."""

LENGTH_MM = 0.16
"""Length of a stroke beside the height of the face, for the reckoning [try]."""

FULLNESS = 0.62
"""Mean width of a tapered stroke beside its widest."""

# hair_strokes.py

POINTS = 14
"""Points of a stroke."""

OF_THE_LOCK = 2 / 3
"""The widest brush, in widths of the lock [try]."""

OF_THE_CURVE = 0.3
"""The widest brush at a spot: parts of the lock's width and of the radius of curvature [try]."""

TURN_BACK = 0.0
"""Cosine of a turn from one step to the next at which a stroke ends."""

LEAST = 0.4
"""A stroke that is cut off before this part of its length is left out; another is tried."""

ROUNDS = 8
"""Of beginning strokes where there is room left."""

BROAD_PX = 2.0
"""Strokes so many pixels wide or wider are laid where the place is still bare."""

SHORTER = 0.75
"""Of the length of the round before, what is left over in a place is stroked with [try]."""

NARROWEST = 0.3
"""Beside the borders of its place a stroke is no narrower than this part of its brush [try]."""

SMOOTH = 1.5
"""Pixels over which curvature is read."""

OF_THE_FACE, AT_THE_RIM = 0.03, 0.7
"""Depth of the rim, in heights of the face, and the part of strokes that begin in it where most do [try]."""

NO_LOCK = 0.5
"""Where there is no lock, long hair is this many heights of the face long [try]."""

# hands.py

DOWNWARD = 0.6
"""Beside across, how much a place farther down waits [try]."""

AWKWARD = -0.5
"""Cosine to the easy pull under which a stroke is pulled from its tip [try]."""

# strays.py

FEWEST, MOST = 2, 5
"""In every layer (common practice: a few in every colour)."""

LOOSE, TANGLED_STRAYS = 4, 0.4
"""Curled hair, and hair as irregular as the other number in radians, leaves so many times as many [try]."""

LONGEST = 0.35
"""Of the lock's length."""

BEND = 0.9
"""Radians that the free part turns away at most [try]."""

WITHOUT_LOCK = 0.3
"""Length of hair in heights of the face, where there is no lock [try]."""

END = 0.15
"""Width of a stray at its tip, as part of its own [try]."""

# curls.py

POINTS_A_CURL = 8
"""Points of a line in each curl."""

SURE_WAY = 0.2
"""Length of a mean of directions under which it says nothing."""

CURLS_LONG = (1.0, 2.0)
"""Lengths of strokes that are small curls, in curls: a whole one at least shows what it is [try]."""

OF_A_CURL = 0.4
"""Directions are averaged over this part of a curl, as a Gaussian, for the way of a lock [try]."""

# stroke_types.py

FRIZZ_CONTRAST = 3.0
"""Standard deviation of lightness, in L*, of hair that is frizzy where no strand is plain, not only dark:
dark tangled locks of selda, maren and orsolya have 0.5 to 2.5 [try]."""

TANGLED = 0.3
"""Mean coherence under which hair of the head is taken for coils [try]."""

STROKE_TYPES_SHORT = 0.45
"""Length of the longer growth lines, in heights of the face, under which hair is short [try]."""

WAVES = 0.25
"""Mean turn of a growth line past which hair is wavy, in radians over a fifth of the face [try]."""
