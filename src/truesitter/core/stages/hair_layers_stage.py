"""How the hair is painted: masses or strands, layer by layer, stroke by stroke."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.canvas.hair_canvas import HairCanvas, paint_hair, toned
from truesitter.core.canvas.hair_job import HairJob, HairLayer
from truesitter.core.canvas.hair_layers import plan_hair
from truesitter.core.colour.spaces import lab_to_srgb
from truesitter.core.colour.value import lab_value, linear_to_value, picture_luminance
from truesitter.core.graph.results import Source, result
from truesitter.core.hair.checks.found_strokes import find_strokes
from truesitter.core.hair.checks.practice import PracticeReport, check_strokes
from truesitter.core.hair.field.guides import Points
from truesitter.core.hair.field.hair_kinds import MOUSTACHE, Kind
from truesitter.core.hair.locks.hair_shapes import (
    BROW_PAIR,
    MOUSTACHE_PAIR,
    LightForms,
    Pair,
    light_forms,
    moustache_gap,
    pair_of,
)
from truesitter.core.hair.locks.tuning import GREY_CHROMA
from truesitter.core.hair.strokes.approach import Approach, WayPlan, choose_approach
from truesitter.core.hair.strokes.hair_strokes import StrokeGround, curvature, widest_brush
from truesitter.core.hair.strokes.hands import HandPlace, in_order
from truesitter.core.hair.strokes.stroke_types import HairType, StrokeType, hair_type, type_for
from truesitter.core.imaging.blur import blur
from truesitter.core.imaging.pixels import pixel_at
from truesitter.core.imaging.reduce import reduced, reduced_labels
from truesitter.core.paint.media.supports import PRIMED_CANVAS, SUPPORTS, Support
from truesitter.core.paint.recipes.reach import map_picture, palette_reach
from truesitter.core.settings import HairSettings, PassSettings
from truesitter.core.sitter.face import NOSE_BASE
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages.flesh_stage import MIXING, TIMES, FleshStage
from truesitter.core.stages.hair_stage import HairStage
from truesitter.core.stages.picture_stage import WIDTH_MM, PictureStage
from truesitter.core.stages.sitter_stage import SitterStage
from truesitter.core.stages.tuning import HAIR_LAYERS_STAGE_LONGEST, HAIR_LONG_SIDE, JUDGED
from truesitter.core.types import Bytes, Doubles, Floats

PLANNED = ("hair.type", "hair.way", "hair.hours", "hair.layers", "hair.early_lights", "hair.tying_glaze")


@dataclass(frozen=True)
class FacialHair:
    """Brows, moustache and beard as shapes; None for what is not there.

    Attributes
    ----------
    brows, moustache
        Left against right.
    gap_mm
        Skin between moustache and beard.
    forms
        Light-forms of a grey beard.
    """

    brows: Pair | None
    moustache: Pair | None
    gap_mm: float | None
    forms: LightForms | None


class HairLayerStage:
    """Strokes, layers and the painted hair."""

    def __init__(
        self, source: Source, picture: PictureStage, sitter: SitterStage, hair: HairStage, flesh: FleshStage
    ) -> None:
        self.source, self._picture, self._sitter = source, picture, sitter
        self._hair, self._flesh = hair, flesh
        self.settings: HairSettings = source.stage("hair")
        self._school: PassSettings = source.stage("passes")

    @result(
        "hair type", settings=("hair.type",), needs=("hair axes", "hair sense", "hair", "detection", "framed")
    )
    def type(self) -> HairType:
        """Type of the head's hair: the painter's word, else as it looks."""
        if self.settings.type is not None:
            return self.settings.type
        axes, lines = self._hair.axes(), self._hair.map().lines
        scalp = axes.kinds == Kind.SCALP
        if not scalp.any():
            return "straight"
        face = self._hair.scale() / self._hair.shape()[0]
        height, width = axes.kinds.shape
        runs = [line.points * (width / height, 1) for line in lines if line.kind == Kind.SCALP]
        lengths = [float(np.hypot(*np.diff(run, axis=0).T).sum()) / face for run in runs]
        # Lines are cut short where others run; the longest show how long the hair is.
        longest = float(np.quantile(lengths, HAIR_LAYERS_STAGE_LONGEST)) if lengths else 1.0
        bend = curvature(self._hair.sense().directed)[scalp]
        turn = float(np.median(bend)) * 0.2 * face * height
        return hair_type(float(axes.coherence[scalp].mean()), longest, turn)

    @result(
        "stroke ground",
        settings=(WIDTH_MM,),
        needs=("directed hair", "locks", "hair sense", "detection", "framed"),
    )
    def ground(self) -> tuple[StrokeGround, Floats]:
        """What strokes are laid along, and the widest brush at every spot."""
        directed, _ = self._hair.directed()
        locks, mm = self._hair.locks(), self._hair.mm_per_px()
        most = int(locks.numbers.max()) + 1
        length, width = np.zeros(most, np.float32), np.zeros(most, np.float32)
        for lock in locks.locks:
            length[lock.number], width[lock.number] = lock.length * mm, lock.width * mm
        whorls = tuple(w for w in self._hair.sense().whorls if w.index >= 1)
        ground = StrokeGround(
            directed, mm, length[locks.numbers], width[locks.numbers], self._hair.scale() * mm, whorls
        )  # fmt: skip
        return ground, widest_brush(ground)

    @result(
        "approach",
        settings=("hair.way", "hair.hours", "hair.layers", WIDTH_MM),
        needs=("directed hair", "stroke ground", "hair type", "locks", "detection", "framed"),
    )
    def approach(self) -> Approach:
        """Masses or strands."""
        _, kinds = self._hair.directed()
        mm = self._hair.mm_per_px()
        area = float((kinds > 0).sum()) * mm**2 / 100
        widths = [lock.width * mm for lock in self._hair.locks().locks]
        stroke, whole = type_for(Kind.SCALP, self.type()), self._hair.scale() * mm
        if stroke.of_the_lock:
            lengths = self.ground()[0].lock_length[kinds == Kind.SCALP]
            whole = float(lengths[lengths > 0].mean()) if (lengths > 0).any() else whole
        return choose_approach(
            max(area, 0.01), float(np.median(widths)) if widths else 0.0, self._hair.scale() * mm,
            self.settings.hours, self.settings.layers, self.settings.way,
            float(np.mean(stroke.length)) * whole,
        )  # fmt: skip

    def way(self) -> WayPlan:
        """The way that is followed."""
        both = self.approach()
        return both.strands if both.chosen == "strands" else both.masses

    @result(
        "hair layers",
        settings=(*MIXING, *TIMES, *PLANNED),
        needs=(
            "directed hair",
            "ground of the hair",
            "stroke ground",
            "approach",
            "hair type",
            "reference of the hair",
            "regions",
            "framed",
        ),
    )
    def layers(self) -> tuple[HairLayer, ...]:
        """Every layer with its strokes."""
        _, kinds = self._hair.directed()
        ground, limit = self.ground()
        palette = self._flesh.palette()
        wishes = self._flesh.settings.wishes()
        allowed = wishes.palette(palette)
        mapped = self.reference()
        squinted = blur(mapped, JUDGED * mapped.shape[0])
        return plan_hair(HairJob(
            kinds=kinds,
            skin=reduced_labels(self._sitter.regions().labels, HAIR_LONG_SIDE) == Region.SKIN,
            lab=mapped,
            value=lab_value(squinted.astype(np.float64)).astype(np.float32),
            ground=ground,
            limit=limit,
            head=self.type(),
            way=self.way(),
            palette=allowed,
            wishes=wishes,
            medium=self._flesh.settings.medium_used(),
            bare=self.support().internal(),
            early=self.settings.early_lights,
            glaze=self.settings.tying_glaze,
        ))  # fmt: skip

    @result(
        "ground of the hair",
        settings=("passes.support", "flesh.transparent"),
        needs=("directed hair", "photograph of the hair"),
    )
    def support(self) -> Support:
        """What the hair is painted on: white for washes, else toned like what lies round it."""
        support = SUPPORTS[self._school.support] if self._school.support else PRIMED_CANVAS
        if self._flesh.settings.transparent:
            return support
        return toned(self._hair.photograph(), self._hair.directed()[1] > 0, support)

    @result(
        "hair canvas", settings=(WIDTH_MM, *MIXING), needs=("hair layers", "ground of the hair", "framed")
    )
    def canvas(self) -> HairCanvas | None:
        """The hair as painted after each layer; None without hair."""
        return paint_hair(
            self.layers(), self._hair.mm_per_px(), self.support(), self._flesh.palette().rack
        )  # fmt: skip

    @result("picture of a hair layer", needs=("hair canvas", "photograph of the hair", "framed"))
    def picture(self, number: int) -> Bytes:
        """After so many layers, over the photograph where nothing is painted."""
        canvas = self.canvas()
        photograph = self._hair.photograph()
        return photograph if canvas is None else canvas.picture(number, photograph)

    @result(
        "hair errors",
        settings=(*MIXING, "hair.type"),
        needs=("hair canvas", "hair layers", "reference of the hair", "photograph of the hair", "framed"),
    )
    def errors(self) -> tuple[float, ...]:
        """Mean distance in value from the squinted reference on the layer's mass after it, in steps."""
        canvas, photograph = self.canvas(), self._hair.photograph()
        if canvas is None:
            return ()
        layers = self.layers()
        wanted = np.round(lab_to_srgb(self.reference().astype(np.float64)) * 255).astype(np.uint8)
        mass = {layer.mass: layer.mask for layer in reversed(layers)}
        return canvas.errors(photograph, wanted, [mass[layer.mass] for layer in layers])

    @result("reference of the hair", settings=MIXING, needs=("lab", "framed"))
    def reference(self) -> Floats:
        """L*a*b* of the reference as the palette reaches it, at the size of the hair's maps."""
        lab = reduced(self._picture.lab(), HAIR_LONG_SIDE)
        if self._flesh.settings.monochrome:
            lab[..., 1:] = 0
        allowed = self._flesh.settings.wishes().palette(self._flesh.palette())
        mapped, _ = map_picture(lab, palette_reach(allowed), self._flesh.settings.clip)
        return mapped

    def types(self) -> tuple[tuple[Kind, StrokeType], ...]:
        """The kinds of hair there are, with their type of stroke."""
        _, kinds = self._hair.directed()
        present = [Kind(int(k)) for k in np.unique(kinds) if k]
        return tuple((kind, type_for(kind, self.type())) for kind in present)

    def places(self) -> tuple[HandPlace, ...]:
        """Locks in the order of painting for the painter's hand."""
        return in_order(self._hair.locks().locks, self.settings.hand)

    def practised(self, strokes: tuple[Points, ...]) -> PracticeReport:
        """Check strokes that were drawn for practice."""
        ground, _ = self.ground()
        _, kinds = self._hair.directed()
        first = [int(kinds[pixel_at(*s[len(s) // 3], kinds.shape)]) for s in strokes]
        kind = max(set(first), key=first.count) if first else Kind.SCALP
        return check_strokes(strokes, ground, type_for(kind or Kind.SCALP, self.type()))

    def practised_on_paper(self, photograph: Bytes) -> tuple[tuple[Points, ...], PracticeReport]:
        """Strokes found on a photograph cropped to the canvas, and the check of them."""
        strokes = find_strokes(photograph, self.ground()[0].directed)
        return strokes, self.practised(strokes)

    @result(
        "facial hair",
        settings=(WIDTH_MM,),
        needs=("directed hair", "detection", "photograph of the hair", "lab", "framed"),
    )
    def facial_hair(self) -> FacialHair:
        """Brows, moustache and beard as shapes."""
        _, kinds = self._hair.directed()
        face, mm = self._sitter.face, self._hair.mm_per_px()
        if face is None:
            return FacialHair(None, None, None, None)
        height, width = kinds.shape
        size: Doubles = np.array((width, height), np.float64)
        up = face.axis(height / width)
        beard = np.isin(kinds, (Kind.BEARD, *MOUSTACHE))
        forms = None
        if beard.any():
            lab = reduced(self._picture.lab(), HAIR_LONG_SIDE)
            light = beard & (lab[..., 0] >= np.median(lab[beard][:, 0]))
            if np.median(np.hypot(lab[light][:, 1], lab[light][:, 2])) < GREY_CHROMA:
                value = linear_to_value(picture_luminance(self._hair.photograph()))
                forms = light_forms(beard, value, self._hair.scale())
        return FacialHair(
            pair_of(BROW_PAIR, kinds, face.brow_middle * size, up, mm),
            pair_of(MOUSTACHE_PAIR, kinds, face.at(NOSE_BASE) * size, up, mm),
            moustache_gap(kinds, mm),
            forms,
        )
