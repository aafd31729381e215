"""Where the light falls on the skin, where it comes from, and what forms it shows."""

from __future__ import annotations

from dataclasses import dataclass, replace

import cv2
import numpy as np

from truesitter.core.colour.spaces import picture_to_linear
from truesitter.core.colour.value import linear_luminance, linear_to_value
from truesitter.core.graph.results import Source, result
from truesitter.core.imaging.blur import blur
from truesitter.core.imaging.pixels import box_of
from truesitter.core.imaging.reduce import reduced, reduced_labels, reduced_to
from truesitter.core.light.form.light_form import Form, shadow_border, skin_form
from truesitter.core.light.form.peaks import find_peaks, own_peaks
from truesitter.core.light.form.recesses import Recesses, find_recesses
from truesitter.core.light.form.solids import BODY, PARTS, LitSolid, lit_solids
from truesitter.core.light.form.tuning import EVEN, WORKING_LONG_SIDE
from truesitter.core.light.form.two_sides import SidedForms, two_sides
from truesitter.core.light.form.zones import LightZones, grow_zones, inside_limits, line_mask, unlit_mask
from truesitter.core.light.key.body_normals import body_normals
from truesitter.core.light.key.casters import blocked, caster_map
from truesitter.core.light.key.face_normals import face_normals
from truesitter.core.light.key.light_direction import LightDirection, figure_light, light_direction
from truesitter.core.light.key.tuning import REACH
from truesitter.core.light.mirrored.skin_shine import above_surround, shine_map
from truesitter.core.settings import LightSettings, PassSettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages.picture_stage import PictureStage
from truesitter.core.stages.sitter_stage import SitterStage
from truesitter.core.stages.tuning import (
    FACE_OF_FIGURE,
    FORM_SQUINT,
    FRONT,
    HAIR_SHINE,
    LIGHT_LONG_SIDE,
    MOST_EVEN,
    RECESS_SQUINT,
)
from truesitter.core.types import Doubles, Floats, Labels, Mask, Shape

"""Of linear sRGB (IEC 61966-2-1)."""


@dataclass(frozen=True)
class Shine:
    """Mirrored light of skin, lips, eyes and hair.

    Attributes
    ----------
    skin, lips, eyes, hair
        (h, w) in the unit of linear light; of eyes all their light, of hair what stands above its surround.
    full
        Full light of the skin: the 95 % of its luminance.
    """

    skin: Floats
    lips: Floats
    eyes: Floats
    hair: Floats
    full: float

    def strength(self) -> Floats:
        """Mirrored light as part of the skin's full light, (h, w)."""
        strongest = np.maximum.reduce((self.skin, self.lips, self.eyes, self.hair))
        return np.asarray(strongest / max(self.full, 1e-6), dtype=np.float32)


class LightStage:
    """Key light, form, shine, light peaks and zones, recesses."""

    def __init__(self, source: Source, picture: PictureStage, sitter: SitterStage) -> None:
        self.source, self._picture, self._sitter = source, picture, sitter
        self.settings: LightSettings = source.stage("light")
        self._school: PassSettings = source.stage("passes")

    def regions(self) -> Labels:
        """Regions at the size that light is read at."""
        return reduced_labels(self._sitter.regions().labels, LIGHT_LONG_SIDE)

    def scale(self, shape: Shape) -> float:
        """Height of the face in pixels of a map, or what stands for it."""
        face = self._sitter.face
        return FACE_OF_FIGURE * shape[0] if face is None else face.height(shape)

    @result("light direction", needs=("linear light", "regions", "detection"), version=3)
    def direction(self) -> LightDirection | None:
        """Where the key light comes from, as the photograph shows it; None without enough bare skin."""
        face, luminance, regions = self._sitter.face, linear_luminance(self.linear()), self.regions()
        skin = regions == Region.SKIN
        if face is None:
            return figure_light(luminance, skin, regions)
        return light_direction(luminance, skin, face)

    def key(self) -> tuple[float, float, float]:
        """Unit vector towards the key light: the painter's own, else as found, else from the front."""
        if self.settings.key is not None:
            x, y, z = np.array(self.settings.key) / np.linalg.norm(self.settings.key)
            return float(x), float(y), float(z)
        found = self.direction()
        return FRONT if found is None else found.vector

    def even(self) -> float:
        """Even light as part of the key's."""
        found = self.direction()
        return EVEN if found is None or self._sitter.face is None else min(MOST_EVEN, found.ambient)

    def towards(self) -> tuple[float, float]:
        """Towards the key light in the picture, x right, y down."""
        x, y, _ = self.key()
        return x, -y

    def solids(self) -> tuple[LitSolid, ...]:
        """Parts of the sitter as simple solids under the key light."""
        return lit_solids(BODY if self._sitter.face is None else PARTS, self.key())

    @result("linear light", needs=("framed",))
    def linear(self) -> Floats:
        """Linear sRGB at the size that light is read at."""
        return reduced(picture_to_linear(self._picture.framed()), LIGHT_LONG_SIDE)

    @result("shine", needs=("linear light", "regions", "detection"))
    def shine(self) -> Shine:
        """Mirrored light."""
        linear = self.linear()
        regions = self.regions()
        scale = self.scale(regions.shape)
        skin, lips = regions == Region.SKIN, regions == Region.LIPS
        full = float(np.quantile(linear_luminance(linear)[skin], 0.95)) if skin.any() else 0.0
        eyes, hair = regions == Region.EYES, np.isin(regions, (Region.HAIR, Region.FACIAL_HAIR))
        white = linear.min(axis=2)
        return Shine(
            shine_map(linear, skin, scale),
            shine_map(linear, lips, scale),
            np.where(eyes, white, 0).astype(np.float32),
            above_surround(white, hair, HAIR_SHINE * scale),
            full,
        )

    @result("skin luminance", needs=("linear light",))
    def luminance(self) -> Floats:
        """Luminance squinted as for form."""
        return self._squinted(FORM_SQUINT)

    def _squinted(self, strength: float) -> Floats:
        """Luminance blurred by a part of the picture's height."""
        luminance = linear_luminance(self.linear())
        return blur(luminance, strength * luminance.shape[0])

    @result("surface of the skin", needs=("regions", "detection", "framed"))
    def surface(self) -> tuple[Floats, Mask]:
        """Normals of the figure (h, w, 3), y up, and where the face's mesh tells them."""
        regions, face = self.regions(), self._sitter.face
        normals, _ = body_normals(regions, face)
        on_face = np.zeros(regions.shape, bool)
        if face is not None:
            mesh, on_face = face_normals(face, regions.shape)
            normals = np.where(on_face[..., None], mesh, normals)
        return np.asarray(normals, np.float32), on_face

    @result("facing", settings=("light.key",), needs=("light direction", "surface of the skin"))
    def _facing(self) -> tuple[Floats, Mask]:
        """Cosine between skin and key light, and where the face's mesh tells it."""
        normals, on_face = self.surface()
        return np.asarray(normals @ np.array(self.key(), np.float32)), on_face

    @result(
        "form",
        settings=("light.key",),
        needs=(
            "facing",
            "casters",
            "skin luminance",
            "shine",
            "regions",
            "detection",
            "light direction",
            "framed",
        ),
        version=2,
    )
    def form(self) -> Form:
        """The skin in its six classes."""
        regions, luminance = self.regions(), self.luminance()
        facing, on_face = self._facing()
        scale = self.scale(regions.shape)
        skin = regions == Region.SKIN
        # Only the skin's own box is looked at, with a rim for what is blurred.
        box = box_of(skin, round(0.05 * scale))
        form = skin_form(
            luminance[box],
            linear_to_value(luminance[box]),
            skin[box],
            cv2.GaussianBlur(self.shine().skin[box], (0, 0), 1.0),
            facing[box],
            on_face[box],
            self.met()[box] > 0,
            self.towards(),
            self.even(),
            scale,
        )
        classes, told = np.zeros(skin.shape, np.uint8), np.zeros(skin.shape, bool)
        classes[box], told[box] = form.classes, form.on_face
        return replace(form, classes=classes, on_face=told)

    @result(
        "sides",
        settings=("light.key",),
        needs=("skin luminance", "regions", "detection", "light direction", "framed"),
    )
    def sides(self) -> SidedForms:
        """Hair, beard, hat and cloth in light and shadow."""
        luminance, regions = self.luminance(), self.regions()
        scale = self.scale(regions.shape)
        return two_sides(luminance, linear_to_value(luminance), regions, self.towards(), scale)

    @result("casters", settings=("light.key",), needs=("regions", "detection", "light direction"))
    def met(self) -> Labels:
        """What the way from the skin towards the light first meets, as `casters.blocked` numbers it."""
        regions, face = self.regions(), self._sitter.face
        scale = self.scale(regions.shape)
        skin = regions == Region.SKIN
        # What stands before the skin is no farther off than a shadow is thrown.
        box = box_of(skin, round(REACH * scale))
        met = np.zeros(skin.shape, np.uint8)
        met[box] = blocked(caster_map(regions, face)[box], skin[box], self.towards(), scale)
        return met

    @result(
        "light",
        settings=(
            "light.squint",
            "light.zone_1_reach",
            "light.peaks",
            "light.limits",
            "passes.unlit",
            "regions.names",
        ),
        needs=("linear light", "framed", "regions", "detection", "light direction"),
        version=4,
    )
    def zones(self) -> LightZones:
        """Light peaks and zones 1–4."""
        shape, face = self._picture.shape, self._sitter.face
        regions = reduced_labels(self._sitter.regions().labels, WORKING_LONG_SIDE)
        luminance = reduced_to(self._squinted(self.settings.squint), regions.shape)
        value, skin = linear_to_value(luminance), regions == Region.SKIN
        scale = self.scale(value.shape)
        if not skin.any():
            return LightZones((), np.zeros(shape, np.uint8), np.zeros(value.shape, np.float32), ())
        lit = luminance >= shadow_border(luminance[skin].astype(np.float64), self.even())
        barred = unlit_mask(face, self._school.unlit, value.shape)
        inside = inside_limits(self.limits(), value.shape) & ~barred
        own = self._sitter.own_places()
        open_ = inside & lit & (skin | (regions == Region.LIPS))
        if self.settings.peaks is None:
            peaks = find_peaks(value, open_ & skin, face, scale, own)
        else:
            peaks = own_peaks(self.settings.peaks, value, open_, face, own)
        zones = grow_zones(
            value, open_ & ~line_mask(value), peaks, self.settings.zone_1_reach * scale
        )  # fmt: skip
        return replace(zones, zones=_enlarged(zones.zones, shape))

    @result(
        "recesses", settings=("regions.names",), needs=("linear light", "regions", "detection"), version=3
    )
    def recesses(self) -> Recesses:
        """The narrow darks of the face, on a map of `LIGHT_LONG_SIDE`."""
        value = linear_to_value(self._squinted(RECESS_SQUINT))
        regions = self.regions()
        where = np.isin(regions, (Region.SKIN, Region.LIPS, Region.EYES))
        own = self._sitter.own_places()
        return find_recesses(value, where, self._sitter.face, self.scale(value.shape), own, regions)

    def shadow_value(self) -> float:
        """Value under which skin lies in shadow; 0 where no shadow stands apart."""
        return float(linear_to_value(np.array([self.form().shadow_below], np.float32))[0])

    def limits(self) -> tuple[Doubles, ...]:
        """The painter's outer limits, x and y in fractions."""
        return tuple(np.array(limit.points, dtype=np.float64) for limit in self.settings.limits)


def _enlarged(zones: Labels, shape: Shape) -> Labels:
    """Zones at another size with smooth borders; a zone still covers those inside it."""
    height, width = shape[:2]
    large = np.zeros((height, width), np.uint8)
    for zone in (4, 3, 2, 1):
        part = ((zones > 0) & (zones <= zone)).astype(np.float32)
        large[cv2.resize(part, (width, height), interpolation=cv2.INTER_LINEAR) > 0.5] = zone
    return large
