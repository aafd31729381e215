"""Numbers of plan kinds, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

from truesitter.core.hair.layers.job import GlazePurpose, Role
from truesitter.core.paint.media.media_table import MediumName

# again_pass.py

AGAIN_PASS_LEAST_GAIN = 0.3
"""A second coat that brings a piece nearer by less than this, in ΔE2000, is not worth laying [try]."""

SMALLEST_CM2 = 0.15
"""Smaller places are not worth a second coat."""

# coats_pass.py

A_COAT = 0.25
"""One coat on what is light darkens by about so many steps: a coat too few is easily made good [try]."""

PAST = 0.05
"""A place is never made darker than it is wanted by more than so many steps."""

VALUE_COST = 10.0
"""ΔE2000 that a step of value is worth beyond its usual cost: two mixtures cannot have both [try]."""

COATS_NEARER = 0.25
"""Mixtures for coats are held so much nearer than others, as part of the tolerance [try]."""

LIGHTER, COATS_PASS_DARKER = ((0.5, 1.0), (0.25, 0.75)), ((0.0, 0.15),)
"""Parts of the place, by area from dark to light, that mixtures are tried for [try]."""

TONES = 8
"""Tones that the places of a pass of coats are parted into."""

NO_DARKER, MOST_MM = 0.8, 0.1
"""A coat is no darker than this value, and no thicker than so many mm dry [try]."""

# glaze_pass.py

GLAZE_PASS_LEAST_GAIN = 0.15
"""A glaze that brings a place nearer by less than this, in ΔE2000, is not worth laying."""

GLAZE_TURN: dict[GlazePurpose | None, float] = {"warm": 5.0, "cool": -5.0}
"""How far a glaze turns hair towards warm in a* and b*, by what it shall do [try]."""

GLAZE_DARKER: dict[GlazePurpose | None, float] = {"darken": 0.7, "warm": 0.3, "cool": 0.3}
"""By how many value steps it takes the hair down; a film cannot turn a colour and keep it as light [try]."""

FARTHER, FARTHER_STEPS = 1.0, 0.15
"""A glaze spares what it would bring farther off by more than this, in ΔE2000 and in value steps [try]."""

# hair_pass.py

FILM_OF_ROLE: dict[Role, float] = {
    "base": 0.6, "first hairs": 0.6, "early lights": 0.9, "locks": 0.9, "smaller locks": 0.9,
    "tying glaze": 1.0, "shine": 2.0, "light hairs": 1.5, "dark hairs": 0.6,
}  # fmt: skip
"""Wet film of a layer of hair beside that of its pass; lights at least twice the base [try]."""

THICK_MEDIA: frozenset[MediumName] = frozenset({"oil", "quick oil", "acrylic"})
"""Paint that stands up where it is laid thick; gouache and egg tempera crack (common practice)."""

KNOCKED_BACK = (
    "Marks that stand up are knocked back with a rough dry round, hardly touching, before the paint sets."
)
"""What is done to brush marks in opaque paint that stays open (common practice)."""

LEAST_COVER = 0.6
"""Strokes that cover less of their tone are mixed as if they covered so much: nobody overdoes more [try]."""

HAIR_TOP = 0.75
"""Single hairs have the colour of what is lighter, or darker, than this part of their tone [try]."""

NEARER = 3
"""Mixtures tried for a film that lets through what lies below."""

# opaque_passes.py

PRIMED_FROM = 88.0
"""L* from which on a ground is white priming, which nobody mixes [try]."""

LIGHT_TOP = 0.25
"""A light has the colour of what is lighter than this part of its place [try]: on six sitters within 0.3 step
of the place as photographed, up to 0.6 with the 0.7 of before."""

# lines_pass.py

DARKEST = 0.35
"""The colour is that of the darkest part, so large, of what they run over (from memory)."""

# opaque_light_pass.py

OPAQUE_LIGHT_PASS_LEAST_LIGHTER = 0.3
"""Lights that the paper already gives, within so many steps, need no touch."""

# scratch_pass.py

LEFT = 0.0
"""Part of a wet film that a hard scratch leaves [try]; a few hundredths of opaque paint still hide."""

HANDLE_MM = 0.8
"""What the handle of a small brush scratches [try]."""

TAKES_LINES = (("eraser, its edge", 0.4), ("needle", 0.0))
"""What takes a line out of dry paint, and its thinnest line in mm [try]."""

SCRATCH_PASS_LEAST_LIGHTER = 0.3
"""A scratch that is less than this lighter, in steps, does not show."""

# smear_pass.py

SMEARED_OPEN_MINUTES = 30.0
"""Paint that stays open for less is not smeared at the end [try]."""

# taken_passes.py

TAKE_PASS_LEAST_LIGHTER = 0.2
"""Where the reference is less than this lighter than the canvas, in value steps, nothing is taken."""

# taken_passes.py

DRAWN_DARKER = 1.5
"""First lines are so many value steps darker than what they are drawn on [try]."""

TONE_PASS_DARKER = 2.0
"""The tone is so many value steps darker than the ground [try]."""

# under_glaze.py

GREYS = 46
"""Greys, evenly spaced, whose look under a glaze is known."""

GLAZE_ROUNDS = 2
"""Greys are laid for the glaze that suits them, and that one is looked for again."""

# wash_pass.py

WASH_PASS_LEAST_DARKER = 0.2
"""A group less than this darker than the ground, in value steps, is left as ground."""

# water_pass.py

RIM_STEPS = 0.3
"""A hollow that its wash would make so much darker than wanted is a rim, and is left to the washes [try]."""

LEAST_DARKER = 0.2
"""A tone less than this lighter than the paper with what lies on it gets no wash of its own [try]."""

ACCENT_STEPS, ACCENT_CM2 = 0.5, 0.02
"""A last dark lies where the canvas is still so many value steps too light; less area is none [try]."""

LIGHTENS = 0.03
"""A wash is kept off what it would make lighter by more than so many steps: it would only veil it."""

# tempera_passes.py

ZONES = 4
"""So many coats lie on the innermost zone, one on the outermost."""
