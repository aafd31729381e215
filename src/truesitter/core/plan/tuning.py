"""Numbers of plan, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

from truesitter.core.hair.strokes.approach import Way
from truesitter.core.plan.pass_plan import Doing
from truesitter.core.school.school_document import Band, KindName
from truesitter.core.sitter.region_names import FEATURES, Region

# finishing.py

HAIR_USUAL = 4
"""Passes of hair in a plan of a size; what the painter asks for beyond them comes on top [try]."""

HAIR_GAINS, HAIR_COLOUR = 0.01, 0.03
"""A layer of hair that brings its place nearer by less, in value steps, is not proposed; a step of a* or b*
counts as so many steps of value [try]."""

# heaps.py

HEAP_ELSEWHERE = 1.5
"""Away from flesh and features a mix of heaps may be so many times as far from its parts [try]."""

HEAP_IN_FILMS = 0.5
"""Of the value that a mix of heaps may be off, so much is left for washes and glazes [try]."""

TONES = ((3.6, "dark"), (5.6, "middle"), (7.4, "light"), (float("inf"), "pale"))
"""What heaps below a value are called [try]."""

GREYISH = 9.0
"""C*ab below which a heap is called grey [try]."""

FLESH_HUES, FLESH_CHROMA, BROWN_BELOW = (20.0, 88.0), 38.0, 4.0
"""Hue angles between which a heap is flesh or, below a value, brown; what is stronger has its hue's name
[try]."""

WASH_SHOWN = 6.0
"""Heaps for washes are shown and named as a film on the support that is so light."""

AGAIN_THINNED, MOST_THINNED = 1.06, 8
"""A film is made stronger or weaker by such steps, at most so many, until its place is as dark as planned."""

# kit.py

HEAVY_G_CM3 = {"vermilion": 8.1, "lead-white": 6.7}
"""Pigments that settle in thin paint: cinnabar by the handbook, basic lead carbonate from memory."""

SETTLES_FROM = 6.0
"""g/cm³ from which paint in a thin medium is stirred again and again (common practice)."""

LONGEST = 180.0
"""Minutes; longer waits are told with the sittings [try]."""

# painted_hair.py

HAIR_SOFT_MM = 1.5
"""How softly the border of flat hair is shown on the photograph."""

HAIR_SQUINT = 0.006
"""Painted hair is judged squinted by this part of the picture's height."""

# pass_places.py

HALFTONE_LEAST = 0.15
"""A value group with less of the cool halftone than this part of it is left as it is [try]."""

SMALLEST_CM2 = 0.15
"""Passes smaller than this are left to the neighbouring ones."""

SMALLEST_LIGHT_CM2 = 0.01
"""A catchlight is a few square millimetres."""

LAST_LIGHTS_MOST = 0.04
"""Part of the skin that last lights touch at most [try]; that they are few is common practice."""

LAST_LIGHTS_REACH = 0.15
"""Skin is held to its mean so far round it, in sides of a square as large as all of it [try].

Chosen on maren and orsolya lit anew by a flash.
"""

PEAK_QUANTILE = 0.4
"""Last lights lie where zones 1 and 2 are lighter than this part of zone 1 (from memory)."""

# planner.py

HOLLOWS = (Band.RECESSES, Band.RECESS_DARKS)
"""What is laid as dark as it is wanted in the end."""

ERROR_BINS = 500
"""Values are compared in 50ths of a step."""

# size.py

PASSES_OF_SIZE = {"sketch": (9, 14), "study": (13, 18), "portrait": (19, 24)}
"""Passes of a plan, in opaque paint and in washes [try]; oil loses nothing down to two thirds of its own."""

STAYS: dict[str, frozenset[Doing]] = {
    "portrait": frozenset(("lines", "light")), "study": frozenset(), "sketch": frozenset(),
}  # fmt: skip
"""What is done in passes that a size never leaves out."""

UNCOLOURED: frozenset[KindName] = frozenset({"drawn", "wipe"})
"""Kinds of passes that come on top of a size: they lay no colour of their own."""

HAIR_OF_SIZE: dict[str, dict[Way, tuple[int, int]]] = {
    "every pass": {"masses": (5, 8), "strands": (8, 9)},
    "portrait": {"masses": (4, 5), "strands": (6, 7)},
    "study": {"masses": (4, 4), "strands": (5, 5)},
    "sketch": {"masses": (3, 3), "strands": (4, 4)},
}
"""Layers of the hair, the base and the single hairs counted, in opaque paint and in washes [try].

3–4 over a base for ordinary hair, up to 8–9 for long detailed hair (common practice)."""

WASHES_OF_SIZE: dict[str, dict[tuple[Region, ...], int]] = {
    size: {
        (Region.SKIN,): flesh, (Region.HAIR, Region.FACIAL_HAIR): hair,
        FEATURES: features, (Region.BACKGROUND,): background,
        tuple(Region): others,
    }
    for size, (flesh, hair, features, others, background) in {
        "portrait": (6, 4, 3, 4, 4), "study": (5, 3, 2, 3, 2), "sketch": (4, 3, 1, 2, 2),
    }.items()
}  # fmt: skip
"""Nested washes by place [try]; the first place that a pass is for counts."""

HEAD_WEIGHT, FEATURE_WEIGHT = 2.0, 6.0
"""So many times what is laid on flesh and hair, and on features, counts when passes are left out [try]."""

LINES_ALIKE = 2.5
"""Lines no lighter than the darkest by more than so many value steps are drawn in its mixture [try]."""

# stroke_tones.py

FEWEST_STROKES = 12
"""Fewer strokes than this are drawn in one mixture [try]."""

TONE_BASES = (3, 6, 12)
"""Parts of a layer's own mixture that one part of a tube goes into [try]."""

TONE_APART, TONE_STEPS = (1.5, 7.0), 0.4
"""A near mixture is seen beside its own and no other: so far apart in ΔE2000, at most so many value steps
[try]."""

TONES_MOST, TONE_GAIN, TONE_SHARE = 3, 0.04, 0.08
"""Mixtures of a layer at most; one more brings its strokes nearer by such a part and is taken by such a part
of them [try]."""
