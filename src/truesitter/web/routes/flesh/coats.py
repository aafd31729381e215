"""Whole coats of two mixtures: how many of each every place takes, and what that looks like."""

from __future__ import annotations

from typing import Annotated
from urllib.parse import quote

from fastapi import APIRouter, Query, Request, Response
from pydantic import BaseModel

from truesitter.core.paint.media.tuning import MOST_WATER
from truesitter.core.stages.flesh_stage import TUBES
from truesitter.core.usecases.coats_needed import CoatPlan, coat_plan
from truesitter.formats.pictures.png import encode_png
from truesitter.formats.words.told import PlanDilution, dilution_of
from truesitter.web.http.answers import BenchRoute, answered, picture_response
from truesitter.web.http.declared import answers
from truesitter.web.http.dependencies import CurrentStudy

Name = Annotated[str, Query(min_length=1, max_length=80)]
Water = Annotated[int, Query(ge=0, le=MOST_WATER)]
_SETTINGS = (*TUBES, "values.names", "values.groups", "reference.canvas_width_mm")
_NEEDS = ("lab", "values", "flesh", "pins", "string", "colour families")
router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["flesh"], route_class=BenchRoute)


class GroupCoatsOut(BaseModel):
    """Coats that one value group takes, on average."""

    name: str
    first: float
    second: float
    wanted_value: float
    made_value: float


class CoatsOut(BaseModel):
    """Coats of two mixtures over white paper."""

    dilution: PlanDilution
    first_hexes: list[str]
    """Paper, then after each coat of the first, as many as are used."""
    second_hexes: list[str]
    groups: list[GroupCoatsOut]
    error: float
    """Mean distance from the picture: ΔE2000, a value error counting more."""


def _plan(study: CurrentStudy, first: Name, second: Name, water: Water = 20) -> CoatPlan:
    return coat_plan(study, first, second, water)


@router.get("/flesh/coats", dependencies=[answered("flesh/coats", _SETTINGS, _NEEDS)])
def coats(study: CurrentStudy, first: Name, second: Name, water: Water = 20) -> CoatsOut:
    """Coats of two mixtures or tubes, both thinned 1 to so many, never past a colour from its light side."""
    found = _plan(study, first, second, water)
    names = study.settings.values.group_names()
    return CoatsOut(
        dilution=dilution_of(found.dilution, found.thinner),
        first_hexes=list(found.first_hexes),
        second_hexes=list(found.second_hexes),
        groups=[
            GroupCoatsOut(
                name=names[g.group], first=g.first, second=g.second,
                wanted_value=g.wanted_value, made_value=g.made_value,
            )
            for g in found.groups
        ],
        error=found.error,
    )  # fmt: skip


@router.get("/flesh/coats.png", response_class=Response)
def coats_picture(
    study: CurrentStudy, request: Request, first: Name, second: Name, water: Water = 20
) -> Response:
    """The picture in those coats."""
    key = f"{study.key(answers()['flesh/coats'])}-{quote(first)}-{quote(second)}-{water}"
    return picture_response(
        request, key, lambda: (encode_png(_plan(study, first, second, water).picture), "image/png")
    )
