"""Numbers of school, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# school_document.py

MOST_PASSES = 60
"""Of one school."""

# school_palettes.py

MOST_FILM = 1 / 3
"""A wash is never stronger than this part of undiluted paint: it would not flow [try]."""

MOST_WASHES = 6
"""Of one mixture over one another; more of them only make mud [try]."""

FIRST_FILM = 0.7
"""A first loose layer is so thin beside the one over it [try]."""

THICK_STROKE_MM = 0.5
"""Wet film of a loaded stroke that is left as it lies [try]."""
