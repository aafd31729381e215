"""What the planner paints: the sitter's maps at the size it plans at, with all that was wished of them."""

from __future__ import annotations

from dataclasses import replace

import cv2
import numpy as np

from truesitter.core.canvas.layer import LineSet
from truesitter.core.colour.value import lightness_map_to_value, value_to_lightness
from truesitter.core.design.finish_painted import effort, kept_lines, part_of, quieted, simplified
from truesitter.core.design.shadow_family import turned
from truesitter.core.design.tuning import MASSES
from truesitter.core.graph.results import Source
from truesitter.core.hair.layers.job import HairLayer
from truesitter.core.imaging.blur import blur
from truesitter.core.imaging.reduce import reduced_labels
from truesitter.core.light.form.cool_halftone import cool_halftone
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.plan.pass_places import HAIR_ROLES
from truesitter.core.plan.subject import Mark, OwnHeap, Size, Subject
from truesitter.core.school.school_document import Band, School
from truesitter.core.settings import EaselSettings, HairSettings, PassSettings, StudySettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages.finishing_stage import FinishStage
from truesitter.core.stages.flesh_stage import FleshStage
from truesitter.core.stages.hair_layers_stage import HairLayerStage
from truesitter.core.stages.light_stage import LightStage
from truesitter.core.stages.line_stage import LineStage
from truesitter.core.stages.picture_stage import PictureStage
from truesitter.core.stages.sitter_stage import SitterStage
from truesitter.core.stages.surround_stage import SurroundStage
from truesitter.core.stages.tuning import (
    FADE,
    HIGHLIGHT,
    LINES_OF_STUDY,
    PLANNING_LONG_SIDE,
)
from truesitter.core.types import Floats, Labels, Mask, Shape

_NEEDS = (
    "regions",
    "light",
    "flesh",
    "detection",
    "framed",
    "painted lines",
    "surround",
    "grounds",
    "recesses",
    "shine",
    "areas",
)


def subject_needs(settings: StudySettings) -> tuple[str, ...]:
    """Layers of the hair, form and texture only where the school or a switch asks for them."""
    hair = ("hair layers", "approach") if _strokes_hair(settings.passes.followed()) else ()
    shadow = ("form",) if settings.passes.shadows else ()
    form = ("form",) if _cools(settings.passes.adapted()) else ()
    pores = ("texture",) if _draws(settings.passes.followed(), PORES) else ()
    focus = ("finish",) if settings.passes.focus or settings.passes.smears else ()
    dots = ("freckles",) if _draws(settings.passes.followed(), FRECKLES) else ()
    return (*_NEEDS, *hair, *shadow, *form, *pores, *dots, *focus)


def _cools(school: School) -> bool:
    return any(p.band is Band.COOL_HALFTONE for p in school.passes)


def _strokes_hair(school: School) -> bool:
    return any(p.band in HAIR_ROLES for p in school.passes)


PORES = "pores"
"""Key of the pass that draws the marks of the skin."""


FRECKLES = "freckles"
"""Key of the pass that sets freckles."""

MANY = frozenset({"moustache-lines", PORES, FRECKLES})
"""Keys of passes of many lines, none of which matters by itself."""


def _draws(school: School, key: str) -> bool:
    return any(p.key == key for p in school.passes)


def _kept(layers: tuple[HairLayer, ...], weight: Floats) -> tuple[HairLayer, ...]:
    """Layers of the hair with the lines that are looked at."""
    return tuple(
        replace(layer, lines=kept) if kept else layer
        for layer in layers
        if (kept := kept_lines(layer.lines, weight)) or not layer.lines
    )


class SubjectStage:
    """The sitter as the planner takes it."""

    def __init__(
        self, source: Source, picture: PictureStage, sitter: SitterStage, flesh: FleshStage,
        light: LightStage, surround: SurroundStage, hair_layers: HairLayerStage, finish: FinishStage,
        lines: LineStage,
    ) -> None:  # fmt: skip
        self.source, self._picture, self._sitter = source, picture, sitter
        self._flesh, self._light, self._surround = flesh, light, surround
        self._hair_layers, self._finish, self._lines = hair_layers, finish, lines
        self.settings: PassSettings = source.stage("passes")
        self._hair_settings: HairSettings = source.stage("hair")
        self._easel: EaselSettings = source.stage("easel")

    def draw(self) -> None:
        """Everything that is drawn stroke by stroke."""
        if _strokes_hair(self.settings.followed()):
            self._hair_layers.layers()
        self._lines.lines()
        if _draws(self.settings.followed(), FRECKLES):
            self._finish.freckles()

    def subject(self) -> Subject:
        """What the planner paints, reduced to the size it plans at."""
        surround = self._surround.surround()
        lab = surround.background.lab
        family = self.settings.shadows
        if family is not None:
            shadow = self._finish.shadow(lab.shape) & (self._surround.regions() == Region.SKIN)
            hollows = self.marks(lab.shape) == Mark.RECESS_DARK
            lab = turned(lab, shadow, family, self._surround.mm_per_px(), hollows)
        if self._easel.allowances:
            lab = self._allowed_for(lab)
        if self._flesh.settings.monochrome:
            lab = lab * np.array((1, 0, 0), np.float32)
        width_mm = self._picture.settings.canvas_width_mm
        mm_per_px = width_mm / lab.shape[1]
        own = self._hair_settings
        whole = Subject(
            groups=surround.groups,
            regions=reduced_labels(self._sitter.regions().labels, PLANNING_LONG_SIDE),
            zones=reduced_labels(self._light.zones().zones, PLANNING_LONG_SIDE),
            marks=self.marks(lab.shape),
            lab=lab,
            value=surround.background.value,
            mm_per_px=mm_per_px,
            flesh=self._flesh_recipes(),
            clip=self._flesh.settings.clip,
            lines=self._all_lines(),
            size=self.settings.size,
            brushes=tuple(b.brush() for b in self.settings.brushes),
            own_heaps=tuple(OwnHeap(h.name, h.parts) for h in self.settings.own_heaps),
            exactness=self.settings.exactness,
            massed_hair=self._hair_layers.approach().chosen == "masses",
            own_hair=any(v is not None for v in (own.way, own.hours, own.layers)),
            room=self.settings.room(),
            ground=self._surround.ground(),
            hair=self._hairs(),
            halftone=self._halftone(lab),
        )
        return self._finished(whole) if self.settings.focus or self.settings.smears else whole

    def _all_lines(self) -> dict[str, tuple[LineSet, ...]]:
        """What is drawn line by line, by the key of its pass; a study has few of those that are many."""
        every = {**self._lines.lines(), **self._marks_of_skin()}
        if self.settings.exactness != "study":
            return every
        return {
            key: tuple(replace(one, lines=part_of(one.lines, LINES_OF_STUDY)) for one in sets)
            if key in MANY
            else sets
            for key, sets in every.items()
        }

    def of_size(self, subject: Subject, size: Size) -> Subject:
        """The same subject for a plan of another size."""
        hair = self._hairs(size)
        if self.settings.focus:
            hair = _kept(hair, self._finish.finish().weight)
        return replace(subject, size=size, hair=hair)

    def _hairs(self, size: Size | None = None) -> tuple[HairLayer, ...]:
        """Layers of the hair, for a school that paints them; a study has few of their lines."""
        if not _strokes_hair(self.settings.followed()):
            return ()
        layers = self._hair_layers.layers(size)
        if self.settings.exactness != "study":
            return layers
        return tuple(replace(one, lines=part_of(one.lines, LINES_OF_STUDY)) for one in layers)

    def _halftone(self, lab: Floats) -> Mask | None:
        """Where the photograph has a cool halftone, for a school that paints it."""
        if not _cools(self.settings.adapted()):
            return None
        classes = self._light.form().classes
        small = cv2.resize(classes, lab.shape[1::-1], interpolation=cv2.INTER_NEAREST)
        return cool_halftone(lab, small.astype(np.uint8), self._light.scale(lab.shape))

    def _finished(self, whole: Subject) -> Subject:
        """The same, finished less the farther it lies from what is looked at."""
        finish = self._finish.finish()
        widths = np.where(finish.weight < MASSES, finish.edge_mm, 0).astype(np.float32)
        smeared = replace(whole, smear_mm=widths if self.settings.smears else None)
        if not self.settings.focus:
            return smeared
        weight = finish.weight
        lines = {
            key: tuple(replace(one, lines=kept_lines(one.lines, weight)) for one in sets)
            for key, sets in whole.lines.items()
        }
        return replace(
            smeared, lab=quieted(whole.lab, finish), value=quieted(whole.value, finish),
            groups=simplified(whole.groups, whole.regions, weight, whole.mm_per_px), lines=lines,
            hair=_kept(whole.hair, weight), effort=effort(weight),
        )  # fmt: skip

    def _allowed_for(self, lab: Floats) -> Floats:
        """The reference planned off by the painter's own habits, the other way."""
        areas, out = self._sitter.areas(), lab.copy()
        for habit in self._easel.allowances:
            if habit.place in areas.names:
                value = lightness_map_to_value(lab[..., 0])
                aim = value_to_lightness(np.clip(value - habit.steps, 0, 10)).astype(np.float32)
                # No border of its own: it fades where the place ends.
                share = blur(areas.mask(habit.place).astype(np.float32), FADE * max(lab.shape))
                out[..., 0] += share * (aim - lab[..., 0])
        return out

    def _marks_of_skin(self) -> dict[str, tuple[LineSet, ...]]:
        """Pores and freckles, each for a school that has a pass for them."""
        school, found = self.settings.followed(), dict[str, tuple[LineSet, ...]]()
        if _draws(school, PORES):
            found[PORES] = (LineSet(self._finish.texture().darks),)
        if _draws(school, FRECKLES):
            found[FRECKLES] = (LineSet(self._finish.freckle_lines()),)
        return found

    def _flesh_recipes(self) -> dict[int, Recipe]:
        """The flesh stage's own mixtures, where they are meant for such paint as the school's."""
        if self._flesh.settings.transparent or self.settings.followed().transparent or self.settings.shadows:
            return {}
        return {m.group: m.recipe for m in self._flesh.mixed().mixtures}

    def marks(self, shape: Shape) -> Labels:
        """Recesses and highlights, by `Mark`, at the size of the maps."""
        recesses, shine = self._light.recesses(), self._light.shine()
        marks = (recesses.first > 0).astype(np.uint8) * np.uint8(Mark.RECESS)
        marks[recesses.dark] = Mark.RECESS_DARK
        marks[shine.strength() >= HIGHLIGHT] = Mark.HIGHLIGHT
        return np.asarray(
            cv2.resize(marks, (shape[1], shape[0]), interpolation=cv2.INTER_NEAREST), dtype=np.uint8
        )
