"""The schools that ship with the program, read from their documents."""

from __future__ import annotations

from truesitter.core.data import read_text
from truesitter.core.refusal import Refusal
from truesitter.core.school.school_document import School

_KEYS = (
    "layered-oil", "direct-oil", "brown-layer", "monochrome-first", "thumbnail-first", "skin-string",
    "tempera", "watercolour-zones", "watercolour-recesses", "watercolour-all-over",
    "watercolour-direct", "airbrush",
)  # fmt: skip

SCHOOLS: dict[str, School] = {
    key: School.model_validate_json(read_text(f"schools/{key}.json")) for key in _KEYS
}

LAYERED_OIL, DIRECT_OIL, TEMPERA = (SCHOOLS[k] for k in ("layered-oil", "direct-oil", "tempera"))


def school(key: str, own: tuple[School, ...] = ()) -> School:
    """A school by its key, the painter's own first.

    Raises
    ------
    Refusal
        With a sentence naming the schools there are.
    """
    known = {**SCHOOLS, **{s.key: s for s in own}}
    if key not in known:
        raise Refusal(f"there is no school called “{key}”; there is {', '.join(known)}")
    return known[key]
