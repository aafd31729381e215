"""Pictures of the light: form in flat colours, shine, recesses, changes of colour, lit solids."""

from __future__ import annotations

import cv2
import numpy as np

from truesitter.core.colour.spaces import lab_to_srgb
from truesitter.core.light.form.light_form import FormClass
from truesitter.core.light.form.solids import Solid, lit, solid_normals
from truesitter.core.light.form.two_sides import SIDED, Side
from truesitter.core.light.mirrored.eyes import cut_out
from truesitter.core.light.tints.skin_colour import Turn
from truesitter.core.stages import Study
from truesitter.core.types import Bytes, Floats, Labels, Mask
from truesitter.core.values.value_map import paint_values

EYE = 900
"""Long side of the picture of an eye, in pixels."""

BALL = 220
"""Side of the picture of the ball, in pixels."""


def form_picture(study: Study, grey: bool) -> Bytes:
    """Every class of the skin and both sides of hair and cloth flat in their mean colours or greys.

    The rest is a pale grey photograph.
    """
    classes, lab = study.light.form().classes, study.accents.lab()
    value = study.accents.value()
    picture = np.repeat(paint_values(0.45 * value + 4.5)[..., None], 3, axis=2)
    sides, regions = study.light.sides().sides, study.light.regions()
    flat = [classes == one for one in FormClass if one is not FormClass.NONE]
    flat += [(sides == side) & (regions == region) for region in SIDED for side in (Side.LIT, Side.SHADOW)]
    for inside in flat:
        if not inside.any():
            continue
        mean = lab[inside].mean(axis=0, dtype=np.float64)
        if grey:
            mean[1:] = 0
        picture[inside] = np.round(lab_to_srgb(mean) * 255)
    return np.asarray(picture, dtype=np.uint8)


def shine_codes(study: Study) -> Bytes:
    """Strength of the mirrored light as 8-bit grey: 255 is as strong as the skin's full light."""
    return np.asarray(np.clip(np.round(study.light.shine().strength() * 255), 0, 255), dtype=np.uint8)


def shine_veil(study: Study) -> Bytes:
    """Everything dimmed but what mirrors the light (h, w, 4)."""
    strength = np.clip(shine_codes(study).astype(np.float32) / 110, 0, 1)
    out = np.full((*strength.shape, 4), 20, np.uint8)
    out[..., 3] = np.round((1 - strength) * 190)
    return out


def recess_codes(study: Study) -> Labels:
    """0 none, 1 the first coat, 2 the dark coat over it."""
    recesses = study.light.recesses()
    codes = (recesses.first > 0).astype(np.uint8)
    codes[recesses.dark] = 2
    return codes


def recess_veil(study: Study) -> Bytes:
    """Both coats on a paled picture (h, w, 4): the first hatched, the second solid."""
    codes = recess_codes(study)
    out = np.full((*codes.shape, 4), 255, np.uint8)
    out[..., 3] = 150
    first = (codes == 1) & _hatch(codes.shape, 1, 5)
    out[(codes == 1)] = (255, 255, 255, 40)
    out[first] = (0, 0, 0, 220)
    out[codes == 2] = (0, 0, 0, 255)
    return out


def turn_veil(turns: Labels) -> Bytes:
    """Changes of colour hatched (h, w, 4): redder one way, yellower the other, greyer dots, stronger rules.

    The interface has no colour of its own, and a tint would be taken for the skin's.
    """
    shape = turns.shape
    y, x = np.indices(shape)
    step = _step(shape, 9)
    marks: dict[Turn, Mask] = {
        Turn.REDDER: _hatch(shape, 1, 9),
        Turn.YELLOWER: _hatch(shape, -1, 9),
        Turn.GREYER: np.asarray((x % step < step // 2) & (y % step < step // 2)),
        Turn.STRONGER: np.asarray(y % step < step // 2),
    }
    out = np.zeros((*shape, 4), np.uint8)
    for turn, mark in marks.items():
        inside = turns == turn
        out[inside & mark] = (0, 0, 0, 200)
        out[inside & ~mark] = (255, 255, 255, 90)
    return out


def _step(shape: tuple[int, ...], width: int) -> int:
    return max(4, round(max(shape) / 1000 * width))


def _hatch(shape: tuple[int, ...], direction: int, width: int) -> Mask:
    y, x = np.indices(shape[:2])
    step = _step(shape, width)
    return np.asarray(((x + direction * y) % step) < step // 2)


def solid_picture(study: Study, solid: Solid) -> Bytes:
    """A solid lit as the sitter is, in the colours of the sitter's own flesh from dark to light (h, w, 4)."""
    strings = [*study.flesh.string("skin in the shadow"), *study.flesh.string("skin in the light")]
    if strings:
        labs = np.array([t.recipe.predicted.lab for t in strings])
    else:
        labs = np.array([m.seen_lab for m in study.flesh.mixed().mixtures] or [(10, 0, 0), (90, 0, 0)])
    tones = labs[np.argsort(labs[:, 0])]
    found = study.light.direction()
    ambient = 0.12 if found is None else min(0.5, found.ambient)
    light = solid_light(solid, study.light.key(), ambient, 2 * BALL)
    at = light * (len(tones) - 1)
    lab = np.stack([np.interp(at, np.arange(len(tones)), channel) for channel in tones.T], axis=-1)
    _, inside = solid_normals(solid, 2 * BALL)
    drawn = np.dstack([np.round(lab_to_srgb(lab) * 255), inside * 255.0]).astype(np.float32)
    # Its outline is smooth at the size it is shown.
    return np.round(cv2.resize(drawn, (BALL, BALL), interpolation=cv2.INTER_AREA)).astype(np.uint8)


def solid_light(solid: Solid, key: tuple[float, float, float], ambient: float, size: int) -> Floats:
    """How light a matt solid is, 0–1, under a key light and an even rest (h, w)."""
    cosine, inside = lit(solid, key, size)
    light = (ambient + np.where(inside, np.clip(cosine, 0, None), 0)) / (1 + ambient)
    # Tones of a string stand at even steps of value, light falls off in ratios.
    return np.asarray(np.cbrt(light), dtype=np.float32)


def metal_picture(study: Study) -> Bytes:
    """Polished things flat in their tones, hard edges black, the rest in a quiet grey (h, w, 3)."""
    framed = study.picture.framed()
    grey = cv2.cvtColor(framed, cv2.COLOR_RGB2GRAY)
    out = np.repeat((118 + (grey.astype(np.float32) - 118) * 0.35)[..., None], 3, axis=2)
    for _, metal in study.flesh.metals():
        codes = enlarged(metal.codes, framed.shape)
        for tone in metal.tones:
            out[codes == tone.part] = lab_to_srgb(np.array(tone.lab)) * 255
        out[enlarged(metal.hard.astype(np.uint8), framed.shape) > 0] = 0
    return np.clip(np.round(out), 0, 255).astype(np.uint8)


def enlarged(codes: Labels, shape: tuple[int, ...]) -> Labels:
    """Codes at the size of the framed picture."""
    return cv2.resize(codes, (shape[1], shape[0]), interpolation=cv2.INTER_NEAREST)


def eye_view(study: Study, side: str) -> Bytes:
    """An eye of the framed picture, enlarged; all of it small where no such eye was found."""
    framed = study.picture.framed()
    box = next((e.box for e in study.accents.eyes() if e.side == side), (0.0, 0.0, 1.0, 1.0))
    return cut_out(framed, box, EYE)
