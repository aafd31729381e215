"""What a school is: the order in which a medium builds a picture, as a document.

A document names small rules, the kinds and the bands, that code knows; everything else of a school
is in it. Times are room temperature, thin films, from memory; the painter can change them.
"""

from __future__ import annotations

from enum import Enum
from typing import Annotated, Any, Literal, Self, get_args

from pydantic import (
    BaseModel,
    BeforeValidator,
    ConfigDict,
    Field,
    PlainSerializer,
    WithJsonSchema,
    model_validator,
)

from truesitter.core.colour.spaces import Lab
from truesitter.core.colour.value import value_to_lightness
from truesitter.core.light.form.zones import ABOVE_THE_MOUTH, RED_OF_THE_LIPS
from truesitter.core.paint.media.media_table import MEDIA, Medium, MediumName
from truesitter.core.paint.media.supports import SupportName
from truesitter.core.paint.media.thickness import WetMm
from truesitter.core.school.tuning import MOST_PASSES
from truesitter.core.sitter.region_names import Region

DAY = 24 * 60

EVERYTHING = "everything"
"""Stands for all regions."""


KindName = Literal[
    "ground", "flesh ground", "tone", "wipe", "scratch", "erase", "wash", "again", "glaze", "mass", "grey",
    "hair", "grey hair", "washed hair", "light", "lines", "lines out", "drawn", "zone", "water", "accent",
    "light coats", "dark coats", "opaque light", "smear",
]  # fmt: skip
"""How a pass is laid; each is a file of `kinds`."""

TonesOrder = Literal["dark to light", "light to dark", "between last"]
"""In which order the tones of one place are laid; ``between last`` begins with darks and lights."""

PaperState = Literal["dry", "damp", "wet", "soaked"]
"""How wet the paper is when a wash is laid."""

UnlitName = Literal["above the mouth", "red of the lips"]

if {ABOVE_THE_MOUTH, RED_OF_THE_LIPS} != set(get_args(UnlitName)):
    raise AssertionError("every place without light that can be named is known")


class Band(Enum):
    """Which values of its regions a pass covers.

    ``groups`` are the painter's value groups from dark to light; ``nested thirds`` the darks over all
    of it, the middle inside them, the lights inside that; ``washes`` best-fit groups from light to dark,
    each over everything darker, or ``pieces`` each by itself; ``shadow`` shadow and halftone; ``zones``
    each over those before; ``peaks`` the lightest of them; ``recesses`` and ``recess darks`` hollows of
    the face;
    ``cool halftone`` where skin that turns from the light is cooler than light and shadow make it;
    ``highlights`` what mirrors the light; ``hair layers`` nested tones of the hair, along its growth, or
    ``hair base`` the first of them and ``hair strokes`` the others;
    ``light hairs`` and ``dark hairs`` the single ones of its ends.
    """

    EVERYTHING = "whole"
    EACH_GROUP = "groups"
    THIRDS = "thirds"
    NESTED_THIRDS = "nested thirds"
    LINES = "lines"
    SHADOW_AND_HALFTONE = "shadow"
    COOL_HALFTONE = "cool halftone"
    ZONES = "zones"
    PEAKS = "peaks"
    WASHES = "washes"
    PIECES = "pieces"
    RECESSES = "recesses"
    RECESS_DARKS = "recess darks"
    HIGHLIGHTS = "highlights"
    HAIR_LAYERS = "hair layers"
    HAIR_BASE = "hair base"
    HAIR_STROKES = "hair strokes"
    LIGHT_HAIRS = "light hairs"
    DARK_HAIRS = "dark hairs"


_NAMES = {region.spoken: region for region in Region}


def _regions(given: Any) -> Any:
    """Regions from their names."""
    if given == EVERYTHING:
        return tuple(Region)
    if isinstance(given, (list, tuple)) and all(isinstance(g, str) for g in given):
        unknown = [g for g in given if g not in _NAMES]
        if unknown:
            raise ValueError(f"there is no region called “{unknown[0]}”; there are {', '.join(_NAMES)}")
        return tuple(_NAMES[g] for g in given)
    return given


def _region_names(regions: tuple[Region, ...]) -> str | list[str]:
    return EVERYTHING if set(regions) == set(Region) else [Region(r).spoken for r in regions]


Regions = Annotated[
    tuple[Region, ...],
    BeforeValidator(_regions),
    Field(min_length=1, max_length=len(Region)),
    PlainSerializer(_region_names, return_type=str | list[str]),
    WithJsonSchema(
        {
            "anyOf": [
                {"const": EVERYTHING, "type": "string"},
                {"type": "array", "items": {"enum": list(_NAMES), "type": "string"}, "minItems": 1},
            ]
        }
    ),
]

Key = Annotated[str, Field(pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$", max_length=40)]
Words = Annotated[str, Field(max_length=300)]
Word = Annotated[str, Field(min_length=1, max_length=80)]


class _Document(BaseModel):
    model_config = ConfigDict(
        frozen=True, extra="forbid", allow_inf_nan=False, json_schema_serialization_defaults_required=True
    )


class PassTemplate(_Document):
    """One step of a school."""

    key: Key = Field(description="Unlike any other's of its school; ticks and links hold on to it")
    name: Word = Field(description="May hold {band}, which becomes the group, third, zone or wash")
    kind: KindName = Field(description="How it is laid")
    regions: Regions = Field(description="Where it is laid")
    band: Band = Field(description="In which values of its place")
    film_mm: WetMm = Field(gt=0, le=3, description="As it is laid, wet")
    fat: int = Field(
        0, ge=0, le=3, description="Oil content; never falls from one layer to the layer over it"
    )
    dries_minutes: int = Field(
        ge=0, le=60 * DAY, description="Before another layer may go over it, for a pigment of medium drying"
    )
    edge: Word = Field(description="How its borders are handled")
    tool: Word
    note: Words = Field("", description="How to lay it")
    inspect: Words = Field("", description="What to look at before going on")
    into_wet: bool = Field(False, description="It goes into what is still wet and waits for nothing below")
    stays: bool = Field(False, description="It makes the manner: only a sketch may leave it out")
    paper: PaperState | None = Field(
        None, description="How wet the paper is made for a wash; as its size asks where not given"
    )
    laid_first: bool = Field(
        False, description="Laid before all that are not, but reckoned in its turn, on what comes over it"
    )
    finest_mm: float = Field(0.0, ge=0, le=20, description="Nothing narrower is laid")
    steps: int = Field(
        4, ge=1, le=9, description="Of a band of washes: into how many values its place is parted"
    )
    tones: TonesOrder = Field(
        "dark to light",
        description="Order of its groups or thirds; nested ones lie over one another as they are",
    )
    from_step: int = Field(1, ge=1, le=9, description="Of a band of washes: the first of them laid here")
    to_step: int = Field(9, ge=1, le=9, description="And the last")

    @model_validator(mode="after")
    def _steps_in_order(self) -> Self:
        if self.from_step > min(self.to_step, self.steps):
            raise ValueError("the first of its washes comes after the last")
        if self.name.count("{") != self.name.count("{band}") or self.name.count("}") != self.name.count(
            "{band}"
        ):
            raise ValueError("a name may hold {band} and no other braces")
        return self


Rate = Annotated[float, Field(ge=0, le=60)]


class Pace(_Document):
    """Minutes of work for each cm² of a place, all its passes together, as drawn in a portrait.

    Fitted to what whole paintings take (common practice), not observed; a log knows better.
    """

    skin: Rate = Field(description="Bare skin, zones of light and glazes included")
    hair: Rate = Field(description="Head and face, painted strand by strand")
    features: Rate = Field(description="Eyes, lips, inside of the mouth, brows")
    garment: Rate
    background: Rate
    fixed_minutes: float = Field(ge=0, le=6000, description="Setting up, drawing, mixing, clearing away")


class School(_Document):
    """An ordered list of passes, its ground, and places that stay without light."""

    key: Key
    name: Word
    about: Words = Field("", description="What it is for, in a sentence or two")
    media: tuple[MediumName, ...] = Field(
        min_length=1, description="What it can be painted in; times are those of the first"
    )
    support: SupportName = Field("primed canvas", description="What it is usually painted on")
    ground_value: float = Field(ge=0, le=10)
    ground_tint: tuple[Annotated[float, Field(ge=-60, le=60)], Annotated[float, Field(ge=-60, le=60)]] = (
        Field((2.0, 8.0), description="a* and b* of its ground")
    )
    transparent: bool = Field(
        False, description="White comes from the support alone: no white tube is mixed in"
    )
    unlit: tuple[UnlitName, ...] = Field((), description="Places that stay without light")
    preparing: tuple[Words, ...] = Field((), max_length=12, description="What is done before the first pass")
    clearing: tuple[Words, ...] = Field((), max_length=12, description="What is done after the last")
    pace: Pace = Field(description="How long it takes")
    passes: tuple[PassTemplate, ...] = Field(min_length=1, max_length=MOST_PASSES)

    @model_validator(mode="after")
    def _sound(self) -> Self:
        keys = [p.key for p in self.passes]
        twice = next((k for k in keys if keys.count(k) > 1), None)
        if twice:
            raise ValueError(f"two passes have the key “{twice}”")
        if MEDIA[self.media[0]].oily:
            for before, after in zip(self.passes, self.passes[1:], strict=False):
                if after.fat < before.fat:
                    raise ValueError(
                        f"“{after.name}” is leaner than “{before.name}” under it: fat goes over lean"
                    )
        return self

    @property
    def ground_lab(self) -> Lab:
        """Colour of its ground."""
        return (float(value_to_lightness(self.ground_value)), *self.ground_tint)

    @property
    def medium(self) -> Medium:
        """The one its times are written for."""
        return MEDIA[self.media[0]]
