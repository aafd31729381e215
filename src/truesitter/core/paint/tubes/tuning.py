"""Numbers of paint tubes, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# fit.py

SEEN_OPACITY = 0.1
"""The class counts for so much of that where thin films were read."""

SMOOTH_K, SMOOTH_S = 0.3, 0.2
"""Weight of smooth absorption and scattering curves beside the swatches [try]."""

FIT_STRONGEST, STRONGEST_WEIGHT = 60000.0, 0.3
"""K per mm that no tube has (from memory): where a swatch is black anyway, nothing else would bound it."""

LIFT_WEIGHT, LIFT_ALLOWED = 20.0, 0.02
"""Value steps by which a thin film of a transparent tube may lighten."""

TINT_WHITE_PARTS = 10
"""Parts of white in a tint of a swatch sheet; common practice."""

HIDING = 0.96
"""A 50 µm film of titanium white hides 96 % (contrast ratio over black and 80 % white; from memory)."""

FILM_WEIGHT = 0.1
"""Weight of the usual film beside the swatches [try]."""

DARKEST_GROUND = 1.3
"""No paint of the library dries darker than this value."""

# rack.py

FITS = 256
"""Fits of tubes that are remembered."""

# sheet_photo.py

INNER = 0.7
"""Part of a marked rectangle that is read: its rim may lie on the neighbour."""

FEWEST_PIXELS = 25
"""Of a patch; fewer tell no colour [try]."""

CLIPPED, TOO_DARK = 0.98, 0.12
"""Parts of white between which a photographed patch can be read [try]."""

PLANE = 3
"""From so many white patches on, the light may fall off across the sheet."""

LEAST_SPREAD = 0.15
"""Whites tell of the light in a direction when they spread this much of their widest spread along it."""

UNEVEN = 5.0
"""Spread of a patch in ΔE from which on it is called uneven [try]."""

# swatches.py

LEAST_APART = 8.0
"""Tint and masstone of a colour nearer than this (ΔE2000) were laid wrong or mixed up."""

# wash.py

WASH_WATER = 10
"""Parts of water to one of paint in the wash of a swatch."""

WEAKEST, WASH_STRONGEST = 0.1, 10.0
"""Washes of real tubes are so many times as strong as usual ones, at least and at most."""
