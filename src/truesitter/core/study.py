"""A study: one photograph, one set of settings, and everything computed from them.

Each result is remembered under a key made of exactly the settings it depends on, so
that a changed handle re-computes what depends on it and nothing else.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Hashable
from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.colour.spaces import picture_to_lab
from truesitter.core.flesh import Flesh, mix_flesh
from truesitter.core.hair.field import solve_axes
from truesitter.core.hair.lines import MappingLine, mapping_lines
from truesitter.core.hair.sense import GrowthHints, Whorl, find_whorls, orient
from truesitter.core.highlights.light import LightDirection, light_direction
from truesitter.core.highlights.zones import LightZones, grow_zones
from truesitter.core.memo import Memo
from truesitter.core.paint.palettes import Palette
from truesitter.core.passes.planner import PassPlan, Subject, plan_passes
from truesitter.core.passes.schools import school
from truesitter.core.reference.decode import decode, inspect
from truesitter.core.reference.frame import WORKING_LONG_SIDE, apply, place
from truesitter.core.settings import StudySettings
from truesitter.core.sitter import places
from truesitter.core.sitter.landmarks import Detection, detect
from truesitter.core.sitter.regions import Region, Regions, solve_regions
from truesitter.core.types import Bytes, Floats, Labels, Mask
from truesitter.core.values.cuts import best_fit_cuts, even_cuts
from truesitter.core.values.outlines import Outline, trace_outlines
from truesitter.core.values.posterise import Group, cut_labels, describe_groups, posterise
from truesitter.core.values.value_map import blur, histogram, smooth_shapes, value_map

VERSION = 1
"""Part of every key: raise it when a computation changes."""

PLANNING_LONG_SIDE = 1000
OUTLINE_LONG_SIDE = 1200
PREVIEW_LONG_SIDE = 1000
HISTOGRAM_BINS = 200

_NAMES = {
    2: ("dark", "light"),
    3: ("dark", "middle", "light"),
    4: ("dark accent", "shadow", "halftone", "light"),
    5: ("dark accent", "shadow", "halftone", "light", "highlight"),
}


def group_names(count: int) -> tuple[str, ...]:
    """Names of value groups, darkest first; above five they are numbered."""
    return _NAMES.get(count, tuple(f"group {i + 1}" for i in range(count)))


@dataclass(frozen=True)
class ValuePlan:
    """Value groups of the framed picture.

    Attributes
    ----------
    cuts, labels, groups
        Cuts, (H, W) group numbers, and the groups described.
    """

    cuts: tuple[float, ...]
    labels: Labels
    groups: tuple[Group, ...]


@dataclass(frozen=True)
class HairMap:
    """Direction of the hair.

    Attributes
    ----------
    directed
        (h, w, 2) root→tip unit direction on a reduced grid, y up.
    mask
        (h, w) where there is hair on that grid.
    lines, whorls
        Mapping lines, root first, and whorls.
    coherence
        Mean coherence inside the hair, 0–1: how plainly the strands showed.
    """

    directed: Floats
    mask: Mask
    lines: tuple[MappingLine, ...]
    whorls: tuple[Whorl, ...]
    coherence: float

    def field_codes(self, hair: Mask) -> np.ndarray[tuple[int, int], np.dtype[np.uint16]]:
        """Direction as 16-bit codes at the size of `hair`: 0 outside, else 1 + round(100·degrees)."""
        height, width = hair.shape
        big = cv2.resize(self.directed, (width, height), interpolation=cv2.INTER_LINEAR)
        degrees = np.degrees(np.arctan2(big[..., 1], big[..., 0])) % 360
        codes = 1 + np.round(degrees * 100) % 36000
        inside = hair & (np.hypot(big[..., 0], big[..., 1]) > 1e-6)
        return np.where(inside, codes, 0).astype(np.uint16)


class Study:
    """Everything that can be computed for one photograph and one set of settings.

    Parameters
    ----------
    sha256
        Hash of the photograph's bytes; the name under which results are remembered.
    load
        Gives the bytes when they are needed.
    settings
        What the painter set.
    memo
        Shared memory of results.
    """

    def __init__(self, sha256: str, load: Callable[[], bytes], settings: StudySettings, memo: Memo) -> None:
        self.sha256, self.settings, self._load, self._memo = sha256, settings, load, memo

    @classmethod
    def of_bytes(cls, data: bytes, settings: StudySettings, memo: Memo | None = None) -> Study:
        """A study of a photograph held in memory."""
        return cls(hashlib.sha256(data).hexdigest(), lambda: data, settings, memo or Memo())

    # -- keys -----------------------------------------------------------------------------------

    def _frame_key(self) -> Hashable:
        return (VERSION, self.sha256, self.settings.reference.frame())

    def _region_key(self) -> Hashable:
        return (self._frame_key(), self.settings.regions)

    def _value_key(self) -> Hashable:
        values = self.settings.values
        # Regions weigh the histogram and mark features; own and even cuts do not use the weights.
        return (self._region_key() if values.weigh_sitter else self._frame_key(), values)

    def _flesh_key(self) -> Hashable:
        return (self._value_key(), self._region_key(), self.settings.flesh)

    def _light_key(self) -> Hashable:
        return (self._region_key(), self.settings.light)

    def _hair_key(self) -> Hashable:
        return (self._region_key(), self.settings.hair)

    def _passes_key(self) -> Hashable:
        return (self._flesh_key(), self._light_key(), self.settings.passes.school)

    def keys(self) -> dict[str, str]:
        """Short text key of each kind of result, changed only when that result may change."""
        parts: dict[str, Hashable] = {
            "photograph": (VERSION, self.sha256),
            "frame": self._frame_key(),
            "squint": (self._frame_key(), self.settings.reference.squint),
            "regions": self._region_key(),
            "values": (self._value_key(), self._frame_key()),
            "flesh": self._flesh_key(),
            "light": self._light_key(),
            "hair": self._hair_key(),
            "passes": self._passes_key(),
        }
        return {
            name: hashlib.sha256(repr((name, part)).encode()).hexdigest()[:20] for name, part in parts.items()
        }

    # -- the picture ----------------------------------------------------------------------------

    def photograph(self) -> Bytes:
        """The whole upright photograph at a working size, for framing."""
        return self._memo.get(
            ("photograph", VERSION, self.sha256),
            lambda: self._shrunk(decode(self._load(), WORKING_LONG_SIDE)),
        )

    @staticmethod
    def _shrunk(picture: Bytes) -> Bytes:
        height, width = picture.shape[:2]
        scale = WORKING_LONG_SIDE / max(height, width)
        if scale >= 1:
            return picture
        size = (round(width * scale), round(height * scale))
        return np.asarray(cv2.resize(picture, size, interpolation=cv2.INTER_AREA))

    def framed(self) -> Bytes:
        """The framed picture, (H, W, 3) uint8 sRGB, long side at most 2 048."""
        return self._memo.get(("framed", self._frame_key()), self._frame)

    def _frame(self) -> Bytes:
        frame = self.settings.reference.frame()
        data = self._load()
        info = inspect(data)
        crop = place(frame, info.width, info.height)
        needed = WORKING_LONG_SIDE * max(info.width, info.height) / max(crop.size)
        return apply(decode(data, int(needed) + 1), frame)

    @property
    def mm_per_px(self) -> float:
        """Canvas mm to a pixel of the framed picture."""
        return self.settings.reference.canvas_width_mm / self.framed().shape[1]

    def lab(self) -> Floats:
        """L*a*b* of the framed picture."""
        return self._memo.get(("lab", self._frame_key()), lambda: picture_to_lab(self.framed()))

    def value(self) -> Floats:
        """Value map of the framed picture."""
        return self._memo.get(("value", self._frame_key()), lambda: value_map(self.framed()))

    # -- the sitter -----------------------------------------------------------------------------

    def detection(self) -> Detection:
        """Face landmarks and person mask."""
        return self._memo.get(("detection", self._frame_key()), lambda: detect(self.framed()))

    def regions(self) -> Regions:
        """Regions, with the painter's scribbles."""
        scribbles = tuple(s.scribble() for s in self.settings.regions.scribbles)
        return self._memo.get(
            ("regions", self._region_key()),
            lambda: solve_regions(self.framed(), self.detection(), scribbles),
        )

    def features(self) -> Mask | None:
        """Eyes, nostrils and mouth, where smaller shapes are kept; None without a face."""
        landmarks = self.detection().landmarks
        if landmarks is None:
            return None
        return places.feature_mask(landmarks, self.framed().shape[:2])

    # -- values ---------------------------------------------------------------------------------

    def smoothed(self) -> Floats:
        """Value map with everything smaller than the smallest shape evened out."""
        smallest = self.settings.values.smallest_mm
        return self._memo.get(
            ("smoothed", self._frame_key(), smallest),
            lambda: smooth_shapes(self.value(), smallest / self.mm_per_px / 2),
        )

    def histogram(self) -> tuple[float, ...]:
        """Share of the picture in equal steps of value, 0–10."""
        counts = self._memo.get(
            ("histogram", self._frame_key()), lambda: histogram(self.value(), bins=HISTOGRAM_BINS)
        )
        return tuple(float(c) for c in counts / counts.sum())

    def cuts(self) -> tuple[float, ...]:
        """The cuts in force: even, best fit or own."""
        values = self.settings.values
        if values.mode == "own":
            return values.cuts
        if values.mode == "even":
            return even_cuts(values.groups)
        return self._memo.get(("cuts", self._value_key()), self._best_fit)

    def _best_fit(self) -> tuple[float, ...]:
        values, smoothed = self.settings.values, self.smoothed()
        counts = histogram(smoothed)
        if values.weigh_sitter:
            sitter = self.regions().labels != Region.BACKGROUND
            if sitter.any():
                # The sitter counts fully, what lies round it a quarter.
                counts = 0.25 * counts + 0.75 * histogram(smoothed, sitter)
        return best_fit_cuts(counts, values.groups)

    def values(self) -> ValuePlan:
        """Value groups of paintable shapes."""
        return self._memo.get(("values", self._value_key(), self._frame_key()), self._group)

    def _group(self) -> ValuePlan:
        cuts = self.cuts()
        smallest = self.settings.values.smallest_mm / self.mm_per_px
        labels = posterise(self.smoothed(), cuts, smallest, self.features())
        return ValuePlan(cuts, labels, describe_groups(labels, self.value(), self.lab(), cuts))

    def preview_labels(self, cuts: tuple[float, ...]) -> Labels:
        """Groups for cuts under the painter's hand: reduced and without small-shape cleaning."""
        small = self._memo.get(
            ("preview", self._frame_key(), self.settings.values.smallest_mm),
            lambda: _reduced(self.smoothed(), PREVIEW_LONG_SIDE),
        )
        return np.asarray(cv2.medianBlur(cut_labels(small, cuts), 5))

    def outlines(self) -> tuple[tuple[Outline, ...], tuple[int, int]]:
        """Outlines of the value shapes, and the (height, width) of the grid they are drawn on."""
        return self._memo.get(("outlines", self._value_key(), self._frame_key()), self._outline)

    def _outline(self) -> tuple[tuple[Outline, ...], tuple[int, int]]:
        labels = _reduced_labels(self.values().labels, OUTLINE_LONG_SIDE)
        return trace_outlines(labels), (labels.shape[0], labels.shape[1])

    # -- flesh ----------------------------------------------------------------------------------

    def palette(self) -> Palette:
        """The tubes set out."""
        return self.settings.flesh.as_palette()

    def flesh(self) -> Flesh:
        """A mixture for every value group of the skin."""
        flesh = self.settings.flesh
        return self._memo.get(
            ("flesh", self._flesh_key()),
            lambda: mix_flesh(
                self.lab(), self.values().labels, self.regions().mask(Region.SKIN),
                self.palette(), flesh.most_tubes, flesh.clip,
            ),
        )  # fmt: skip

    # -- light ----------------------------------------------------------------------------------

    def light(self) -> LightZones:
        """Points of maximum luminosity and zones 1–4."""
        return self._memo.get(("light", self._light_key()), self._light)

    def _light(self) -> LightZones:
        settings = self.settings.light
        squinted = blur(self.value(), settings.squint * self.value().shape[0])
        skin = self.regions().mask(Region.SKIN)
        return grow_zones(squinted, skin, self.detection().landmarks, settings.zone_1_reach)

    def light_direction(self) -> LightDirection | None:
        """Where the key light comes from; None without a face or without enough bare skin."""
        return self._memo.get(("light direction", self._region_key()), self._direction)

    def _direction(self) -> LightDirection | None:
        landmarks = self.detection().landmarks
        if landmarks is None:
            return None
        luminance = blur(((self.lab()[..., 0] + 16) / 116) ** 3, 0.004 * self.lab().shape[0])
        return light_direction(luminance, self.regions().mask(Region.SKIN), landmarks)

    # -- hair -----------------------------------------------------------------------------------

    def hair_mask(self) -> Mask:
        """Hair of the head, facial hair and brows."""
        return self.regions().mask(Region.HAIR, Region.FACIAL_HAIR, Region.BROWS)

    def hair(self) -> HairMap:
        """Direction field, mapping lines and whorls."""
        return self._memo.get(("hair", self._hair_key()), self._hair)

    def _hair(self) -> HairMap:
        settings = self.settings.hair
        guides = tuple(g.guide() for g in settings.guides)
        axes = solve_axes(self.lab()[..., 0], self.hair_mask(), guides)
        height, width = axes.mask.shape
        labels = cv2.resize(self.regions().labels, (width, height), interpolation=cv2.INTER_NEAREST)
        landmarks = self.detection().landmarks
        brow_row = None
        if landmarks is not None:
            brow_row = float(landmarks[list(places.BROWS[0] + places.BROWS[1]), 1].mean() * height)
        hints = GrowthHints(
            skin=np.asarray(labels == Region.SKIN),
            beard=np.asarray(labels == Region.FACIAL_HAIR),
            brow_row=brow_row,
        )
        whorls = find_whorls(axes)
        directed = orient(axes, hints, guides, whorls)
        spacing = settings.spacing_mm / self.settings.reference.canvas_width_mm * width
        coherence = float(axes.coherence[axes.mask].mean()) if axes.mask.any() else 0.0
        return HairMap(directed, axes.mask, mapping_lines(directed, axes.mask, spacing), whorls, coherence)

    # -- passes ---------------------------------------------------------------------------------

    def passes(self) -> PassPlan:
        """The ordered passes and the canvas after each."""
        return self._memo.get(("passes", self._passes_key()), self._passes)

    def _passes(self) -> PassPlan:
        lab = _reduced(self.lab(), PLANNING_LONG_SIDE)
        shape = lab.shape[:2]
        subject = Subject(
            groups=_reduced_labels(self.values().labels, PLANNING_LONG_SIDE),
            regions=_reduced_labels(self.regions().labels, PLANNING_LONG_SIDE),
            zones=_reduced_labels(self.light().zones, PLANNING_LONG_SIDE),
            lab=lab,
            value=_reduced(self.smoothed(), PLANNING_LONG_SIDE),
            group_names=group_names(self.settings.values.groups),
            mm_per_px=self.settings.reference.canvas_width_mm / shape[1],
            flesh={m.group: m.recipe for m in self.flesh().mixtures},
            clip=self.settings.flesh.clip,
        )
        return plan_passes(subject, self.palette(), school(self.settings.passes.school))


def _reduced_size(shape: tuple[int, ...], long_side: int) -> tuple[int, int]:
    scale = min(1.0, long_side / max(shape[:2]))
    return max(1, round(shape[1] * scale)), max(1, round(shape[0] * scale))


def _reduced(map_: Floats, long_side: int) -> Floats:
    size = _reduced_size(map_.shape, long_side)
    return np.asarray(cv2.resize(map_, size, interpolation=cv2.INTER_AREA))


def _reduced_labels(labels: Labels, long_side: int) -> Labels:
    size = _reduced_size(labels.shape, long_side)
    return np.asarray(cv2.resize(labels, size, interpolation=cv2.INTER_NEAREST))
