"""Numbers of imaging, by the module that uses them.

[try] marks what was chosen by us on the shown sitters. Whatever has another origin names it.
"""

# blur.py

LEAST_COVER = 1e-3
"""Below this part of known pixels a mean says nothing; it keeps from dividing by none."""

# reduce.py

LEAST_SIDE = 8
"""Pixels: what is scaled for a filter keeps room for it [try]."""
