"""Numbers of light mirrored, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# ceilings.py

IN_SHADOW = 1.0
"""Value steps above its neighbour that a light inside a shadow may take [try]."""

STANDS_OFF = 1.0
"""Value steps that a light on a cheekbone stands off the neighbour it turns from."""

RING = (0.03, 0.09)
"""A neighbour lies between so many heights of the face away."""

LEAST_OVER = 0.1
"""Value steps over a ceiling that are worth a word [try]."""

# eyes.py

PUPIL, RIM = 0.4, (0.86, 1.06)
"""Radius of the pupil and rim of the iris, in radii of the iris [try]."""

IRIS = (0.46, 0.84)
"""What is read of an iris, in its radii [try]."""

SPARK = 0.8
"""A catchlight lies inside the iris; the wet rim of the lower lid shines too."""

LID_SHADOW = 0.3
"""Upper part of the opening that the lid shades [try]."""

LIDS = 0.35
"""Round an eye so much of its width belongs to its picture."""

SKIN_BELOW = (0.6, 1.6)
"""The nearest lit skin lies so many eye heights below the eye's middle."""

LEAST_PIXELS = 4
"""Pixels; fewer of an eye tell nothing [try]."""

# highlights.py

STRONGEST = 0.97
"""Skin that mirrors more than this part of it does is a highlight, where it is worth the name [try]."""

WORTH = 0.1
"""Mirrored light, as part of the skin's full light, that makes a highlight [try]."""

CRISP_MM = 2.0
"""A light that ends within so many mm of a canvas of some 300 × 400 mm is crisp (as a hard edge is)."""

DAMP_STEEPNESS = 0.02
"""A light that falls to nothing within this part of the face's height is on damp skin, not a sheen [try]."""

TEMPERATURE = 2.0
"""Difference in b* from which a light is warmer or cooler than its surround [try]."""

SMALLEST = 0.012
"""Lights are wider than this, in heights of the face; those of eyes and lips a third of it."""

JOINED = 0.04
"""Bits of a light nearer to one another than this, in heights of the face, are one."""

GRAIN = 0.8
"""Standard deviation in pixels."""

MOST = 10
"""So many of each kind of surface are told."""

# polish.py

WIDE_RANGE = 4.0
"""Value steps between darkest and lightest that cloth hardly has [try]."""

MOSTLY_HARD = 0.4
"""Share of hard edges from which a surface of wide range is polished [try]."""

ENDS = (0.03, 0.97)
"""Darkest and lightest are read here, so that a spot counts for nothing."""

EDGE = 1.0
"""Value steps across an edge worth counting."""

NEARLY = 0.8
"""An edge is hard where so much of its fall lies within a hard edge's width."""

LEANS = 4.0
"""Lights or darks whose a*, b* at L* 45 lie less than this off the whole lean nowhere."""

LIKE = 0.8
"""Least cosine between where they lean and where a neighbour lies."""

# skin_shine.py

OWN_COLOUR = 0.2
"""Quantile of blue over (red − blue): skin without shine [try].

Chosen on maren, tobias, selda, orsolya and ines: from 0.1 to 0.3 the strongest 5 % of the true shine
are met with an overlap of 0.76 or more on each.
"""

DARKEST = 0.3
"""The ratio is read where red is above this quantile of the skin's: shadow is coloured by what faces it."""

GREY = 0.06
"""A photograph whose skin has less of (red − blue) over red is without colour."""

LOCAL = 0.25
"""Then shine is what stands above the light blurred so far, in heights of the face."""

# metal.py

METAL_LEAST = 0.02
"""A tone that is a smaller part of a metal is not told."""
