"""What can be set out: tubes of the library and the painter's own, starter palettes and the studio's."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, Field

from truesitter.core.paint.media.media_table import MEDIA, MediumName
from truesitter.core.paint.media.supports import SUPPORTS, Lightens, SupportName
from truesitter.core.paint.media.tuning import MOST_WATER
from truesitter.core.paint.tubes.cautions import PROCESSES, off_by_default, safe_substitute
from truesitter.core.paint.tubes.palettes import STARTERS
from truesitter.core.paint.tubes.pigments import Pigment
from truesitter.core.paint.tubes.rack import Rack
from truesitter.core.paint.tubes.swatches import PATCHES
from truesitter.core.school.library import SCHOOLS
from truesitter.store.settings.tubes import KeptTube
from truesitter.web.http.dependencies import Bench

router = APIRouter(prefix="/api", tags=["tubes"])


class Tube(BaseModel):
    """A tube that can be set out; of the library's, all numbers are typical values from memory."""

    key: str
    name: str
    ci_name: str
    family: str
    hex: str
    opacity: str
    lightfastness: str
    hazard: str
    substitute: str
    off_because: str
    """Why it is not offered unless asked for; empty when it is."""
    own: bool
    empty: bool
    left_ml: float | None
    """What is left in a tube of the painter's own; none when it is not counted."""


class PaletteOut(BaseModel):
    """A starter palette, or one of the studio's."""

    key: str
    name: str
    tubes: list[str]
    transparent: bool
    own: bool


class MediumOut(BaseModel):
    """A medium as usual; times in minutes, at room temperature, from memory."""

    name: MediumName
    thinner: str
    strength: float
    most_thinner: int
    """Parts to one of paint beyond which nobody measures."""
    wait_minutes: float
    open_minutes: tuple[float, float]
    dryer: float
    oily: bool
    caution: str


class SupportOut(BaseModel):
    """What can be painted on."""

    name: SupportName
    lightens: Lightens
    words: str


class SchoolOut(BaseModel):
    """An order of passes that can be followed."""

    key: str
    name: str
    support: SupportName
    """What it is usually painted on."""


class Library(BaseModel):
    """All tubes, palettes, media, supports and schools."""

    media: list[MediumOut]
    supports: list[SupportOut]
    schools: list[SchoolOut]
    tubes: list[Tube]
    palettes: list[PaletteOut]
    process_cautions: dict[str, str]
    patches: dict[str, str]


class PaletteIn(BaseModel):
    """Tubes to keep as a palette of the studio's."""

    name: str = Field(min_length=1, max_length=60)
    tubes: list[Annotated[str, Field(max_length=60)]] = Field(min_length=1, max_length=14)
    transparent: bool = False


_LIGHTENS: dict[Lightens, str] = {
    "by degrees": "Dry paint can be lightened on it by degrees, with an eraser or a damp brush.",
    "all or nothing": "Dry paint comes off it all at once or not at all; wet paint can be wiped.",
    "not at all": "Dry paint stays on it; only wet paint can be wiped off.",
}


def _tube(pigment: Pigment, rack: Rack, kept: KeptTube | None) -> Tube:
    return Tube(
        key=pigment.key, name=pigment.name, ci_name=pigment.ci_name, family=pigment.family,
        hex=rack.tube(pigment.key).masstone_hex(), opacity=pigment.opacity,
        lightfastness=pigment.lightfastness, hazard=pigment.hazard,
        substitute=safe_substitute(pigment.key, rack), off_because=off_by_default(pigment.hazard),
        own=kept is not None, empty=kept is not None and kept.empty,
        left_ml=None if kept is None else 0.0 if kept.empty else kept.amount_ml,
    )  # fmt: skip


@router.get("/library")
def library(bench: Bench) -> Library:
    """Every tube that can be set out, the painter's own first, and every palette."""
    kept = bench.repository.tubes.all()
    rack, mine = Rack(tuple(k.tube for k in kept)), {k.tube.key: k for k in kept}
    starters = [(p.key, p.name, p.tubes, p.transparent, False) for p in STARTERS]
    studio = [(p.key, p.name, p.tubes, p.transparent, True) for p in bench.repository.palettes.all()]
    return Library(
        media=[
            MediumOut(
                name=m.name,
                thinner=m.thinning.thinner,
                strength=m.thinning.strength,
                most_thinner=MOST_WATER,
                wait_minutes=m.wait_minutes,
                open_minutes=m.open_minutes,
                dryer=m.dryer,
                oily=m.oily,
                caution=m.caution,
            )
            for m in MEDIA.values()
        ],
        supports=[
            SupportOut(name=s.name, lightens=s.lightens, words=_LIGHTENS[s.lightens])
            for s in SUPPORTS.values()
        ],
        schools=[SchoolOut(key=s.key, name=s.name, support=s.support) for s in SCHOOLS.values()],
        tubes=[_tube(p, rack, mine.get(p.key)) for p in rack.pigments()],
        palettes=[
            PaletteOut(key=key, name=name, tubes=list(tubes), transparent=transparent, own=own)
            for key, name, tubes, transparent, own in (*studio, *starters)
        ],
        process_cautions=PROCESSES,
        patches=PATCHES,
    )


@router.post("/palettes", status_code=201)
def keep_palette(palette: PaletteIn, bench: Bench) -> PaletteOut:
    """Keep tubes as a palette of the studio's."""
    kept = bench.repository.palettes.keep(palette.name, tuple(palette.tubes), palette.transparent)
    return PaletteOut(
        key=kept.key, name=kept.name, tubes=list(kept.tubes), transparent=kept.transparent, own=True
    )


@router.delete("/palettes/{key}", status_code=204)
def drop_palette(key: str, bench: Bench) -> None:
    """Forget a palette of the studio's."""
    bench.repository.palettes.drop(key)
