"""Numbers of settings, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# flesh_settings.py

MOST_PARTS = 100_000
"""A tube let down twice is one part in hundreds of a few."""
