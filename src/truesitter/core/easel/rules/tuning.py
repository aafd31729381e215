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
