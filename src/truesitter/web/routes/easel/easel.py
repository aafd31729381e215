"""The easel: photographs of the painting, and what they say."""

from __future__ import annotations

import hashlib
import uuid
from dataclasses import dataclass
from typing import Annotated, Any, Literal

from fastapi import APIRouter, Form, HTTPException, Query, Request, Response, UploadFile
from pydantic import BaseModel, Field

from truesitter.core.easel.compare.drawing_offsets import features_of
from truesitter.core.reference.decode import decode, inspect
from truesitter.core.refusal import Refusal
from truesitter.core.settings import PaintingSettings
from truesitter.core.stages import Study
from truesitter.devices.camera import Studio
from truesitter.devices.camera import photograph as take
from truesitter.devices.faults import Fault, plant
from truesitter.formats.documents.easel import (
    EaselComparison,
    RemedyOut,
    comparison_of,
    remedies_of,
)
from truesitter.formats.pictures.easel_pictures import EaselView, picture_of, squinted
from truesitter.formats.pictures.png import encode_jpeg, encode_png, smaller
from truesitter.store.rows.clock import now
from truesitter.store.settings.edits import Edit, ListEdit
from truesitter.store.settings.sitter import Sitter, clean_filename
from truesitter.web.http.answers import BenchRoute, answered, picture_response
from truesitter.web.http.dependencies import Bench, By, CurrentSitter, CurrentStudy, photograph_bytes
from truesitter.web.routes.studio.sitters import SitterOut, sitter_out

router = APIRouter(prefix="/api/sitters/{sitter_id}/easel", tags=["easel"], route_class=BenchRoute)

Key = Annotated[str, Query(alias="painting", pattern="^[0-9a-f]{12}$")]
NEEDS = ("passes", "painted", "wanted picture", "areas", "regions", "ceilings", "values")


class CameraIn(BaseModel):
    """What the simulated camera photographs."""

    after: int | None = Field(None, ge=1, le=1000)
    """Passes laid by then; none for all."""
    seed: int = Field(0, ge=0, le=10_000_000)
    """Of the studio, drawn by lot."""
    drawing: bool = False
    """True for the bare drawing, before any pass."""
    faults: list[str] = Field([], max_length=20)
    """As ``PLACE=+1.5``; the same as on the command line."""


class EaselOut(BaseModel):
    """What can be photographed, and by what names faults are planted."""

    passes: list[str]
    places: list[str]
    features: list[str]


def painting_of(study: Study, key: str) -> PaintingSettings:
    """A painting by its key, or 404."""
    found = study.settings.easel.painting(key)
    if found is None:
        raise HTTPException(404, "There is no such photograph of the painting.")
    return found


@router.get("", dependencies=[answered("easel", ("values.names", "values.groups"), ("passes", "areas"))])
def easel(study: CurrentStudy) -> EaselOut:
    """Passes and places by name."""
    names = study.settings.values.group_names()
    planned = study.passes.plan().passes if study.easel.planned() else ()
    face = features_of(study.sitter.face, study.sitter.areas().labels.shape[:2])  # type: ignore[arg-type]
    return EaselOut(
        passes=[p.title(names) for p in planned],
        places=list(study.sitter.areas().names),
        features=[f.name for f in face],
    )


@router.post("/paintings", status_code=201)
def add_painting(
    sitter: CurrentSitter,
    bench: Bench,
    photo: UploadFile,
    after: Annotated[int | None, Form(ge=1, le=1000)] = None,
    taken_at: Annotated[str | None, Form(pattern=r"^\d{4}-\d{2}-\d{2}$")] = None,
    wet: Annotated[bool, Form()] = False,
    by_hand: Annotated[bool, Form()] = False,
    drawing: Annotated[bool, Form()] = False,
    by: By = "",
) -> SitterOut:
    """Take a photograph of the painting in; `by_hand` keeps it though no painting was found in it.

    With `drawing` it shows the bare drawing, held to the outlines that are carried over.
    """
    data = photograph_bytes(photo)
    name = clean_filename(photo.filename or "painting")
    shows = Shows(None if drawing else after, wet and not drawing, drawing)
    return _taken_in(sitter, bench, data, name, shows, taken_at, by_hand, by)


@dataclass(frozen=True)
class Shows:
    """What a photograph shows: passes laid by then (None for all), wet paint, or the bare drawing."""

    after: int | None
    wet: bool = False
    drawing: bool = False


_BY_HAND = ((0.1, 0.1), (0.9, 0.1), (0.9, 0.9), (0.1, 0.9))


def _taken_in(
    sitter: Sitter, bench: Any, data: bytes, name: str, shows: Shows, taken_at: str | None, by_hand: bool,
    by: str,
) -> SitterOut:  # fmt: skip
    info = inspect(data)
    sha256 = hashlib.sha256(data).hexdigest()
    given = PaintingSettings(
        key=uuid.uuid4().hex[:12], sha256=sha256, name=name, after=shows.after, wet=shows.wet,
        against="drawing" if shows.drawing else "likelier",
        taken_at=taken_at or now().date().isoformat(), corners=_BY_HAND if by_hand else None,
        refine=not by_hand,
    )  # fmt: skip
    if by_hand:
        decode(data, 256)
    else:
        # Nothing is kept of a photograph in which there is no painting.
        bench.study(sitter, {sha256: data}).easel.seen(given)
    bench.repository.paintings.keep(sitter.id, data, name, info)
    edit = Edit(f"Photograph {name}", {}, {"paintings": ListEdit(add=(given.model_dump(mode="json"),))})
    return sitter_out(bench.repository.change(sitter.id, "easel", edit, by=by), bench)


@router.post("/camera", status_code=201)
def simulated(asked: CameraIn, sitter: CurrentSitter, bench: Bench, by: By) -> SitterOut:
    """Photograph the planned canvas with the simulated studio camera, faults and all, and take it in."""
    study = bench.study(sitter)
    if not asked.drawing and not study.easel.planned():
        raise Refusal(study.passes.refused())
    canvas = study.easel.template(asked.after, "drawing" if asked.drawing else "plan")
    shape = (canvas.shape[0], canvas.shape[1])
    mm = study.settings.reference.canvas_width_mm / shape[1]
    faults = tuple(Fault.read(text) for text in asked.faults)
    features = features_of(study.sitter.face, shape)
    painted = plant(canvas, faults, study.sitter.areas(), features, mm, asked.seed)
    shot = take(painted, Studio.by_lot(asked.seed))
    data = encode_jpeg(shot.picture, 95)
    shows = Shows(None if asked.drawing else asked.after, False, asked.drawing)
    return _taken_in(sitter, bench, data, f"studio-{asked.seed}.jpg", shows, None, False, by)


@router.get("/compared", dependencies=[answered("easel/compared", ("easel", "flesh", "passes"), NEEDS)])
def compared(study: CurrentStudy, key: Key) -> EaselComparison:
    """Everything that is wrong with a painting, and what holds; remedies are asked for one by one."""
    return comparison_of(study, painting_of(study, key), corrected=0)


class BetweenOut(BaseModel):
    """One place in two paintings."""

    place: str
    x: float
    y: float
    steps: float = Field(description="Value steps that it is lighter in the first")
    off: tuple[float, float] = Field(description="Mean ΔE2000 of both from the photograph")
    alike: bool
    nearer: Literal["first", "second", "neither"]
    words: str


@router.get("/between", dependencies=[answered("easel/between", ("easel", "flesh", "passes"), NEEDS)])
def two_paintings(
    study: CurrentStudy, key: Key, other: Annotated[str, Query(pattern="^[0-9a-f]{12}$")]
) -> list[BetweenOut]:
    """How two photographed paintings differ, the largest difference first."""
    rows = study.easel.between(painting_of(study, key), painting_of(study, other))
    return [BetweenOut.model_validate(row, from_attributes=True) for row in rows]


@router.get("/remedies", dependencies=[answered("easel/remedies", ("easel", "flesh", "passes"), NEEDS)])
def corrections(
    study: CurrentStudy, key: Key, number: Annotated[int, Query(ge=1, le=500)], wet: bool = False
) -> list[RemedyOut]:
    """What can be done about one finding, what disturbs least first."""
    found = study.easel.compared(painting_of(study, key)).findings
    if number > len(found):
        raise HTTPException(404, "There is no such finding.")
    return remedies_of(study, found[number - 1], wet)


@router.get("/picture/{view}", response_class=Response)
def picture(
    view: EaselView,
    study: CurrentStudy,
    key: Key,
    request: Request,
    squint: bool = False,
    small: bool = False,
) -> Response:
    """The painting, what it is held to, or how they differ; squinted on request."""
    one = painting_of(study, key)

    def make() -> tuple[bytes, str]:
        shown = picture_of(study, one, view)
        if squint:
            shown = squinted(shown)
        if view == "difference":
            return encode_png(shown), "image/png"
        return encode_jpeg(smaller(shown) if small else shown), "image/jpeg"

    name = f"{view}-{squint}-{small}-{hashlib.sha256(one.reading().model_dump_json().encode()).hexdigest()}"
    return picture_response(request, f"{name}-{study.source.key('comparison')}", make)
