"""Numbers of sitter segmentation, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# body_skin.py

LONG_SIDE = 800
"""Edges are looked for at this size."""

ALONG, ACROSS = 3.0, 1.4
"""Units of a deviation along the skin's own chroma and across it: hue varies less (from a trial)."""

DEVIATION = 1.7
"""Units from skin's colour within which a pixel may be skin (from a trial)."""

DARKEST = 6.0
"""Skin is lighter than this L* [try]."""

PERSON = 0.5
"""Probability of the person's mask from which on a pixel is the person's."""

ABOVE_CHIN = 0.15
"""A neck begins so far above the chin, beside the jaw, in heights of the face."""

SIGMA = 2.0
"""Pixels of the working size that edges are read at [try]."""

HEM = 0.038
"""A border whose median edge is stronger than this part of the face's 90 % lightness is a hem."""

CANDIDATE = 0.6
"""Part of an area that has to look like skin [try]."""

MEAN_DEVIATION = 1.15
"""Grain moves single pixels away from skin, not whole areas: their mean deviation is smaller than this."""

ROUGHER = 3.6
"""Skin is no rougher than the face by more than this."""

LOW, LEAST = 0.35, 0.15
"""Only skin so far under the chin, in face heights, and of so many squared counts as a bare body."""

MOSTLY = 0.6
"""A pixel of the working size is skin where more than this part of it is."""

NO_ROUGHER = 0.0
"""Without colour: bare skin has marks no finer than the face, with its lashes and lips, has (in its spreads:
selda's shoulders −0.4 to −0.3, the cloth of four sitters 0.1 to 4)."""

NO_DARKER, NO_LIGHTER = 0.75, 1.35
"""Without colour: it is about as light as the face."""

STRAPS = 3
"""So many straps may lie side by side."""

WINDOW = 9
"""Pixels between the seeds of the areas that are joined."""

# colour_models.py

COMPONENTS = 4
"""Normal distributions that a region's colours are told by."""

SAMPLE = 3000
"""Pixels that they are fitted to."""

FLOOR_STD = 1.2
"""Least spread of each, in the units of the features [try]."""

# in_front.py

FOREIGN = 3.0
"""Units from skin's colour beyond which nothing is skin, however it is lit [try]."""

FOREIGN_BELOW, FOREIGN_LEAST = 0.45, 0.008
"""How far under the chin, in heights of the face, something held before it is looked for, and how many
squared of them it covers of the face at least [try]: a thumb's width squared."""

UNLIKE_HAIR = 0.02
"""Part of the hair's own pixels that look less like it [try]."""

# straps.py

STRAP_LIKE = 15.0
"""Skin on the two sides of a strap differs by less than this in mean L* [try]."""

STRAP_LEAST, STRAP_MOST = 0.02, 0.16
"""Width of what lies on skin, in heights of the face: from a cord of 4 mm to a strap of 30 mm, on a face of
190 mm (common practice)."""

# faceless.py

SURE_PERSON = 0.85
"""Probability of the person's mask from which on a pixel is certainly the sitter's."""

SKIN_HUE, SKIN_CHROMA = (35.0, 78.0), (5.0, 24.0)
"""Hue in degrees and chroma, scaled for light as in `pixel_features`, that skin can have: the published skin
patches lie at 45 and 46 degrees, sitters of ours (medians) at 45 to 72, chroma 10 to 15; with room for
lamps [try]."""

BINS = 64
"""Of the histogram of lightness that is cut in two [try]."""

GREY_OFFSET = 5.0
"""Added to L* before its logarithm, for what is nearly black [try]."""

LEAST_SKIN, LEAST_SEEDS = 0.02, 100
"""Less of the figure with a hue of skin, or fewer pixels, say nothing [try]."""

ALIEN_SKIN, ALIEN_CLOTH = 0.02, 0.45
"""What is less likely skin than this part of the skin itself is something else; of that, below the shoulders,
so much is cloth for certain (as where a face is found)."""

HAIR_ENDS, CLOTH_FROM = -0.1, 0.3
"""Hair for certain lies so far above the shoulders, in heights of the head; cloth for certain no higher than
this part of the figure [try]."""

HAIR_BELOW, CLOTH_ABOVE = 2.5, 6.0
"""How much less likely hair is a head's height below the shoulders, and cloth above them (log odds) [try]."""

# first_guess.py

TEXTURE = 3
"""Where strand texture stands among the features."""

NOT_CLOTH = 6.0
"""How much less likely cloth and hair are where skin goes on from the face (log odds)."""

# grey_looks.py

COLOURLESS = 2.0
"""Hue left after lightness has been told, in a* and b* over the sitter: less is none at all (from a trial:
colour pictures leave 2.8 and more)."""

FACE_PX = 480
"""Textures are read with the face so high, in pixels."""

UNIT, LEAST_UNIT = 0.6 / 320, 0.55
"""Fineness of the marks looked at, as part of the face's height; and the least, in pixels."""

WEIGHT = 8.0
"""Features are logarithms, weighted as strand texture is in colour; the share of one way twice as much.

Chosen among eight on maren, tobias and orsolya in grey.
"""

SPREAD = 15
"""A median over so many units: single marks are no texture."""

# posterior.py

WORKING_LONG_SIDE = 400
"""Regions are solved with this long side; edges are sharpened when enlarged."""

FINE_LONG_SIDE = 1200
"""Borders of regions are sharpened at this size."""

RADIUS, FINE_RADIUS = 4, 2
"""Of the guided filters, in pixels, when regions are solved and when they are sharpened [try]."""

LIGHTNESS_WEIGHT = 0.45
"""Of lightness beside hue and chroma [try]."""

FEWEST = 12
"""Pixels; fewer tell no colours of a region [try]."""

# region_beliefs.py

NEARNESS = 40.0
"""Log odds lost by a picture's height away from what was drawn [try]."""

# region_borders.py

BAND = 0.01
"""Reach of the band to either side, as a fraction of the long side."""

TOLD_APART = 8.0
"""Distance of the colours of two regions, chroma weighted, from which on they are told apart by it [try]."""

LEAST_CORE = 0.02
"""Part of a neighbourhood that has to be a region itself to tell its colour there [try]."""

DISTANCES, LOOKS = 2, 4
"""Distances to a region are measured at a half, its colours averaged at a quarter of the size."""

BROW_BAND = 0.0065
"""Likewise at the brows, which are narrow."""

CHROMA_WEIGHT = 2.0
"""Light wanders over a border; hue and chroma hold better."""

# region_map.py

LEAST_ROUND, GAP = 6, 0.12
"""A stroke of so many points, whose ends lie nearer than this part of its length, is closed."""

ROUNDS = 3
"""Of solving regions and learning their colours again."""

# scribbles.py

EDGE_COST = 0.5
"""Of one squared unit of change of look from pixel to pixel."""

STEP_COST = 0.2
"""Of crossing the picture's height over even ground; what bounds a stroke there is its own length."""

VOICE, COLOURS_FADE, WORD_TAKEN, HEARD = 2.0, 10.0, 0.5, 2.5
"""Log odds a stroke gives near it and loses with distance, and from which on it is believed [try]."""

LIKE, TOLERANCE = 0.1, 4.0
"""Quantile of the colours under a stroke that still are its colour, and how soon others stop being [try]."""

FURTHEST = 3.0
"""A stroke reaches no further than this cost [try]."""

LOOK_AGAIN = 12
"""Times that colours are learnt from what strokes gave, at most."""
