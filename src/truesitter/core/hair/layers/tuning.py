"""Numbers of hair layers, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

from truesitter.core.hair.layers.job import GlazePurpose

# nested.py

STEADY = "Rest the hand on a stick laid across the canvas, or on the little finger, and draw from the arm."
"""How fine lines are kept steady (common practice)."""

BEARD_WORDS = {
    False: "The beard belongs to the skin: grade it into the flesh, so that it begins nowhere.",
    True: "The beard stands apart from the skin: let its edge be seen, softer at the cheek than at the jaw.",
}
"""What is said of a beard that does not, or does, stand apart."""

GLAZE_NAMES: dict[GlazePurpose, str] = {
    "tie": "tying glaze", "warm": "warming glaze", "cool": "cooling glaze", "darken": "darkening glaze",
    "in turn": "glaze in turn",
}  # fmt: skip
"""What a glaze over the hair is called, by what it shall do."""

GLAZE_WORDS: dict[GlazePurpose, str] = {
    "tie": "One thin glaze over light and dark draws them together; the lights are restated over it.",
    "warm": "A glaze that warms the hair; lights that should stay cool are restated over it.",
    "cool": "A glaze that cools the hair; lights that should stay warm are restated over it.",
    "darken": "A glaze that takes the hair down; the lights are restated over it.",
    "in turn": "Two hues in turn, the darker over the darks, the lighter over the lights: touch with the tip "
    "of a filbert where places are spared, lay with its side where none are.",
}
"""What is said of a glaze over the hair, by what it shall do."""

BEFORE_MM, FIRST_MM = (0.5, 2.0), (4.0, 9.0)
"""A first fine hair begins so far before its hairline, and is so long [try]."""

GAP_MM = 20.0
"""Readings farther apart than this have no hairline between them [try]."""

FIRST_POINTS = 8
"""Points of a first fine hair."""

ROOT_TO_TIP = (0.2, 1.0, 0.15)
"""Width of a first fine hair at its root, past a third and at its tip, beside its widest [try]."""

UNDER_MM = 4.0
"""Skin is carried on so far under the hair: 3–6 mm [try]."""

EARLY_DENSITY = 0.06
"""Area of early lights as part of their place [try]."""

LEAST_CM2 = 0.3
"""Masses smaller than this get no layers of their own."""

LEAST_TURN = 1.0
"""A change of b* that is told."""

LIGHTS = 0.6
"""Single light hairs lie where the surface adds more than in this part of the lightest tone [try]."""

RUNS_ON_MM = 1.0
"""A light hair runs on so far past a speck of light [try]."""

ALIKE = 6.0
"""Hair and beard whose mean a* and b* lie no farther apart are painted in the same tones [try]."""
