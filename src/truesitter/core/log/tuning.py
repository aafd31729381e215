"""Numbers of log, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

from datetime import timedelta

# log_document.py

LOG_DOCUMENT_MOST = 200_000
"""Entries in one file [try]."""

# logged_swatches.py

LOGGED_SWATCHES_MOST = 40
"""Pairs of one paper and medium; the newest count."""

# rates.py

LEAST_SHARE = 0.02
"""Less than this of a piece of work tells nothing of its pace [try]."""

LEAST_MINUTES = 1.0
"""Shorter work tells nothing of anybody's pace [try]."""

TRACE = 0.01
"""Part of the time that is left when an overlong break is taken off [try]."""

LEAST_CM2 = 0.01
"""Smaller places tell nothing of anybody's pace [try]."""

LEAST_ML = 1e-4
"""Less paint tells nothing of what is used [try]."""

# sittings.py

LONGEST_SITTING = timedelta(hours=24)
"""A sitting that was forgotten counts no longer than this, ended late or never [try]."""
