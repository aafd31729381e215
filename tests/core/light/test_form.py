"""Form of the skin and what casts its shadows: on drawn skins and on the sitters."""

from __future__ import annotations

from dataclasses import replace

import cv2
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import study_of
from truesitter.core.imaging.split import best_split
from truesitter.core.light.form.light_form import (
    FormClass,
    highlight_mask,
    rises_again,
    shadow_border,
    skin_form,
)
from truesitter.core.light.form.tuning import MOST_HIGHLIGHT
from truesitter.core.light.key.body_normals import body_normals
from truesitter.core.light.key.casters import CASTERS, blocked, caster_of
from truesitter.core.light.light_report import cast_shadows, class_colours, passage, terminator
from truesitter.core.sitter.region_names import Region

SHAPE = (200, 200)


# Shadow and form


@given(st.floats(0.02, 0.9), st.floats(0.05, 0.95))
def test_flat_light_has_no_shadow(level: float, spread: float) -> None:
    """Skin whose light varies by less than the least fall is not split."""
    light = level * (1 + 0.25 * spread * np.linspace(-1, 1, 500))
    assert shadow_border(light) == 0.0


@pytest.mark.parametrize("even", [0.05, 0.15])
def test_the_border_of_the_shadow_lies_between_its_two_sides(even: float) -> None:
    """A fifth of the direct light and the even light, as parts of both together, with some freedom."""
    light = np.concatenate([np.full(300, even), np.full(700, 1 + even)]) / (1 + even)
    border = shadow_border(light, even)
    wanted = (0.2 + even) / (1 + even)
    assert 0.79 * wanted <= border <= 1.11 * wanted
    noisy = shadow_border(light * np.random.default_rng(1).uniform(0.8, 1.25, 1000), even)
    assert 0.75 * wanted <= noisy <= 1.2 * wanted
    # Half of what is taken for skin is black hair: the border stays.
    hair = shadow_border(np.concatenate([light, np.full(700, 0.002)]), even)
    assert hair >= 0.79 * wanted


def lit_cylinder(bounce: float = 0.0, fall: float = 0.5) -> tuple[np.ndarray, np.ndarray]:
    """Luminance of an upright cylinder lit from the left, and the cosine between skin and light."""
    across = np.linspace(-0.98, 0.98, SHAPE[1])
    key = np.array([-0.8, 0.0, 0.6])
    facing = across * key[0] + np.sqrt(1 - across**2) * key[2]
    light = 0.06 + 0.8 * np.clip(facing, 0, None) + bounce * np.clip(across - fall, 0, None)
    ones = np.ones(SHAPE, np.float32)
    return (ones * light).astype(np.float32), (ones * facing).astype(np.float32)


def form_of(light: np.ndarray, facing: np.ndarray, **other: np.ndarray):
    given_ = {
        "skin": np.ones(SHAPE, bool), "shine": np.zeros(SHAPE, np.float32), "on_face": np.ones(SHAPE, bool),
        "blocked": np.zeros(SHAPE, bool), **other,
    }  # fmt: skip
    value = (10 * np.cbrt(light)).astype(np.float32)
    return skin_form(
        light, value, given_["skin"], given_["shine"], facing, given_["on_face"], given_["blocked"],
        (-0.8, 0.0), 0.07, 150.0,
    )  # fmt: skip


def test_a_cylinder_turns_from_light_through_halftone_into_its_own_shadow() -> None:
    form = form_of(*lit_cylinder())
    row = form.classes[100]
    order = [row[0], *row[1:][np.diff(row) != 0]]
    assert FormClass.CAST_SHADOW not in order
    assert order[-1] == FormClass.FORM_SHADOW
    middle = order.index(FormClass.LIGHT)
    assert order[middle : middle + 3] == [FormClass.LIGHT, FormClass.HALFTONE, FormClass.FORM_SHADOW]
    # The terminator runs straight down where light falls to a fifth.
    (line,) = terminator(form, 150)
    assert np.ptp(line[:, 1]) > 0.8
    assert np.ptp(line[:, 0]) < 0.03
    facing = lit_cylinder()[1][100]
    assert facing[int(line[:, 0].mean() * 200)] == pytest.approx(0.2, abs=0.1)


def test_the_terminator_lies_only_beside_lit_skin() -> None:
    """Where the shadow meets hair, wall or a cast shadow nothing turns."""
    light, facing = lit_cylinder()
    skin = np.zeros(SHAPE, bool)
    skin[20:180, :188] = True
    lines = terminator(form_of(light, facing, skin=skin), 150)
    assert len(lines) == 1
    assert np.ptp(lines[0][:, 0]) < 0.05, "not along the rim at the right"


def test_dark_skin_that_looks_at_the_light_lies_in_a_cast_shadow() -> None:
    light, facing = lit_cylinder()
    light[80:120, 20:80] = 0.06
    form = form_of(light, facing)
    assert (form.classes[84:116, 26:74] == FormClass.CAST_SHADOW).all()
    assert (form.classes[100, 190:] == FormClass.FORM_SHADOW).all()
    # Away from the face's mesh something has to stand before the light as well.
    none = np.zeros(SHAPE, bool)
    assert not (form_of(light, facing, on_face=none).classes == FormClass.CAST_SHADOW).any()
    there = form_of(light, facing, on_face=none, blocked=np.ones(SHAPE, bool))
    assert (there.classes[84:116, 26:74] == FormClass.CAST_SHADOW).all()


def test_light_that_rises_again_past_the_core_is_reflected() -> None:
    plain, facing = lit_cylinder()
    bounced, _ = lit_cylinder(bounce=0.35, fall=0.8)
    assert not (form_of(plain, facing).classes == FormClass.REFLECTED_LIGHT).any()
    row = form_of(bounced, facing).classes[100]
    assert (row[192:] == FormClass.REFLECTED_LIGHT).all()
    assert (row[150:170] == FormClass.FORM_SHADOW).all()


def test_rises_again_looks_towards_the_light_only() -> None:
    value = np.full(SHAPE, 3.0, np.float32)
    value[:, 100:110] = 1.0
    shadow = np.ones(SHAPE, bool)
    rise = rises_again(value, shadow, (-1.0, 0.0), 40)
    assert rise[50, 130] == pytest.approx(2)
    assert rise[50, 80] == 0, "the core lies behind it"
    assert rise[50, 190] == 0, "the core is too far off"
    assert not rises_again(value, shadow, (0.0, 0.0), 40).any()


def test_shiny_skin_is_highlight_only_in_the_light() -> None:
    light, facing = lit_cylinder()
    shine = np.zeros(SHAPE, np.float32)
    shine[40:60, 20:40] = 0.5
    shine[40:60, 180:195] = 0.5
    classes = form_of(light, facing, shine=shine).classes
    assert (classes[42:58, 22:38] == FormClass.HIGHLIGHT).all()
    assert not (classes[42:58, 182:193] == FormClass.HIGHLIGHT).any()


def test_sheen_over_half_the_skin_is_light_and_a_spark_in_it_is_highlight() -> None:
    light, facing = lit_cylinder()
    sheen = 0.35 * np.exp(-(((np.arange(SHAPE[1]) - 50) / 60.0) ** 2))
    shine = np.tile(sheen, (SHAPE[0], 1)).astype(np.float32)
    classes = form_of(light + shine, facing, shine=shine).classes
    assert np.mean(classes == FormClass.HIGHLIGHT) < 0.01
    assert np.mean(classes == FormClass.LIGHT) > 0.2
    shine[60:66, 40:46] += 0.3
    classes = form_of(light + shine, facing, shine=shine).classes
    assert (classes[61:65, 41:45] == FormClass.HIGHLIGHT).all()
    assert np.mean(classes == FormClass.HIGHLIGHT) < 0.01


@pytest.mark.parametrize("seed", range(4))
def test_highlights_are_a_small_part_of_the_lit_skin_however_it_shines(seed: int) -> None:
    rng = np.random.default_rng(seed)
    lit = rng.random(SHAPE) < 0.9
    shine = cv2.GaussianBlur(rng.random(SHAPE).astype(np.float32), (0, 0), rng.uniform(1, 9))
    shine = np.clip((shine - shine.min()) / np.ptp(shine), 0, None).astype(np.float32)
    found = highlight_mask(np.full(SHAPE, 0.5, np.float32), lit, shine, 150.0)
    assert 0 < found.sum() <= (MOST_HIGHLIGHT + 0.001) * lit.sum()
    assert not (found & ~lit).any()
    assert not highlight_mask(shine, np.zeros(SHAPE, bool), shine, 150.0).any()


def test_a_limb_is_round() -> None:
    """The form over a straight limb is a half-cylinder: its normals are known."""
    regions = np.zeros((300, 240), np.uint8)
    regions[:, 70:170] = Region.SKIN
    normals, inside = body_normals(regions, None)
    across = (np.arange(240) + 0.5 - 120) / 50
    for column in range(80, 160, 8):
        wanted = np.array([across[column], 0, np.sqrt(1 - across[column] ** 2)])
        assert normals[150, column] @ wanted > np.cos(np.radians(8))
    assert inside[150, 120]
    assert not inside[150, 20]
    assert (normals[150, 20] == 0).all()


def test_what_casts_is_what_stands_towards_the_light() -> None:
    casters = np.zeros(SHAPE, np.uint8)
    casters[20:60, 20:60] = 1
    skin = np.ones(SHAPE, bool)
    met = blocked(casters, skin, (-1.0, -1.0), 100)
    assert met[80, 80] == 1
    assert met[10, 10] == 0, "on the lit side of it"
    assert met[30, 30] == 0, "it does not shade itself"
    assert met[190, 190] == 0, "too far"
    patch = np.zeros(SHAPE, bool)
    patch[70:90, 70:90] = True
    assert caster_of(patch, met) == CASTERS[0] == "hair"
    patch[:] = False
    patch[150:190, 20:60] = True
    assert caster_of(patch, met) is None
    assert not blocked(casters, skin, (0.0, 0.0), 100).any()


def test_colour_from_light_to_shadow_in_words() -> None:
    light, facing = lit_cylinder()
    form = form_of(light, facing)
    lab = np.zeros((*SHAPE, 3), np.float32)
    lit = form.classes <= FormClass.HALFTONE
    # Hue 60° and chroma 30 in the light; 50° and 20 in the shadow, three value steps down.
    lab[lit] = 71.6, 30 * np.cos(np.radians(60)), 30 * np.sin(np.radians(60))
    lab[~lit] = 41.2, 20 * np.cos(np.radians(50)), 20 * np.sin(np.radians(50))
    found = passage(form, lab)
    assert found is not None
    assert found.in_words() == "3.0 steps down: 10° redder, a third less chroma"
    assert "greyer" in found.sides()
    assert passage(replace(form, classes=np.full(SHAPE, FormClass.LIGHT, np.uint8)), lab) is None
    shares = class_colours(form, lab)
    assert sum(c.share for c in shares) == pytest.approx(1, abs=0.01)
    assert shares[0].value > shares[-1].value


def test_cast_shadows_of_a_face_and_what_casts_them() -> None:
    """Hair shades forehead and neck (common practice)."""
    study = study_of("orsolya")
    casts = study.accents.form().casts
    assert casts[0].caster == "hair"
    assert [c.share for c in casts] == sorted((c.share for c in casts), reverse=True)
    assert "nose" in {c.caster for c in study_of("tobias").accents.form().casts}
    classes = study.light.form().classes
    for c in casts:
        assert classes[int(c.y * classes.shape[0]), int(c.x * classes.shape[1])] == FormClass.CAST_SHADOW
    everything = replace(study.light.form(), classes=np.full(SHAPE, FormClass.LIGHT, np.uint8))
    assert cast_shadows(everything, np.zeros(SHAPE, np.uint8), 100) == ()


@pytest.mark.parametrize("seed", range(4))
def test_the_best_split_is_where_a_known_library_puts_it(seed: int) -> None:
    """scikit-image's threshold_otsu names the middle of the last bin below the cut."""
    from skimage.filters import threshold_otsu

    rng = np.random.default_rng(seed)
    samples = np.concatenate([rng.normal(1, 0.4, 900), rng.normal(3 + seed, 0.6, 300 + 400 * seed)])
    cut, low, high = best_split(samples, 64)
    width = float(np.ptp(samples)) / 64
    assert cut == pytest.approx(float(threshold_otsu(samples, 64)) + width / 2, abs=1e-6)
    assert (low, high) == pytest.approx((1, 3 + seed), abs=0.25)
