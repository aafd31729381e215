"""Numbers of reference, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# decode.py

STRIP = 1 << 20
"""Pixels turned into sRGB at a time: copies on the way stay small."""

IN_FLIGHT = 1024 * 2**20
"""Bytes that photographs being unpacked share by default."""

LARGEST_FILE = 60 * 1024 * 1024
"""Bytes of a photograph at most."""

LARGEST_PIXELS = 80_000_000
"""Pixels of a photograph at most."""

SMALLEST_SIDE = 64
"""Pixels; nothing can be planned on fewer."""

FLOAT_WHITE = 1.5
"""Floating-point pictures hold 0–1; a little more where a light was recovered beyond white."""

# frame.py

WORKING_LONG_SIDE = 2048
"""Photographs are worked on at this size at most."""

LONGEST_STRIP = 4.0
"""A new canvas is no longer than so many times its width [common practice: longer ones are friezes]."""

LEAST_CROP_PX = 8
"""A crop of fewer pixels either way shows nothing that can be planned."""

# tone.py

MOST_GAIN = 4.0
"""A channel is raised or lowered by no more than this when greys are balanced."""

MIDDLE = 5.0
"""Value that exposure is told at: middle grey."""

CLIPPED_DARK, CLIPPED_LIGHT = 3, 252
"""8-bit levels at which a photograph tells nothing any more [try]."""

# cast.py

USUAL_SKIN = (9.5, 15.4)
"""a* and b* of skin in white light at L* 45 [try]: between the mean of five made sitters (8.4, 16.2) and of
the light and dark skin of the published chart (14.4, 14.6), nearer to the first."""

SKIN_HUE, SKIN_CHROMA = (42.0, 82.0), (10.5, 29.4)
"""Hue in degrees and chroma at L* 45 between which skin needs no balance: sitters 55 to 70 and 17 to 21, the
published patches 45 and 46, 19 and 22 [try]."""

LIT_SKIN, BURNT = (0.4, 0.9), 0.95
"""Quantiles of luminance between which skin is looked at, and light from which on a channel is lost [try]."""

LEAST_SKIN_PX = 200
"""Fewer pixels of skin say nothing of the light."""
