"""Numbers of washes, by the module that uses them.

[try] marks what was chosen by us on the shown sitters. Whatever has another origin names it.
"""

from __future__ import annotations

from truesitter.core.school.school_document import PaperState

# charges.py

CHARGES_MOST = 2
"""Strengths or mixtures dropped into one wash at most: nobody keeps more in hand while it is wet [try]."""

WEAKEST = 30
"""Parts of water to one of paint beyond which a wash is hardly worth laying by itself (common practice, the
number is [try])."""

TRACE_STEPS = 0.3
"""And brings its place less than so many value steps, or is laid all the same [try]."""

DROP_WET = 1 / 3
"""Water in a drop beside that of the wash it goes into; a drop that is wetter makes a bloom (common practice,
the part is [try])."""

MERGES_MM = 2.5
"""A border softer than this can come of wet paint running into wet; a sharper one is laid on dry paper [try]:
chosen on maren, tobias and selda."""

RUNS_MM = 4.0
"""Width in which a drop merges with the wash round it, 10–90 % (from memory)."""

INSIDE = 0.98
"""So much of a wash has to lie on the one before it to be dropped into that."""

GRADED_DELTA = 3.0
"""A place that comes within this of its colour, in ΔE2000, takes the wash's own puddle, stronger [try]."""

DROP_STRONGER = 0.6
"""Water in the paint of a drop beside that in its wash, to one of paint: what is weaker than the wash pushes
it aside and makes a bloom (common practice, the number is [try])."""

# hollow_strengths.py, kinds/water_pass.py

HOLLOW_WEAKEST = 5
"""Parts of water to one of paint in the weakest first coat of hollows: hardly any (common practice) [try]."""

HOLLOW_STEPS = 0.12
"""Hollows that end so much darker or lighter than they are wanted take another strength [try]."""

HOLLOW_RUNS_MM = 1.0
"""Width in which stronger paint merges inside a hollow, smaller than a wash (from memory)."""

# hue_places.py

HUE_APART = 3.0
"""a*b* from the mean hue of its lightness from which on a place wants a drop of another [try]."""

HUE_BANDS = 5
"""Lightnesses, alike in area, in which hues are held to their mean [try]."""

HUE_SOFT = 0.06
"""Hues are evened out over this part of the side of a square as large as the wash [try]."""

HUE_SIGMA_PX = 4.0
"""Pixels of a reduced map to the sigma in which hues are evened out: no coarser."""

HUE_SHARE = 0.03
"""A smaller part of the wash is not worth a drop [try]."""

# hue_charges.py

HUE_CM2 = 1.0
"""A drop runs all over a smaller place [try]."""

DROP_APART, DROP_STEPS = (1.5, 16.0), 0.4
"""A drop is seen beside its wash and changes its hue, not its value: ΔE2000 apart, steps at most [try]."""

DROPS_TRIED = 4
"""Drops that come nearest over the paper are tried under all that is laid afterwards."""

DROP_GAIN = 0.06
"""A drop brings its place nearer by such a part of what is still wrong there, or is none [try]."""

# laid_ways.py

LINKED_SHARE = 0.08
"""A wash links places of which each is at least such a part of it [try]."""

PAPER_OPEN: dict[PaperState, float] = {"dry": 1.0, "damp": 2.0, "wet": 4.0, "soaked": 10.0}
"""How many times as long an edge can be moved on paper that was made so wet (from memory)."""

# wash_over.py

STAGES = (1.0, 0.3, 0.02)
"""Darkest parts of the picture whose means are washed over one another."""

SAMPLE = 40_000
"""Pixels that a wash is reckoned on."""
