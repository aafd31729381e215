"""Numbers of canvas, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# begun.py

NOISE_STEPS, NOISE_COLOUR = 0.25, 4.0
"""What a photograph of a painting cannot tell, in value steps and in a* and b*: taken as planned [try]."""

FEWEST_PX = 60
"""A piece of which less can be seen is taken as planned."""

NOTHING_STEPS, NOTHING_DELTA = 0.2, 3.0
"""A pass that would change the canvas by less than this, in steps and ΔE2000, is there already: a
photograph tells no more [try]."""

RIM, MIDDLE = 2.0, 8.0
"""Pixels from its border within which a piece is hardly asked, and from which on fully: borders are soft."""

BEYOND = 0.3
"""Value steps from which on a place is out of the plan's reach."""

# canvas_state.py

COVER_STEPS = 64
"""How far strokes cover a piece is told in so many parts."""

# painted.py

ALIKE = 0.25
"""New stacks of one layer that fall into one cell of this size in L*a*b* are made one."""

SHARES = 32
"""What is left of a film is told in so many parts."""

SMEARS_PX = (0.0, 0.8, 1.6, 3.2, 6.4)
"""σ in pixels between which what is smeared is mixed; farther nothing is drawn."""

WIDTH_OF_SIGMA = 2.563103131089201
"""10–90 % width of a border blurred by a Gaussian of one pixel."""

MOST_STEPS = 48
"""Pixels covered alike to one of so many steps are reckoned as one."""

# painted_borders.py

LEVELS = 240
"""How far a pixel is covered is told in so many parts."""

LEAST_BLUR = 0.2 / 300
"""Total width of the sharpest border a brush leaves, as part of the canvas's width [try]."""

WIDEST_SIDE_MM = 6.0
"""A brush softens no further than this to either side [try]; wider turns are made by the tones between."""

TENTH_OF_RAMP = 0.8
"""Where a side's straight ramp, from the middle to its end, comes to within a tenth of it."""

OVERLAP = 2.0
"""Moves a ramp outward by its own length: it begins to fall where the neighbour's is full."""

FLOOR_PX = 0.5
"""A side narrower than half a pixel is drawn as that."""

NEAREST, EVEN_MM = 8, 3.0
"""A pair of pixels goes by so many readings near it, those within so many mm above all."""

CELL_PX = 2
"""Readings near a pair are looked for from the middle of a cell of so many pixels."""

SURE = 0.05
"""A border is as soft as its readings say from so much weight of them on."""

CLOSEST_PX, DEEPEST_PX = 1.5, 48
"""Pieces are looked into from so far beside their border, and so deep."""

STEP_MM, REACH_MM = 3.0, 10.0
"""Readings lie so far apart and look so far to either side."""

# patchwork.py

MANY = 1 << 18
"""Numbers are closed up when there are more of them than this."""

# taking_off.py

STEPS = 33
"""Shares that are tried between nothing and all."""

SAME_VALUE = 1e-9
"""Steps under which taking paint off changes nothing that could be measured."""

LIFTED_LEFT = (0.15, 0.3, 0.5, 0.75)
"""Part of a dry wash that a damp brush leaves on paper, by how its pigment stains (from memory)."""
