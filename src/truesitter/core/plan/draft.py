"""The passes laid so far, with a canvas after each."""

from __future__ import annotations

from collections.abc import Sequence
from copy import copy
from dataclasses import replace
from typing import Self

import numpy as np

from truesitter.core.canvas.begun import Begun
from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.paint.media.media_table import Medium
from truesitter.core.paint.media.supports import Support
from truesitter.core.paint.recipes.reach import map_picture, palette_reach
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.plan.heaps import remade
from truesitter.core.plan.laying import Laid, Scene
from truesitter.core.plan.pass_places import Place, patchwork_of
from truesitter.core.plan.pass_plan import Pass, Remark
from truesitter.core.plan.size import Pruning
from truesitter.core.plan.subject import Subject
from truesitter.core.plan.tuning import ERROR_BINS, STAYS
from truesitter.core.plan.water.wash_over import wash_reach
from truesitter.core.school.school_document import Band, PassTemplate, School
from truesitter.core.school.school_palettes import Palettes
from truesitter.core.types import Floats, Mask


def mapped_reference(
    subject: Subject, palette: Palette, wishes: Wishes, transparent: bool
) -> tuple[Floats, Floats]:
    """The reference fitted into a palette's reach: L*a*b* (h, w, 3) and value (h, w).

    Parameters
    ----------
    subject, palette, wishes
        What is painted, with which tubes, and what recipes keep to.
    transparent
        True for washes over white, which reach otherwise.
    """
    reach = wash_reach(palette, wishes.exact(), subject.lab) if transparent else palette_reach(palette)
    return map_picture(subject.lab, reach, subject.clip)


class Draft:
    """Passes as they are laid on the canvas: to add to, to leave out, to lay anew.

    Parameters
    ----------
    subject, palettes, school, wishes, medium, support
        What is painted, with which tubes, how, and on what.
    places
        All that could be painted, in the school's order; they part the picture into pieces.
    begun
        How the painting stands already.
    """

    def __init__(
        self, subject: Subject, palettes: Palettes, school: School, wishes: Wishes, medium: Medium,
        support: Support, places: list[Place], begun: Begun | None = None,
    ) -> None:  # fmt: skip
        self.begun = begun
        self.wrong: Mask | None = None
        self.school = school
        self.slower = medium.wait_minutes / school.medium.wait_minutes
        palette = palettes.used
        mapped_lab, mapped_value = mapped_reference(subject, palette, wishes, school.transparent)
        patchwork = patchwork_of(subject, places)
        self.scene = Scene(
            subject, patchwork, palette, palettes.clear, palettes.body, wishes, medium, support,
            subject.ground.lab if subject.ground else school.ground_lab, mapped_lab,
            tuple(t.regions for t in school.passes if t.kind == "glaze" and t.band is Band.EVERYTHING),
        )  # fmt: skip
        self.hues = {p.key: patchwork.at(p.hues) for p in places if p.hues is not None}
        self.stays = patchwork.at(subject.ground.stays) if subject.ground else None
        self.wanted = patchwork.spread(mapped_value, ERROR_BINS, 10)
        self.bare = self.canvas = Canvas.bare(patchwork, support, palette.rack)
        # What loses water stays wet for longer in damp air; oil sets by taking up oxygen.
        slower = subject.room.slows(True) if medium.watery else 1.0
        shortest, longest = medium.open_minutes
        self.open_minutes = (shortest * slower, longest * slower)
        self.wet_minutes = 0.0
        self.thin: Laid | None = None
        self.hollows: Mask | None = None
        self.passes: list[Pass] = []
        self.laid: list[PassTemplate] = []
        self.canvases: list[Canvas] = []
        self.remarks: list[Remark] = []

    def afresh(self) -> Self:
        """The same with nothing laid, to try passes on; a painting under way is left out of it."""
        other = copy(self)
        other.begun, other.canvas, other.wet_minutes, other.thin, other.hollows = (
            None,
            self.bare,
            0.0,
            None,
            None,
        )
        other.passes, other.laid, other.canvases, other.remarks = [], [], [], []
        return other

    def stand(self, keys: tuple[str, ...]) -> None:
        """After the last pass laid by now the canvas is as it really is."""
        if self.begun and self.begun.last in keys:
            self.canvas, self.wrong = self.begun.on(self.canvas)

    def value_error(self) -> float:
        """Mean distance of the canvas as it is from the mapped reference, in value steps."""
        middles = (np.arange(ERROR_BINS) + 0.5) * (10 / ERROR_BINS)
        away = np.abs(middles - self.canvas.piece_values()[:, None])
        return float((self.wanted * away).sum() / self.wanted.sum())

    def lay_again(
        self, passes: Sequence[Pass], before: Sequence[Pass] = (), planned: Sequence[Canvas] = ()
    ) -> None:
        """Lay passes on the bare canvas anew; where they were planned in other mixtures, as dark as that."""
        self.canvas, self.canvases, done = self.bare, [], []
        for number, first in enumerate(passes):
            self.canvas = self.canvas if first.into_wet else self.canvas.dried()
            one = first
            if planned:
                # A second coat is the first once more.
                thinning = None if self.laid[number].kind == "again" else self.scene.medium.thinning
                clear = self.school.transparent
                one = remade(first, before[number], self.canvas, planned[number], thinning, clear)
            for operation in one.operations:
                self.canvas = self.canvas.do(operation)
            self.stand(one.keys)
            self.canvases.append(self.canvas)
            done.append(replace(one, value_error=self.value_error()))
        self.passes = done

    def pruning(self) -> Pruning:
        """What the canvas would miss of each pass."""
        subject = self.scene.subject
        size = "portrait" if subject.size == "every pass" else subject.size
        wanted = self.scene.sums / self.scene.patchwork.sizes[:, None]
        return Pruning(
            self.bare, self.passes, self.laid, wanted, self.scene.regions, STAYS[size],
            subject.size != "sketch",
        )  # fmt: skip

    def keep(self, numbers: list[int]) -> None:
        """Leave out all passes but these; the canvases stay as they were."""
        self.passes = [self.passes[n] for n in numbers]
        self.laid = [self.laid[n] for n in numbers]
        self.canvases = [self.canvases[n] for n in numbers]
