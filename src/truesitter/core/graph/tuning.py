"""Numbers of graph, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# footprint.py

LEAST_SHARED = 4096
"""Arrays of fewer bytes are charged to each result that holds them: counting who shares them costs more."""

# memo.py

CHEAP = 0.02
"""Seconds: what is computed faster is worth as much as that [try]."""

BROUGHT = 0.5
"""Seconds that a result is taken to have cost which was computed elsewhere [try]."""
