"""Numbers of hair layers, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# nested.py

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
