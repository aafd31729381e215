"""Numbers of what lies on the board: heaps, strings, near mixtures, nudges, piles.

[try] marks what was chosen by us on the shown sitters.
"""

from __future__ import annotations

# flesh_mixtures.py

SMALLEST_SHARE = 0.005
"""Groups that cover less of the skin than this get no mixture of their own."""

# heaps.py

HEAP_RATIO = 6
"""Two heaps, or a heap and a tube, are taken together in at most so many parts each [try]."""

HEAP_DELTA_E, HEAP_VALUE = 2.0, 0.12
"""So far, in ΔE2000 and value steps, a mix of heaps may be from the parts it stands for [try]."""

MEMBER_COST, RATIO_COST = 1.0, 0.1
"""ΔE2000 that a mixture of one thing instead of two, and a part fewer of either, are worth [try]."""

MOST_STRONGER = 2.0
"""So many times the paint of what it stands for a film of a mix may take, or so many times less [try]."""

NEAR_LAB, NEAR_SHARE = 12.0, 0.35
"""What lies farther, in L*a*b* summed or in part of all light taken away, is no candidate."""

# near.py

LEAST_APART, MOST_APART = 3.0, 8.0
"""Near mixtures are so far from the middle one, in ΔE2000 [try]: less is not seen, more is another colour."""

NEAR_BASES = (48, 24, 12, 6, 3)
"""Parts of the heap; with 48 a strong blue can still be added by the part."""

FEW_TUBES = 8
"""Of more tubes, two at most are added at once."""

NEAR_SAMPLE = 20000
"""Pixels that an area's colours are read from."""

STEPS = 24
"""Fineness of the steps along an axis of colour at which a near mixture is looked for."""

NOISE = 0.2
"""Standard deviation in L*a*b* below which an area does not vary along an axis."""

# nudges.py

PILES = (400, 200, 100, 48, 24, 12, 8, 6, 4, 3, 2)
"""One part is added to so many of the mixture, the least first."""

MOST_NOTICED = 4.0
"""A nudge moves by no more than so many times what is noticed: a strong tube comes by the touch."""

# piles.py

SMALLEST_PILE_ML = 0.05
"""Nobody measures less than this on a palette [try]."""

# puddles.py

PUDDLE_BASES = (200, 100, 48, 24, 12, 6)
"""Parts of a puddle that something goes into: a drop into so many drops [try]."""

DROPS = (1, 2, 3)
"""Drops of a tube that go into a puddle at a time [try]."""

MORE_WATER = (0.0, 0.125, 0.25, 0.5, 1.0, 2.0)
"""Water that goes into a puddle at a time, beside what is there [try]."""

PUDDLE_ADDITION_COST = 0.1
"""ΔE2000 that one thing fewer to add is worth [try]."""

# steps.py

ADDED = (1, 2, 3, 4, 6, 8, 12, 16)
"""Parts of a tube that are added to a mixture at a time."""

MOST_ADDED = 20
"""More parts are no step but another mixture [try]."""

STEPS_PART_COST = 0.015
"""ΔE2000 that a part fewer is worth [try]."""

SHORTLIST_SETS = 60
"""Pairs of tubes that are looked at closely."""

# strings.py

STRINGS_BASES = (6, 3, 2, 1)
"""Parts that may be taken of the last tone when the next is made from it."""

TAILS = (0.02, 0.98)
"""Quantiles of a family's values between which its string runs [try]."""

KERNEL = 0.7
"""Width of the mean colour at a tone, in steps of the string [try]."""

STRINGS_SAMPLE = 20000
"""Pixels that a string is read from."""

# turned.py

TURN = 6.0
"""How far a mixture is turned, in a* and b* [try]: seen at once, and still the same colour."""

BASES = (48, 24, 12, 6, 3)
"""Parts of the first mixture that something is added to, the finest first."""
