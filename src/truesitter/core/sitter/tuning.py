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

# framing.py

AIR = 0.1
"""Part of a closer frame left free above the crown [try]; that a head needs air is common practice."""

CLOSER = 1.1
"""A frame is closer when the photograph is so many times as large [try]."""

CLOSEST = 20.0
"""A frame is closer than the largest one by so many times at most, as the settings have it."""

CROWN_LEAST, CROWN_MOST = 0.25, 1.0
"""How far the crown with its hair lies above a face's outline, in heights of the face: at least the skull,
at most tall hair or a hat [try]."""

HEAD_SHARES = {"head": 0.62, "head and shoulders": 0.42}
"""Part of a frame's height that the head takes from crown to chin [try]."""

HEAD_WIDTH_SHARE = 0.8
"""A head with its hair takes no more than so much of a frame's width [try]."""

SIDES_MOST = 0.6
"""Hair beside a face counts up to so many widths of the face [try]."""

# landmarks.py

FACE_LONG_SIDE = 1280
"""Faces are looked for at this size."""

BODY_ABOVE, BODY_BELOW, BODY_SIDE = 1.5, 7.0, 4.0
"""A closer look at a figure reaches so far above and below the middle of its face, in heights of the face,
and to each side, in its widths: to the hips [try]."""

CLOSE_LONG_SIDE = 384
"""Pixels: a closer look at a small face is enlarged to this, twice what the landmarks are told at
[from memory: the detector's model takes 192]."""

FACE_ROOM = 2.4
"""A closer look at a face is so many times as wide as its box: hair, chin and some air [try]."""

FACE_SURE = 0.6
"""How surely a box has to be a face, 0–1 [try]."""

LEAST_FACE_PX = 48
"""A closer look below this size tells no features [try]."""

LEAST_PERSON = 0.2
"""Without a head, what is taken for a person is believed from this part of the picture on [try].

Chosen on a back view, six sitters cut at the neck (.41 to .78) and pictures of a cup (.15) and a horse (.12).
"""

PERSON_SURE = 0.85
"""A pixel of which the model is so sure is the person's [try]."""

PERSON_LONG_SIDE = 640
"""The person is looked for at this size."""

LEAST_ON_SITTER = 0.92
"""Faces seen from the front lie wholly on the sitter. On a head turned away the detector invents
the far half of the face in the air; its places would then all be wrong."""

# orientation.py

ORIENTATION_LONG_SIDE = 640
"""Pixels at which a photograph is tried turned [try]."""

UPRIGHT = 0.02
"""By so much of the skin's brightness eyes and lips are darker than it where a face stands upright [try]."""

# places.py

EAR_FROM, EAR_REACH = 0.02, 0.25
"""How far an ear stands off the outline of the face, in heights of the face."""

OWN_REACH = 0.15
"""A painter's name holds this far round its spot, in parts of the picture's height."""

# body_places.py

NECK_SHARE = 0.75
"""A neck is at most so wide, in parts of the head or the shoulders, whichever is narrower [try]."""

NECK_SMOOTH = 60
"""Widths are evened out over this part of the figure's height; a figure of fewer rows is too small."""

SHOULDERS_OF_WIDEST = 0.85
"""The shoulders are the first row below the neck this wide, in parts of the widest [try]."""

SHOULDER_IN = 0.12
"""The middle of a shoulder lies so far inside its end, in shoulder widths."""

BLADE_OUT, BLADE_DOWN = 0.2, 0.15
"""A shoulder blade lies so far beside the spine and below the shoulders, in shoulder widths: it is
a quarter of the shoulders wide (proportions of figure drawing, common practice)."""

ARM_DOWN = 0.35
"""The upper arm's middle lies so far below the shoulders, in shoulder widths (common practice)."""

SPINE_DOWN = 0.12
"""Spot of the spine between the blades, below the shoulders, in shoulder widths."""

LOIN_DOWN = 0.9
"""The small of the back below the shoulders, in shoulder widths (common practice)."""
