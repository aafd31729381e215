"""Numbers of pace, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# own_pace.py

BRUSH_SIZES = ((3.0, "fine"), (8.0, "small"), (20.0, "middle"))
"""Widest brush in mm of each size; what is wider is broad [try]."""

FEWEST_SITTINGS = 3
"""Nothing is called learned from fewer."""

SLOWEST = 5.0
"""A pace that differs more than so many times is a slip of the clock, and taken as this much [try]."""

# waiting.py

DRYING_SPEED = {"fast": 0.6, "medium": 1.0, "slow": 1.6}
"""Drying time of a pigment ground in oil, relative to a medium one (from memory)."""

USUAL_TEMPERATURE, USUAL_HUMIDITY = 20.0, 50.0
"""Drying times are told for such a room: °C, and per cent of humidity."""

DOUBLES_EVERY = 10.0
"""Oil dries twice as fast with so many degrees more (from memory: a rule of thumb of chemistry)."""
