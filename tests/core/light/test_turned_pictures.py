"""Laws of turned pictures: what is read of a mirrored or transposed picture is what was read, turned as well.

Nothing outside the project is needed for them: a picture has no left and no up of its own, as long as no
face and no gravity is asked.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cache
from typing import Any

import cv2
import numpy as np
import pytest

from tests.conftest import study_of
from truesitter.core.colour.spaces import srgb_to_lab
from truesitter.core.colour.value import linear_luminance, linear_to_value
from truesitter.core.imaging.reduce import reduced, reduced_labels
from truesitter.core.light.form.brush_direction import brush_directions
from truesitter.core.light.form.light_form import FormClass, highlight_mask, rises_again, skin_form
from truesitter.core.light.form.peaks import find_peaks, prominences
from truesitter.core.light.form.recesses import find_recesses, valley_depth
from truesitter.core.light.form.zones import grow_zones, line_mask
from truesitter.core.light.key.casters import blocked, caster_map
from truesitter.core.light.light_report import cast_shadows, class_colours, passage, terminator
from truesitter.core.light.mirrored.ceilings import ceilings
from truesitter.core.light.mirrored.highlights import HighlightKind, find_highlights
from truesitter.core.light.mirrored.polish import edges_of
from truesitter.core.light.mirrored.skin_shine import above_surround, shine_map
from truesitter.core.light.tints.hue_line import hue_stops, sample
from truesitter.core.light.tints.skin_colour import difference_words, off_mean, skin_colour
from truesitter.core.sitter.region_names import Region

LONG_SIDE = 300


@dataclass(frozen=True)
class Turned:
    """One way of turning a picture."""

    name: str
    picture: Callable[[Any], Any]
    spot: Callable[[float, float], tuple[float, float]]
    way: Callable[[float, float], tuple[float, float]]

    def __str__(self) -> str:
        return self.name


def _transposed(picture: Any) -> Any:
    return np.ascontiguousarray(picture.swapaxes(0, 1))


MIRROR = Turned(
    "mirror", lambda p: np.ascontiguousarray(p[:, ::-1]), lambda x, y: (1 - x, y), lambda x, y: (-x, y)
)
TRANSPOSED = Turned("transposed", _transposed, lambda x, y: (y, x), lambda x, y: (y, x))
TURNS = pytest.mark.parametrize("turned", [MIRROR, TRANSPOSED], ids=str)


@dataclass(frozen=True)
class Maps:
    """Maps of one sitter, as the stages hand them over."""

    linear: np.ndarray
    luminance: np.ndarray
    value: np.ndarray
    lab: np.ndarray
    regions: np.ndarray
    facing: np.ndarray
    on_face: np.ndarray
    towards: tuple[float, float]
    scale: float

    @property
    def skin(self) -> np.ndarray:
        return self.regions == Region.SKIN

    def turned(self, by: Turned) -> Maps:
        pictures = (by.picture(getattr(self, n)) for n in list(self.__annotations__)[:7])
        return Maps(*pictures, by.way(*self.towards), self.scale)


@cache
def maps() -> Maps:
    study = study_of("tobias")
    linear = reduced(study.light.linear(), LONG_SIDE)
    luminance = cv2.GaussianBlur(linear_luminance(linear), (0, 0), 1.5)
    regions = reduced_labels(study.sitter.regions().labels, LONG_SIDE)
    normals, on_face = study.light.surface()
    facing = reduced(np.asarray(normals @ np.array(study.light.key(), np.float32), np.float32), LONG_SIDE)
    on_face = reduced_labels(on_face.astype(np.uint8), LONG_SIDE) > 0
    lab = np.asarray(srgb_to_lab(reduced(study.picture.framed() / np.float32(255), LONG_SIDE)), np.float32)
    value = linear_to_value(luminance)
    assert value.shape == regions.shape == facing.shape == lab.shape[:2]
    return Maps(
        linear, luminance, value, lab, regions, facing, on_face, study.light.towards(),
        study.light.scale(value.shape),
    )  # fmt: skip


def form_of(m: Maps) -> Any:
    met = blocked(caster_map(m.regions, None), m.skin, m.towards, m.scale)
    shine = shine_map(m.linear, m.skin, m.scale)
    return met, skin_form(
        m.luminance, m.value, m.skin, shine, m.facing, m.on_face, met > 0, m.towards, 0.1, m.scale
    )


def alike(one: np.ndarray, other: np.ndarray, share: float = 0.995) -> None:
    """Labels that agree but for pixels on borders."""
    assert one.shape == other.shape
    assert len(np.unique(one)) > 1
    assert (one == other).mean() >= share


@TURNS
def test_the_form_of_a_turned_figure_is_turned(turned: Turned) -> None:
    m = maps()
    met, form = form_of(m)
    own_met, own = form_of(m.turned(turned))
    alike(own_met, turned.picture(met))
    alike(own.classes, turned.picture(form.classes))
    assert set(np.unique(form.classes)) >= {
        FormClass.LIGHT, FormClass.HALFTONE, FormClass.FORM_SHADOW, FormClass.CAST_SHADOW,
    }  # fmt: skip
    assert own.shadow_below == pytest.approx(form.shadow_below)
    assert own.light_above == pytest.approx(form.light_above)
    rises = rises_again(m.value, m.skin & (m.luminance < form.shadow_below), m.towards, 0.1 * m.scale)
    t = m.turned(turned)
    again = rises_again(t.value, t.skin & (t.luminance < form.shadow_below), t.towards, 0.1 * m.scale)
    assert rises.max() > 0.2
    np.testing.assert_allclose(again, turned.picture(rises), atol=1e-4)


@TURNS
def test_what_is_told_of_light_and_shadow_does_not_turn(turned: Turned) -> None:
    m, t = maps(), maps().turned(turned)
    met, form = form_of(m)
    own_met, own = form_of(t)
    for one, other in zip(class_colours(form, m.lab), class_colours(own, t.lab), strict=True):
        assert one.form is other.form
        assert other.share == pytest.approx(one.share, abs=0.004)
        np.testing.assert_allclose(other.lab, one.lab, atol=0.6)
    assert passage(own, t.lab).steps == pytest.approx(passage(form, m.lab).steps, abs=0.05)
    shadows, again = cast_shadows(form, met, m.scale), cast_shadows(own, own_met, t.scale)
    assert shadows
    for one, other in zip(shadows, again, strict=True):
        assert other.share == pytest.approx(one.share, abs=0.004)
        assert (other.x, other.y) == pytest.approx(turned.spot(one.x, one.y), abs=0.02)
        assert other.caster == one.caster
        # It lies in the shadow it stands for.
        row, column = int(one.y * form.classes.shape[0]), int(one.x * form.classes.shape[1])
        assert form.classes[row, column] == FormClass.CAST_SHADOW
    if turned is MIRROR:
        lengths = [
            sum(float(np.hypot(*np.diff(line * m.value.shape[::-1], axis=0).T).sum()) for line in lines)
            for lines in (terminator(form, m.scale), terminator(own, m.scale))
        ]
        assert lengths[0] > m.scale / 4
        assert lengths[1] == pytest.approx(lengths[0], rel=0.05)


@TURNS
def test_mirrored_light_turns_with_the_picture(turned: Turned) -> None:
    m, t = maps(), maps().turned(turned)
    shine = shine_map(m.linear, m.skin, m.scale)
    np.testing.assert_allclose(shine_map(t.linear, t.skin, m.scale), turned.picture(shine), atol=1e-5)
    stands = above_surround(m.luminance, m.skin, 0.2 * m.scale)
    np.testing.assert_allclose(
        above_surround(t.luminance, t.skin, 0.2 * m.scale), turned.picture(stands), atol=1e-4
    )
    lit = m.skin & (m.value > 4)
    found = highlight_mask(m.luminance, lit, shine, m.scale)
    alike(
        highlight_mask(t.luminance, turned.picture(lit), turned.picture(shine), m.scale),
        turned.picture(found),
    )
    lights = find_highlights(shine, m.skin, HighlightKind.SHEEN, 0.5, m.lab, m.value, m.scale, 1.0)
    again = find_highlights(
        turned.picture(shine), t.skin, HighlightKind.SHEEN, 0.5, t.lab, t.value, m.scale, 1.0
    )
    assert lights
    for one, other in zip(lights, again, strict=True):
        assert (other.x, other.y) == pytest.approx(turned.spot(one.x, one.y), abs=0.01)
        assert other.strength == pytest.approx(one.strength, rel=1e-3)
        assert other.kind is one.kind
    everywhere = np.ones_like(m.skin)
    edges, edges_again = (
        edges_of(m.value, everywhere, 0.2),
        edges_of(t.value, turned.picture(everywhere), 0.2),
    )
    assert edges_again.share == pytest.approx(edges.share, abs=0.01)
    alike(edges_again.hard, turned.picture(edges.hard))


def test_peaks_and_zones_are_mirrored_with_the_picture() -> None:
    turned = MIRROR
    m, t = maps(), maps().turned(turned)
    peaks, again = find_peaks(m.value, m.skin, None, m.scale), find_peaks(t.value, t.skin, None, t.scale)
    assert len(peaks) >= 3
    assert len(again) == len(peaks)
    for one, other in zip(peaks, again, strict=True):
        assert (other.x, other.y) == pytest.approx(turned.spot(one.x, one.y), abs=0.01)
    spots = [(round(p.y * m.value.shape[0]), round(p.x * m.value.shape[1])) for p in peaks]
    own = [turned.spot((c + 0.5) / m.value.shape[1], (r + 0.5) / m.value.shape[0]) for r, c in spots]
    moved = [(int(y * t.value.shape[0]), int(x * t.value.shape[1])) for x, y in own]
    np.testing.assert_allclose(prominences(t.value, t.skin, moved), prominences(m.value, m.skin, spots))
    np.testing.assert_array_equal(line_mask(t.value), turned.picture(line_mask(m.value)))
    zones, turned_zones = (grow_zones(x.value, x.skin, p, 0.1 * m.scale) for x, p in ((m, peaks), (t, again)))
    alike(turned_zones.zones, turned.picture(zones.zones), 0.98)
    cuts = (3.0, 5.0, 7.0)
    named = tuple((f"peak {n}", p.x, p.y) for n, p in enumerate(peaks))
    there = ceilings(named, m.value, m.value, m.skin, m.value < 4, cuts, m.scale)
    turned_named = tuple((name, *turned.spot(x, y)) for name, x, y in named)
    then = ceilings(turned_named, t.value, t.value, t.skin, t.value < 4, cuts, t.scale)
    for one in there:
        other = next(c for c in then if c.place == one.place)
        assert other.ceiling == pytest.approx(one.ceiling, abs=0.05)
        assert other.value == pytest.approx(one.value, abs=0.05)


@TURNS
@pytest.mark.parametrize("reach", [2, 9, 14])
def test_valleys_are_as_deep_in_a_turned_picture(turned: Turned, reach: int) -> None:
    m = maps()
    depth, _ = valley_depth(m.value, reach)
    own, _ = valley_depth(turned.picture(m.value), reach)
    assert depth.max() > 0.4
    np.testing.assert_array_equal(own, turned.picture(depth))


@pytest.mark.parametrize("degrees", range(0, 180, 15))
def test_the_way_across_a_groove_is_square_to_it(degrees: int) -> None:
    value = np.full((61, 61), 6.0, np.float32)
    way = np.array([np.cos(np.radians(degrees)), -np.sin(np.radians(degrees))])
    rows, columns = np.mgrid[0:61, 0:61] - 30
    value -= 3 * np.exp(-(((columns * way[1] - rows * way[0]) / 2.5) ** 2)).astype(np.float32)
    depth, across = valley_depth(value, 14)
    assert depth[30, 30] == pytest.approx(3.0, abs=0.2)
    found = np.degrees(np.arctan2(across[30, 30, 1], across[30, 30, 0])) / 2
    assert (found - degrees - 90 + 90) % 180 - 90 == pytest.approx(0, abs=6)


@TURNS
def test_the_softer_side_of_a_groove_turns_with_it(turned: Turned) -> None:
    value = np.full((80, 90), 6.0, np.float32)
    # A groove along x, steep above and soft below.
    value[38:41, 20:70] = 3.0
    for n in range(1, 8):
        value[40 + n, 20:70] = 3.0 + 3.0 * n / 8
    value[38:41, 44:48] = 2.0
    whole = np.ones(value.shape, bool)
    found = find_recesses(value, whole, None, 120.0)
    own = find_recesses(turned.picture(value), turned.picture(whole), None, 120.0)
    (one,), (other,) = found.recesses, own.recesses
    assert one.soft is not None
    assert one.soft == pytest.approx((0.0, 1.0), abs=0.05)
    assert other.soft == pytest.approx(turned.way(*one.soft), abs=0.05)
    # The first coat runs out on the soft side, the second lies on the bottom.
    rows = np.nonzero(found.first.any(axis=1))[0]
    assert rows.max() - 40 > 38 - rows.min()
    assert found.dark.any()
    assert found.valleys[found.dark].mean() > found.valleys[found.first > 0].mean() + 0.2
    np.testing.assert_array_equal(own.first > 0, turned.picture(found.first > 0))


@TURNS
@pytest.mark.parametrize("way", ["along the form", "across the planes"])
def test_the_brush_turns_with_the_form(turned: Turned, way: Any) -> None:
    # A half pipe: it turns along x alone.
    x = np.linspace(-1, 1, 90, dtype=np.float32)
    value = np.repeat(5 + 3 * np.sqrt(1 - 0.9 * x**2)[None], 70, axis=0)[..., None]
    whole = np.zeros(value.shape[:2], bool)
    whole[5:-5, 5:-5] = True
    found = brush_directions(value, whole, 100.0, way)
    own = brush_directions(turned.picture(value), turned.picture(whole), 100.0, way)
    assert (found[~whole] == 0).all()
    np.testing.assert_allclose(np.hypot(*found[whole].T), 1, atol=1e-5)
    if turned is MIRROR:
        # Undirected, y up.
        expected = turned.picture(found) * (-1, 1)
        assert np.abs((own * expected).sum(axis=2))[turned.picture(whole)] == pytest.approx(1, abs=1e-3)
    middle = found[35, 25]
    assert abs(middle[0 if way == "along the form" else 1]) > 0.95
    if turned is TRANSPOSED and way == "across the planes":
        assert abs(own[25, 35][0]) > 0.95


def test_a_colour_that_spreads_reaches_alike_to_all_sides() -> None:
    lab = np.full((61, 61, 3), (60.0, 5.0, 5.0), np.float32)
    lab[30, 30] = (60.0, 80.0, 5.0)
    along, _ = sample(lab, np.array([[0.1, 0.55], [0.9, 0.55]]), 3.0)
    down, _ = sample(lab, np.array([[0.55, 0.1], [0.55, 0.9]]), 3.0)
    np.testing.assert_allclose(along, down, atol=1e-4)
    assert along[:, 1].max() > 5.2


@TURNS
def test_colours_of_the_skin_turn_with_it(turned: Turned) -> None:
    m, t = maps(), maps().turned(turned)
    off, hue = off_mean(m.lab, m.skin, m.scale)
    own, own_hue = off_mean(t.lab, t.skin, t.scale)
    np.testing.assert_allclose(own_hue, hue, atol=1e-5)
    np.testing.assert_allclose(own, turned.picture(off), atol=0.35)
    assert np.abs(own - turned.picture(off)).mean() < 0.01
    alike(
        skin_colour(own, hue, t.skin, (), t.scale).turns,
        turned.picture(skin_colour(off, hue, m.skin, (), m.scale).turns),
    )
    line = np.array([[0.35, 0.4], [0.5, 0.55], [0.6, 0.4]])
    stops = hue_stops(m.lab, line, 0.01)
    again = hue_stops(t.lab, np.array([turned.spot(*p) for p in line]), 0.01)
    assert len(stops) >= 3
    assert len(again) == len(stops)
    for one, other in zip(stops, again, strict=True):
        assert (other.x, other.y) == pytest.approx(turned.spot(one.x, one.y), abs=0.01)
        np.testing.assert_allclose(other.lab, one.lab, atol=0.3)


@pytest.mark.parametrize(
    ("off", "words"),
    [((5.0, 0.0), "warmer"), ((0.0, 5.0), "warmer"), ((-5.0, 0.0), "cooler"), ((0.0, -5.0), "cooler"),
     ((5.0, -3.5), ""), ((-5.0, 3.5), "")],
)  # fmt: skip
def test_orange_is_warmest_and_its_opposite_coolest(off: tuple[float, float], words: str) -> None:
    """Red and yellow are warm, green and blue cool, purple and yellow-green neither (common practice)."""
    said = " ".join(difference_words(np.array(off), np.array([0.6, 0.8])))
    assert (words in said) if words else ("warmer" not in said and "cooler" not in said)
