"""One spot, rectangle, shape or group: its mixtures and what nudges them."""

from __future__ import annotations

from typing import Annotated, Literal

from fastapi import APIRouter, Query
from pydantic import BaseModel

from truesitter.core.colour.spaces import Lab, as_lab
from truesitter.core.paint.board.nudges import DIRECTIONS, nudge
from truesitter.core.paint.layered.films import hiding
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.settings import FleshSettings
from truesitter.core.stages.flesh_stage import DRYING, TARGETS, TUBES, WISHES
from truesitter.web.http.answers import BenchRoute, answered
from truesitter.web.http.dependencies import CurrentStudy
from truesitter.web.models.mixture import MixtureOut, mixture_out

router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["flesh"], route_class=BenchRoute)
Part = Annotated[float, Query(ge=0, le=1)]


class NudgeOut(BaseModel):
    """The smallest addition that moves a mixture one way."""

    direction: str
    tube: str
    pile: int
    predicted_hex: str
    moved: float
    side_effects: str


class MadeOut(BaseModel):
    """What the best mixture is, in numbers."""

    lab: Lab
    chroma: float
    hue: float
    hiding: float | None
    """Part of black and white that one coat hides, 0–1; None for a wash."""
    film_mm: float


class SpotOut(BaseModel):
    """The mixtures for one spot or rectangle of the picture, the best first, and nudges of the best."""

    place: str
    against_skin: list[str]
    """How it differs from this skin's own colour at the same value; nothing off the skin."""
    region: str
    seen_lab: Lab
    target_lab: Lab
    mixture: MixtureOut
    made: MadeOut
    alternatives: list[MixtureOut]
    nudges: list[NudgeOut]


@router.get(
    "/flesh/spot",
    dependencies=[
        answered(
            "flesh/spot",
            (
                *TUBES,
                *WISHES,
                *TARGETS,
                *DRYING,
                "flesh.film_mm",
                "values.names",
                "values.groups",
                "regions.names",
            ),
            ("lab", "values", "shapes", "regions", "detection", "framed", "skin off its mean"),
        )
    ],
)
def spot(
    study: CurrentStudy,
    x: Part,
    y: Part,
    x2: Annotated[float | None, Query(ge=0, le=1)] = None,
    y2: Annotated[float | None, Query(ge=0, le=1)] = None,
    what: Literal["spot", "shape", "group"] = "spot",
) -> SpotOut:
    """Mixtures for a spot, the rectangle to a second one, or the value shape or group it lies in."""
    end = (x2, y2) if x2 is not None and y2 is not None else None
    place = ""
    if what == "spot":
        seen = study.picture.colour_at((x, y), end)
    elif what == "shape":
        number, seen = study.flesh.colour_of_shape((x, y))
        place = f"shape {number + 1}, "
    else:
        group, seen = study.flesh.colour_of_group((x, y))
        place = f"{study.settings.values.group_names()[group]}, everywhere; at "
    middle = ((x + end[0]) / 2, (y + end[1]) / 2) if end else (x, y)
    (recipe, *rivals), suggestion = study.flesh.mix(seen)
    flesh = study.settings.flesh
    return SpotOut(
        place=place + study.sitter.place_at(*middle),
        against_skin=list(study.accents.against_skin(*middle)),
        region=study.sitter.region_at(*middle).name.lower().replace("_", " "),
        seen_lab=as_lab(seen),
        target_lab=recipe.target_lab,
        mixture=mixture_out(flesh, as_lab(seen), recipe, suggestion),
        made=_made(recipe, flesh),
        alternatives=[mixture_out(flesh, as_lab(seen), r) for r in rivals],
        nudges=_nudges(recipe, study.flesh.palette()),
    )


def _made(recipe: Recipe, flesh: FleshSettings) -> MadeOut:
    colour, washed = recipe.predicted, recipe.film_mm is not None
    return MadeOut(
        lab=colour.lab,
        chroma=colour.chroma,
        hue=colour.hue,
        hiding=None if washed else hiding(recipe.parts, flesh.dry_film(), flesh.rack()),
        film_mm=flesh.film_mm,
    )


def _nudges(recipe: Recipe, palette: Palette) -> list[NudgeOut]:
    found = [nudge(recipe.parts, palette, direction, recipe.dilution) for direction in DIRECTIONS]
    return [
        NudgeOut(
            direction=n.direction, tube=n.tube, pile=n.pile, predicted_hex=n.predicted.hex, moved=n.moved,
            side_effects=n.side_effects,
        )
        for n in found
        if n is not None
    ]  # fmt: skip
