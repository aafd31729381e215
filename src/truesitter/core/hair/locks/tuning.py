"""Numbers of hair locks, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# hair_shapes.py

STATIONS = 10
"""Parts of a brow's length whose widths are read."""

FULL = 0.9
"""Of the greatest width: there a brow has its full width."""

LEAST_MM = 0.3
"""A middle line turns where it goes back by more than this [try]."""

LEAST_PIXELS = 40
"""A brow of fewer pixels has no shape [try]."""

APART_STEPS, APART_MM = 1.5, 5.0
"""A beard stands apart from the skin where it is so many steps darker or lighter and its passage no wider
[try]; that young ones belong to the skin is common practice."""

GREY_CHROMA = 12.0
"""A beard under this chroma in its light half is grey [try]."""

# light_forms.py
FORM_SPACING = 0.055
"""Of the face's height: light-forms of a grey beard stand so far apart [try]."""

FORM_GAIN = 0.05
"""Value steps above the beard around it from which a light is a form [try]."""

FORM_LONG, FORM_WIDE, TOUCHES_APART = 0.7, 0.16, 2.0
"""Of their spacing: how long and wide a touch is; the two of a form lie so many widths apart [try]."""

NEAR_SHADOW = 0.02
"""Of the face's height: a form so near the shadow carries one of its two lights there."""

# hair_edges.py

EDGE_MM, EDGE_COLUMNS = 4.0, 2.0
"""So far into the skin, in mm, and to both sides, in pixels, edges of brows and moustaches are read [try]."""

# hair_shine.py

MATTE, GLOSSY = 0.5, 2.2
"""Steps from the own value of the hair to its lights at which it is wholly matte, or glossy [try]."""

LIGHTS, OWN = 0.95, 0.5
"""Quantiles of locks and surface that stand for the lights and for the own value."""

BAND_FROM = 0.9
"""The band of shine is what stands above so much of the hair [try]."""

PLAIN = 0.75
"""Below this quantile hair is without lights."""

SHARPNESS = 18.0
"""Exponent of the fibre's highlight."""

TOLD = 1.0
"""A change of b* that is told, ΔE units."""

AT_LEAST = 200
"""Pixels; less hair has no band of light [try]."""

BAND = 0.55
"""Where the expected light stands above this part of its most, there should be a band."""

# hairline.py

EVERY_MM = 8.0
"""One reading on so much of the line."""

REACH_MM = 9.0
"""Profiles run so far to both sides."""

TOO_HARD_MM = 1.5
"""A narrower passage is too hard for a hairline [try]."""

SOFTER = 1.6
"""It is painted softer than it is seen, by this factor, and never harder than `SOFTEST_MM` [try]."""

SOFTEST_MM = 3.0
"""A hairline is painted at least this soft, mm [try]."""

HAIRLINE_LEAST_CONTRAST = 0.5
"""Steps of value between skin and hair under which there is no passage to read."""

SHADOW_MM, AWAY_MM = 6.0, 16.0
"""The hair's shadow lies within the first of these from it; skin past the second is clear of it [try]."""

LEAST_SHADOW = 0.25
"""Steps of value that count as a cast shadow [try]."""

HAIRS_A_CM = 6
"""First fine hairs to a centimetre of hairline [try]."""

ROOTED = 0.25
"""Cosine between the growth and the way into the hair from which a border is a hairline [try]."""

LOOK_MM = 4.0
"""How far to a side of the hairline is looked, mm [try]."""

PAST_MM = 1.5
"""How far past the passage the shadow lies at least, mm [try]."""

POINTS = 61
"""Readings across the hairline."""

SMOOTH = 1.5
"""Sigma in pixels that rounds the border of the hair [try]."""

# lock_joining.py

DEEP = 0.55
"""Valley, in local deviations below the lower of its two ridges, that parts two locks side by side."""

DEEP_ENDS = 1.1
"""The same between two locks that meet end to end: they are one lock that dips from the light."""

LOCK_JOINING_WIDEST = 2.5
"""A join may not make a lock wider than this many widths asked for."""

SMALLEST = 0.8
"""A lock covers at least so many squares of its width."""

CORNER = 0.4
"""Pieces that touch only at a corner are held apart by up to the inverse of this."""

# lock_regions.py

FINEST, COARSEST = 0.08, 0.7
"""The band-pass across the strands, in widths of a lock."""

SPREAD = 2.5
"""Contrast is judged against its own in a neighbourhood of so many widths."""

LENGTH_OF_BLUR = 0.3
"""Along the strands bands are blurred by this many widths more."""

RIDGE = 0.0
"""A ridge stands at least so high above the mean of its surround, in local deviations."""

LOCK_REGIONS_LEAST_CONTRAST = 0.2
"""Steps of value between ridge and valley under which there are no locks to see."""

# lock_shapes.py

DARK, MIDDLE, LIGHT = 1, 2, 3
"""Tones inside a lock."""

SPINE_POINTS = 9
"""Points of a lock's middle line."""

LEAST_TURN = 0.3
"""Steps of value a lock must turn through to be painted in three tones; under it, it is all middle [try]."""

TONES = (0.3, 0.7)
"""Where dark, middle and light part, between a lock's darkest and lightest tenth [try]."""

BESIDE = 2
"""Pixels from a border at which both sides are compared."""

LIES_OVER = 0.08
"""Steps by which the border of the upper lock is lighter than that of the one in its shadow [try]."""

# lock_shadows.py

SHADOW_BINS, SHADOW_PIXELS = 5, 6
"""Distances from a border at which the shadow on a lock is read; at each that many pixels at least [try]."""

# lock_strokes.py

TOUCHED = 3
"""Pixels of a lock that a joining stroke must run over."""

# volumes.py

SKULL = 0.125
"""Blur that leaves the skull's round, in heights of the face: 20 mm of a portrait 400 mm tall [try]."""

ALONG, ACROSS = 0.044, 0.0044
"""Blur along and across the strands that leaves the locks, in heights of the face: 7 and 0.7 mm [try]."""

FINE, FINE_STEPS = 2.0, 4
"""Pixels of the first steps along the strands, and how many: they smooth what wider ones leave jagged."""

VOLUMES_WIDEST = 6.0
"""No step is longer: short enough to follow a curl."""

# lock_strands.py

OF_A_LOCK, WALK_AXIS = 0.25, 0.5
"""Gaussians over which axes are averaged, in widths of a lock: to see how much strands lie alike, and for the
way along which curls are looked for. Chosen on drawn curls and on ines, selda and tobias."""

WALKS, WALK, FEWEST_WALKS = 24, 3.5, 6
"""Walks in a lock, how many of its widths they go, and how many must get a quarter of the way."""

PLAIN_STRAND = 0.15
"""Coherence from which on a strand is read."""

CURL_PEAK, CURL_VALLEY = 0.2, 0.12
"""Autocorrelation at one curl, and below nothing at half a curl, from which on strands curl [try]."""

CURL_LEAST = 0.2
"""Mean square of the swing, as sine of the double angle, from which it is a curl: a slope of 0.35 [try]."""

# lock_forms.py

ACROSS_BINS = 9
"""Parts that a lock is read in from border to border."""

FORM_LEAST_PIXELS = 120
"""A lock of fewer pixels is too small to have a section."""

FORM_FLAT = 0.2
"""Value steps across a lock under which it is flat [try]."""

PLANES_GAIN = 0.5
"""Two planes leave so much less of a profile unexplained than a round does, squared [try]."""
