"""Near mixtures of an area: one heap, and small additions to it."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from fastapi import APIRouter, Query
from pydantic import BaseModel

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spaces import as_lab
from truesitter.core.stages.flesh_stage import DRYING, TARGETS, TUBES, WISHES
from truesitter.web.http.answers import BenchRoute, answered
from truesitter.web.http.dependencies import CurrentStudy
from truesitter.web.models.mixture import MixtureOut, mixture_out

Part = Annotated[float, Query(ge=0, le=1)]
router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["flesh"], route_class=BenchRoute)


class NearOut(BaseModel):
    """One near mixture."""

    base: int
    """Parts of the heap."""
    added: dict[str, int]
    target_hex: str
    made_hex: str
    value: float
    apart: float
    """ΔE2000 to the heap."""


class NearMixturesOut(BaseModel):
    """The heap of an area, and what is mixed from it."""

    heap: MixtureOut
    near: list[NearOut]


@router.get(
    "/flesh/near",
    dependencies=[
        answered("flesh/near", (*TUBES, *WISHES, *TARGETS, *DRYING), ("lab", "values", "shapes", "regions"))
    ],
)
def near(study: CurrentStudy, x: Part, y: Part, what: Literal["shape", "group"] = "shape") -> NearMixturesOut:
    """Several near mixtures for the shape, or the value group over its region, in which a spot lies."""
    found = study.flesh.near((x, y), what)
    heap = np.array(found.heap.predicted.lab)
    return NearMixturesOut(
        heap=mixture_out(study.settings.flesh, as_lab(heap), found.heap),
        near=[
            NearOut(
                base=n.base,
                added=n.added,
                target_hex=n.target.hex,
                made_hex=n.made.hex,
                value=n.made.value,
                apart=float(delta_e_2000(np.array(n.made.lab), heap)),
            )
            for n in found.near
        ],
    )
