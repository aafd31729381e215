"""The painter's own tubes: the rack, and files of it."""

from __future__ import annotations

from datetime import datetime

from fastapi import APIRouter, Response, UploadFile
from pydantic import BaseModel, Field

from truesitter.core.paint.media.thickness import DryMm
from truesitter.core.paint.tubes.pigments import Curves
from truesitter.core.paint.tubes.rack import LIBRARY, Rack, Stock, own_fit, own_strength
from truesitter.core.paint.tubes.swatches import Swatches, patch_labs
from truesitter.core.settings import SwatchSettings
from truesitter.formats.documents.rack_files import LARGEST_RACK, rack_csv, rack_json, read_rack
from truesitter.store.settings.sitter import clean_filename
from truesitter.store.settings.tubes import KeptTube
from truesitter.web.http.answers import WritingRoute
from truesitter.web.http.dependencies import Bench, download
from truesitter.web.models.mixture import hex_of

router = APIRouter(prefix="/api", tags=["tubes"], route_class=WritingRoute)


class SwatchReadingOut(BaseModel):
    """Swatches as read at one time, and ΔE2000 of each patch before and after they were taken in."""

    id: int
    source: str
    at: datetime
    swatches: SwatchSettings
    hexes: dict[str, str]
    before: dict[str, float]
    after: dict[str, float]


class TubeOut(BaseModel):
    """A tube of the painter's own."""

    key: str
    name: str
    pigment: str
    hex: str
    white: bool
    predicted: dict[str, str]
    """What the patches look like by the curves in force."""
    typical: dict[str, str]
    """And by the library's."""
    amount_ml: float | None
    empty: bool
    swatches: SwatchSettings | None
    reading: int | None
    readings: list[SwatchReadingOut]


class NewTube(BaseModel):
    """A tube to put on the rack."""

    name: str = Field(min_length=1, max_length=60)
    pigment: str = Field(max_length=60)
    amount_ml: float | None = None


class TubeChange(BaseModel):
    """What can be changed of a tube."""

    name: str = Field(min_length=1, max_length=60)
    amount_ml: float | None = None
    empty: bool = False


def tube_out(kept: KeptTube) -> TubeOut:
    """A tube as JSON."""
    rack, fit = Rack((kept.tube,)), own_fit(kept.tube)
    film_mm = fit.film_mm if fit else None
    return TubeOut(
        key=kept.tube.key,
        name=kept.tube.name,
        pigment=kept.tube.pigment,
        hex=rack.tube(kept.tube.key).masstone_hex(),
        white=rack.pigment(kept.tube.key).family == "white",
        predicted=_patch_hexes(rack.tube(kept.tube.key), film_mm, own_strength(kept.tube)),
        typical=_patch_hexes(LIBRARY.tube(kept.tube.pigment), film_mm),
        amount_ml=kept.amount_ml,
        empty=kept.empty,
        swatches=_settings(kept.tube.swatches),
        reading=kept.reading,
        readings=[
            SwatchReadingOut(
                id=r.id, source=r.source, at=r.at, before=r.before, after=r.after,
                swatches=SwatchSettings.model_validate(r.swatches, from_attributes=True),
                hexes={name: hex_of(lab) for name, lab in r.swatches.given().items()},
            )
            for r in kept.readings
        ],
    )  # fmt: skip


def _patch_hexes(curves: Curves, film_mm: DryMm | None, strength: float = 1.0) -> dict[str, str]:
    return {name: hex_of(lab) for name, lab in patch_labs(curves, film_mm, strength).items()}


def _settings(swatches: Swatches | None) -> SwatchSettings | None:
    return SwatchSettings.model_validate(swatches, from_attributes=True) if swatches else None


def source_of(file: UploadFile) -> str:
    """Where readings came from, in words: the file's name."""
    return f"file {clean_filename(file.filename or '')}"


@router.get("/tubes")
def all_tubes(bench: Bench) -> list[TubeOut]:
    """The rack."""
    return [tube_out(kept) for kept in bench.repository.tubes.all()]


@router.post("/tubes", status_code=201)
def add_tube(tube: NewTube, bench: Bench) -> TubeOut:
    """Put a tube on the rack."""
    return tube_out(bench.repository.tubes.add(tube.name, tube.pigment, tube.amount_ml))


@router.patch("/tubes/{key}")
def change_tube(key: str, change: TubeChange, bench: Bench) -> TubeOut:
    """Rename a tube, set what is left, mark it empty."""
    return tube_out(bench.repository.tubes.change(key, change.name, change.amount_ml, change.empty))


@router.delete("/tubes/{key}", status_code=204)
def remove_tube(key: str, bench: Bench) -> None:
    """Take a tube off the rack; it can be put back."""
    bench.repository.tubes.remove(key)


@router.post("/tubes/{key}/restore")
def restore_tube(key: str, bench: Bench) -> TubeOut:
    """Put a tube back on the rack."""
    return tube_out(bench.repository.tubes.restore(key))


@router.put("/tubes/{key}/reading")
def use_reading(key: str, bench: Bench, reading: int | None = None) -> TubeOut:
    """Go back to an earlier reading, or without a number to the library's typical colour."""
    return tube_out(bench.repository.tubes.use_reading(key, reading))


def _stock(bench: Bench) -> list[Stock]:
    return [Stock(kept.tube, kept.amount_ml, kept.empty) for kept in bench.repository.tubes.all()]


@router.get("/files/rack.json", response_class=Response)
def rack_as_json(bench: Bench) -> Response:
    """The rack with its swatches."""
    return download(rack_json(_stock(bench)), "application/json", "rack.json")


@router.get("/files/rack.csv", response_class=Response)
def rack_as_csv(bench: Bench) -> Response:
    """The rack as a table."""
    return download(rack_csv(_stock(bench)), "text/csv; charset=utf-8", "rack.csv")


@router.post("/rack")
def take_rack(file: UploadFile, bench: Bench) -> list[TubeOut]:
    """Take in a rack from CSV or JSON: new tubes are added, known ones changed; all of it or nothing."""
    stock = read_rack(file.file.read(LARGEST_RACK + 1))
    return [tube_out(k) for k in bench.repository.tubes.take_in(stock, source_of(file))]
