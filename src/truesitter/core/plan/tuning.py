"""Numbers of plan, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# kit.py

HEAVY_G_CM3 = {"vermilion": 8.1, "lead-white": 6.7}
"""Pigments that settle in thin paint: cinnabar by the handbook, basic lead carbonate from memory."""

SETTLES_FROM = 6.0
"""g/cm³ from which paint in a thin medium is stirred again and again (common practice)."""

LONGEST = 180.0
"""Minutes; longer waits are told with the sittings [try]."""

# minutes.py

MASSED_HAIR = 0.45
"""Hair painted in masses takes this part of what strands take [try]."""

SPREAD = (0.7, 1.5)
"""Painters are that much faster or slower than reckoned [try]."""

# pass_places.py

SMALLEST_CM2 = 0.15
"""Passes smaller than this are left to the neighbouring ones."""

SMALLEST_LIGHT_CM2 = 0.01
"""A catchlight is a few square millimetres."""

LAST_LIGHTS_MOST = 0.04
"""Part of the skin that last lights touch at most [try]; that they are few is common practice."""

LAST_LIGHTS_REACH = 0.15
"""Skin is held to its mean so far round it, in sides of a square as large as all of it [try].

Chosen on maren and orsolya lit anew by a flash.
"""

PEAK_QUANTILE = 0.4
"""Last lights lie where zones 1 and 2 are lighter than this part of zone 1 (from memory)."""

# planner.py

ERROR_BINS = 500
"""Values are compared in 50ths of a step."""

# schedule.py

MOST_SITTINGS = 400
"""A plan that wants more is cut off; nobody reads on."""

LEAST = 5.0
"""So many minutes before the end of a sitting no pass is begun that does not fit."""

WORTH = 0.4
"""Part of a sitting for which it is worth setting out the paint [try]."""

# seams.py

SHORTEST_MM = 12.0
"""Shorter borders are not worth a word."""

MOST = 5
"""A painter keeps no more in mind."""

TONE_STEP = 0.7
"""Value steps that one tone beside the next may differ by where a form turns [try]."""

# wash_over.py

STAGES = (1.0, 0.3, 0.02)
"""Darkest parts of the picture whose means are washed over one another."""

SAMPLE = 40_000
"""Pixels that a wash is reckoned on."""
