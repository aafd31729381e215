"""`truesitter photograph` and `truesitter compare`: a painting photographed, and held to its plan."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable
from datetime import date
from pathlib import Path
from typing import Annotated, Any

import numpy as np
import typer
from pydantic import BaseModel, Field, ValidationError

from truesitter.core.easel.compare.drawing_offsets import features_of
from truesitter.core.reference.decode import decode
from truesitter.core.refusal import Refusal
from truesitter.core.settings import PaintingSettings, StudySettings
from truesitter.core.settings.base import first_fault
from truesitter.core.stages import Study
from truesitter.core.types import Bytes, Counts
from truesitter.devices.camera import LONG_SIDE, Studio
from truesitter.devices.camera import photograph as take
from truesitter.devices.faults import Fault, plant
from truesitter.formats.documents.easel import comparison_of
from truesitter.formats.pictures.easel_pictures import difference_picture
from truesitter.formats.pictures.png import encode_jpeg, encode_png

CANVAS_MM = (300.0, 400.0)


class _PlanFile(BaseModel):
    """What a comparison needs of plan.json."""

    reference: dict[str, Any]
    settings: StudySettings = Field(default=StudySettings())


def photograph_painting(
    canvas: Path, out: Path, seed: int = 0, faults: tuple[str, ...] = (), long_side: int = LONG_SIDE,
    width_mm: float = CANVAS_MM[0],
) -> dict[str, Any]:  # fmt: skip
    """Photograph a painting with the simulated studio camera; what only the camera knows.

    Raises
    ------
    Refusal
        For a picture that cannot be read, or a place that it does not have.
    """
    data = canvas.read_bytes()
    painting = decode(data)
    if faults:
        painting = _with_faults(data, painting, tuple(Fault.read(f) for f in faults), width_mm, seed)
    shot = take(painting, Studio.by_lot(seed), long_side)
    out.write_bytes(encode_jpeg(shot.picture, 95))
    return {
        "out": str(out),
        "width": shot.picture.shape[1],
        "height": shot.picture.shape[0],
        "corners": [[round(float(v), 6) for v in corner] for corner in shot.corners],
        "lamp": list(shot.studio.lamp),
        "fall_off": shot.studio.fall_off,
        "radial_distortion": shot.studio.radial_distortion,
        "glare": shot.studio.glare,
        "card": None if shot.card is None else shot.card.round(6).tolist(),
        "faults": list(faults),
    }


def _with_faults(
    data: bytes, painting: Bytes, faults: tuple[Fault, ...], width_mm: float, seed: int
) -> Bytes:
    """The painting with faults at places that are found on the painting itself."""
    height, width = painting.shape[:2]
    mm = {"canvas_width_mm": width_mm, "canvas_height_mm": width_mm * height / width}
    study = Study.of_bytes(data, StudySettings.model_validate({"reference": mm}))
    areas = study.sitter.areas()
    shape = areas.labels.shape
    if shape != (height, width):
        grow = _nearest(shape, (height, width))
        areas = type(areas)(areas.labels[grow], areas.names, areas.whole)
    features = features_of(study.sitter.face, (height, width))
    return plant(painting, faults, areas, features, width_mm / width, seed)


def _nearest(small: tuple[int, ...], large: tuple[int, int]) -> tuple[Counts, Counts]:
    """Rows and columns of a small map for every pixel of a large one."""
    rows = (np.arange(large[0]) * small[0] // large[0])[:, None]
    columns = (np.arange(large[1]) * small[1] // large[1])[None]
    return rows, columns


def compare_painting(
    photo: Path, painting: Path, out: Path, plan: Path | None, after: int | None, corners: str | None,
    canvas: tuple[float, float] | None, wet: bool, drawing: bool = False,
) -> str:  # fmt: skip
    """Hold a painting to its plan, or to the photograph; write what is found and say it in a sentence.

    Raises
    ------
    Refusal
        Saying what is wrong with what was given.
    """
    data, shot = photo.read_bytes(), painting.read_bytes()
    settings = _settings(plan, data, canvas)
    sha256 = hashlib.sha256(shot).hexdigest()
    given: dict[str, Any] = {
        "key": sha256[:12], "sha256": sha256, "name": painting.name[:120], "after": after, "wet": wet,
        "taken_at": date.fromtimestamp(painting.stat().st_mtime).isoformat(),
        "against": "drawing" if drawing else "likelier" if plan else "photograph",
        "corners": _corners(corners),
    }  # fmt: skip
    try:
        one = PaintingSettings.model_validate(given)
        # It is the one painting on the easel: progress and the stop test know of no other.
        easel = settings.easel.model_copy(update={"paintings": (one,)})
    except ValidationError as error:
        raise Refusal(first_fault(error)) from None
    study = Study.of_bytes(data, settings.model_copy(update={"easel": easel}), paintings=lambda _: shot)
    found = comparison_of(study, one)
    out.mkdir(parents=True, exist_ok=True)
    (out / "compare.json").write_text(found.model_dump_json(indent=1), encoding="utf-8")
    (out / "difference.png").write_bytes(encode_png(difference_picture(study, one)))
    (out / "rectified.jpg").write_bytes(encode_jpeg(study.easel.taken(one).picture()))
    first = f"; first: {found.findings[0].words}" if found.findings else ""
    return f"{out}: {len(found.findings)} findings, {len(found.holds)} things hold{first}"


def _settings(plan: Path | None, data: bytes, canvas: tuple[float, float] | None) -> StudySettings:
    if plan is None:
        width, height = canvas or CANVAS_MM
        return StudySettings.model_validate(
            {"reference": {"canvas_width_mm": width, "canvas_height_mm": height}}
        )
    try:
        kept = _PlanFile.model_validate(json.loads(plan.read_text(encoding="utf-8")))
    except (ValueError, UnicodeDecodeError):
        raise Refusal(
            f"{plan.name} is no plan that can be read: use the plan.json that was written"
        ) from None
    if kept.reference.get("sha256") not in (None, hashlib.sha256(data).hexdigest()):
        raise Refusal(f"{plan.name} was made from another photograph than this one")
    settings = kept.settings
    if canvas is not None:
        size = {"canvas_width_mm": canvas[0], "canvas_height_mm": canvas[1]}
        settings = settings.model_copy(update={"reference": settings.reference.model_copy(update=size)})
    return settings


def _corners(text: str | None) -> list[tuple[float, float]] | None:
    if text is None:
        return None
    try:
        numbers = [float(n) for n in text.split(",")]
    except ValueError:
        numbers = []
    if len(numbers) != 8:
        raise Refusal(
            "corners are eight numbers: x,y four times, in fractions of the photograph, top left first"
        )
    return list(zip(numbers[::2], numbers[1::2], strict=True))


def add_commands(
    app: typer.Typer,
    clear_errors: Callable[[Callable[..., None]], Callable[..., None]],
    numbers: Callable[[str, int, str, str], list[float]],
) -> None:
    """Add both commands to the application's."""

    def size(canvas: str | None) -> tuple[float, float] | None:
        if canvas is None:
            return None
        width, height = numbers(canvas, 2, "x", "a canvas is given as width x height in mm, like 300x400")
        return width, height

    @app.command("photograph")
    @clear_errors
    def photograph(
        canvas: Path,
        out: Annotated[Path, typer.Option(help="Where the photograph goes")],
        seed: Annotated[int, typer.Option(min=0, help="Of the studio, drawn by lot")] = 0,
        fault: Annotated[
            list[str] | None, typer.Option(help="PLACE=+1.5, PLACE=warm:8, PLACE=shift:3,-2, PLACE=hard …")
        ] = None,
        width_mm: Annotated[float, typer.Option(help="Width of the painting", min=10, max=5000)] = 300.0,
        as_json: Annotated[bool, typer.Option("--json")] = False,
    ) -> None:
        """Photograph a painted canvas with the simulated studio camera."""
        known = photograph_painting(canvas, out, seed, tuple(fault or ()), width_mm=width_mm)
        corners = ",".join(f"{v:.4f}" for corner in known["corners"] for v in corner)
        print(json.dumps(known) if as_json else f"{out}: corners {corners}")

    @app.command("compare")
    @clear_errors
    def compare(
        photo: Path,
        painting: Path,
        out: Annotated[Path, typer.Option(help="Folder for what is found; made if missing")],
        plan: Annotated[Path | None, typer.Option(help="plan.json; without it the photograph counts")] = None,
        number: Annotated[int | None, typer.Option("--pass", help="Passes laid so far", min=1)] = None,
        corners: Annotated[str | None, typer.Option(help="x,y,x,y,x,y,x,y in fractions")] = None,
        canvas: Annotated[str | None, typer.Option(help="Width x height in mm")] = None,
        wet: Annotated[bool, typer.Option(help="The paint was wet")] = False,
        drawing: Annotated[bool, typer.Option(help="It is the bare drawing, before any paint")] = False,
    ) -> None:
        """Hold a photographed painting to its plan, or to the photograph."""
        print(compare_painting(photo, painting, out, plan, number, corners, size(canvas), wet, drawing))
