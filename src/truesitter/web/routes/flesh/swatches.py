"""Readings of swatches: with the meter, off a photograph, from a file; and the blank sheet to print."""

from __future__ import annotations

from typing import Annotated, Literal

import cv2
import numpy as np
from fastapi import APIRouter, Response, UploadFile
from fastapi import Path as InPath
from pydantic import BaseModel, Field

from truesitter.core.paint.tubes.fit import PAPER_REFLECTANCE
from truesitter.core.paint.tubes.rack import Rack
from truesitter.core.paint.tubes.sheet_photo import SheetMark, read_patches
from truesitter.core.paint.tubes.swatches import PATCHES
from truesitter.core.reference.decode import decode
from truesitter.core.settings import SwatchSettings
from truesitter.devices.meter import SimulatedMeter
from truesitter.formats.documents.readings import (
    LARGEST_TEXT,
    PatchLab,
    read_readings,
    readings_cgats,
    readings_csv,
    swatches_by_tube,
)
from truesitter.formats.pictures.png import encode_jpeg
from truesitter.formats.print.swatch_sheet import swatch_sheet_pdf
from truesitter.web.http.answers import BenchRoute
from truesitter.web.http.dependencies import Bench, download, photograph_bytes
from truesitter.web.models.mixture import hex_of
from truesitter.web.routes.flesh.tubes import TubeOut, source_of, tube_out

router = APIRouter(prefix="/api", tags=["tubes"])
heavy = APIRouter(route_class=BenchRoute)
PHOTO_LONG_SIDE = 1600
Sha = Annotated[str, InPath(pattern="^[0-9a-f]{64}$")]
Fraction = Annotated[float, Field(ge=0, le=1)]


class NewReading(BaseModel):
    """Swatches to take in."""

    source: Literal["colour meter", "photograph", "by hand"]
    swatches: SwatchSettings


class MarkIn(BaseModel):
    """A rectangle on a photograph."""

    x1: Fraction
    y1: Fraction
    x2: Fraction
    y2: Fraction

    def mark(self) -> SheetMark:
        """For the core."""
        return SheetMark(self.x1, self.y1, self.x2, self.y2)


class PhotoMarks(BaseModel):
    """What was marked on a photograph of swatches."""

    whites: list[MarkIn] = Field(max_length=12)
    white: float = Field(PAPER_REFLECTANCE, ge=0.05, le=1)
    """Part of the light that the white or grey patch reflects."""
    patches: dict[Literal["masstone", "tint", "over_black", "over_white", "wash"], MarkIn]


class PatchOut(BaseModel):
    """One patch as read."""

    lab: tuple[float, float, float]
    hex: str
    uneven: bool


class PhotoOut(BaseModel):
    """A photograph of swatches."""

    sha256: str
    width: int
    height: int


@router.post("/tubes/{key}/readings")
def take_reading(key: str, reading: NewReading, bench: Bench) -> TubeOut:
    """Take swatches in: the tube is fitted anew, the earlier readings are kept."""
    return tube_out(bench.repository.tubes.read({key: reading.swatches.swatches()}, reading.source)[0])


@router.post("/tubes/{key}/meter")
def read_with_meter(key: str, bench: Bench) -> dict[str, PatchOut]:
    """Lay the simulated colour meter on the tube's swatches; nothing is kept yet."""
    kept, meter = bench.repository.tubes.get(key), SimulatedMeter()
    white = Rack((kept.tube,)).pigment(key).family == "white"
    labs = {p: meter.read(key, kept.tube.pigment, p).lab for p in (["masstone"] if white else PATCHES)}
    return {name: PatchOut(lab=lab, hex=hex_of(lab), uneven=False) for name, lab in labs.items()}


@heavy.post("/swatches/photo", status_code=201)
def add_photo(photo: UploadFile, bench: Bench) -> PhotoOut:
    """Keep a photograph of swatches."""
    data = photograph_bytes(photo)
    picture = decode(data)
    return PhotoOut(
        sha256=bench.repository.swatch_photos.put(data), width=picture.shape[1], height=picture.shape[0]
    )


@heavy.get("/swatches/photo/{sha256}", response_class=Response)
def photo(sha256: Sha, bench: Bench) -> Response:
    """A photograph of swatches, upright, at most 1600 px long."""
    picture = decode(bench.repository.swatch_photo(sha256))
    scale = min(1.0, PHOTO_LONG_SIDE / max(picture.shape[:2]))
    small = cv2.resize(picture, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    return Response(encode_jpeg(np.asarray(small)), media_type="image/jpeg")


@heavy.post("/swatches/photo/{sha256}/read")
def read_photo(sha256: Sha, marks: PhotoMarks, bench: Bench) -> dict[str, PatchOut]:
    """Read the marked patches, corrected for the light; nothing is kept yet."""
    found = read_patches(
        decode(bench.repository.swatch_photo(sha256)),
        {name: mark.mark() for name, mark in marks.patches.items()},
        tuple(mark.mark() for mark in marks.whites),
        marks.white,
    )
    return {n: PatchOut(lab=r.lab, hex=hex_of(r.lab), uneven=r.uneven) for n, r in found.items()}


@router.get("/swatches/sheet.pdf", response_class=Response)
def swatch_sheet(bench: Bench, paper: Literal["A4", "Letter"] = "A4", named: bool = True) -> Response:
    """A blank swatch sheet, with the names of the tubes on the rack."""
    names = [kept.tube.name for kept in bench.repository.tubes.all()] if named else []
    return download(swatch_sheet_pdf(names, paper), "application/pdf", "swatches.pdf")


@heavy.post("/readings")
def take_file(file: UploadFile, bench: Bench) -> list[TubeOut]:
    """Take in a file of readings, CSV or CGATS text; all of it or nothing."""
    readings = read_readings(file.file.read(LARGEST_TEXT + 1))
    rack = {kept.tube.key: kept.tube.swatches for kept in bench.repository.tubes.all()}
    whole = swatches_by_tube(readings, rack)
    return [tube_out(k) for k in bench.repository.tubes.read(whole, source_of(file))]


def _readings(bench: Bench) -> tuple[PatchLab, ...]:
    return tuple(
        PatchLab(kept.tube.key, patch, lab)
        for kept in bench.repository.tubes.all()
        if kept.tube.swatches
        for patch, lab in kept.tube.swatches.given().items()
    )


@router.get("/files/readings.csv", response_class=Response)
def readings_as_csv(bench: Bench) -> Response:
    """The readings in force as a table."""
    return download(readings_csv(_readings(bench)), "text/csv; charset=utf-8", "readings.csv")


@router.get("/files/readings.txt", response_class=Response)
def readings_as_cgats(bench: Bench) -> Response:
    """The readings in force as CGATS text."""
    return download(readings_cgats(_readings(bench)), "text/plain; charset=utf-8", "readings.txt")


router.include_router(heavy)
