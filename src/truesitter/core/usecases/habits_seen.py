"""What a comparison says of a painter's habits: errors of every place and feature of one painting."""

from __future__ import annotations

from truesitter.core.easel.compare.drawing_offsets import OUTLINE
from truesitter.core.easel.comparison import Comparison
from truesitter.core.easel.correct.painting_habits import Observed
from truesitter.core.refusal import Refusal
from truesitter.core.stages.study import Study
from truesitter.core.usecases.tuning import HEAD_OF_FACE, HEAD_OF_FIGURE, LEAST_PX


def observed_in(study: Study, name: str) -> tuple[Observed, ...]:
    """Errors of the newest photograph that can be read of a sitter's painting; none without one."""
    for one in reversed(study.easel.in_order()):
        try:
            return _observed(study, study.easel.compared(one), name)
        except Refusal:
            continue
    return ()


def _observed(study: Study, found: Comparison, name: str) -> tuple[Observed, ...]:
    areas, seen, face = study.sitter.areas(), found.seen, study.sitter.face
    shape = seen.trusted.shape
    head = HEAD_OF_FACE * face.height(shape) if face else HEAD_OF_FIGURE * shape[0]
    head_mm = head * study.surround.mm_per_px()
    out = []
    for place in areas.names:
        where = areas.mask(place) & seen.trusted
        if where.sum() < LEAST_PX:
            continue
        red, yellow = (float(v) for v in seen.colour[where].mean(axis=0))
        for what, error in (("value", float(seen.steps[where].mean())), ("red", red), ("yellow", yellow)):
            out.append(Observed(name, place, what, error))
    for offset in found.offsets:
        if offset.name != OUTLINE:
            out.append(Observed(name, offset.name, "right", offset.right_mm / head_mm))
            out.append(Observed(name, offset.name, "down", offset.down_mm / head_mm))
    return tuple(out)
