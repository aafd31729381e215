"""Numbers of light form, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

import numpy as np

# brush_direction.py

SPREAD = 0.05
"""Directions are evened out over this part of the face's height."""

SMOOTH = 0.012
"""Sigma by which the turning of a form is evened out, as part of the picture's long side [try]."""

BRUSH_DIRECTION_LEVEL = 0.02
"""Where nothing turns, strokes lie level; this much turn outweighs that."""

# light_form.py

SHADOW = 0.2
"""Skin that gets less than this part of the full direct light lies in shadow."""

FREEDOM = (0.8, 1.1)
"""The split may lie between these parts of where that falls, the even light counted in [try].

Chosen on maren, tobias, selda, orsolya and ines; in twenty rooms of the first four the best border lies at
0.22 to 0.30 of the full light, while the split alone goes down to 0.15 where hair is taken for skin.
"""

EVEN = 0.1
"""Even light as part of the key's, where nothing tells it [try]."""

LEAST_FALL = 1.7
"""Light and shadow differ at least by this ratio; else there is no shadow [try]."""

TURNING = 0.72
"""Of the light between the shadow's border and full light: above it skin is light, below halftone [try]."""

SHINY = 0.22
"""Skin whose luminance is mirrored light by so much is highlight [try]."""

STANDS_OUT = 0.45
"""And by this part of the strongest shine: what shines evenly all over is only light [try]."""

LOCAL = 0.12
"""Shine is held to its mean so far round it, in heights of the face [try].

Chosen on maren, tobias, selda and orsolya lit anew by a flash beside the lens with a broad sheen.
"""

RISES = 0.05
"""And stands above that mean by so much of the luminance [try]; chosen on the same."""

MOST_HIGHLIGHT = 0.06
"""Part of the lit skin that is highlight at most [try]; the renderer mirrors on 5.5 to 6.8 % of it."""

RISES_AGAIN = 0.35
"""Value steps above the core between it and the light that reflected light has at least [try]."""

CORE_REACH = 0.22
"""The core lies nearer than this to the reflected light, in heights of the face."""

SMALLEST = 0.02
"""Patches smaller than this square of the face's height join what lies round them."""

FULL = 0.95
"""Quantile of the skin's light that stands for its full light."""

STRONGEST = 0.99
"""Quantile of the mirrored light that stands for its strongest."""

GRAIN = 1e-3
"""Luminance added before the logarithm, so that black has one."""

BINS = 256
"""Of the histogram that is cut."""

# peaks.py

PEAKS_MOST = 12
"""A painter keeps no more in mind."""

LEAST_PROMINENCE = 0.12
"""Value steps a peak stands above the way to any higher one [try]."""

APART = 0.09
"""Peaks lie farther apart than this, in heights of the face."""

PEAKS_LEVEL = 0.05
"""Value steps from one level to the next, from the lightest down, at which islands of light are sought."""

ABOVE_MIDDLE = 0.25
"""Value steps that a peak stands above the median of the lit skin [try]."""

BESIDE_MIDDLE = 0.08
"""A spot this far off the face's axis, in heights of the face, lies on one side of the forehead."""

# recess_names.py

NEAR = 0.05
"""Of the face's height: farther from all of them it is a wrinkle, named after its place."""

# recesses.py

LEAST_DEPTH = 0.5
"""Value steps below both sides [try]."""

WIDEST = 0.04
"""Of the face's height: wider darks are shadows [try]."""

NARROWEST = 0.005
"""Of the face's height: finer ones are grain, hairs and pores [try]."""

RECESSES_SHORTEST = 0.04
"""Of the face's height: shorter ones are spots, or the corners of larger darks."""

RECESSES_MOST = 24
"""The deepest so many are told."""

DARK_SHARE = 0.45
"""Of the first coat's area the second covers the deepest so much; never more than half."""

SOFTER = 1.5
"""A side that rises over so many times the other's distance is the soft one [try]."""

TURNS = 8
"""Directions across which a valley is looked for."""

TOLD_AT = 0.9
"""A valley is told as deep as this part of it is at most: its ends close on a third side."""

BOTTOM = 0.75
"""What is this part as deep as the deepest is the bottom of a valley."""

OPEN = 1 / 3
"""What runs on, as dark, along more of its border is the corner of a larger dark."""

FIRST_COAT = 0.4
"""The first coat begins where a valley is this part of its depth below its sides."""

# zones.py

FALLS = np.geomspace(0.05, 3.0, 24)
"""How far below its peak the border of a zone is tried to lie, in value steps [try]."""

WORKING_LONG_SIDE = 420
"""Zones of the light are found at this size."""

ZONE_REACH = (1.0, 2.0, 3.5)
"""How far zones 1, 2 and 3 reach, in lengths of zone 1; zone 4 goes on to the shadow."""

FADING = 0.15
"""Zone 4 fades over this part of its depth [try]."""

RAYS = 72
"""Directions from a peak in which its zones are limited: 5° apart."""

SHOWN_RAYS = 24
"""So many of them are drawn."""

LONGEST, ZONES_SHORTEST = 2.6, 0.3
"""Of its mean reach, what zone 1 reaches along any one ray."""

STEP = 0.5
"""Pixels from one reading along a ray to the next."""

LINE = 0.55
"""Value steps a pixel across a border that light does not pass."""

# cool_halftone.py

TERMINATOR_REACH = 0.06
"""The strip along the shadow's edge, as a part of the face's height [try]."""

COOL_SMOOTH = 0.015
"""Over this part of the face's height the coolness of the strip is evened out [try]."""

COOLER = 2.0
"""Less warm by more than this it is seen beside its neighbours: about two just noticeable steps (CIE)."""

WAY_STEPS = 33
"""The line from shadow to light is reckoned at so many spots."""

# two_sides.py

LEAST_PART = 0.004
"""Smaller parts of the picture have no sides [try]."""

SIDE_REACH = 0.05
"""Sigma by which locks and folds are evened out, as a part of the face's height [try]."""

SIDE_FALL = 1.5
"""The lit side is on average at least so many times as light as the other [try]."""

LEAST_SIDE = 0.06
"""A side is at least so much of its thing [try]."""

FROM_FRONT = 0.15
"""Of a unit vector towards the light, what lies in the picture: below it the light comes from the front."""

TOWARDS_LIGHT = 0.0
"""The middle of the lit side lies at least so far towards the light, as a part of the face's height."""

LEAST_COOL = 0.1
"""Less of the strip is no halftone [try]: sitters in rooms by lot show up to 0.06, planted ones from 0.16."""

# solids.py

DOME_LIES = 0.35
"""By how much a forehead's dome faces upwards, as part of a unit vector: it leans back by a fifth of a right
angle (common practice of construction)."""

SOLID_SIDE = 0.2
"""A light nearer to the middle than this, in half widths, lies in the middle [try]."""

SOLID_FRONT = 0.02
"""A smaller part turned from the light is not told [try]."""

# plane_strokes.py

PLANE_BEND = 0.08
"""A stroke that leaves its chord by more than this part of its length is bent [try]."""

PLANE_DEGREES = 25.0
"""A stroke farther off the way the brush goes is against the form [try]."""
