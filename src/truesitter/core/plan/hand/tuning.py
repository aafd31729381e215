"""Numbers of plan hand, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

from truesitter.core.sitter.region_names import Region

# border_means.py

SPRAY_CM_A_MM = 0.5
"""An edge sprayed freehand is a fifth as wide as the airbrush is far off [try]."""

# seams.py

HAIRLINE_REACH_MM = 6.0
"""A border so far from a reading of the hairline is as soft as that one."""

HAIR = (Region.HAIR, Region.FACIAL_HAIR, Region.BROWS)
"""Strokes of hair make the borders inside it."""

SHORTEST_MM = 12.0
"""Shorter borders are not worth a word."""

MOST = 5
"""A painter keeps no more in mind."""

TONE_STEP = 0.7
"""Value steps that one tone beside the next may differ by where a form turns [try]."""
