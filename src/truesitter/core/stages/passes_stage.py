"""What to lay when, and the canvas after each pass."""

from __future__ import annotations

from dataclasses import replace

import cv2
import numpy as np

from truesitter.core.canvas.drawn.crease_lines import crease_lines
from truesitter.core.canvas.drawn.face_lines import face_lines
from truesitter.core.canvas.drawn.hair_lines import moustache, strays
from truesitter.core.canvas.drawn.light_lines import streaks
from truesitter.core.canvas.layer import LineSet
from truesitter.core.canvas.painted import Painted, Painting, paint
from truesitter.core.canvas.painted_borders import Borders, measure_borders
from truesitter.core.colour.value import lightness_map_to_value, value_to_lightness
from truesitter.core.design.finish_painted import effort, kept_lines, quieted, simplified
from truesitter.core.design.shadow_family import turned
from truesitter.core.design.tuning import MASSES
from truesitter.core.graph.results import OWN_PACE, Source, result
from truesitter.core.imaging.blur import blur
from truesitter.core.imaging.reduce import reduced, reduced_labels
from truesitter.core.paint.media.supports import SUPPORTS, Support
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.plan.heaps import renamed
from truesitter.core.plan.kit import Kit, kit_for
from truesitter.core.plan.pacing import paced
from truesitter.core.plan.pass_places import tones_of
from truesitter.core.plan.pass_plan import PassPlan
from truesitter.core.plan.planner import plan_passes
from truesitter.core.plan.schedule import PlannedSitting, Task, sittings_for
from truesitter.core.plan.seams import Seam, Sides, seams_of, with_hairline
from truesitter.core.plan.subject import SIZES, Mark, OwnHeap, Size, Subject
from truesitter.core.refusal import Refusal
from truesitter.core.school.school_document import Band, School
from truesitter.core.school.school_palettes import palettes_for
from truesitter.core.settings import EaselSettings, HairSettings, PassSettings, StudySettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages.finishing_stage import FinishStage
from truesitter.core.stages.flesh_stage import TARGETS, TIMES, TUBES, WISHES, FleshStage
from truesitter.core.stages.hair_layers_stage import HairLayerStage
from truesitter.core.stages.hair_stage import HairStage
from truesitter.core.stages.light_stage import LightStage
from truesitter.core.stages.picture_stage import WIDTH_MM, PictureStage
from truesitter.core.stages.sitter_stage import SitterStage
from truesitter.core.stages.surround_stage import SurroundStage
from truesitter.core.stages.tuning import (
    FACE_OF_FIGURE,
    FADE,
    HIGHLIGHT,
    PLANNING_LONG_SIDE,
)
from truesitter.core.stages.values_stage import ValueStage
from truesitter.core.types import Bytes, Floats, Labels, Mask, Shape

ORDER = tuple(
    f"passes.{name}"
    for name in (
        "school", "own", "support", "background", "hair", "lights", "order", "softening", "shadows",
        "size", "brushes", "own_heaps", "exactness", "focus", "temperature", "humidity", "ground",
        "ground_lab",
    )
)  # fmt: skip
"""Settings of the passes that the plan follows from; how long a sitting is changes none of them."""

_PLANNED = (*ORDER, "hair.way", *TUBES, *WISHES, *TARGETS, *TIMES, WIDTH_MM, "easel.allowances")

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


def _needed(settings: StudySettings) -> tuple[str, ...]:
    """Layers of the hair, form and texture only where the school or a switch asks for them."""
    hair = ("hair layers",) if _strokes_hair(settings.passes.followed()) else ()
    shadow = ("form",) if settings.passes.shadows else ()
    pores = ("texture",) if _paints_pores(settings.passes.followed()) else ()
    focus = ("finish",) if settings.passes.focus or settings.passes.smears else ()
    return (*_NEEDS, *hair, *shadow, *pores, *focus)


def _strokes_hair(school: School) -> bool:
    return any(p.band is Band.HAIR_LAYERS for p in school.passes)


PORES = "pores"
"""Key of the pass that draws the marks of the skin."""


def _paints_pores(school: School) -> bool:
    return any(p.key == PORES for p in school.passes)


def _small(mask: Mask, shape: Shape) -> Mask:
    """A mask at another size."""
    small = cv2.resize(mask.view(np.uint8), shape[1::-1], interpolation=cv2.INTER_NEAREST)
    return np.asarray(small > 0)


class PassStage:
    """The passes of the chosen school."""

    def __init__(
        self, source: Source, picture: PictureStage, sitter: SitterStage, values: ValueStage,
        flesh: FleshStage, light: LightStage, hair: HairStage, surround: SurroundStage,
        hair_layers: HairLayerStage, finish: FinishStage,
    ) -> None:  # fmt: skip
        self.source, self._picture, self._sitter = source, picture, sitter
        self._values, self._flesh, self._light, self._hair = values, flesh, light, hair
        self._surround, self._hair_layers, self._finish = surround, hair_layers, finish
        self.settings: PassSettings = source.stage("passes")
        self._hair_settings: HairSettings = source.stage("hair")
        self._easel: EaselSettings = source.stage("easel")

    @result(
        "passes",
        settings=_PLANNED,
        needs=_needed,
        version=14,
    )
    def plan(self) -> PassPlan:
        """The ordered passes and the canvas after each."""
        flesh = self._flesh.settings
        # Hair and lines are drawn while values, light and colour are read: each takes seconds.
        with self.source.beside(self._drawn):
            subject = self.subject()
        return plan_passes(
            subject,
            self._flesh.palette(),
            self.settings.adapted(),
            flesh.wishes(),
            flesh.medium_used(),
            SUPPORTS[self.settings.support] if self.settings.support else None,
        )

    @result("plan sizes", settings=_PLANNED, needs=lambda settings: ("passes", *_needed(settings)))
    def sizes(self) -> dict[Size, PassPlan]:
        """The plan in every size."""
        flesh, found = self._flesh.settings, dict[Size, PassPlan]()
        for size in SIZES:
            if size == self.settings.size:
                found[size] = self.plan()
                continue
            school = self.settings.model_copy(update={"size": size}).adapted()
            found[size] = plan_passes(
                replace(self.subject(), size=size), self._flesh.palette(), school, flesh.wishes(),
                flesh.medium_used(), SUPPORTS[self.settings.support] if self.settings.support else None,
            )  # fmt: skip
        return found

    def _drawn(self) -> None:
        """Everything that is drawn stroke by stroke."""
        if _strokes_hair(self.settings.followed()):
            self._hair_layers.layers()
        self.lines()

    def as_finished(self) -> Bytes:
        """The reference as far as it is to be finished, (h, w, 3)."""
        return self._finish.picture()

    def refused(self) -> str:
        """Why these tubes cannot paint in the school, in a sentence; empty when they can."""
        flesh = self._flesh.settings
        one = self.settings.followed()
        try:
            palettes_for(one, self._flesh.palette(), flesh.wishes(), one.medium, SUPPORTS[one.support])
        except Refusal as refusal:
            return refusal.sentence
        return ""

    @result("paced passes", settings=("passes.school", "passes.heap_names"), needs=("passes", OWN_PACE))
    def paced(self) -> PassPlan:
        """The plan with the time and the paint that it takes this painter."""
        plan = paced(self.plan(), self.settings.school, self.source.own_pace())
        names = [OwnHeap(h.name, h.parts) for h in self.settings.heap_names]
        return replace(plan, heaps=renamed(plan.heaps, names))

    @result("sittings", settings=("passes.sitting_hours", "passes.rest_days"), needs=("paced passes",))
    def sittings(self) -> tuple[PlannedSitting, ...]:
        """When the passes are painted."""
        tasks = tuple(Task(p.work_minutes, p.dries_minutes, p.over, p.into_wet) for p in self.paced().passes)
        return sittings_for(tasks, self.settings.sitting_hours, self.settings.rest_days)

    def kit(self, names: tuple[str, ...]) -> Kit:
        """What has to lie ready; with the painter's own names of the value groups."""
        return kit_for(self.paced(), self.sittings(), self._flesh.palette().rack, names)

    def support(self) -> Support:
        """What it is painted on."""
        one = self.settings.followed()
        return SUPPORTS[self.settings.support or one.support]

    @result(
        "painted borders",
        settings=(WIDTH_MM, "passes.least_edge_mm", "passes.focus"),
        needs=lambda settings: ("passes", "lab", *(("finish",) if settings.passes.focus else ())),
        version=3,
    )
    def borders(self) -> Borders:
        """How sharply each border between the places of the passes is painted."""
        lab = reduced(self._picture.lab(), PLANNING_LONG_SIDE)
        mm_per_px = self._picture.settings.canvas_width_mm / lab.shape[1]
        patchwork = self.plan().bare.patchwork
        least: float | Floats = self.settings.least_edge_mm
        if self.settings.focus and not any(p.does == "smear" for p in self.plan().passes):
            least = np.maximum(self._finish.finish().edge_mm, least)
        return measure_borders(patchwork, lightness_map_to_value(lab[..., 0]), mm_per_px, least)

    @result(
        "seams",
        settings=("passes.school", "passes.own"),
        needs=("painted borders", "passes", "regions", "values", "hairline"),
        version=2,
    )
    def seams(self) -> tuple[tuple[Seam, ...], ...]:
        """What each pass meets along its border."""
        plan, found = self.plan(), self.borders()
        regions = reduced_labels(self._sitter.regions().labels, PLANNING_LONG_SIDE)
        groups = reduced_labels(self._values.plan().labels, PLANNING_LONG_SIDE)
        sides = Sides(found.patchwork.at(regions), found.patchwork.at(groups))
        borders = with_hairline(found, sides, self._hair.hairline())
        clear = self.settings.followed().transparent
        return tuple(() if p.lines else seams_of(borders, p, sides, plan.medium, clear) for p in plan.passes)

    @result("painted", settings=TUBES, needs=("painted borders", "passes"))
    def painted(self) -> Painted:
        """The canvas after each pass, as soft as it is painted."""
        plan = self.plan()
        done = (Painting(p.operations, p.into_wet) for p in plan.passes)
        return paint(self.borders(), done, plan.support, plan.bare.rack)

    @result("painted without", settings=TUBES, needs=("painted borders", "passes"))
    def without(self, number: int) -> Painted:
        """The canvas after each pass had one of them, counted from 1, never been laid."""
        plan = self.plan()
        done = [
            Painting((), p.into_wet) if n == number else Painting(p.operations, p.into_wet)
            for n, p in enumerate(plan.passes, 1)
        ]
        return paint(self.borders(), done, plan.support, plan.bare.rack)

    def subject(self) -> Subject:
        """What the planner paints, reduced to the size it plans at."""
        surround = self._surround.surround()
        lab = surround.background.lab
        family = self.settings.shadows
        if family is not None:
            shadow = self._finish.shadow(lab.shape) & (self._surround.regions() == Region.SKIN)
            lab = turned(lab, shadow, family, self._surround.mm_per_px())
        if self._easel.allowances:
            lab = self._allowed_for(lab)
        if self._flesh.settings.monochrome:
            lab = lab * np.array((1, 0, 0), np.float32)
        width_mm = self._picture.settings.canvas_width_mm
        mm_per_px = width_mm / lab.shape[1]
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
            lines={**self.lines(), **self._pores()},
            size=self.settings.size,
            brushes=tuple(b.brush() for b in self.settings.brushes),
            own_heaps=tuple(OwnHeap(h.name, h.parts) for h in self.settings.own_heaps),
            exactness=self.settings.exactness,
            massed_hair=self._hair_settings.way == "masses",
            room=self.settings.room(),
            ground=self._surround.ground(),
            hair=self._hair_layers.layers() if _strokes_hair(self.settings.followed()) else (),
        )
        return self._finished(whole) if self.settings.focus or self.settings.smears else whole

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
        hair = tuple(
            replace(layer, lines=kept) if kept else layer
            for layer in whole.hair
            if (kept := kept_lines(layer.lines, weight)) or not layer.lines
        )
        return replace(
            smeared, lab=quieted(whole.lab, finish), value=quieted(whole.value, finish),
            groups=simplified(whole.groups, whole.regions, weight, whole.mm_per_px), lines=lines, hair=hair,
            effort=effort(weight),
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

    def _pores(self) -> dict[str, tuple[LineSet, ...]]:
        """Marks of the skin, for a school that paints them."""
        if not _paints_pores(self.settings.followed()):
            return {}
        return {PORES: (LineSet(self._finish.texture().darks),)}

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

    @result(
        "painted lines",
        settings=(WIDTH_MM,),
        needs=("detection", "regions", "value", "recesses", "hair sense", "light"),
    )
    def lines(self) -> dict[str, tuple[LineSet, ...]]:
        """Everything that is drawn with a liner, by the key of the pass that draws it."""
        face, value = self._sitter.face, reduced(self._picture.value(), PLANNING_LONG_SIDE)
        height, width = value.shape
        size = self._picture.settings.canvas_width_mm, self._picture.settings.canvas_width_mm * height / width
        found = {key: (LineSet(lines),) for key, lines in face_lines(face, size).items()}
        recesses = self._light.recesses()
        found["wrinkles"] = (LineSet(crease_lines(recesses, size[0] / recesses.first.shape[1])),)
        zones = self._light.zones()
        first = reduced_labels(zones.zones, PLANNING_LONG_SIDE) == 1
        found["streaks"] = (LineSet(streaks(zones.rays, self._face_mm(value.shape, size)), first),)
        return {**found, **self._hairs(value, size)}

    def _face_mm(self, shape: Shape, size: tuple[float, float]) -> float:
        """Height of the face on the canvas, or what stands for it."""
        face = self._sitter.face
        return (FACE_OF_FIGURE if face is None else face.height(shape) / shape[0]) * size[1]

    def _hairs(self, value: Floats, size: tuple[float, float]) -> dict[str, tuple[LineSet, ...]]:
        """Moustache and strays, each in the tones of its own hair."""
        face, directed = self._sitter.face, self._hair.sense().directed
        regions = self._sitter.regions().labels
        small = cv2.resize(regions, directed.shape[1::-1], interpolation=cv2.INTER_NEAREST)
        large = reduced_labels(regions, PLANNING_LONG_SIDE)
        found: dict[str, tuple[LineSet, ...]] = {}
        if face is not None:
            middle, dark = moustache(directed, small == Region.FACIAL_HAIR, face, size)
            tones = tones_of(value, large == Region.FACIAL_HAIR)
            if middle and len(tones) > 1:
                found["moustache-lines"] = (
                    LineSet(middle, tones[len(tones) // 2][1], "a middle tone"),
                    LineSet(dark, tones[0][1], "darker and lower"),
                )
        tall = self._face_mm(value.shape, size)
        found["strays"] = tuple(
            LineSet(strays(directed, small, _small(tone, small.shape), tall, size, number), tone, word)
            for number, (word, tone) in enumerate(tones_of(value, large == Region.HAIR))
        )
        return found
