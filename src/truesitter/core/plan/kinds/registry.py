"""Every way of laying by the name that schools give it."""

from __future__ import annotations

from typing import cast, get_args

from truesitter.core.plan.kinds.again_pass import AGAIN
from truesitter.core.plan.kinds.coats_pass import DARK_COATS, LIGHT_COATS
from truesitter.core.plan.kinds.glaze_pass import GLAZE
from truesitter.core.plan.kinds.hair_pass import GREY_HAIR, HAIR, WASHED_HAIR
from truesitter.core.plan.kinds.lines_pass import DRAWN, LINES
from truesitter.core.plan.kinds.opaque_light_pass import OPAQUE_LIGHT
from truesitter.core.plan.kinds.opaque_passes import GREY, GROUND, LIGHT, MASS
from truesitter.core.plan.kinds.scratch_pass import LINES_OUT, SCRATCH
from truesitter.core.plan.kinds.smear_pass import SMEAR
from truesitter.core.plan.kinds.taken_passes import ERASE, TONE, WIPE
from truesitter.core.plan.kinds.tempera_passes import FLESH_GROUND, ZONE
from truesitter.core.plan.kinds.wash_pass import WASH
from truesitter.core.plan.kinds.water_pass import ACCENT, WATER
from truesitter.core.plan.laying import Laying
from truesitter.core.school.school_document import KindName

KINDS: dict[KindName, Laying] = {
    cast("KindName", kind.name): kind
    for kind in (
        GROUND, FLESH_GROUND, TONE, WIPE, SCRATCH, ERASE, WASH, AGAIN, GLAZE, MASS, GREY, LIGHT, LINES, DRAWN,
        HAIR, GREY_HAIR, WASHED_HAIR, LINES_OUT, ZONE, WATER, ACCENT, LIGHT_COATS, DARK_COATS,
        OPAQUE_LIGHT, SMEAR,
    )
}  # fmt: skip

if set(KINDS) != set(get_args(KindName)):
    raise AssertionError("every kind a school can name is known")
