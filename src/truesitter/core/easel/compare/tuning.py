"""Numbers of easel compare, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# border_widths.py

LEAST_CONTRAST = 0.8
"""Borders of less contrast, in value steps, tell nothing of the painter's hand."""

TOO_HARD, TOO_SOFT = 0.55, 1.9
"""Width painted ÷ planned [try]."""

LEAST_WIDER_MM = 2.0
"""How much wider than planned a border has to be to be told as too soft [try]."""

SOFT_MM = 2.4
"""A border has to be planned as wide as this before it can be too hard."""

FEWEST = 10
"""Readings of a border in one place before anything is said of it."""

GRAIN_PX = 1.2
"""Sigma in pixels that takes the grain off before borders are read [try]."""

ASIDE_PX = 5.0
"""Pixels to either side of a border at which its places are looked up."""

SAME = 0.5
"""A border of which so much was told of its other side is not told again."""

# difference_words.py

FRACTIONS = (
    (0.42, "a third of a step"),
    (0.58, "half a step"),
    (0.8, "two thirds of a step"),
    (1.2, "one step"),
    (1.7, "a step and a half"),
    (2.25, "two steps"),
    (2.75, "two and a half steps"),
    (3.5, "three steps"),
)
"""Up to how many value steps which words are said: the bounds lie between two neighbouring amounts [try]."""

SILENT = 0.3
"""Value steps below which a photograph of a painting is silent [try]."""

SILENT_COLOUR = 5.0
"""Likewise for a* and b* together [try]."""

# drawing_offsets.py

DRAWING_OFFSETS_LEAST_MM = 1.2
"""An offset of less than this is the width of a pencil line [try]."""

LEAST_TURN = 4.0
"""Degrees below which nothing is said [try]."""

LEAST_WIDTH = 0.13
"""Degrees, and part of its width, below which nothing is said: small features waver so much [try]."""

PAD = 0.35
"""Room round a feature, in parts of its size."""

BETTER = 0.08
"""Gain in correlation from which a turn or a width without an offset is believed [try]."""

LIKE = 0.45
"""Correlation that a feature found again has at least [try]."""

FARTHEST = 0.6
"""A feature off by more than this part of its own size is another thing found in its place."""

SURE = 0.12
"""Correlation below which a feature was not found again [try]."""

CORNERED = 0.2
"""Strength of the borders across the strongest ones, below which a window may slide along them [try]."""

OUTLINE_MM, OUTLINE_SURER = 2.0, 0.12
"""An outline has to be off by more than a feature, and more surely, before anything is said [try]."""

MOST_BENT = 0.3
"""A feature wider or narrower by more is not the same thing."""

# findings.py

FREE, FREE_COLOUR = 1.7, 2.5
"""How many times as much has to be off in free work, in value and in colour [try]."""

RIM = 0.6
"""A patch reaches as far as so much of what is told, where that is more than the rim of its own fall."""

FINDINGS_LEAST_MM = 5.0
"""A patch narrower than this is a mark, not a place [try]."""

APART = 0.4
"""Parts of one patch that differ by so many steps are two findings."""

LEAST_PART = 0.12
"""A part of a patch smaller than this share of it stays with the rest."""

COLOUR_AS_STEPS = 12.0
"""So much in a* and b* weighs as much as one value step when findings are ranked [try]."""

AGREES = 0.6
"""A whole that is off takes away at least so much of the differences."""

FAINT, OWN = 0.5, 0.6
"""A part fainter than this beside its neighbour is its rim, unless it is so much of the whole."""

MOST_OF_IT = 0.6
"""Of a larger thing, from which on it is called by its own name."""

# relations.py

LEAST_PX = 150
"""Pixels; fewer of a place tell nothing of its tone [try]."""

# small_finish.py

UNDER, OVER = 0.6, 1.5
"""Small contrast painted ÷ planned, outside which the finish of a place is told [try]."""

QUIET = 0.08
"""Small contrast, in value steps, below which the plan is quiet: marks there are the painter's own [try].

The plan's own borders hold more small contrast than an overworked place gains: averaged over both, marks of
a standard deviation of 3 L* raise it by a third, where the plan is quiet alone to several times.
"""

LEAST_CM2 = 0.8
"""Smaller places have no finish of their own [try]."""

TOO_DARK = 2.0
"""In places darker than this a photograph shows its own grain and steps, not the painter's marks."""

SMALL_PX = 3.0
"""Sigma in pixels: what is finer is small contrast [try]."""

LEAST_SMALL = 0.05
"""Small contrast, in value steps, that is seen at all."""

TRIMS = 6
"""Rounds of leaving out what stands apart."""

# squinted.py

SQUINT = 0.008
"""Sigma of a squint at the painting, in parts of its long side: small marks go, features stay [try]."""

# tone_curve.py

MIDDLE = 5.0
"""Value about which a range is stretched: middle grey."""

CONTRAST_OFF = 0.1
"""A range that is off by more than this part is told [try]."""

# between.py

LEAST_OF_PLACE = 0.001
"""Smaller parts of the picture are not held against each other [try]."""

NEARER = 0.75
"""One painting is nearer to the sitter when it is at most so much as far from it as the other [try]."""

# bare_drawing.py

INK = 60
"""Grey of the template's lines, of 255; what is drawn may be any darker than its paper."""

LINE_MM = 0.8
"""Width of a drawn line: a soft pencil's (common practice)."""

PAPER_MM = 3.0
"""Side of the window in which the paper beside a line is looked for: lines nearer to each other are one."""

INKED = 0.985
"""Quantile of darkness that is taken for a line: lines take a few hundredths of a sheet."""

DENSITY_MM = 1.2
"""Sigma with which lines are made dense before they are laid on one another: half an eyelid's height [try];
chosen on maren."""

LINE_NEAR_MM = 4.0
"""An outline with a line within this distance was drawn [try]."""

SHORTEST_MM = 12.0
"""Shorter outlines inside a place are not missed."""

MISSING = 0.4
"""Part of a place's outline without a line from which on it is told [try]."""

BAREST = 0.9
"""Part from which on it has no line at all."""

FAINT_LINE = 0.3
"""A line this dark, in parts of the darkest, was drawn [try]."""

RIM_MM = 6.0
"""Outlines this near to the rim of the canvas are not missed [try]."""

BURNT_OUT = 248.0
"""Grey, of 255, from which on a line cannot be seen in a photograph."""

OUTSHONE = 1.2
"""A ground this much lighter than the rest, in greys of the photograph, has a lamp mirrored in it [try]."""

BRIGHT_PAPER = 236.0
"""Grey, of 255, of a sheet photographed so light that nothing on it is lighter by a fifth part."""
