"""Numbers of easel correct, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

import numpy as np

# dab.py

RIGHT = 0.15
"""Value steps within which a dab is right [try]."""

# painting_habits.py

FEWEST = 4
"""Paintings before anything is called a habit."""

LEAST_STEPS = 0.3
"""Mean error in value steps from which on a habit is told [try]."""

LEAST_COLOUR = 4.0
"""Likewise in a* or b*."""

LEAST_OFFSET = 0.02
"""Likewise of a feature's place, in heights of the head."""

ERRORS = 2.0
"""Standard errors by which a mean stands off nothing."""

RARE = 0.05
"""All reports together may be false this often: the more is asked, the surer each answer has to be."""

# remedy.py

SCUMBLES = np.geomspace(0.004, 0.06, 24)
"""Dry films of a scumble in mm: dragged thin over what is there [try]."""

LIFTS = {"by degrees": 0.3, "all or nothing": 1.0, "not at all": 1.0}
"""Part of a film that lifting leaves at least, by how the support lets go of it [try]."""

NEAR = 0.2
"""Value steps within which a place is right."""

WORTH = 0.1
"""A remedy that brings a place nearer by less than this, in steps, is none."""

BEYOND = (0.0, 0.5, 1.0, 1.6)
"""A scumble is mixed lighter than wanted by so many times the way it has to go."""

# stop.py

MOVED = 0.05
"""A sitting that moves the whole by less than this part of what was wrong changed nothing [try]."""

SMALL = 0.3
"""Findings smaller than this, in steps, are nothing to paint for [try]."""

LOOK_AGAIN_DAYS = (1, 2)
"""After so many days a second look sees more (common practice)."""
