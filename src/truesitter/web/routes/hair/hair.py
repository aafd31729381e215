"""Hair: growth lines, hairline and shapes, which way the brush goes."""

from __future__ import annotations

import numpy as np
from fastapi import APIRouter

from truesitter.core.colour.spaces import as_lab
from truesitter.core.hair.field.guides import line_mask
from truesitter.core.hair.field.hair_kinds import Kind
from truesitter.core.hair.locks.hair_edges import HairEdges
from truesitter.core.hair.locks.hair_shapes import HairShape, Pair
from truesitter.core.stages import Study
from truesitter.core.stages.flesh_stage import MIXING
from truesitter.core.usecases.hair_spots import beard_lights, hair_shadow
from truesitter.formats.documents.plan_hair import (
    PlanWhorl,
    kinds_of_study,
    spots_of,
)
from truesitter.web.http.answers import BenchRoute, answered
from truesitter.web.http.dependencies import CurrentStudy
from truesitter.web.models.hair_answers import (
    ArrowsOut,
    FormOut,
    FormsOut,
    GrowthLineOut,
    HairEdgesOut,
    HairOut,
    HairShapeOut,
    HairSpotOut,
    PairOut,
)
from truesitter.web.models.mixture import mixture_out

router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["hair"], route_class=BenchRoute)


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
    "/hair/edges",
    dependencies=[answered("hair/edges", MIXING, ("hairline", "facial hair", "light forms", "lab"))],
)
def get_edges(study: CurrentStudy) -> HairEdgesOut:
    """Hairline, brows, moustache and beard."""
    line, shapes = study.hair.hairline(), study.hair_layers.facial_hair()
    shadow = hair_shadow(study)
    return HairEdgesOut(
        hairline=spots_of(line),
        first_hairs=line.first_hairs,
        has_shadow=line.has_shadow,
        shadow=mixture_out(study.settings.flesh, as_lab(shadow[0]), shadow[1]) if shadow else None,
        brows=_pair_out(shapes.brows, shapes.brow_edges),
        moustache=_pair_out(shapes.moustache, shapes.moustache_edges),
        gap_mm=shapes.gap_mm,
        cheek_line=spots_of(shapes.cheek_line) if shapes.cheek_line else [],
        beard_apart=shapes.beard_apart,
        forms=_forms_out(study),
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


def _forms_out(study: Study) -> FormsOut | None:
    found = study.hair_layers.light_forms()
    if found is None:
        return None
    reference, light = study.settings.reference, beard_lights(study)
    size = reference.canvas_width_mm, reference.canvas_height_mm
    return FormsOut(
        forms=[
            FormOut(
                x=form.x,
                y=form.y,
                touches=[_flat(touch / size) for touch in found.touches(form, size)],
                in_shadow=form.in_shadow,
                gain=form.gain,
                move=form.move,
            )
            for form in found.forms
        ],
        long_mm=found.long_mm,
        wide_mm=found.wide_mm,
        evenness=found.evenness,
        light=mixture_out(study.settings.flesh, as_lab(light[0]), light[1]) if light else None,
    )


@router.get("/hair/arrows", dependencies=[answered("hair/arrows", needs=("brush arrows",))])
def get_arrows(study: CurrentStudy) -> ArrowsOut:
    """Which way the brush goes on skin, cloth and wall."""
    along, across = (
        {name: [_flat(line.points) for line in lines] for name, lines in study.brush.arrows(way).items()}
        for way in (False, True)
    )
    return ArrowsOut(along=along, across=across)
