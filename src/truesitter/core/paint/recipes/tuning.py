"""Numbers of paint recipes, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

import numpy as np

# ingredients.py

MOST_PARTS = 100_000
"""Of a tube: let down twice it is one part in hundreds of a few."""

COUNTED = 24
"""The mixture that is changed is counted out in so many parts at most."""

ALIKE = 0.05
"""A change of value that misses by less than this, in steps, is right."""

# let_down.py

HEAP_PARTS = 20
"""Parts of the main tube to one of the strong one (common practice)."""

MOST_HEAPS, MOST_TIMES = 2, 2
"""So many tubes are let down, each so often at most [try]."""

EASY_TOTAL, UNCOUNTABLE = 24, 120
"""So many parts are counted out without any heap; more than that nobody counts out at all."""

# pigment_shares.py

VALUE_WEIGHT = 6.0
"""Cost of one value step, in ΔE2000: *value first*."""

FIRST_WASH_MM = 0.0004
"""Dry film of the first wash that is tried."""

STAGES = ((2, 0.4), (2, 0.25), (8, 1.0))
"""Iterations, and the part of the sets worth going on with after them."""

FEWEST = 24
"""Starts of the search that are followed at least."""

NUDGE = 1e-5
"""Relative step of the numerical derivatives: about the cube root of the precision."""

SETTLED = 1e-5
"""A set that comes nearer by less than this, as a square, has come as near as it can."""

# pricing.py

EASY_DELTA_E, EASY_VALUE = 1.0, 0.08
"""A mixture of flesh that is so near to its colour, in ΔE2000 and value steps, is near enough [try]."""

NEARER_DELTA_E, NEARER_VALUE = 0.25, 0.03
"""So much worse than the best shares of the tubes is allowed where those miss already [try]."""

DELTA_E_COST, EASY_VALUE_COST = 4.0, 40.0
"""Of a ΔE2000 and of a value step beyond the tolerance, in tubes [try]."""

INSIDE_COST = 0.8
"""Of lying at the edge of the tolerance, in tubes: among equally easy ones the nearest is taken [try]."""

BESIDE_PILE, BESIDE_COST, MORE_BESIDE_COST = 8, 0.1, 0.5
"""So many parts beside the largest cost little each, more of them a half of a tube each [try]."""

PILE, PILE_COST, MORE_PILE_COST = 8, 0.1, 0.03
"""So many parts of the largest pile cost as much as those beside it, further ones hardly anything [try]."""

WEAKENED_COST = 6.0
"""Of weakening a tube first, in tubes [try]."""

THICK_WASH_COST = 6.0
"""Of the thickest film that washes can make up, in tubes: many washes, and as many times the paint [try]."""

EASY_LARGEST = 44
"""A pile of 36 parts with eight beside it: nobody counts out more in one go [try]."""

EASY_SETS = 6.0
"""Sets of tubes whose best shares cost so much more than those of the best set of their size, in residuals,
are not rounded: none of them comes out easier [try]."""

EXACT_GAIN = 0.5
"""An exact recipe takes the place of an easy one beyond twice its tolerance only when it is nearer by
more than this, in ΔE2000 [try]."""

# reach.py

PAIR_SHARES = np.array([1.0, 0.9, 0.75, 0.6, 0.5, 0.4, 0.25, 0.1, 0.0])
"""Shares of the first of two tubes among which the lightest and darkest mixtures are looked for."""

TABLE_STEPS = 20000
"""Entries of the table by lightness: 0.005 of L* apart."""

# rounding.py

ROUNDING_PART_COST = 0.02
"""ΔE2000 that a part fewer is worth [try]."""

REFINED = 12
"""Mixtures whose parts are searched nearby."""

KEEP = 8
"""Mixtures that are kept at each step, for each that is wanted."""

HEAP_COST = 0.25
"""ΔE2000 that a heap fewer is worth [try]."""

HEAP_SETS = 5
"""Sets of tubes that are tried with heaps, for each that is wanted."""

HEAP_REFINED = 5
"""Of them, so many are searched nearby."""

TOUCH = 5
"""A strong tube may be needed by the touch: totals up to so many times the largest wished for."""

REACHED_DELTA_E = 3.0
"""ΔE2000 within which a mixture reaches its colour [try]."""

REACHED_VALUE = 0.25
"""Value steps within which it reaches its value [try]."""

# solver.py

ROUNDING_LOSS = 1.8
"""When rounding to few parts costs more than this in ΔE, more parts are tried too."""

VALUE_LOSS = 0.1
"""Likewise, value steps lost to rounding."""

WORTH_SHOWING = 5.0
"""A rival recipe that costs more than this beyond the best helps nobody."""

# wishes.py

WIDER_DELTA_E, WIDER_VALUE = 2.0, 1.9
"""So many times the tolerance of flesh and features is let go elsewhere [try]: nobody knows the true colour
of a coat as of a cheek."""

# solver.py, what is remembered

RECIPES_KEPT = 4096
"""So many recipes are remembered: some hundred plans, a few MiB."""
