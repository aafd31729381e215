"""Numbers of easel rules, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# looked.py

LEAST_PX = 200
"""Anything smaller tells nothing."""

# verdicts.py

OVER = 0.4
"""Value steps that a light may stand over its ceiling [try]."""

LIGHT_MM = 2.0
"""How far round a light it is looked for, mm [try]."""

BARE = 9.0
"""Value from which on a wall is bare primed canvas [try]."""

# brushwork.py

SEEN_FROM_MM = 0.8
"""Sigma of what the eye joins: a minute of arc is 0.9 mm from three metres (acuity of 1.0)."""

PATCHED, LAYERED = 0.12, 0.2
"""Usual change up to which strokes are patches, and from which on layers [try]; on maren and tobias: patches
of 12 mm 0.05–0.11, strokes of 6 and 12 mm 0.20–0.29; patches of 6 mm lie between, and nothing is said."""
