"""The schools there are."""

from __future__ import annotations

from truesitter.core.passes.school import School
from truesitter.core.passes.schools.brown_layer import BROWN_LAYER
from truesitter.core.passes.schools.direct_oil import DIRECT_OIL
from truesitter.core.passes.schools.layered_oil import LAYERED_OIL
from truesitter.core.passes.schools.monochrome import MONOCHROME
from truesitter.core.passes.schools.skin_string import SKIN_STRING
from truesitter.core.passes.schools.tempera import TEMPERA
from truesitter.core.passes.schools.thumbnail import THUMBNAIL
from truesitter.core.refusal import Refusal

__all__ = ["DIRECT_OIL", "LAYERED_OIL", "SCHOOLS", "TEMPERA", "school"]

SCHOOLS: dict[str, School] = {
    s.key: s for s in (LAYERED_OIL, DIRECT_OIL, TEMPERA, MONOCHROME, BROWN_LAYER, THUMBNAIL, SKIN_STRING)
}


def school(key: str) -> School:
    """A school by its key.

    Raises
    ------
    Refusal
        With a sentence naming the schools there are.
    """
    if key not in SCHOOLS:
        raise Refusal(f"there is no school called “{key}”; there is {', '.join(SCHOOLS)}")
    return SCHOOLS[key]
