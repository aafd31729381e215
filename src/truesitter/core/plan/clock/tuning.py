"""Numbers of plan clock, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# minutes.py

MASSED_HAIR = 0.45
"""Hair painted in masses takes this part of what strands take [try]."""

SPREAD = (0.7, 1.5)
"""Painters are that much faster or slower than reckoned [try]."""

SCRAP_MINUTES = 10.0
"""To try a wash on a scrap and see it dry there, for each of its mixtures [try]: with it a detailed portrait
takes the 8 to 20 hours of common practice; chosen on tobias and ines."""

# schedule.py

MOST_SITTINGS = 400
"""A plan that wants more is cut off; nobody reads on."""

LEAST = 5.0
"""So many minutes before the end of a sitting no pass is begun that does not fit."""

WORTH = 0.4
"""Part of a sitting for which it is worth setting out the paint [try]."""
