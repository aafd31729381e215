"""Numbers of easel, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# comparison.py

WRONG_TONES = 0.1
"""Part of a window of the outline that may be off in tone, or unseen."""

EXPLAINED = 0.6
"""Part of a patch that lies on a feature drawn elsewhere from which on its tone is not told as well [try]."""

RIGHT_TONE = 0.4
"""Value steps within which a tone is right enough for its borders to be judged."""

OFFSET_AS_STEPS = 0.35
"""A mm of wrong drawing weighs as much as this many value steps over the feature's box [try]."""

EDGE_AS_STEPS = 0.4
"""Value steps that a border e times as wide as planned counts for [try]."""

FINISH_AS_STEPS = 0.15
"""Value steps that small contrast e times as strong as planned counts for [try]."""

FORGOTTEN_AS_STEPS = 0.1
"""Weight of a mm of outline that was not drawn, as that of a finding in value [try]."""
