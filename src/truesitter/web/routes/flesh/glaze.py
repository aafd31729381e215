"""Thin layers: glazes over a grey underpainting or over paper, and how strong a swatch says they are."""

from __future__ import annotations

from dataclasses import replace
from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel

from truesitter.core.colour.value import value_to_lightness
from truesitter.core.paint.layered.films import coats_to_value, ground_of, seen, strength_by_swatch
from truesitter.core.paint.layered.glazes import Glaze, find_glazes
from truesitter.core.paint.media.dilution import Dilution, Thinning
from truesitter.core.paint.media.media_table import MEDIA
from truesitter.core.paint.media.supports import WHITE_PAPER
from truesitter.core.paint.media.thickness import DryMm
from truesitter.core.paint.media.tuning import LEAST_STRENGTH, MOST_STRENGTH, MOST_WATER
from truesitter.core.paint.recipes.mixing import Colour
from truesitter.core.paint.tubes.rack import Rack
from truesitter.core.refusal import Refusal
from truesitter.core.stages.flesh_stage import TARGETS, TUBES, WISHES
from truesitter.core.types import Doubles
from truesitter.formats.words.told import PlanDilution, dilution_of
from truesitter.web.http.answers import BenchRoute, answered
from truesitter.web.http.dependencies import CurrentStudy

Part = Annotated[float, Query(ge=0, le=1)]
_COATS = 3
_NUMBER = r"-?\d{1,3}(\.\d{1,4})?"
_LAB = f"^{_NUMBER},{_NUMBER},{_NUMBER}$"
router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["flesh"], route_class=BenchRoute)


class CoatOut(BaseModel):
    """Colour after one coat."""

    hex: str
    value: float


class GlazeOut(BaseModel):
    """One glaze, and what coat after coat of it does."""

    parts: dict[str, int]
    dilution: PlanDilution
    after_hex: str
    after_value: float
    delta: float
    """ΔE2000 to what is wanted, a value error counting more."""
    near: bool
    coat: PlanDilution
    """Of coats a third as strong, as near as whole parts allow."""
    coats: list[CoatOut]


class GlazesOut(BaseModel):
    """Glazes for a spot over a grey, best first."""

    place: str
    ground_hex: str
    ground_value: float
    target_hex: str
    target_value: float
    glazes: list[GlazeOut]


class StrengthOut(BaseModel):
    """How strong thin layers are."""

    strength: float
    usual: float


@router.get("/flesh/strength")
def strength(
    study: CurrentStudy,
    tube: Annotated[str, Query(max_length=60)],
    thinner: Annotated[int, Query(ge=0, le=MOST_WATER)],
    value: Annotated[float, Query(ge=0, le=10)],
) -> StrengthOut:
    """What a swatch of one tube says, thinned 1 to so many and read dry on white paper; nothing is kept."""
    flesh = study.flesh.settings
    rack, usual = flesh.rack(), MEDIA[flesh.medium].thinning
    rack.check((tube,))
    found = strength_by_swatch(tube, rack, usual, Dilution(1, thinner), value, WHITE_PAPER)
    if not LEAST_STRENGTH <= found <= MOST_STRENGTH:
        raise Refusal("that swatch is not of this dilution: no paint is so strong or so weak")
    return StrengthOut(strength=found, usual=usual.strength)


@router.get(
    "/flesh/glazes",
    dependencies=[
        answered(
            "flesh/glazes",
            (*TUBES, *WISHES, *TARGETS, "passes.school", "regions.names"),
            ("lab", "regions", "detection", "framed", "passes"),
        )
    ],
)
def glazes(
    study: CurrentStudy,
    x: Part,
    y: Part,
    ground: Annotated[float | None, Query(ge=1, le=9.5)] = None,
    after: Annotated[int | None, Query(ge=1, le=1000)] = None,
    over: Annotated[str | None, Query(max_length=60, pattern=_LAB)] = None,
) -> GlazesOut:
    """Which glazes turn what is there into the colour of a spot.

    A dry grey of the value `ground`, the plan's own dry canvas `after` so many passes, a colour measured
    there as `over` (L*,a*,b*), or white paper.
    """
    flesh = study.flesh.settings
    palette = flesh.wishes().palette(study.flesh.palette())
    on_paper = ground is None and after is None and over is None
    if on_paper or MEDIA[flesh.medium].watery:
        palette = replace(palette, rack=palette.rack.for_washes())
    target = study.flesh.target(study.picture.colour_at((x, y)))
    below = WHITE_PAPER.internal()
    if ground is not None:
        below = ground_of((float(value_to_lightness(ground)), 0.0, 0.0))
    elif over is not None:
        lightness, a, b = (float(part) for part in over.split(","))
        below = ground_of((lightness, a, b))
    elif after is not None:
        canvases = study.passes.plan().canvases
        if after > len(canvases):
            raise Refusal(f"this plan has passes 1 to {len(canvases)}")
        below = canvases[after - 1].at(x, y)
    thinning = flesh.washes() if on_paper else flesh.thinning()
    found = find_glazes(below, target, palette, thinning)
    wanted, bare = Colour.of(target), seen(below)
    return GlazesOut(
        place=study.sitter.place_at(x, y),
        ground_hex=bare.hex,
        ground_value=bare.value,
        target_hex=wanted.hex,
        target_value=wanted.value,
        glazes=[_glaze(g, thinning, below, wanted.value, palette.rack) for g in found],
    )


def _glaze(glaze: Glaze, thinning: Thinning, below: Doubles, value: float, rack: Rack) -> GlazeOut:
    """A glaze at once, and in thinner coats."""
    thin = thinning.dilution(DryMm(glaze.mm / _COATS))
    return GlazeOut(
        parts=glaze.parts,
        dilution=dilution_of(glaze.dilution, thinning.thinner),
        after_hex=glaze.after.hex,
        after_value=glaze.after.value,
        delta=glaze.cost,
        near=glaze.near,
        coat=dilution_of(thin, thinning.thinner),
        coats=[
            CoatOut(hex=c.hex, value=c.value)
            for c in coats_to_value(glaze.parts, thinning.dry(thin), below, value, rack)
        ],
    )
