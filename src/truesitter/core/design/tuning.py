"""Numbers of design, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# background.py

FOUND, LOST = 1.0, 0.4
"""Value steps across an edge that is to be found, and at most across one that is to be lost [try]."""

EVERY_MM = 3.0
"""The outline is judged at places so far apart [try]."""

RANGE_OF_HEAD = 0.5
"""The background's range is at most this part of the head's [try]."""

HALO = 0.9
"""Behind the head it is so many steps lighter than in its middle, at the edges as much darker [try]."""

NEAR_MM = 3.0
"""Values beside the outline are means over so much."""

FADES = 0.22
"""What the outline asks for fades to the background's own tone over this part of the picture."""

ECHO = 0.5
"""Chroma of an echo beside that of the colour it takes up [try]."""

TONE_APART = 0.7
"""Value steps that one tone of a passage may differ from the next by [try]."""

# frames.py

FRAMES = {
    "black": (12.0, 0.0, 0.0), "dark wood": (28.0, 9.0, 13.0), "light wood": (62.0, 10.0, 27.0),
    "gold": (64.0, 7.0, 38.0), "silver": (74.0, 0.0, 3.0), "white": (94.0, 0.0, 2.0),
}  # fmt: skip
"""L*a*b* of usual frames (from memory)."""

RIM = 0.04
"""What lies next to the frame, as part of the picture's shorter side."""

QUIET_STEPS, LOUD_STEPS = 1.0, 3.0
"""A frame that differs from the rim by less closes nothing off; by more it takes the eye outward [try]."""

LOUDER_CHROMA = 1.5
"""A frame so many times as colourful as most of the picture outdoes it [try]."""

# focus.py

REACH = 0.9
"""The focus has fallen to half at this distance, in heights of the face [try]."""

FOCUS_LEAST = 0.12
"""No place is finished less than this part of the focus: even the far cheek stays a cheek [try]."""

FINISHED, MASSES, FEW_TONES = 0.75, 0.45, 0.25
"""Weights from which on a place is finished, and below which it is masses, and few tones [try]."""

SIMPLER_MM = ((MASSES, 3.0), (FEW_TONES, 7.0))
"""Below a weight shapes are evened out over so many mm [try]."""

LEAST_EFFORT = 0.6
"""Part of the work that a place nobody looks at still takes [try]."""

GOLDEN = 0.6180339887498949
"""Multiples of the golden section fall evenly, whatever their number."""

SHARPEST_MM, SOFTEST_MM = 0.5, 8.0
"""Width of the sharpest edge allowed at the focus, and of the softest asked for away from it [try]."""

SMALL = 0.006
"""Contrast finer than this part of the picture's height is small contrast."""

SHADOW_SKIN, SHADOW_PALE_HAIR = 0.5, 1.25
"""Marks allowed in the shadow of skin, and of pale hair, beside those in its light [try]."""

PALE = 5.0
"""Value from which on hair is pale [try]."""

BLURS = (0.0, 0.8, 1.8, 3.6, 7.0)
"""Blurs in mm between which a picture of the finish is mixed."""

QUIET = 0.08
"""Small contrast in value steps below which there is little to leave out [try]."""

# ground_tone.py

STAYS_DELTA_E, STAYS_VALUE, STAYS_CM2 = 8.0, 0.5, 3.0
"""A ground may stay where it is as near as this, in patches no smaller [try]."""

FILM_MM = 0.09
"""Of the opaque paint that is saved."""

LONG_SIDE = 320
"""Pixels; grounds are compared at this size."""

EARTH_VALUES = (4.5, 6.0)
"""Values of the earth grounds that are proposed [try]."""

HALFTONE = (0.35, 0.65)
"""Quantiles of the skin's lightness between which its half tones lie [try]."""

# reserve.py

SMALLEST_MASK_MM = 2.0
"""A spot of masking fluid smaller than this is touched in afterwards instead [try]."""

LARGEST_MASK_MM = 40.0
"""A light larger than this is painted round [try]."""

TAPES_MM = (12.0, 6.0, 3.0, 1.5)
"""Widths that tape is cut to, the widest first: it holds best (from memory)."""

TAPE_BENDS = 2.0
"""Tape follows no bend tighter than so many times its width (from memory)."""

POOLS_FROM_MM = 15.0
"""A wash gathers along the upper side of a mask longer than this [try]."""

HALF = 0.5
"""Part of its strength at which a light ends."""

TIGHT = 0.01
"""Part of a shape that a disc may miss where it rolls along the inside [try]."""

# shadow_family.py

FADES_MM = 4.0
"""The turn fades over so much at the border of the shadow [try]."""

# texture.py

PORE_MM = 0.9
"""Pores of a head of life size, across (from memory); marks come in three sizes round it."""

SIZES = (0.6, 1.0, 1.5)
"""Diameters of marks, in pores [try]."""

SHARES = (0.45, 0.4, 0.15)
"""Three sizes, in pores, and how often each comes [try]."""

TEXTURE_LEAST = 0.1
"""Small contrast of skin, in value steps, from which marks are painted; smoother skin gets none [try].

Of the made sitters the old one shows 0.15, the young ones 0.05 to 0.09.
"""

LIGHT_AT = (1.0, 1.5)
"""The light of a mark lies so many of its diameters towards the lamp (common practice)."""

WAVES = 0.2
"""Part of the marks that are short waves instead of dots [try]."""

MOST = 4000
"""So many marks; no hand makes more."""

FROM_EDGES = 4.0
"""Nearer to the border of bare skin than so many pores nothing is read."""

OF_MEDIAN, OF_MEAN = 1.48, 1.25
"""Standard deviation of a normal spread beside the median and the mean of its absolute values."""

JOG = 0.33
"""Jog of each spot off its even place, as part of the gap: gaps then vary by 0.3 to 0.6 of their mean."""

# freckles.py

FACE_LIFE_MM = 180.0
"""Height of a grown face from the top of its outline to the chin, in life (from memory)."""

FRECKLE_SIZES_MM = (1.5, 2.5, 4.0)
"""Diameters looked for, in life: freckles are 1 to 5 mm wide (common knowledge, from memory)."""

FRECKLE_RING = 3.0
"""Sigma of the skin round a spot, in sigmas of the spot [try]."""

FRECKLE_STEPS = 0.25
"""Value steps that one is darker than the skin round it, blurred as it is measured [try].

Of what the six made sitters show without freckles nine in ten are below 0.36, most below 0.25.
"""

BROWNER = 1.09
"""Its chroma for its lightness is so many times that of the skin round it [try], chosen on maren and selda.

What only has less light stays at 1, but for the coarser colour of a JPEG file.
"""

COLOURLESS = 3.0
"""Below this chroma of the skin there is no colour to go by [try]."""

ROUND = 0.4
"""The lesser of two curvatures beside the greater, from which on a hollow is round [try]."""

FRECKLE_APART_MM = 1.0
"""No two are nearer, in life [try]."""

LEAST_FRECKLES = 15
"""Fewer are moles, or what is left of folds [try]; the made sitters show at most ten."""

# colour_sketch.py

SKETCH_SEED = 5
"""Of the first centres: the same picture has the same sketch."""

SKETCH_SAMPLE, SKETCH_STARTS = 3000, 12
"""Pixels that the colours are found on, and how often anew."""

SKETCH_LIGHTNESS = 1.5
"""A difference of lightness counts so many times one of hue: a sketch is light and dark first [try]."""

SKETCH_SMALLEST = 0.03
"""Smallest shape of a sketch as a part of its long side [try]."""

WARM_AND_COOL = 9.0
"""Lights and darks are turned so far towards warm and cool, in the a*b* plane [try]."""

GREYED = 0.25
"""Part of the colour that is left where the accent is not [try]."""

ACCENT_LEAST, ACCENT_DEGREES = 0.04, 22.0
"""The accent is the hue of the strongest part of the sitter, and so many degrees round it [try]."""
