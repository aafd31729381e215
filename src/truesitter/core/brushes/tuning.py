"""Numbers of brushes, by the module that uses them.

[try] marks what was chosen by us on the shown sitters. Whatever has another origin names it.
"""

from __future__ import annotations

# brush.py

FINEST = {
    "round": {"sharp": 1 / 12, "usual": 1 / 6, "worn": 1 / 3},
    "liner": {"sharp": 1 / 4, "usual": 1 / 2, "worn": 1.0},
}
"""Thinnest line of a pointed brush, as part of its width (from memory)."""

EDGE = 1 / 8
"""Likewise of a flat, drawn along its edge, and of a filbert; a mop draws none (from memory)."""

LARGEST_MM = 150.0
"""Nobody has a wider brush."""

COVERS = {"flat": 1.0, "filbert": 0.9, "round": 0.7, "liner": 0.4, "mop": 1.0}
"""How much of its width a brush lays down in one stroke [try]."""

ROUND_IN_WATER = 1.2
"""Likewise a round full of water, which spreads under the hand [try]."""

# choice.py

MOST_BRUSHES = 6
"""Nobody holds more [try]."""

MINUTES_A_BRUSH = 2.0
"""To lay out, rinse and wash one brush more [try]."""

UNLIKE = 1.2
"""Times as long with hair that is not what the work asks for, or with the tip of a brush alone [try]."""

OTHER_SHAPE = 1.5
"""Times as long with a brush of another shape than is asked for; flats and filberts are one [try]."""

TIP = 0.5
"""A pointed brush fills shapes down to this part of its width [try]; finer lines it draws alone."""

LINE_LENGTH = {"short": 1.15, "usual": 1.0, "long": 0.9}
"""Times as long for a line: long hair holds more paint [try]."""

LINE_HAIR = {"stiff": 1.4, "springy": 1.0, "soft": 1.1}
"""Times as long for a line with hair of that stiffness [try]; that springy hair obeys best is from memory."""

UNFIT_MINUTES = 240.0
"""Counted for work that a brush is too wide for, so that it is taken only where no other is there."""

THICK_MM = 0.2
"""Films from so much on are thick: soft hair hardly moves them [try]."""

MOST_MISSING = 2
"""So many are told at most."""

NARROW, WORTH_MINUTES = 1.5, 10.0
"""A brush is worth buying where the one used is so many times too narrow and it saves so much [try]."""

# laying.py

WIDTHS_MM = (1, 2, 3, 4, 6, 8, 10, 12, 16, 20, 25, 30, 40, 50)
"""Usual brush widths (common practice)."""

STROKE_MM = 30.0
"""Length of one stroke of a filling brush, mm [try]."""

STROKE_SECONDS = 6.0
"""One stroke, loading the brush included [try]."""

LINE_SECONDS = 4.0
"""One line of a small brush, loading it included [try]."""

MIXING_MINUTES = 8.0
"""To mix one colour [try]."""

# line_tools.py

LINE_TOOLS = (("filbert", 2.5, 1, 0), ("small round", 1.2, 2, 1), ("liner", 0.3, 1, 1), ("rigger", 0.0, 1, 2))
"""Tool, its thinnest line in mm, and parts of paint and thinner [try]; that lines want paint which flows off
the tip, the finer the thinner, is common practice."""

LONG_LINE_MM = 40.0
"""Lines so long run dry with short hair [try]."""

LONG_LINE_TOOLS = {"small round": "slanted liner", "liner": "rigger"}
"""What draws long lines in the stead of a tool for short ones (common practice): a slanted one wide lines,
the longest and softest hair thin lines and curls."""

THICKEST_OF_WIDTH = 0.5
"""Wet film of a line beside its width: half a cylinder."""
