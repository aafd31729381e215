"""Sketches in a few colours: their pictures, and what they are mixed from."""

from __future__ import annotations

from typing import Annotated

import numpy as np
from fastapi import APIRouter, Query, Request, Response
from pydantic import BaseModel

from truesitter.core.colour.spaces import lab_to_srgb
from truesitter.core.design.colour_sketch import DESIGNS, ColourDesign, painted_sketch
from truesitter.formats.pictures.png import encode_png
from truesitter.web.http.answers import BenchRoute, answered, picture_response
from truesitter.web.http.dependencies import CurrentStudy
from truesitter.web.models.mixture import MixtureOut, mixture_out

router = APIRouter(prefix="/api/sitters/{sitter_id}/sketches", tags=["values"], route_class=BenchRoute)

ENLARGED = 4
"""A sketch is computed small and shown large."""

Count = Annotated[int, Query(ge=2, le=9)]


class ColourSketchOut(BaseModel):
    """One design, and its colours from dark to light."""

    design: ColourDesign
    colours: list[MixtureOut]


@router.get("", dependencies=[answered("sketches", ("flesh",), ("colour sketch",))])
def colour_sketches(study: CurrentStudy, count: Count = 5) -> list[ColourSketchOut]:
    """The picture in so many colours, in every design."""
    flesh, found = study.settings.flesh, []
    for design in DESIGNS:
        colours = []
        for one in study.surround.sketch(design, count).colours:
            recipes, _ = study.flesh.mix(np.array(one.lab), 1)
            colours.append(mixture_out(flesh, one.lab, recipes[0], share=one.share))
        found.append(ColourSketchOut(design=design, colours=colours))
    return found


@router.get("/picture", response_class=Response)
def colour_sketch_picture(
    study: CurrentStudy, request: Request, design: ColourDesign = "as photographed", count: Count = 5
) -> Response:
    """One of them as a picture."""

    def make() -> tuple[bytes, str]:
        lab = painted_sketch(study.surround.sketch(design, count), ENLARGED)
        return encode_png(np.round(lab_to_srgb(lab) * 255).clip(0, 255).astype(np.uint8)), "image/png"

    name = f"sketch-{design.replace(' ', '-').replace(',', '')}-{count}-{ENLARGED}"
    return picture_response(request, f"{name}-{study.source.key('colour sketch')}", make)
