"""Numbers of usecases, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# batch.py

WORTH_MIXING_ML = 0.005
"""For less than this nothing is mixed: a neighbour's mixture will do."""

# coats_needed.py

COATS_LONG_SIDE = 800
"""Coats are counted on maps of this size."""

SMALLEST_MM = 1.2
"""Diameter of the smallest place that can be sprayed or washed [try]."""

# habits_seen.py

HEAD_OF_FACE = 1.25
"""Height of a head, in heights of its face (from memory)."""

HEAD_OF_FIGURE = 0.4
"""The same in heights of the picture, where no face is seen [try]."""

LEAST_PX = 100
"""Pixels; fewer of a place tell nothing [try]."""

# painted_again.py

LEAST_CM2 = 1.0
"""Less than this out of reach is not worth a word."""

LIFT_MINUTES, TOUCH_MINUTES, BACKGROUND_MINUTES = 0.5, 1.0, 0.1
"""Minutes a cm² for lifting, for an opaque touch, and for a background gone over again [try]."""

MOST_REKEY = 1.0
"""Nothing is re-keyed by more steps than this: it would be another picture [try]."""

# sections.py

LEAST_SHARE = 0.02
"""A pass belongs to a section when it covers so much of it."""

# take_off.py

NEAR_MM, NARROWEST = 2.0, 0.3
"""A press so near to a stroke means it; a cotton bud along it leaves so much of its width at least [try]."""

SCRATCH_MM = (0.4, 1.6)
"""Width of a scratched line, pressed lightly and hard [try]."""

FEWEST = 2
"""Points of a line."""

# framing_advice.py

IRIS = 0.063
"""Width of an iris in heights of the face, hairline to chin: 11.7 mm (F. Rüfer et al., Cornea 24, 2005) of
185 mm [from memory]."""

SMALL_HEAD = 1 / 6
"""A head below this part of the frame's height has features smaller than most brushes [try]."""

# photograph_condition.py

CONDITION_LONG_SIDE = 640
"""Working size."""

LEAST_TINT = 4.0
"""Mean chroma from which on a photograph without colour is tinted, not grey [try]."""

DARK, BRIGHT, WELL_LIT = 5.5, 6.0, 7.0
"""Exposed too dark where 99 % lie below the first value, too light where 95 % lie above the second; what the
lightest hundredth of one too dark is raised to [try]."""

MOST_RAISED = 2.0
"""Value steps by which a middle value is moved at most: beyond, grain and banding are all there is [try]."""

LEAST_LOST, MOST_PLACES = 0.05, 3
"""Part of a place that has run into black or white before it is named, and how many are named [try]."""

# lock_mixtures.py

LOCK_TONES_APART = (5.0, 6.0, 6.0)
"""L*, a* and b* within which tones of locks are mixed as one: half a step of value [try]."""
