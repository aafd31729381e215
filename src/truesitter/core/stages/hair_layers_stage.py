"""How the hair is painted: masses or strands, layer by layer, stroke by stroke."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from truesitter.core.colour.value import lab_value, linear_to_value, picture_luminance
from truesitter.core.graph.results import Source, result
from truesitter.core.hair.checks.found_strokes import FoundStroke, find_strokes
from truesitter.core.hair.checks.practice import PracticeReport, Practised, check_strokes
from truesitter.core.hair.field.guides import Points
from truesitter.core.hair.field.hair_kinds import MOUSTACHE, Kind
from truesitter.core.hair.layers.job import HairJob, HairLayer
from truesitter.core.hair.layers.nested import plan_hair
from truesitter.core.hair.locks.facial_hair import FacialHair, grey_beard, read_facial_hair
from truesitter.core.hair.locks.hair_shine import shining
from truesitter.core.hair.locks.light_forms import LightForms, light_forms
from truesitter.core.hair.locks.lock_strands import Strands
from truesitter.core.hair.strokes.approach import WAYS, Approach, choose_approach
from truesitter.core.hair.strokes.curls import lock_way
from truesitter.core.hair.strokes.hair_strokes import StrokeGround, curvature, widest_brush
from truesitter.core.hair.strokes.hands import HandPlace, in_order
from truesitter.core.hair.strokes.stroke_types import (
    TYPES,
    HairType,
    StrokeMap,
    StrokeType,
    hair_type,
    lock_type,
    type_for,
)
from truesitter.core.hair.strokes.tuning import OF_A_CURL
from truesitter.core.imaging.blur import blur
from truesitter.core.imaging.pixels import pixel_at
from truesitter.core.imaging.reduce import reduced, reduced_labels
from truesitter.core.plan.clock.minutes import hair_rate
from truesitter.core.plan.size import layers_of
from truesitter.core.plan.subject import Size
from truesitter.core.settings import HairSettings, PassSettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages.hair_stage import LOCK_MASSES, HairStage
from truesitter.core.stages.picture_stage import WIDTH_MM, PictureStage
from truesitter.core.stages.sitter_stage import SitterStage
from truesitter.core.stages.tuning import (
    BAND_SOFT_MM,
    HAIR_LAYERS_STAGE_LONGEST,
    HAIR_LONG_SIDE,
    JUDGED,
    TURN_SPAN,
)
from truesitter.core.types import Bytes, Doubles, Floats, Labels, Mask

PLANNED = ("hair.way", "hair.hours", "hair.layers", "hair.early_lights", "hair.glaze")


class HairLayerStage:
    """Strokes and layers."""

    def __init__(self, source: Source, picture: PictureStage, sitter: SitterStage, hair: HairStage) -> None:
        self.source, self._picture, self._sitter, self._hair = source, picture, sitter, hair
        self.settings: HairSettings = source.stage("hair")
        self._school: PassSettings = source.stage("passes")

    def type(self) -> HairType:
        """Type of the head's hair: the painter's word, else that of most of its locks."""
        if self.settings.type is not None:
            return self.settings.type
        locks, seen = self._hair.locks(), self.lock_types()
        _, kinds = self._hair.directed()
        counts = np.bincount(locks.numbers[kinds == Kind.SCALP], minlength=len(locks.locks) + 1)
        areas = dict[HairType, int]()
        for lock in locks.locks:
            areas[seen[lock.number]] = areas.get(seen[lock.number], 0) + int(counts[lock.number])
        return max(areas, key=lambda type_: areas[type_]) if any(areas.values()) else self.head_type()

    @result(
        "lock types", settings=("hair.lock_types",), needs=("lock strands", "locks", "head type"),
    )  # fmt: skip
    def lock_types(self) -> dict[int, HairType]:
        """Type of every lock by its number: as it was pressed, else as it looks."""
        head, strands, locks = self.head_type(), self._hair.strands(), self._hair.locks()
        none = Strands(1.0, 0.0, 0.0, 0.0)
        seen = {
            lock.number: lock_type(strands.get(lock.number, none), head == "short") or head
            for lock in locks.locks
        }
        pressed = {number: self.settings.lock_types[n].type for number, n in self.presses().items()}
        return seen | pressed

    @result(
        "stroke types",
        settings=("hair.type", "hair.disorder"),
        needs=("lock types", "locks", "head type", "directed hair"),
    )
    def stroke_map(self) -> StrokeMap:
        """Which type of stroke is drawn where."""
        locks, seen, head = self._hair.locks(), self.lock_types(), self.settings.type
        _, kinds = self._hair.directed()
        names = np.empty(int(locks.numbers.max()) + 1, object)
        names[:] = head or self.type()
        for number, type_ in seen.items():
            names[number] = head or type_
        numbers, types = np.zeros(kinds.shape, np.uint8), list[StrokeType]()
        for kind in (Kind(int(k)) for k in np.unique(kinds) if k):
            here = kinds == kind
            asked = set(names) if kind == Kind.SCALP else {self.type()}
            for type_ in sorted(asked):
                mine = here & (names == type_)[locks.numbers] if kind == Kind.SCALP else here
                if mine.any():
                    types.append(self._loosened(type_for(kind, type_)))
                    numbers[mine] = len(types)
        return StrokeMap(numbers, tuple(types))

    def _loosened(self, type_: StrokeType) -> StrokeType:
        disorder = self.settings.disorder
        return type_ if disorder is None else replace(type_, irregular=float(np.radians(disorder)))

    @result("head type", needs=("hair axes", "hair sense", "hair", "detection", "framed"))
    def head_type(self) -> HairType:
        """Type of the head's hair as a whole, as it looks."""
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
        turn = float(np.median(bend)) * TURN_SPAN * face * height
        return hair_type(float(axes.coherence[scalp].mean()), longest, turn)

    @result(
        "stroke ground",
        settings=(WIDTH_MM,),
        needs=("directed hair", "locks", "lock strands", "hair sense", "detection", "framed"),
    )
    def ground(self) -> tuple[StrokeGround, Floats]:
        """What strokes are laid along, and the widest brush at every spot."""
        directed, _ = self._hair.directed()
        locks, mm = self._hair.locks(), self._hair.mm_per_px()
        most = int(locks.numbers.max()) + 1
        length, width, period, amplitude = (np.zeros(most, np.float32) for _ in range(4))
        for lock in locks.locks:
            length[lock.number], width[lock.number] = lock.length * mm, lock.width * mm
        for number, one in self._hair.strands().items():
            period[number], amplitude[number] = one.period * mm, one.amplitude * mm
        curls = period[locks.numbers] > 0
        if curls.any():
            directed = lock_way(directed, curls, OF_A_CURL * float(np.median(period[period > 0])) / mm)
        whorls = tuple(w for w in self._hair.sense().whorls if w.index >= 1)
        ground = StrokeGround(
            directed, mm, length[locks.numbers], width[locks.numbers], self._hair.scale() * mm, whorls,
            period[locks.numbers], amplitude[locks.numbers],
        )  # fmt: skip
        return ground, widest_brush(ground)

    def approach(self) -> Approach:
        """Masses or strands, in a plan of the chosen size."""
        return self.approach_for(self._school.size)

    @result(
        "approach",
        settings=(
            "hair.type",
            "hair.way",
            "hair.hours",
            "hair.layers",
            "passes.school",
            "passes.own",
            "passes.exactness",
            WIDTH_MM,
        ),
        needs=("directed hair", "stroke ground", "lock types", "head type", "locks", "detection", "framed"),
        version=3,
    )
    def approach_for(self, size: Size) -> Approach:
        """Masses or strands; a small plan has fewer layers."""
        _, kinds = self._hair.directed()
        mm = self._hair.mm_per_px()
        area = float(np.isin(kinds, (Kind.SCALP, Kind.BEARD, *MOUSTACHE)).sum()) * mm**2 / 100
        widths = [lock.width * mm for lock in self._hair.locks().locks]
        stroke, whole = type_for(Kind.SCALP, self.type()), self._hair.scale() * mm
        if stroke.of_the_lock:
            lengths = self.ground()[0].lock_length[kinds == Kind.SCALP]
            whole = float(lengths[lengths > 0].mean()) if (lengths > 0).any() else whole
        school = self._school.followed()
        own = self.settings.layers
        rate = {way: hair_rate(school.pace, self._school.exactness, way == "masses") for way in WAYS}
        return choose_approach(
            max(area, 0.01), float(np.median(widths)) if widths else 0.0, self._hair.scale() * mm,
            self.settings.hours, rate,
            {way: own or layers_of(way, size, school.transparent) for way in WAYS}, self.settings.way,
            float(np.mean(stroke.length)) * whole,
        )  # fmt: skip

    def layers(self, size: Size | None = None) -> tuple[HairLayer, ...]:
        """Every layer with its strokes, in the order of the chosen school's paint; of a plan's size."""
        return self.nested(self._school.followed().transparent, size or self._school.size)

    @result(
        "hair layers",
        settings=(*PLANNED, WIDTH_MM),
        needs=(
            "directed hair",
            "hair volumes",
            "hair shine",
            "hairline",
            "facial hair",
            "stroke ground",
            "approach",
            "stroke types",
            "lab",
            "framed",
        ),
        version=4,
    )
    def nested(self, light_first: bool, size: Size) -> tuple[HairLayer, ...]:
        """Every layer with its strokes: from light to dark for paint that only darkens, else from dark."""
        return plan_hair(self.job(light_first, size))

    def job(self, light_first: bool, size: Size) -> HairJob:
        """What the layers are made from."""
        _, kinds = self._hair.directed()
        ground, limit = self.ground()
        lab = reduced(self._picture.lab(), HAIR_LONG_SIDE)
        squinted = blur(lab, JUDGED * lab.shape[0])
        band, temperature = self._shining()
        return HairJob(
            kinds=kinds,
            lab=lab,
            value=lab_value(squinted.astype(np.float64)).astype(np.float32),
            surface=self._hair.volumes().surface,
            ground=ground,
            limit=limit,
            types=self.stroke_map(),
            way=self.approach_for(size).plan,
            light_first=light_first,
            early=self.settings.early_lights,
            glaze=self.settings.glaze,
            shine=band,
            temperature=temperature,
            beard_apart=self.facial_hair().beard_apart,
            hairline=tuple((s.x, s.y) for s in self._hair.hairline().spots),
        )

    def _shining(self) -> tuple[Mask, str]:
        """Bands of light (h, w) of the masses that shine, and how warm they are."""
        _, kinds = self._hair.directed()
        band, said = np.zeros(kinds.shape, bool), ""
        shine, fade = self._hair.shine(), BAND_SOFT_MM / self._hair.mm_per_px()
        for mass in LOCK_MASSES:
            found = shine.get(mass[0].spoken)
            if found is not None and found.word != "matte":
                band |= shining(self._hair.volumes(), np.isin(kinds, mass), fade)
                said = said or found.temperature
        return band, said

    def types(self) -> tuple[tuple[Kind, StrokeType], ...]:
        """The kinds of hair there are, with their type of stroke."""
        _, kinds = self._hair.directed()
        present = [Kind(int(k)) for k in np.unique(kinds) if k]
        where = self.stroke_map()
        return tuple(
            (kind, where.types[number - 1])
            for kind in present
            for number in _most_first(where.numbers[kinds == kind])
        )

    def stroked_as(self) -> dict[int, StrokeType]:
        """The type of stroke of each lock by its number, as the layers draw it."""
        where, numbers = self.stroke_map(), self._hair.locks().numbers
        most = {n: _most_first(where.numbers[numbers == n]) for n in self.lock_types()}
        return {n: where.types[found[0] - 1] for n, found in most.items() if found}

    def lock_brushes(self) -> dict[int, float]:
        """The widest brush, in mm, that follows each lock, by its number."""
        numbers, (_, limit) = self._hair.locks().numbers, self.ground()
        return {n: float(np.median(limit[numbers == n])) for n in self.lock_types()}

    def presses(self) -> dict[int, int]:
        """Which of the painter's presses says the type of a lock, by its number; later ones count."""
        numbers = self._hair.locks().numbers
        spots = ((n, pixel_at(one.x, one.y, numbers.shape)) for n, one in enumerate(self.settings.lock_types))
        return {int(numbers[at]): n for n, at in spots if numbers[at]}

    def places(self) -> tuple[HandPlace, ...]:
        """Locks in the order of painting for the painter's hand."""
        return in_order(self._hair.locks().locks, self.settings.hand)

    def practised(
        self, strokes: Sequence[Points], widths_mm: Sequence[Doubles | None] | None = None
    ) -> PracticeReport:
        """Check strokes that were drawn for practice, each as the hair is stroked where it lies."""
        ground, _ = self.ground()
        types, asked = self.stroke_map(), list[Practised]()
        for points, wide in zip(strokes, widths_mm or [None] * len(strokes), strict=True):
            at = pixel_at(*points[len(points) // 3], types.numbers.shape)
            asked.append(Practised(points, types.at(*at) or TYPES[self.type()], wide))
        return check_strokes(asked, ground, self.settings.hand)

    def practised_on_paper(self, photograph: Bytes) -> tuple[tuple[FoundStroke, ...], PracticeReport]:
        """Strokes found on a photograph cropped to the canvas, and the check of them."""
        found = find_strokes(photograph, self.ground()[0].directed)
        across = self._hair.mm_per_px() * self._hair.shape()[1]
        return found, self.practised([f.points for f in found], [f.widths * across for f in found])

    @result(
        "facial hair",
        settings=(WIDTH_MM,),
        needs=("directed hair", "detection", "photograph of the hair", "regions", "framed"),
        version=4,
    )
    def facial_hair(self) -> FacialHair:
        """Brows, moustache and beard as shapes."""
        directed, kinds = self._hair.directed()
        skin = reduced_labels(self._sitter.regions().labels, HAIR_LONG_SIDE) == Region.SKIN
        face, mm = self._sitter.face, self._hair.mm_per_px()
        return read_facial_hair(kinds, face, self._value(), mm, skin, directed)

    @result(
        "light forms",
        settings=("hair.form_size", "hair.form_moves", WIDTH_MM),
        needs=("directed hair", "detection", "photograph of the hair", "lab", "framed"),
    )
    def light_forms(self) -> LightForms | None:
        """Separate lights of a grey beard; None without one."""
        directed, kinds = self._hair.directed()
        beard = grey_beard(kinds, reduced(self._picture.lab(), HAIR_LONG_SIDE))
        if self._sitter.face is None or not beard.any():
            return None
        return light_forms(
            beard, self._value(), directed, self._hair.scale(), self._hair.mm_per_px(),
            self.settings.form_size, [one.move() for one in self.settings.form_moves],
        )  # fmt: skip

    def _value(self) -> Floats:
        """Munsell value of the photograph of the hair, (h, w)."""
        return linear_to_value(picture_luminance(self._hair.photograph()))


def _most_first(numbers: Labels) -> list[int]:
    """Numbers that occur, those of most pixels first."""
    found, counts = np.unique(numbers[numbers > 0], return_counts=True)
    return [int(n) for n in found[np.argsort(-counts, kind="stable")]]
