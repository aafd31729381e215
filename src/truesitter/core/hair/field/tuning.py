"""Numbers of hair field, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# direction_field.py

SOLVE_LONG_SIDE = 360
"""The least-squares problem is solved with this long side; directions vary slowly."""

STRAND_LONG_SIDE = 1500
"""Strands are looked for at this size. Chosen on maren, tobias and selda; so are the next four."""

COARSE = 3.0
"""Detail coarser than this, in pixels, is taken off."""

DIRECTION_FIELD_FINE, WINDOW = 1.0, 1.5
"""Scale of the derivatives, and of the window they are averaged in."""

INSET = 1.0
"""Pixels at the border of the hair that are not read: the silhouette is no strand."""

NOISE = 0.05
"""Energy of the gradient, in L* squared, that counts as no strand at all."""

LAMBDA, LAMBDA_TANGLED = 4.0, 40.0
"""Weight of smoothness beside the picture, combed and where strands are tangled or curl [try]."""

TANGLED_ORDER = 0.45
"""Strands that lie less alike than this are tangled or curl: half of ines' hair, next to nothing of five
other sitters', of which it was chosen on selda and tobias; drawn curls 0.2–0.45, drawn waves 0.8."""

MU = 40.0
"""Weight of what the painter drew beside the picture [try]."""

ANATOMY = 0.3
"""What the anatomy of a brow counts beside strands plainly seen [try]."""

FLOOR = 1e-3
"""Weight that every strand keeps in the least-squares problem, so that it has one answer."""

ORDER_SIGMA = 2.5
"""Pixels of the field over which strands are seen to lie alike: a quarter of a lock of a head."""

PLAIN = 0.3
"""Coherence from which on a strand is seen, and not only noise of the dark [try]."""

# whorls.py

OVER_A_LOCK = 0.02
"""Of the height: over so much hair lies alike about a whorl, in a ring from here to 2.5 times as far."""

WOUND_ROUND = 0.8
"""Part of that ring that is hair at least; of less, what lies alike counts for less [try]."""

# growth_lines.py

ROOT_PART = 0.4
"""Part of a line, from its root, that a stroke keeps to exactly; past it the stroke is free [try]."""

STEP = 1.2
"""Pixels of the field from one point of a line to the next."""

NEAREST = 0.75
"""A line ends where it comes nearer to another than this part of the spacing."""

ROOM = 0.9
"""A line begins only where it has this part of the spacing to itself."""

GROWTH_LINES_FINE = 4
"""What is taken is kept on a map so many times finer than the field."""

TURN_BACK = -0.2
"""Cosine of a turn from one step to the next at which a line ends: hair does not turn back."""

# guides.py

TURN = 0.8
"""Radians by which hair leaves a turning whorl off its ray [try]."""

OUTERMOST_RAY = 0.35
"""A drawn whorl says less and less from the middle to its rim; the least part it keeps there."""

# hair_beliefs.py

DRAWN = 50.0
"""A drawn stroke against all other beliefs."""

NATURAL_HAIRLINE = 0.62
"""Height above the brows, in lengths of the nose (brow to nose base), from which on a border of hair
above skin is a hairline and below which it is a fringe: the natural hairline lies about one third of
the face above the brow (canon of the face's thirds). Measured on the made sitters: 0.70-1.02."""

UNSURE = 0.1
"""Half the width of the passage between fringe and hairline, in lengths of the nose."""

SIDES = (0.15, 0.2)
"""Heights above the brow: sideways borders begin to count as hairline, and how soon they fully do."""

BORDER = 1.5
"""Weight of a border with skin [try]."""

BORDER_REACH = 0.03
"""Its reach, as part of the picture's height [try]."""

HANGING = 0.6
"""How much gravity counts where hair hangs free [try]."""

ALWAYS = 0.05
"""And everywhere [try]."""

NO_FACE = 0.15
"""Gravity where no face tells what hangs."""

BEARD, HAIR_BELIEFS_MOUSTACHE = 2.0, 2.0
"""Weight of a beard's and a moustache's usual growth [try]."""

WHORL, WHORL_REACH = 2.0, 0.08
"""Weight of a whorl, and its reach as part of the picture's height [try]."""

PULL = 1.0
"""Hair that is gathered up runs to its knot."""

ROOTS, ROOTS_REACH = 10.0, 0.05
"""A drawn parting or hairline, and its reach as part of the height."""

# hair_kinds.py

BEYOND_THE_MOUTH = 0.2
"""Of the mouth's width: so far past its corners facial hair above the mouth is still moustache [try]."""

INNER_BROW = 0.3
"""Of a brow's length, from the nose side, in which its hair stands up."""

STANDING = 1.2
"""How far up the hair at the very inner end of a brow points, beside one outward."""

# knot.py

SMALLEST, LARGEST = 0.04, 0.75
"""Share of the head's hair that a knot may hold."""

RUNNING_IN = 0.45
"""Least mean cos 2Δ between the strands before the neck of a knot and the way into it."""

BREAK = 0.35
"""So much less do the strands behind the neck go on in that way: a coil lies across."""

STANDS_OUT = 0.37
"""Least depth of the knot beyond its neck, as part of the neck's width. The four numbers above and
`BOTH_TURN` were chosen on the five made sitters; rooms by lot and mirrored ones agree."""

BOTH_TURN = 0.5
"""Radians that the outline turns inward at the two ends of the neck together, at least."""

NOTCH_SPAN = 0.02
"""Notches of the outline are looked for at this scale, of the picture's height."""

NOTCH_TURN = 0.2
"""Radians that the outline turns inward at a notch, at least."""

LONGEST_NECK = 0.35
"""Of the picture's height."""

NOTCHES = 12
"""Turns of an outline that are kept: the sharpest."""

MOSTLY_HAIR, SEEN = 0.8, 0.1
"""A knot is hair for the most part; strands plainer than this are looked at."""

BEFORE = 0.03
"""Depth before the neck in which strands are looked at, of the picture's height."""

# root_sense.py

LEAK = 0.004
"""Of a belief this part is lost at every pixel that it travels. Chosen on the five made sitters and six
rooms by lot: 0.001 and 0.02 get locks wrong that 0.003-0.006 get right."""
