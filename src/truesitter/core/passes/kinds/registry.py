"""Every way of laying by the name that schools give it."""

from __future__ import annotations

from typing import cast, get_args

from truesitter.core.passes.kinds.again import AGAIN
from truesitter.core.passes.kinds.coats import DARK_COATS, LIGHT_COATS
from truesitter.core.passes.kinds.flesh_ground import FLESH_GROUND
from truesitter.core.passes.kinds.glaze import GLAZE
from truesitter.core.passes.kinds.grey import GREY
from truesitter.core.passes.kinds.ground import GROUND
from truesitter.core.passes.kinds.hair import HAIR
from truesitter.core.passes.kinds.light import LIGHT
from truesitter.core.passes.kinds.lines import LINES
from truesitter.core.passes.kinds.mass import MASS
from truesitter.core.passes.kinds.opaque_light import OPAQUE_LIGHT
from truesitter.core.passes.kinds.scratch import SCRATCH
from truesitter.core.passes.kinds.take import ERASE, WIPE
from truesitter.core.passes.kinds.tone import TONE
from truesitter.core.passes.kinds.wash import WASH
from truesitter.core.passes.kinds.water import WATER
from truesitter.core.passes.kinds.zone import ZONE
from truesitter.core.passes.laying import Laying
from truesitter.core.passes.school import KindName

KINDS: dict[KindName, Laying] = {
    cast("KindName", kind.name): kind
    for kind in (
        GROUND, FLESH_GROUND, TONE, WIPE, SCRATCH, ERASE, WASH, AGAIN, GLAZE, MASS, GREY, LIGHT, LINES, HAIR,
        ZONE, WATER, LIGHT_COATS, DARK_COATS, OPAQUE_LIGHT,
    )
}  # fmt: skip

if set(KINDS) != set(get_args(KindName)):
    raise AssertionError("every kind a school can name is known")
