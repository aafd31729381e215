"""Whole coats of two mixtures, glazes over several grounds, mixtures turned another way, colour families."""

from __future__ import annotations

import cv2
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import study_of, truth
from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.families import colour_families, hue_word
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.tuning import APART
from truesitter.core.graph.memo import Memo
from truesitter.core.paint.board.turned import Way, turned
from truesitter.core.paint.layered.coat_count import coat_map, coats_of, paintable
from truesitter.core.paint.layered.films import Film, ground_of, stack
from truesitter.core.paint.layered.glazes import glaze_blends, glaze_over_all, hue_spread
from truesitter.core.paint.media.dilution import Dilution
from truesitter.core.paint.media.media_table import MEDIA
from truesitter.core.paint.media.supports import WHITE_PAPER
from truesitter.core.paint.media.thickness import DryMm
from truesitter.core.paint.optics.kubelka_munk import leave_surface
from truesitter.core.paint.recipes.mixing import mix
from truesitter.core.paint.tubes.palettes import STARTERS, Palette
from truesitter.core.paint.tubes.rack import LIBRARY
from truesitter.core.settings import StudySettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages import Study
from truesitter.core.usecases.coats_needed import coat_plan

LIGHT, DARK = {"burnt-sienna": 1}, {"burnt-umber": 2, "ultramarine-blue": 1}
PAPER = WHITE_PAPER.internal()
FILM = MEDIA["airbrush"].thinning.dry(Dilution(1, 8))


def one_by_one(first: int, second: int) -> np.ndarray:
    """L*a*b* of coats laid one after the other."""
    films = (Film(LIGHT, FILM),) * first + (Film(DARK, DryMm(FILM / 2)),) * second
    return reflectance_to_lab(leave_surface(stack(PAPER, films)))


COATS = coats_of(LIGHT, DARK, (FILM, DryMm(FILM / 2)), PAPER)


@pytest.mark.parametrize(("first", "second"), [(0, 0), (1, 0), (0, 1), (7, 3), (24, 24)])
def test_coats_are_films_laid_one_after_the_other(first: int, second: int) -> None:
    """Against coat after coat (Kubelka 1948); the first mixture lies below the second."""
    assert float(delta_e_2000(COATS.labs[first, second], one_by_one(first, second))) < 1e-6
    assert COATS.most == (24, 24)


colours = st.lists(
    st.tuples(st.floats(2, 98), st.floats(-30, 50), st.floats(-30, 60)), min_size=1, max_size=6
)


@settings(max_examples=40)
@given(colours)
def test_no_place_is_made_darker_than_it_is_wanted(found: list[tuple[float, float, float]]) -> None:
    """And none is as near with other coats that do not pass it, but for the size of a cell."""
    lab = np.array(found, np.float32)[None]
    first, second = coat_map(lab, COATS)
    made = COATS.labs[first, second]
    bare = (first == 0) & (second == 0)
    assert (bare | (made[..., 0] >= lab[..., 0] - 1e-3)).all()
    for wanted, got in zip(lab[0].astype(float), made[0], strict=True):
        allowed = COATS.labs[COATS.labs[..., 0] >= wanted[0] + 0.5]
        if len(allowed):
            least = np.sqrt((((allowed - wanted) ** 2) @ (2.5, 1, 1)).min())
            assert np.sqrt(((got - wanted) ** 2) @ (2.5, 1, 1)) <= least + 2 * np.hypot(0.6, np.hypot(2, 2))


def test_opened_counts_never_grow_and_lose_what_is_too_small() -> None:
    counts = np.zeros((40, 40), np.int32)
    counts[5:25, 5:25] = 6
    counts[10, 10] = 9
    counts[30:32, 30:32] = 4
    opened = paintable(counts, 2)
    assert (opened <= counts).all()
    assert opened[15, 15] == 6
    assert opened[10, 10] == 6
    assert opened[30:32, 30:32].max() == 0
    np.testing.assert_array_equal(paintable(counts, 0), counts)


def test_a_sitter_in_coats_is_told_by_group() -> None:
    study = study_of("maren")
    found = coat_plan(study, "burnt-sienna", "@warm-black", 20)
    assert found.dilution == Dilution(1, 20)
    assert [g.group for g in found.groups] == sorted(g.group for g in found.groups)
    total = [g.first + g.second for g in found.groups]
    assert total[0] > total[-1], "darks take more coats than lights"
    assert all(g.made_value >= g.wanted_value - 0.3 for g in found.groups)
    assert len(found.first_hexes) > 2
    assert found.picture.shape[2] == 3


def test_one_glaze_over_light_and_dark_locks_draws_them_together() -> None:
    """It never lightens (common practice, no source); the choice is the best of all, tried one by one."""
    grounds = np.stack([ground_of(lab) for lab in ((66.0, 2.0, 26.0), (38.0, 16.0, 6.0))])
    wanted = np.array([[52.0, 14.0, 34.0], [33.0, 12.0, 20.0]])
    weights, thinning = np.array([2.0, 1.0]), MEDIA["oil"].thinning
    best = glaze_over_all(grounds, wanted, weights, STARTERS[1], thinning)
    assert best is not None
    before = reflectance_to_lab(leave_surface(grounds))
    assert (best.labs[:, 0] <= before[:, 0] + 0.5).all()
    assert best.spread_after < best.spread_before
    assert best.error_after < best.error_before
    share = weights / weights.sum()
    tried = [
        float(share @ delta_e_2000(reflectance_to_lab(leave_surface(stacked)), wanted))
        for parts in glaze_blends(STARTERS[1])
        for dilution in thinning.every()[::3]
        for stacked in [np.stack([stack(g, (Film(parts, thinning.dry(dilution)),)) for g in grounds])]
    ]
    assert best.error_after == pytest.approx(min(tried))
    apart = np.radians([[-10.0], [10.0]])
    two = np.concatenate([np.full((2, 1), 50.0), 20 * np.cos(apart), 20 * np.sin(apart)], axis=1)
    assert hue_spread(two, np.ones(2)) == pytest.approx(10, abs=0.1), "ten degrees to either side"
    assert hue_spread(two * (1, 0, 0), np.ones(2)) == 0
    white = Palette("white", "White", ("titanium-white",))
    assert glaze_over_all(grounds, wanted, weights, white, thinning) is None


@pytest.mark.parametrize(
    ("way", "axis", "sign"), [("redder", 1, 1), ("greener", 1, -1), ("yellower", 2, 1), ("bluer", 2, -1)]
)
@pytest.mark.parametrize("steps", [0.0, -0.5])
def test_a_mixture_is_turned_and_made_darker_by_a_small_addition(
    way: Way, axis: int, sign: int, steps: float
) -> None:
    palette = STARTERS[1].with_tubes((*STARTERS[1].tubes, "green-earth"))
    flesh = {"titanium-white": 6, "yellow-ochre": 2, "light-red": 1}
    palette = palette.with_tubes(tuple(dict.fromkeys((*flesh, *palette.tubes))))
    found = turned(flesh, steps, way, palette)
    before = mix({k: float(n) for k, n in flesh.items()}, palette)
    assert sign * (found.after.lab[axis] - before.lab[axis]) > 2
    assert found.after.value == pytest.approx(before.value + steps, abs=0.25)
    whole = {k: found.base * n / 9 + found.added.get(k, 0) for k, n in flesh.items()} | {
        k: float(n) for k, n in found.added.items() if k not in flesh
    }
    assert float(delta_e_2000(np.array(mix(whole, palette).lab), np.array(found.after.lab))) < 0.05


def test_greyer_and_stronger_change_chroma_alone() -> None:
    palette, flesh = STARTERS[1], {"titanium-white": 4, "yellow-ochre": 1, "light-red": 1}
    flesh = {k: n for k, n in flesh.items() if k in palette.tubes} or {palette.tubes[0]: 1}
    before = mix({k: float(n) for k, n in flesh.items()}, palette)
    chroma = {way: float(np.hypot(*turned(flesh, 0, way, palette).wanted.lab[1:])) for way in WAYS}
    assert chroma["greyer"] == pytest.approx(max(0, np.hypot(*before.lab[1:]) - 6), abs=0.1)
    assert chroma["stronger"] == pytest.approx(np.hypot(*before.lab[1:]) + 6, abs=0.1)


WAYS: tuple[Way, ...] = ("greyer", "stronger")


def cloth(a: float, b: float, count: int, seed: int, dark: float = 15, light: float = 75) -> np.ndarray:
    """A cloth of one colour from shadow to light: chroma rises with lightness, with some grain."""
    rng = np.random.default_rng(seed)
    lightness = rng.uniform(dark, light, count)
    chroma = np.outer((lightness + 18) / 63, (a, b)) + rng.normal(0, 1.2, (count, 2))
    return np.column_stack([lightness, chroma]).astype(np.float32)


def test_one_cloth_in_light_and_shadow_is_one_family() -> None:
    for a, b in ((25, 10), (-12, -20), (2, 3)):
        assert len(colour_families(cloth(a, b, 4000, 1)).names) == 1


@pytest.mark.parametrize("share", [0.1, 0.5])
def test_two_cloths_are_told_apart_in_any_light(share: float) -> None:
    first, second = cloth(28, 14, round(6000 * (1 - share)), 2), cloth(-8, -22, round(6000 * share), 3)
    found = colour_families(np.concatenate([first, second]))
    assert len(found.names) == 2
    assert found.shares == pytest.approx([1 - share, share], abs=0.02) or share == 0.5
    assert set(found.names) == {"orange", "blue"}
    red, blue = found.names.index("orange"), found.names.index("blue")
    assert (found.of(first) == red).mean() > 0.98
    assert (found.of(second) == blue).mean() > 0.98


def test_families_too_near_or_too_small_are_not_parted() -> None:
    near = np.concatenate([cloth(20, 10, 3000, 4), cloth(20 + APART / 2, 10, 3000, 5)])
    small = np.concatenate([cloth(20, 10, 3000, 4), cloth(-20, -10, 100, 5)])
    assert len(colour_families(near).names) == len(colour_families(small).names) == 1
    assert colour_families(np.zeros((0, 3), np.float32)).names == ("grey",)
    assert [hue_word(*ab) for ab in ((30, 0), (0, 30), (-30, 5), (0, -30), (2, 2))] == [
        "red", "yellow", "green", "blue", "grey",
    ]  # fmt: skip


def test_two_colours_of_one_word_are_told_apart() -> None:
    found = colour_families(np.concatenate([cloth(10, 3, 3000, 6), cloth(42, 6, 2000, 7)]))
    assert found.names == ("greyer red", "red")


def test_a_garment_of_two_cloths_has_two_strings() -> None:
    """Half of a demo sitter's garment dyed red by way of its linear light."""
    data = np.frombuffer(truth("maren").data, np.uint8)
    picture = cv2.imdecode(data, cv2.IMREAD_REDUCED_COLOR_2)
    labels = cv2.resize(truth("maren").labels, picture.shape[1::-1], interpolation=cv2.INTER_NEAREST)
    dyed = labels == Region.GARMENT
    dyed[:, : picture.shape[1] // 2] = False
    picture[dyed] = picture[dyed][:, ::-1] * (0.6, 0.5, 1.3)
    _, png = cv2.imencode(".png", picture.clip(0, 255).astype(np.uint8))
    study = Study.of_bytes(png.tobytes(), StudySettings(), Memo())
    names = [f for f in study.flesh.families() if f.startswith("garment")]
    assert len(names) > 1
    masks = [study.flesh.family_mask(name) for name in names]
    np.testing.assert_array_equal(np.sum(masks, axis=0), study.flesh.family_mask("garment").astype(int))
    strings = [study.flesh.string(name) for name in names]
    colours = np.array([np.mean([t.seen_lab[1:] for t in tones], axis=0) for tones in strings if tones])
    assert np.hypot(*(colours[0] - colours[1])) > 5
    assert f"{names[0]}, tone 1" in study.flesh.named()
    assert LIBRARY.mixture(study.flesh.named()[f"{names[0]}, tone 1"])[0].shape == (31,)
