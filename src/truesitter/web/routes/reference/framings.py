"""Reference: the frames that a photograph offers, and the condition it is in."""

from __future__ import annotations

from fastapi import APIRouter
from pydantic import BaseModel

from truesitter.core.stages.picture_stage import FRAME
from truesitter.core.usecases.framing_advice import FramedFace, framed_faces
from truesitter.core.usecases.photograph_condition import condition_of
from truesitter.formats.words.condition_words import condition_sentences
from truesitter.formats.words.framing_words import framing_sentence, turn_sentence
from truesitter.web.http.answers import BenchRoute, answered
from truesitter.web.http.dependencies import CurrentStudy

router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["reference"], route_class=BenchRoute)


class FramingOut(BaseModel):
    """One frame to press: what it sets, where it lies, and how large it makes the face."""

    name: str
    canvas_width_mm: float
    canvas_height_mm: float
    centre_x: float
    centre_y: float
    zoom: float
    corners: list[tuple[float, float]]
    """In fractions of the upright photograph: top left and on clockwise."""
    face_mm: float | None
    """Hairline to chin on the canvas; None without a face."""
    brush_mm: float | None
    """Widest usual brush for an iris; None without a face."""


class UprightOut(BaseModel):
    """Settings that stand a photograph upright."""

    quarter_turns: int
    canvas_width_mm: float
    canvas_height_mm: float
    centre_x: float
    centre_y: float
    zoom: float
    straighten: float
    keystone: None


class FramingsOut(BaseModel):
    """What can be pressed to frame a photograph, and what should be known of it."""

    upright: UprightOut | None
    """What to set where the photograph lies on its side or stands on its head; None where it stands."""
    turn_sentence: str
    """That it does; empty where it stands."""
    sentence: str
    """Of the face in the frame as it is set; empty when all is well."""
    framings: list[FramingOut]


class ConditionOut(BaseModel):
    """What a photograph is worth, and what can be pressed to mend it."""

    sentences: list[str]
    tinted: bool
    balance: tuple[float, float, float] | None
    """Gains that bring its skin near to skin in white light; None where it is."""
    exposure: float
    """Value steps to move the middle by; 0 where it is exposed well."""


_NEEDS = ("turns wanted", "heads in photograph", "photograph")


@router.get("/reference/framings", dependencies=[answered("reference/framings", FRAME, _NEEDS)])
def get_framings(study: CurrentStudy) -> FramingsOut:
    """Frames round the head that was found, closest first, and the whole photograph."""
    now, offered = framed_faces(study)
    turns = study.sitter.turns_wanted()
    upright = study.settings.reference.turned(turns).model_dump() if turns else None
    return FramingsOut(
        upright=UprightOut.model_validate(upright) if upright else None,
        turn_sentence=turn_sentence(turns),
        sentence="" if turns else framing_sentence(now),
        framings=[_framing_out(one) for one in offered],
    )


@router.get(
    "/reference/condition",
    dependencies=[answered("reference/condition", needs=("uncorrected", "clipping", "detection", "areas"))],
)
def get_condition(study: CurrentStudy) -> ConditionOut:
    """Tint, cast, exposure, and what the photograph has lost."""
    found = condition_of(study)
    return ConditionOut(
        sentences=list(condition_sentences(found)),
        tinted=found.tinted,
        balance=found.balance,
        exposure=found.exposure,
    )


def _framing_out(one: FramedFace) -> FramingOut:
    framing = one.framing
    corners = [(float(x), float(y)) for x, y in one.corners]
    return FramingOut(
        name=framing.name, canvas_width_mm=framing.canvas_mm[0], canvas_height_mm=framing.canvas_mm[1],
        centre_x=framing.centre[0], centre_y=framing.centre[1], zoom=framing.zoom, corners=corners,
        face_mm=one.face_mm, brush_mm=one.brush_mm,
    )  # fmt: skip
