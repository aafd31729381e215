"""Numbers of colour, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# families.py

HUES = (
    (20.0, "red"),
    (60.0, "orange"),
    (100.0, "yellow"),
    (190.0, "green"),
    (285.0, "blue"),
    (330.0, "violet"),
    (361.0, "red"),
)
"""Where hue words end, in degrees of the a*, b* plane (from memory)."""

MOST = 3
"""A region has no more families: more are told as one colour each anyway."""

APART = 14.0
"""Families lie at least so far apart, in a* and b* at L* 45 [try]."""

LEAST_SHARE = 0.06
"""Smaller ones are accents, not families [try]."""

CLEAR = 0.3
"""Families spread, along the line between them, by less than this part of their distance [try]."""

SAMPLE = 20_000
"""Pixels that the families of a region are found from."""

DARKEST = 6.0
"""Below this L* hue says nothing."""

GREY = 7.0
"""Less chroma than this at L* 45 is grey to the eye."""

# spaces.py

WARM_HUE = 55.0
"""Orange, the warmest hue, in degrees of the a*, b* plane (common practice); its opposite is the coolest."""
