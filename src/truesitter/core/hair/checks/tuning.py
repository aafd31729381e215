"""Numbers of hair checks, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# found_strokes.py

LONG_SIDE = 1600
"""Strokes are looked for at this size."""

DARKER = 0.3
"""A stroke is darker than the paper round it by this part of its light; printed lines are paler [try]."""

PAPER = 0.03
"""The paper is what is lightest within this part of the long side."""

LEAST_LENGTH = 0.012
"""Shorter marks than this part of the long side are specks."""

MOST = 400
"""Strokes that are looked at on a sheet."""

FULLER = 1.15
"""An end so much fuller than the other is the root; else the growth decides."""

POINTS = 30
"""Points of a stroke that is found."""

BLUNT, EVEN = 2.0, 15
"""Half widths cut from the root, and pixels over which the middle line is evened out."""

# practice.py

ROOT_DEGREES = 15.0
"""A stroke whose root is farther off the growth than this does not begin on its line [try]."""

LEAVES_DEGREES = 25.0
"""Inside the root part it may not be farther off than this [try]."""

CROSS_DEGREES = 55.0
"""Farther off than this anywhere it runs across the growth [try]."""

FREER_DEGREES, ANY_WAY_DEGREES = 15.0, 160.0
"""The free part may turn off by so much more than its type asks; from the other on a curl runs any way."""

FEW_CURLS = 3.0
"""A stroke shorter than so many curls is held to the line from its root to its tip [try]."""

TOO_SHORT, TOO_LONG = 0.36, 1.3
"""Shorter than this part of the shortest usual length it looks cut off, longer than this part of the longest
combed [try]; a stroke that ends at the border of its place is right down to 0.4 of its length."""

TOO_LONG_LOCKS = 2.2
"""Likewise of long hair, which a stroke may follow through lock after lock [try]."""

TAPERS = 0.6
"""A tip wider than this part of the widest does not run out [try]; types end in a quarter at most."""

DROP = 1.25
"""A tip so many times as wide as the middle is a drop."""

SWELLS, BEADS = 0.3, 3
"""A stroke beads that thins by this part of its width and swells again, so many times [try]."""

MANY_ROOTS, CLUMPED = 8, 0.5
"""From so many strokes on starts are held to chance; nearer than this part of it they are clumped [try]."""

ONE_LINE = 0.15
"""Starts of strokes side by side spread less than this part of their length lie on one line."""

SAMPLES = 25
"""Points at which a practised stroke is held to its guide."""

TOGETHER = 4
"""Strokes; fewer side by side tell nothing of their starts [try]."""
