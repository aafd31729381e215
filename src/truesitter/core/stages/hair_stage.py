"""Which way the hair lies, its volumes, its locks and its shine."""

from __future__ import annotations

from dataclasses import dataclass, replace

import cv2
import numpy as np

from truesitter.core.colour.value import linear_to_value, picture_luminance
from truesitter.core.graph.results import Source, result
from truesitter.core.hair.field.direction_field import (
    AxisField,
    solve_axes,
    strand_detail,
    structure_tensor_field,
)
from truesitter.core.hair.field.growth_lines import GrowthLine, growth_lines, painting_order
from truesitter.core.hair.field.hair_beliefs import Signs
from truesitter.core.hair.field.hair_kinds import Kind, kinds_of
from truesitter.core.hair.field.hair_map import HairMap, Sense
from truesitter.core.hair.field.knot import find_knot
from truesitter.core.hair.field.root_sense import orient
from truesitter.core.hair.field.whorls import find_whorls, with_drawn
from truesitter.core.hair.locks.hair_shine import HairShine, expected_band, shine_of
from truesitter.core.hair.locks.hairline import Hairline, read_hairline
from truesitter.core.hair.locks.lock_forms import LockForm, read_forms
from truesitter.core.hair.locks.lock_regions import split_locks
from truesitter.core.hair.locks.lock_shadows import LockShadow, cast_shadows
from truesitter.core.hair.locks.lock_shapes import Lock, describe_locks, lock_tones
from truesitter.core.hair.locks.lock_strands import Strands, read_strands
from truesitter.core.hair.locks.lock_strokes import mend_locks
from truesitter.core.hair.locks.volumes import Volumes, hair_volumes
from truesitter.core.hair.strokes.curls import curled, resampled_periods, uncurled
from truesitter.core.hair.strokes.hair_strokes import curvature
from truesitter.core.imaging.reduce import reduced, reduced_labels, reduced_size
from truesitter.core.settings import HairSettings
from truesitter.core.sitter.face import OVAL
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages.light_stage import LightStage
from truesitter.core.stages.picture_stage import WIDTH_MM, PictureStage
from truesitter.core.stages.sitter_stage import SitterStage
from truesitter.core.stages.tuning import (
    FACE_OF_FIGURE,
    FACE_OF_OVAL,
    HAIR_LONG_SIDE,
    LOCK_WIDTH,
    TEMPLE,
    TURN_SPAN,
)
from truesitter.core.types import Bytes, Floats, Ints, Labels, Mask, Shape

HANDLES = ("hair.guides", "hair.whorls", "hair.partings", "hair.hairlines")
LOCKS = ("hair.lock_mm", "hair.lock_strokes")


LOCK_MASSES = ((Kind.SCALP,), (Kind.BEARD, Kind.LEFT_MOUSTACHE, Kind.RIGHT_MOUSTACHE))


@dataclass(frozen=True)
class Locks:
    """Locks of every mass.

    Attributes
    ----------
    numbers
        (h, w) number of the lock each pixel is of, 0 for none.
    locks
        Each of them.
    tones
        (h, w) dark, middle and light shapes inside them.
    contrasts
        Of each mass of `LOCK_MASSES`, steps of value between ridge and valley; 0 where there is no hair.
    width
        Width looked for, in pixels.
    """

    numbers: Ints
    locks: tuple[Lock, ...]
    tones: Labels
    contrasts: tuple[float, ...]
    width: float


class HairStage:
    """Direction field, growth lines, volumes, locks, shine and hairline."""

    def __init__(self, source: Source, picture: PictureStage, sitter: SitterStage, light: LightStage) -> None:
        self.source, self._picture, self._sitter, self._light = source, picture, sitter, light
        self.settings: HairSettings = source.stage("hair")

    @result("kinds of hair", needs=("regions", "detection"))
    def kinds(self) -> Labels:
        """Scalp hair, beard, halves of the moustache, brows."""
        return kinds_of(self._sitter.regions().labels, self._sitter.face)

    @result("hair axes", settings=HANDLES, needs=("lab", "kinds of hair", "detection"), version=2)
    def axes(self) -> AxisField:
        """Which way the strands lie, not yet which end is the root."""
        lightness = self._picture.lab()[..., 0]
        return solve_axes(lightness, self.kinds(), self.settings.handles(), self._sitter.face)

    @result("hair sense", settings=HANDLES, needs=("hair axes", "regions", "detection"), version=2)
    def sense(self) -> Sense:
        """Root to tip, the whorls and the knot."""
        axes, face = self.axes(), self._sitter.face
        shape = axes.kinds.shape
        regions = cv2.resize(self._sitter.regions().labels, shape[::-1], interpolation=cv2.INTER_NEAREST)
        covered = np.zeros(shape, bool) if face is None else face.outline_mask(OVAL, shape, FACE_OF_OVAL)
        knot = find_knot(axes, regions != Region.BACKGROUND, covered)
        handles = self.settings.handles()
        whorls = with_drawn(find_whorls(axes), handles.whorls, shape)
        signs = Signs(axes.kinds, regions == Region.SKIN, face, knot, whorls)
        return Sense(orient(axes, signs, handles), whorls, knot)

    @result("hair", settings=("hair.spacing_mm", WIDTH_MM), needs=("hair axes", "hair sense"))
    def map(self) -> HairMap:
        """Direction field, growth lines in the order of painting, and whorls."""
        axes, sense = self.axes(), self.sense()
        spacing = self.settings.spacing_mm / self._picture.settings.canvas_width_mm * axes.mask.shape[1]
        coherence = float(axes.coherence[axes.mask].mean()) if axes.mask.any() else 0.0
        lines = growth_lines(
            sense.directed, axes.mask, spacing, coherence=axes.coherence, kinds=axes.kinds
        )  # fmt: skip
        ordered = painting_order(lines, axes.mask.shape)
        return HairMap(sense.directed, axes.mask, ordered, sense.whorls, coherence)

    def drawn_lines(self) -> tuple[GrowthLine, ...]:
        """Growth lines as they are drawn: curled where the strands of their locks are."""
        strands, numbers = self.strands(), self.locks().numbers
        if not any(one.period for one in strands.values()):
            return self.map().lines
        period, amplitude = np.zeros(int(numbers.max()) + 1), np.zeros(int(numbers.max()) + 1)
        for number, one in strands.items():
            period[number], amplitude[number] = one.period, one.amplitude
        height, width = numbers.shape
        drawn = []
        for line in self.map().lines:
            points = line.points * (width, height)
            at = np.clip(points.astype(int), 0, (width - 1, height - 1))
            of = numbers[at[:, 1], at[:, 0]]
            usual = float(np.median(period[of]))
            way = uncurled(points, usual)
            wide = resampled_periods(period[of], len(way))
            far = np.interp(np.linspace(0, 1, len(way)), np.linspace(0, 1, len(of)), amplitude[of])
            drawn.append(replace(line, points=curled(way, wide, far) / (width, height)))
        return tuple(drawn)

    # What the rest is made on

    @result("photograph of the hair", needs=("framed",))
    def photograph(self) -> Bytes:
        """The framed picture at the size of the hair's maps."""
        framed = self._picture.framed()
        size = reduced_size(framed.shape, HAIR_LONG_SIDE)
        return cv2.resize(framed, size, interpolation=cv2.INTER_AREA)

    def shape(self) -> Shape:
        """Of the hair's maps."""
        width, height = reduced_size(self._picture.shape, HAIR_LONG_SIDE)
        return height, width

    def scale(self) -> float:
        """Height of the face in pixels of those maps, or what stands for it."""
        face = self._sitter.face
        return FACE_OF_FIGURE * self.shape()[0] if face is None else face.height(self.shape())

    def mm_per_px(self) -> float:
        """Canvas mm to a pixel of them."""
        return self._picture.settings.canvas_width_mm / self.shape()[1]

    @result("directed hair", needs=("hair sense", "kinds of hair", "framed"))
    def directed(self) -> tuple[Floats, Labels]:
        """Root→tip unit directions (h, w, 2) and kinds (h, w) at that size."""
        height, width = self.shape()
        kinds = reduced_labels(self.kinds(), HAIR_LONG_SIDE)
        big = cv2.resize(self.sense().directed, (width, height))
        norm = np.hypot(big[..., 0], big[..., 1])
        # Where two ways meet the mean says nothing: the nearest one is taken.
        nearest = cv2.resize(self.sense().directed, (width, height), interpolation=cv2.INTER_NEAREST)
        big = np.where(norm[..., None] > 0.5, big / (norm[..., None] + 1e-6), nearest)
        return np.asarray(big, np.float32), kinds

    @result("hair volumes", needs=("directed hair", "photograph of the hair", "detection", "framed"))
    def volumes(self) -> Volumes:
        """Skull, locks and surface."""
        directed, kinds = self.directed()
        massed = np.isin(kinds, [kind for mass in LOCK_MASSES for kind in mass])
        return hair_volumes(picture_luminance(self.photograph()), directed, massed, self.scale())

    @result(
        "locks",
        settings=(*LOCKS, WIDTH_MM),
        needs=("hair volumes", "directed hair", "detection", "framed"),
    )
    def locks(self) -> Locks:
        """Locks, mended by hand."""
        directed, kinds = self.directed()
        volumes = self.volumes()
        value = volumes.skull + volumes.locks
        own = self.settings.lock_mm
        width = max(4.0, LOCK_WIDTH * self.scale() if own is None else own / self.mm_per_px())
        numbers = np.zeros(kinds.shape, np.int32)
        contrasts = []
        for mass in LOCK_MASSES:
            found = split_locks(value, directed, volumes.mask & np.isin(kinds, mass), width)
            numbers = np.where(found.numbers > 0, found.numbers + numbers.max(), numbers)
            contrasts.append(found.contrast)
        strokes = tuple(s.stroke() for s in self.settings.lock_strokes)
        if strokes:
            numbers = mend_locks(numbers.astype(np.int32), volumes.mask, strokes, width)
        numbers = np.asarray(numbers, np.int32)
        locks = describe_locks(numbers, value, directed)
        return Locks(numbers, locks, lock_tones(numbers, value), tuple(contrasts), width)

    @result("lock strands", needs=("locks", "lab", "directed hair", "kinds of hair", "detection", "framed"))
    def strands(self) -> dict[int, Strands]:
        """How the strands of every lock run, by its number; lengths in pixels of the hair's maps."""
        locks, kinds = self.locks(), self.kinds()
        if not locks.locks:
            return {}
        detail, inside = strand_detail(self._picture.lab()[..., 0], kinds > 0)
        size = detail.shape[::-1]
        finer = detail.shape[0] / locks.numbers.shape[0]
        turn = curvature(self.directed()[0]) * TURN_SPAN * self.scale()
        read = read_strands(
            structure_tensor_field(detail, inside), detail, inside > 0,
            cv2.resize(locks.numbers, size, interpolation=cv2.INTER_NEAREST), cv2.resize(turn, size),
            locks.width * finer,
        )  # fmt: skip
        return {
            number: replace(one, period=one.period / finer, amplitude=one.amplitude / finer)
            for number, one in read.items()
        }

    @result("lock forms", needs=("locks", "hair volumes"))
    def forms(self) -> dict[int, LockForm]:
        """The solid shape of every lock that is large enough, by its number."""
        locks, volumes = self.locks(), self.volumes()
        return read_forms(locks.numbers, volumes.skull + volumes.locks, locks.locks)

    @result("lock shadows", needs=("locks", "hair volumes"))
    def lock_shadows(self) -> dict[int, tuple[LockShadow, ...]]:
        """What every lock casts on those it lies over, by its number; widths in pixels of the hair's maps."""
        locks, volumes = self.locks(), self.volumes()
        return cast_shadows(locks.numbers, volumes.skull + volumes.locks, locks.locks)

    @result(
        "expected band",
        settings=("light.key",),
        needs=("directed hair", "light direction", "regions", "detection", "framed"),
    )
    def expected(self) -> Floats:
        """Where the band of light should lie, 0–1."""
        directed, kinds = self.directed()
        labels = reduced_labels(self._sitter.regions().labels, HAIR_LONG_SIDE)
        face = self._face_outline(kinds.shape)
        head = np.isin(labels, (Region.HAIR, Region.FACIAL_HAIR)) | face
        return expected_band(directed, head, self._light.key())

    def _face_outline(self, shape: Shape) -> Mask:
        face = self._sitter.face
        return np.zeros(shape, bool) if face is None else face.outline_mask(OVAL, shape)

    @result("hair shine", needs=("hair volumes", "directed hair", "expected band", "lab", "framed"))
    def shine(self) -> dict[str, HairShine]:
        """Shine of each mass that is large enough."""
        _, kinds = self.directed()
        lab = reduced(self._picture.lab(), HAIR_LONG_SIDE)
        found = {
            mass[0].spoken: shine_of(self.volumes(), lab, np.isin(kinds, mass), self.expected())
            for mass in LOCK_MASSES
        }
        return {name: shine for name, shine in found.items() if shine is not None}

    @result(
        "hairline",
        settings=(WIDTH_MM,),
        needs=("directed hair", "photograph of the hair", "regions", "detection", "framed"),
        version=2,
    )
    def hairline(self) -> Hairline:
        """Passages from skin to hair."""
        directed, kinds = self.directed()
        skin = reduced_labels(self._sitter.regions().labels, HAIR_LONG_SIDE) == Region.SKIN
        face = self._sitter.face
        if face is not None:
            # Below the temples hair hangs before skin that it does not grow from.
            skin[round((face.brow_row + TEMPLE * self.scale() / skin.shape[0]) * skin.shape[0]) :] = False
        value = linear_to_value(picture_luminance(self.photograph()))
        return read_hairline(kinds, skin, value, directed, self.mm_per_px())
