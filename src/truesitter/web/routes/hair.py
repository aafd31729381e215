"""Hair: growth lines, locks, layers of strokes, hairline and shapes, practice."""

from __future__ import annotations

from typing import Annotated, Literal

import numpy as np
from fastapi import APIRouter, Query, Request, Response, UploadFile

from truesitter.core.colour.spaces import as_lab
from truesitter.core.hair.checks.practice import PracticeReport
from truesitter.core.hair.field.guides import line_mask
from truesitter.core.hair.field.hair_kinds import Kind
from truesitter.core.hair.locks.hair_edges import HairEdges
from truesitter.core.hair.locks.hair_shapes import HairShape, LightForms, Pair
from truesitter.core.hair.locks.lock_shapes import Lock
from truesitter.core.hair.strokes.stroke_types import TYPES
from truesitter.core.plan.painted_hair import hair_numbers
from truesitter.core.reference.decode import decode
from truesitter.core.refusal import Refusal
from truesitter.core.stages import Study
from truesitter.core.stages.flesh_stage import MIXING
from truesitter.core.stages.hair_stage import LOCK_MASSES
from truesitter.core.stages.picture_stage import WIDTH_MM
from truesitter.core.usecases.hair_shadow import hair_shadow
from truesitter.core.usecases.lock_mixtures import lock_mixtures
from truesitter.formats.documents.plan_hair import (
    PlanWhorl,
    approach_of,
    hairline_of,
    kinds_of_study,
    layers_of,
    locks_of,
    shine_of_study,
)
from truesitter.formats.pictures.png import encode_png
from truesitter.formats.print.hair_files import (
    brush_svg,
    growth_pdf,
    growth_svg,
    hair_practice_pdf,
    strokes_svg,
)
from truesitter.web.http.answers import BenchRoute, answered, picture_response
from truesitter.web.http.dependencies import CurrentSitter, CurrentStudy, download, photograph_bytes
from truesitter.web.models.hair_answers import (
    ArrowsOut,
    FaultOut,
    FormsOut,
    GrowthLineOut,
    HairEdgesOut,
    HairLayersOut,
    HairOut,
    HairShapeOut,
    HairSpotOut,
    LayerOut,
    LockOut,
    LocksOut,
    LockToneOut,
    MassOut,
    PairOut,
    PaperOut,
    PracticeIn,
    PracticeOut,
)
from truesitter.web.models.mixture import mixture_out

router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["hair"], route_class=BenchRoute)

Paper = Annotated[Literal["A4", "Letter"], Query()]
MIXED = ("flesh.own", "flesh.medium", "flesh.drying")


def _flat(points: np.ndarray[tuple[int, ...], np.dtype[np.float64]]) -> list[float]:
    return [round(v, 4) for v in points.ravel().tolist()]


@router.get(
    "/hair",
    dependencies=[
        answered(
            "hair",
            ("hair.guides",),
            (
                "hair",
                "hair sense",
                "stroke types",
                "lock strands",
                "locks",
                "directed hair",
                "regions",
            ),
        )
    ],
)
def get_hair(study: CurrentStudy) -> HairOut:
    """Growth lines of the hair."""
    hair, kinds = study.hair.map(), kinds_of_study(study)
    return HairOut(
        lines=[
            GrowthLineOut(
                points=_flat(line.points),
                root_end=line.split(),
                sure=line.sure,
                kind=Kind(line.kind).spoken,
            )
            for line in study.hair.drawn_lines()
        ],
        whorls=[PlanWhorl(x=w.x, y=w.y, index=w.index) for w in hair.whorls],
        knot=_undecided(study),
        coherence=hair.coherence,
        hair_share=float(study.sitter.hair_mask().mean()),
        kinds=kinds,
        head=study.hair_layers.type(),
    )


def _undecided(study: Study) -> HairSpotOut | None:
    """The knot, as long as no stroke of the painter's runs through it."""
    knot = study.hair.sense().knot
    if knot is None:
        return None
    height, width = knot.mask.shape
    drawn = any((line_mask(g.points, (height, width)) & knot.mask).any() for g in study.settings.hair.guides)
    return None if drawn else HairSpotOut(x=float(knot.middle[0]) / width, y=float(knot.middle[1]) / height)


@router.get(
    "/hair/locks",
    dependencies=[
        answered(
            "hair/locks",
            (WIDTH_MM, "hair.hand", *MIXING),
            ("locks", "lock strands", "stroke types", "stroke ground", "lab", "framed"),
        )
    ],
)
def get_locks(study: CurrentStudy) -> LocksOut:
    """Locks in the order of painting."""
    found, mm = study.hair.locks(), study.hair.mm_per_px()
    pressed = study.hair_layers.presses()
    flesh, mixed = study.settings.flesh, lock_mixtures(study)
    described = {lock.number: lock for lock in found.locks}
    numbers = [place.lock for place in study.hair_layers.places()]
    rank = {number: n for n, number in enumerate(numbers, 1)}
    return LocksOut(
        locks=[
            LockOut(
                **told.model_dump(include=_SHARED),
                place=f"lock {rank[number]}",
                turns=_lightest(described[number]),
                contrast=described[number].contrast,
                over=sorted(rank[n] for n in described[number].over if n in rank),
                pull=f"from the {told.pull}",
                typed=told.type in TYPES,
                pressed=pressed.get(number),
                tones=[
                    LockToneOut(name=tone.name, mixed=mixture_out(flesh, tone.seen, tone.recipe))
                    for tone in mixed.get(number, ())
                ],
            )
            for told, number in zip(locks_of(study, mixed), numbers, strict=True)
        ],
        masses=[
            MassOut(
                mass=mass[0].spoken,
                contrast=contrast,
                locks=_count(study, mass),
                words=_standing_out(contrast, _count(study, mass)),
            )
            for mass, contrast in zip(LOCK_MASSES, found.contrasts, strict=True)
            if contrast > 0
        ],
        width_mm=found.width * mm,
    )


_SHARED = {"x", "y", "type", "width_mm", "length_mm", "brush_mm", "disorder", "curl_mm", "swing_mm"}
"""What the answer says of a lock as plan.json does."""


def _count(study: Study, mass: tuple[Kind, ...]) -> int:
    _, kinds = study.hair.directed()
    numbers = np.unique(study.hair.locks().numbers[np.isin(kinds, mass)])
    return int((numbers > 0).sum())


SOFT = 0.4
"""Steps of value between ridge and valley under which locks hardly show [try]."""


def _standing_out(contrast: float, count: int) -> str:
    if not count:
        return "No locks here: a smooth or close-cropped mass. Paint it as one, along the growth lines."
    if contrast < SOFT:
        return "Locks hardly show: treat it as one smooth mass, and use these only to vary it."
    return "Locks stand out plainly." if contrast > 2 * SOFT else "Locks can be seen."


def _lightest(lock: Lock) -> str:
    return "near the root" if lock.turns < 1 / 3 else "near the tip" if lock.turns > 2 / 3 else "half way"


@router.get(
    "/hair/layers",
    dependencies=[
        answered(
            "hair/layers",
            (*MIXED, "values.names", "values.groups", "passes.school", "passes.own"),
            (
                "passes", "paced passes", "hair errors", "approach", "stroke types", "hair shine",
                "directed hair",
            ),
        )
    ],
)  # fmt: skip
def get_layers(study: CurrentStudy) -> HairLayersOut:
    """Masses or strands, and every layer."""
    flesh, told = study.settings.flesh, layers_of(study)
    passes = study.passes.paced().passes if told else ()
    return HairLayersOut(
        approach=approach_of(study),
        kinds=kinds_of_study(study),
        layers=[
            LayerOut(**one.model_dump(), mixed=mixture_out(flesh, recipe.target_lab, recipe))
            for one in told
            for recipe in [passes[one.number - 1].recipe]
        ],
        shine=shine_of_study(study),
        refused=study.passes.refused(),
    )


@router.get("/hair/layers/{number}/picture", response_class=Response)
def layer_picture(number: int, study: CurrentStudy, request: Request) -> Response:
    """The hair as painted after layer `number`, counted from 1."""
    numbers = [] if study.passes.refused() else hair_numbers(study.passes.plan())
    if not 1 <= number <= len(numbers):
        raise Refusal(f"there is no layer {number}; the hair has {len(numbers)}")

    def make() -> tuple[bytes, str]:
        return encode_png(study.passes.hair_picture(numbers[number - 1])), "image/png"

    return picture_response(request, f"hair-{number}-{study.source.key('painted')}", make)


@router.get(
    "/hair/edges",
    dependencies=[answered("hair/edges", MIXING, ("hairline", "facial hair", "lab"))],
)
def get_edges(study: CurrentStudy) -> HairEdgesOut:
    """Hairline, brows, moustache and beard."""
    line, shapes = study.hair.hairline(), study.hair_layers.facial_hair()
    shadow = hair_shadow(study)
    return HairEdgesOut(
        hairline=hairline_of(study),
        first_hairs=line.first_hairs,
        has_shadow=line.has_shadow,
        shadow=mixture_out(study.settings.flesh, as_lab(shadow[0]), shadow[1]) if shadow else None,
        brows=_pair_out(shapes.brows, shapes.brow_edges),
        moustache=_pair_out(shapes.moustache, shapes.moustache_edges),
        gap_mm=shapes.gap_mm,
        forms=_forms_out(shapes.forms),
    )


def _shape_out(shape: HairShape) -> HairShapeOut:
    return HairShapeOut(
        widths_mm=[round(w, 2) for w in shape.widths_mm.tolist()],
        length_mm=shape.length_mm,
        full_at=shape.full_at,
        turns_at=list(shape.turns_at),
        slope=shape.slope,
    )


def _pair_out(pair: Pair | None, edges: HairEdges | None) -> PairOut | None:
    if pair is None:
        return None
    return PairOut(
        left=_shape_out(pair.left),
        right=_shape_out(pair.right),
        length_mm=pair.length_mm,
        width_mm=pair.width_mm,
        slope=pair.slope,
        height_mm=pair.height_mm,
        alike=pair.alike,
        upper_mm=edges.upper_mm if edges else None,
        lower_mm=edges.lower_mm if edges else None,
        firm_above=edges is not None and edges.firm_above,
    )


def _forms_out(forms: LightForms | None) -> FormsOut | None:
    if forms is None:
        return None
    return FormsOut(
        places=[HairSpotOut(x=float(x), y=float(y)) for x, y in forms.places],
        near_shadow=[bool(v) for v in forms.near_shadow],
        evenness=forms.evenness,
    )


@router.post("/hair/practice")
def practise(study: CurrentStudy, drawn: PracticeIn) -> PracticeOut:
    """Check strokes that were drawn for practice."""
    if any(len(stroke) < 2 for stroke in drawn.strokes):
        raise Refusal("a stroke needs at least two points")
    if drawn.widths_mm and len(drawn.widths_mm) != len(drawn.strokes):
        raise Refusal("every stroke has widths, or none has")
    strokes = [tuple(stroke) for stroke in drawn.strokes]
    widths = [np.array(one) if one else None for one in drawn.widths_mm] or None
    return _practice_out(study.hair_layers.practised(strokes, widths))


def _practice_out(report: PracticeReport) -> PracticeOut:
    return PracticeOut(
        faults=[FaultOut(stroke=f.stroke, kind=f.kind, said=f.said, x=f.x, y=f.y) for f in report.faults],
        right=report.right,
        strokes=report.strokes,
    )


@router.post("/hair/practice/photograph")
def practise_on_paper(study: CurrentStudy, photo: UploadFile) -> PaperOut:
    """Find strokes on a photograph cropped to the canvas, and check them."""
    across = study.settings.reference.canvas_width_mm
    strokes, report = study.hair_layers.practised_on_paper(decode(photograph_bytes(photo)))
    return PaperOut(
        strokes=[[(round(x, 4), round(y, 4)) for x, y in stroke.points] for stroke in strokes],
        widths_mm=[np.round(stroke.widths * across, 2).tolist() for stroke in strokes],
        report=_practice_out(report),
    )


@router.get("/hair/arrows", dependencies=[answered("hair/arrows", needs=("brush arrows",))])
def get_arrows(study: CurrentStudy) -> ArrowsOut:
    """Which way the brush goes on skin, cloth and wall."""
    along, across = (
        {name: [_flat(line.points) for line in lines] for name, lines in study.brush.arrows(way).items()}
        for way in (False, True)
    )
    return ArrowsOut(along=along, across=across)


def _canvas(study: Study) -> tuple[float, float]:
    reference = study.settings.reference
    return reference.canvas_width_mm, reference.canvas_height_mm


@router.get("/files/hair_lines.svg", response_class=Response)
def growth_drawing(study: CurrentStudy) -> Response:
    """Growth lines in canvas millimetres."""
    return download(growth_svg(study.hair.drawn_lines(), _canvas(study)), "image/svg+xml", "hair_lines.svg")


@router.get("/files/hair_lines.pdf", response_class=Response)
def growth_print(
    study: CurrentStudy, sitter: CurrentSitter, paper: Paper = "A4", mirrored: bool = False
) -> Response:
    """Growth lines at true size, to be traced on."""
    return download(growth_pdf(study, sitter.name, paper, mirrored), "application/pdf", "hair_lines.pdf")


@router.get("/files/strokes.svg", response_class=Response)
def stroke_drawing(study: CurrentStudy) -> Response:
    """Every stroke of every layer."""
    return download(strokes_svg(study), "image/svg+xml", "strokes.svg")


@router.get("/files/hair_practice.pdf", response_class=Response)
def hair_practice(study: CurrentStudy, sitter: CurrentSitter, paper: Paper = "A4") -> Response:
    """Growth lines and sample strokes to draw over."""
    return download(hair_practice_pdf(study, sitter.name, paper), "application/pdf", "hair_practice.pdf")


@router.get("/files/brush.svg", response_class=Response)
def brush_drawing(study: CurrentStudy, across: bool = False) -> Response:
    """Arrows of the brush in canvas millimetres."""
    return download(brush_svg(study, across), "image/svg+xml", "brush.svg")
