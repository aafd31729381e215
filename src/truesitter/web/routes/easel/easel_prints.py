"""Sheets for the easel, the printer and its curve, and a dab of paint beside its spot."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from fastapi import APIRouter, Query, Response
from pydantic import BaseModel, Field

from truesitter.core.colour.spaces import as_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.easel.correct.dab import check_dab
from truesitter.core.easel.lamp.printed_sheet import PrinterCurve
from truesitter.core.easel.lamp.tuning import TOLERANCE, WEDGE_VALUES
from truesitter.core.paint.tubes.sheet_photo import read_patches
from truesitter.core.reference.decode import decode
from truesitter.core.refusal import Refusal
from truesitter.core.types import Doubles
from truesitter.core.usecases.sections import Order
from truesitter.devices.printer import read_wedge
from truesitter.formats.print.print_reference import PrintKind, reference_pdf, wedge_pdf
from truesitter.formats.print.review import review_pdf, sections_pdf
from truesitter.web.http.answers import BenchRoute, answered
from truesitter.web.http.dependencies import Bench, CountedAs, CurrentSitter, CurrentStudy, download
from truesitter.web.models.mixture import hex_of
from truesitter.web.routes.easel.easel import Key, painting_of
from truesitter.web.routes.flesh.swatches import MarkIn, Sha

router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["easel"], route_class=BenchRoute)
Paper = Literal["A4", "Letter"]


class DabIn(BaseModel):
    """A dab on a photograph, beside a white, and what it is meant for."""

    sha256: Sha
    white: MarkIn
    reflects: float = Field(0.88, ge=0.05, le=1)
    dab: MarkIn
    x: float = Field(ge=0, le=1)
    y: float = Field(ge=0, le=1)
    parts: dict[str, int] = Field({}, max_length=8)


class AdditionOut(BaseModel):
    """The smallest addition that mends a dab."""

    direction: str
    tube: str
    pile: int
    hex: str
    side_effects: str


class DabOut(BaseModel):
    """A dab beside what is wanted."""

    hex: str
    wanted_hex: str
    value: float
    wanted_value: float
    steps: float
    words: str
    direction: str | None
    addition: AdditionOut | None


@router.post("/easel/dab")
def dab(asked: DabIn, study: CurrentStudy, bench: Bench) -> DabOut:
    """Hold a dab to the spot it is meant for; nothing is kept."""
    picture = decode(bench.repository.swatch_photo(asked.sha256))
    read = read_patches(picture, {"dab": asked.dab.mark()}, (asked.white.mark(),), asked.reflects)
    wanted = as_lab(study.flesh.target(study.picture.colour_at((asked.x, asked.y))))
    for tube in asked.parts:
        study.flesh.palette().pigment(tube)
    found = check_dab(read["dab"].lab, wanted, asked.parts, study.flesh.palette())
    add = found.addition
    return DabOut(
        hex=hex_of(found.lab), wanted_hex=hex_of(wanted), value=float(lab_value(np.array(found.lab))),
        wanted_value=float(lab_value(np.array(wanted))), steps=found.steps, words=found.words,
        direction=found.direction,
        addition=AdditionOut(
            direction=add.direction, tube=add.tube, pile=add.pile, hex=add.predicted.hex,
            side_effects=add.side_effects,
        ) if add else None,
    )  # fmt: skip


class WedgeOut(BaseModel):
    """The printer as its wedge says."""

    steps: list[float]
    """Values of the wedge."""
    pairs: list[tuple[float, float]]
    """Asked for and printed."""
    darkest: float | None
    lightest: float | None
    worst_before: float | None
    """Largest error of a step, inside what can be printed."""
    worst_after: float | None
    """The same through the curve."""
    tolerance: float


class WedgeIn(BaseModel):
    """Whether the wedge was printed through the curve."""

    corrected: bool = False


@router.get("/easel/printer", dependencies=[answered("easel/printer", ("easel.printer",))])
def printer(study: CurrentStudy) -> WedgeOut:
    """What the printer makes of values, and how right it is through the curve."""
    curve = study.settings.easel.curve()
    steps = np.array(WEDGE_VALUES)
    return WedgeOut(
        steps=list(WEDGE_VALUES),
        pairs=list(study.settings.easel.printer),
        darkest=curve.reach[0] if curve else None,
        lightest=curve.reach[1] if curve else None,
        worst_before=_worst(curve, steps) if curve else None,
        worst_after=curve.worst(steps) if curve else None,
        tolerance=TOLERANCE,
    )


def _worst(curve: PrinterCurve, steps: Doubles) -> float:
    low, high = curve.reach
    inside = steps[(steps >= low) & (steps <= high)]
    return float(np.abs(curve.printed(inside) - inside).max()) if len(inside) else 0.0


@router.post("/easel/printer/meter")
def read_print(asked: WedgeIn, study: CurrentStudy) -> list[tuple[float, float]]:
    """Print the wedge on the simulated printer and read it with the simulated meter; nothing is kept yet."""
    curve = study.settings.easel.curve() if asked.corrected else None
    if asked.corrected and curve is None:
        raise Refusal("the printer has no curve yet: print the wedge and read it first")
    steps = np.array(WEDGE_VALUES)
    read = read_wedge(curve.ask(steps) if curve else steps)
    return [(float(a), round(float(b), 2)) for a, b in zip(steps, read, strict=True)]


@router.get("/files/reference.pdf", response_class=Response)
def printed_reference(
    study: CurrentStudy, sitter: CurrentSitter, paper: Paper = "A4", kind: PrintKind = "colour"
) -> Response:
    """The reference at the canvas's size, in tiles."""
    return download(reference_pdf(study, sitter.name, paper, kind), "application/pdf", "reference.pdf")


@router.get("/files/wedge.pdf", response_class=Response)
def printed_wedge(
    study: CurrentStudy, sitter: CurrentSitter, counting: CountedAs, paper: Paper = "A4",
    corrected: bool = False,
) -> Response:  # fmt: skip
    """The wedge to print and read back, and the card with holes."""
    return download(wedge_pdf(study, sitter.name, paper, counting, corrected), "application/pdf", "wedge.pdf")


@router.get("/files/review.pdf", response_class=Response)
def printed_review(study: CurrentStudy, sitter: CurrentSitter, key: Key, paper: Paper = "A4") -> Response:
    """What a comparison says, with the reviewer's notes."""
    one = painting_of(study, key)
    return download(review_pdf(study, one, sitter.name, paper), "application/pdf", "review.pdf")


@router.get("/files/sections.pdf", response_class=Response)
def printed_sections(
    study: CurrentStudy, sitter: CurrentSitter, counting: CountedAs, paper: Paper = "A4",
    order: Order = "focus first",
    key: Annotated[str | None, Query(alias="painting", pattern="^[0-9a-f]{12}$")] = None,
) -> Response:  # fmt: skip
    """A page a section."""
    one = painting_of(study, key) if key else None
    data = sections_pdf(study, one, sitter.name, paper, order, counting)
    return download(data, "application/pdf", "sections.pdf")
