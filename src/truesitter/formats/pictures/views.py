"""The pictures of a study: every way of looking at it, by name."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial

import cv2
import numpy as np

from truesitter.core.colour.spaces import lab_to_srgb
from truesitter.core.graph.results import Declaration
from truesitter.core.imaging.reduce import reduced_size
from truesitter.core.light.form.solids import Solid
from truesitter.core.light.form.zones import LightZones
from truesitter.core.reference.tone import Clipping, lift_shadows
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages import Study
from truesitter.core.types import Bytes, Floats, Labels, Mask
from truesitter.core.values.contrast import Contrast
from truesitter.core.values.posterise import paint_groups
from truesitter.core.values.value_map import paint_values, squint
from truesitter.formats.pictures.hair_pictures import band_veil, locks_veil, tones_picture, volume_picture
from truesitter.formats.pictures.light_pictures import (
    eye_view,
    form_picture,
    metal_picture,
    recess_veil,
    shine_veil,
    solid_picture,
    turn_veil,
)
from truesitter.formats.pictures.png import encode_jpeg, encode_png

REGION_GREYS = {
    Region.BACKGROUND: 96,
    Region.SKIN: 235,
    Region.HAIR: 60,
    Region.BROWS: 20,
    Region.FACIAL_HAIR: 130,
    Region.LIPS: 175,
    Region.EYES: 255,
    Region.GARMENT: 200,
    Region.MOUTH: 40,
    Region.SPECTACLES: 10,
    Region.HAT: 80,
    Region.JEWELLERY: 245,
}
"""Greys by which regions are told apart on screen; their names are written over them."""


def group_values(study: Study) -> tuple[float, ...]:
    """Value of each group, darkest first."""
    return tuple(g.value for g in study.values.plan().groups)


def groups_picture(study: Study) -> Bytes:
    """Groups as flat greys of their own mean value."""
    return paint_groups(study.values.plan().labels, np.array(group_values(study)))


def colour_groups_picture(study: Study) -> Bytes:
    """Groups flat, each in the mean colour of its region and group."""
    labels, regions, lab = study.values.plan().labels, study.sitter.regions().labels, study.picture.lab()
    codes = regions.astype(np.int32) * 16 + labels
    count = np.bincount(codes.ravel(), minlength=256).clip(1)
    mean = np.stack(
        [np.bincount(codes.ravel(), weights=lab[..., i].ravel(), minlength=256) / count for i in range(3)],
        axis=-1,
    )
    colours: Bytes = np.round(lab_to_srgb(mean) * 255).astype(np.uint8)
    flat: Bytes = colours[codes]
    return flat


def value_codes(study: Study) -> Bytes:
    """Value times 25 as an 8-bit grey, reduced: what the pointer reads, not a picture to look at."""
    value = study.picture.value()
    scale = min(1.0, 1000 / max(value.shape))
    small = cv2.resize(value, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    return np.asarray(np.clip(np.round(small * 25), 0, 250), dtype=np.uint8)


def zones_picture(light: LightZones) -> Bytes:
    """Zones as a white veil (H, W, 4): the nearer the peak the denser, the last one fading out."""
    zones = light.zones
    fade = cv2.resize(light.fade, zones.shape[1::-1], interpolation=cv2.INTER_LINEAR)
    density = np.array([0, 235, 165, 100, 45], np.float32)[zones] * np.where(zones == 4, fade, 1)
    veil = np.full((*zones.shape, 4), 255, np.uint8)
    veil[..., 3] = np.round(density)
    return veil


def regions_picture(labels: Labels) -> Bytes:
    """Regions as flat greys with a dark line between them."""
    table = np.zeros(256, np.uint8)
    for region, grey in REGION_GREYS.items():
        table[region] = grey
    picture = table[labels]
    edge = cv2.morphologyEx(labels, cv2.MORPH_GRADIENT, np.ones((3, 3), np.uint8)) > 0
    picture[edge] = 0
    return np.asarray(picture)


_DARK_HATCH, _LIGHT_HATCH = 1, -1

SOLID_VIEWS = {
    Solid.BALL: "ball", Solid.DOME: "solid-dome", Solid.UPRIGHT: "solid-upright", Solid.LYING: "solid-lying",
    Solid.BOWL: "solid-bowl",
}  # fmt: skip
"""Views of the solids; the ball is the one that the light is dragged on."""


def _solid(study: Study, solid: Solid) -> tuple[bytes, str]:
    return _png(solid_picture(study, solid))


_FORM = ("form", "sides", "regions", "lab of the light", "value of the light")


def _hatch(shape: tuple[int, ...], direction: int) -> Mask:
    y, x = np.indices(shape[:2])
    step = max(6, round(max(shape) / 120))
    return np.asarray(((x + direction * y) // (step // 2)) % 2 == 0)


def clipped_picture(clipping: Clipping) -> Bytes:
    """Clipped darks and lights hatched, each its own way, on nothing (H, W, 4)."""
    out = np.zeros((*clipping.dark.shape, 4), np.uint8)
    for mask, direction, grey in ((clipping.dark, _DARK_HATCH, 255), (clipping.light, _LIGHT_HATCH, 0)):
        out[mask & _hatch(mask.shape, direction)] = (grey, grey, grey, 230)
    return out


def risk_picture(contrast: Contrast) -> Bytes:
    """Where marks outweigh masses, hatched light and dark so that it shows on any value (H, W, 4)."""
    risk = contrast.at_risk()
    lines = _hatch(risk.shape, 1)
    out = np.zeros((*risk.shape, 4), np.uint8)
    out[risk & lines] = (255, 255, 255, 200)
    out[risk & ~lines] = (0, 0, 0, 90)
    return out


def same_value_picture(value: Floats, step: float, tolerance: float) -> Bytes:
    """A dark veil over everything but one value (H, W, 4)."""
    small = cv2.resize(value, reduced_size(value.shape, 1000), interpolation=cv2.INTER_AREA)
    out = np.zeros((*small.shape, 4), np.uint8)
    away = np.abs(small - step) > tolerance
    out[away] = (20, 20, 20, 205)
    edge = cv2.morphologyEx(away.astype(np.uint8), cv2.MORPH_GRADIENT, np.ones((3, 3), np.uint8)) > 0
    out[edge] = (255, 255, 255, 255)
    return out


def masses_picture(study: Study) -> Bytes:
    """The masses alone, flat greys."""
    plan = study.looking.masses()
    return paint_groups(plan.labels, np.array([g.value for g in plan.groups]))


def _photo(picture: Bytes) -> tuple[bytes, str]:
    return encode_jpeg(picture, 92), "image/jpeg"


def _png(picture: Bytes) -> tuple[bytes, str]:
    return encode_png(picture), "image/png"


THUMBNAILS = (2, 3, 4, 5)


@dataclass(frozen=True)
class WallView:
    """A way of looking.

    Attributes
    ----------
    declaration
        What it depends on.
    make
        Gives ``(bytes, media type)``.
    """

    declaration: Declaration
    make: Callable[[Study], tuple[bytes, str]]


def _views(*views: tuple[Declaration, Callable[[Study], tuple[bytes, str]]]) -> dict[str, WallView]:
    return {declaration.name: WallView(declaration, make) for declaration, make in views}


VIEWS = _views(
    (Declaration("photograph", needs=("photograph",)), lambda s: _photo(s.picture.photograph())),
    (Declaration("square", ("reference.keystone",), ("photograph",)), lambda s: _photo(s.picture.square())),
    (Declaration("colour", needs=("framed",)), lambda s: _photo(s.picture.framed())),
    (Declaration("grey", needs=("value",)), lambda s: _photo(paint_values(s.picture.value()))),
    (
        Declaration("squint", ("reference.squint",), ("framed",)),
        lambda s: _photo(squint(s.picture.framed(), s.settings.reference.squint)),
    ),
    (Declaration("value-codes", needs=("value",)), lambda s: _png(value_codes(s))),
    (Declaration("groups", needs=("values",)), lambda s: _png(groups_picture(s))),
    (
        Declaration("colour-groups", needs=("values", "regions", "lab")),
        lambda s: _png(colour_groups_picture(s)),
    ),
    (Declaration("regions", needs=("regions",)), lambda s: _png(regions_picture(s.sitter.regions().labels))),
    (
        Declaration("shadows", needs=("framed",), version=2),
        lambda s: _photo(lift_shadows(s.picture.framed())),
    ),
    (Declaration("clipped", needs=("clipping",)), lambda s: _png(clipped_picture(s.picture.clipping()))),
    (Declaration("masses", needs=("masses",)), lambda s: _png(masses_picture(s))),
    (Declaration("risk", needs=("contrast",)), lambda s: _png(risk_picture(s.looking.contrast()))),
    (Declaration("thumbnail-2", needs=("thumbnail",)), lambda s: _png(s.looking.thumbnail(2))),
    (Declaration("thumbnail-3", needs=("thumbnail",)), lambda s: _png(s.looking.thumbnail(3))),
    (Declaration("thumbnail-4", needs=("thumbnail",)), lambda s: _png(s.looking.thumbnail(4))),
    (Declaration("thumbnail-5", needs=("thumbnail",)), lambda s: _png(s.looking.thumbnail(5))),
    (Declaration("zones", needs=("light",)), lambda s: _png(zones_picture(s.light.zones()))),
    (
        Declaration("form", needs=_FORM),
        lambda s: _png(form_picture(s, grey=False)),
    ),
    (
        Declaration("form-grey", needs=_FORM),
        lambda s: _png(form_picture(s, grey=True)),
    ),
    (Declaration("metal", needs=("metals", "framed")), lambda s: _png(metal_picture(s))),
    (Declaration("shine", needs=("shine",)), lambda s: _png(shine_veil(s))),
    (Declaration("recesses", needs=("recesses",)), lambda s: _png(recess_veil(s))),
    (Declaration("turns", needs=("skin colour",)), lambda s: _png(turn_veil(s.accents.colour().turns))),
    *(
        (
            Declaration(name, ("light.key",), ("light direction", "string", "flesh"), version=2),
            partial(_solid, solid=solid),
        )
        for solid, name in SOLID_VIEWS.items()
    ),
    (
        Declaration("skull", needs=("hair volumes", "photograph of the hair")),
        lambda s: _png(volume_picture(s, "skull")),
    ),
    (
        Declaration("relief", needs=("hair volumes", "photograph of the hair")),
        lambda s: _png(volume_picture(s, "relief")),
    ),
    (
        Declaration("lock-volume", needs=("hair volumes", "photograph of the hair")),
        lambda s: _png(volume_picture(s, "locks")),
    ),
    (
        Declaration("hair-surface", needs=("hair volumes", "photograph of the hair")),
        lambda s: _png(volume_picture(s, "surface")),
    ),
    (
        Declaration("lock-tones", needs=("locks", "hair volumes", "photograph of the hair")),
        lambda s: _png(tones_picture(s)),
    ),
    (Declaration("locks", needs=("locks",)), lambda s: _png(locks_veil(s))),
    (
        Declaration("hair-band", needs=("expected band", "directed hair")),
        lambda s: _png(band_veil(s)),
    ),
    (Declaration("eye-left", needs=("eyes", "framed")), lambda s: _photo(eye_view(s, "left"))),
    (Declaration("eye-right", needs=("eyes", "framed")), lambda s: _photo(eye_view(s, "right"))),
)
"""Every picture the screen and the plan can ask for."""
