"""Numbers of sitter, by the module that uses them.

[try] marks what was chosen by us on the shown sitters; sizes of working maps, counts of samples and the
like trade time for accuracy. Whatever has another origin names it.
"""

from __future__ import annotations

# areas.py

EAR = 0.25
"""An ear lies so far outside the face's outline, in heights of the face [try]."""

NECK = 0.7
"""A neck reaches so far below the chin, in heights of the face [try]."""

NEAR_OVAL = 0.06
"""What lies so far outside the face's outline, in heights of the face, still counts for it."""

# landmarks.py

FACE_LONG_SIDE = 1280
"""Faces are looked for at this size."""

PERSON_LONG_SIDE = 640
"""The person is looked for at this size."""

LEAST_ON_SITTER = 0.92
"""Faces seen from the front lie wholly on the sitter. On a head turned away the detector invents
the far half of the face in the air; its places would then all be wrong."""

# places.py

EAR_FROM, EAR_REACH = 0.02, 0.25
"""How far an ear stands off the outline of the face, in heights of the face."""

OWN_REACH = 0.15
"""A painter's name holds this far round its spot, in parts of the picture's height."""
