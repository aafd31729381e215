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
