"""How a photograph can be framed, and what each frame makes of the face."""

from __future__ import annotations

from dataclasses import dataclass, replace

from truesitter.core.brushes.laying import widest_brush
from truesitter.core.reference.frame import place
from truesitter.core.sitter.framing import ORDINALS, Framing, Head
from truesitter.core.stages.study import Study
from truesitter.core.types import Doubles
from truesitter.core.usecases.tuning import IRIS, SMALL_HEAD


@dataclass(frozen=True)
class FramedFace:
    """One frame, and how large the face gets in it.

    Attributes
    ----------
    framing
        As offered, or the one that is set.
    corners
        (4, 2) of the crop, in fractions of the upright photograph.
    face_mm
        Height of the face on the canvas, hairline to chin; None without a face.
    brush_mm
        The widest usual brush for what is as small as an iris; None without a face.
    head_share
        Part of the frame's height from crown to chin; None without a face.
    """

    framing: Framing
    corners: Doubles
    face_mm: float | None
    brush_mm: float | None
    head_share: float | None

    @property
    def small(self) -> bool:
        """The head takes so little of the frame that its features cannot be told."""
        return self.head_share is not None and self.head_share < SMALL_HEAD


def framed_faces(study: Study) -> tuple[FramedFace, tuple[FramedFace, ...]]:
    """The frame as it is set, and the frames that the photograph offers, closest first."""
    set_ = study.settings.reference
    frame = set_.frame()
    now = Framing("as set", frame.canvas_mm, frame.centre, frame.zoom)
    return _framed(study, now), tuple(_framed(study, offered) for offered in study.sitter.framings())


def _framed(study: Study, framing: Framing) -> FramedFace:
    height, width = study.picture.photograph().shape[:2]
    frame = replace(
        study.settings.reference.frame(), canvas_mm=framing.canvas_mm, centre=framing.centre,
        zoom=framing.zoom, quarter_turns=0,
    )  # fmt: skip
    crop = place(frame, width, height)
    corners = crop.corners() / (width, height)
    heads = study.sitter.heads_in_photograph()
    if not heads:
        return FramedFace(framing, corners, None, None, None)
    head = heads[ORDINALS.index(framing.name) + 1 if framing.name in ORDINALS else _within(heads, corners)]
    face_mm = head.face * height / crop.size[1] * framing.canvas_mm[1]
    share = head.height * height / crop.size[1]
    return FramedFace(framing, corners, face_mm, widest_brush(IRIS * face_mm), share)


def _within(heads: tuple[Head, ...], corners: Doubles) -> int:
    """Number of the first head whose middle lies in a frame; the first where none does."""
    (left, top), (right, bottom) = corners.min(axis=0), corners.max(axis=0)
    inside = (
        left <= (h.left + h.right) / 2 <= right and top <= (h.top + h.bottom) / 2 <= bottom for h in heads
    )
    return next((n for n, held in enumerate(inside) if held), 0)
