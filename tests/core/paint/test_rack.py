"""The painter's own tubes: keys, fits from swatches, and what they do to recipes and plans."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from skimage.color import lab2lch

from tests.conftest import truth
from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spaces import as_lab, lab_to_srgb, linear_to_srgb, srgb_to_linear
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.pace.waiting import drying_minutes
from truesitter.core.paint.board.nudges import nudge
from truesitter.core.paint.layered.films import ground_of, hiding
from truesitter.core.paint.layered.glazes import find_glazes
from truesitter.core.paint.layered.wet import wet_look
from truesitter.core.paint.media.drying import DryingShift
from truesitter.core.paint.media.media_table import MEDIA
from truesitter.core.paint.media.quantity import paint_ml
from truesitter.core.paint.optics.kubelka_munk import leave_surface, opaque_reflectance
from truesitter.core.paint.recipes.mixing import Colour, mix
from truesitter.core.paint.recipes.solver import solve_recipe, solve_recipes
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.paint.tubes.cautions import cautions_for
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.paint.tubes.pigments import Curves, pigment_curves, pigment_library
from truesitter.core.paint.tubes.rack import LIBRARY, OwnTube, Rack
from truesitter.core.paint.tubes.sheet_photo import SheetMark, read_patches
from truesitter.core.paint.tubes.swatches import Swatches, fit_swatches, misses, patch_labs
from truesitter.core.refusal import Refusal
from truesitter.core.settings import StudySettings
from truesitter.core.stages import Study
from truesitter.core.usecases.batch import batch_of
from truesitter.devices.meter import made_up_paint, true_reflectance

OCHRE = pigment_library()["yellow-ochre"]


def truly(tube: str, pigment: str, *patches: str) -> dict[str, tuple[float, float, float]]:
    """What the patches of a made-up tube truly look like."""
    paint = made_up_paint(tube, pigment)
    return {p: as_lab(reflectance_to_lab(true_reflectance(paint, p))) for p in patches}


def own(key: str = "old-ochre", **labs: tuple[float, float, float]) -> OwnTube:
    return OwnTube(key, "Old ochre", "yellow-ochre", Swatches(**labs) if labs else None)


def test_a_tube_without_swatches_is_the_librarys() -> None:
    rack = Rack((own(),))
    assert rack.tube("old-ochre") == pigment_curves()["yellow-ochre"]
    assert rack.pigment("old-ochre").name == "Old ochre"
    assert rack.pigment("old-ochre").ci_name == OCHRE.ci_name
    assert rack.base("old-ochre") == rack.base("yellow-ochre") == "yellow-ochre"


@pytest.mark.parametrize(
    ("key", "name", "pigment", "sentence"),
    [
        ("yellow-ochre", "Mine", "yellow-ochre", "cannot be the key"),
        ("../etc", "Mine", "yellow-ochre", "cannot be the key"),
        ("mine", "  ", "yellow-ochre", "needs a name"),
        ("mine", "Mine", "unobtainium", "no pigment called"),
    ],
)
def test_impossible_tubes_are_refused(key: str, name: str, pigment: str, sentence: str) -> None:
    with pytest.raises(Refusal, match=sentence):
        OwnTube(key, name, pigment)


def test_two_tubes_of_one_key_are_refused() -> None:
    with pytest.raises(Refusal, match="same key"):
        Rack((own(), own()))
    with pytest.raises(Refusal, match="no tube called “gone”"):
        LIBRARY.pigment("gone")


@pytest.mark.parametrize("pigment", ["yellow-ochre", "perm-crimson", "ultramarine-blue", "viridian"])
def test_four_swatches_predict_mixtures_and_glazes_no_swatch_showed(pigment: str) -> None:
    """Invented batches with known K and S: with the films the opacity is found, not only guessed.

    Within ΔE2000 1.5 on unseen tints, and for films of half and double the thickness
    scraped within 2.5. When the label's opacity class is wrong, four swatches are nearer than two.
    """
    paint = made_up_paint("test", pigment)
    seen = truly("test", pigment, "masstone", "tint", "over_black", "over_white")
    facts = pigment_library()[pigment]
    four = fit_swatches(Swatches(**seen), facts)
    assert four.film_mm == pytest.approx(paint.film_mm, rel=0.25)
    white = pigment_curves()["titanium-white"]
    for share in (0.02, 0.05, 0.2, 0.5):
        labs = []
        for curves in (four.curves, paint.curves):
            k = share * curves.absorption + (1 - share) * white.absorption
            s = share * curves.scattering + (1 - share) * white.scattering
            labs.append(reflectance_to_lab(leave_surface(opaque_reflectance(k / s))))
        assert float(delta_e_2000(*labs)) < 1.5, share

    def film_error(curves: Curves, mm: float) -> float:
        found, true = patch_labs(curves, mm), patch_labs(paint.curves, mm)
        return max(
            float(delta_e_2000(np.array(found[p]), np.array(true[p]))) for p in ("over_black", "over_white")
        )

    for factor in (0.5, 2.0):
        assert film_error(four.curves, paint.film_mm * factor) < 2.5
    wrong = replace(facts, opacity="transparent" if facts.opacity.endswith("opaque") else "opaque")
    four = fit_swatches(Swatches(**seen), wrong)
    two = fit_swatches(Swatches(seen["masstone"], seen["tint"]), wrong)
    assert film_error(four.curves, paint.film_mm) < film_error(two.curves, paint.film_mm)


def test_a_fit_returns_to_its_swatches_and_betters_the_library() -> None:
    seen = Swatches(**truly("jar", "yellow-ochre", "masstone", "tint", "over_black", "over_white"))
    fit = fit_swatches(seen, OCHRE)
    before = misses(seen, pigment_curves()["yellow-ochre"], fit.film_mm)
    after = misses(seen, fit.curves, fit.film_mm)
    assert max(after.values()) < 0.7
    assert sum(after.values()) < sum(before.values()) / 3


@pytest.mark.parametrize(
    ("labs", "sentence"),
    [
        ({"masstone": (120.0, 0.0, 0.0)}, "no paint looks like"),
        ({"masstone": (60.0, float("nan"), 0.0)}, "no paint looks like"),
        (
            {
                "masstone": (60.0, 5.0, 40.0),
                "over_black": (20.0, 1.0, 5.0),
                "over_white": (70.0, 200.0, -5.0),
            },
            r"over white: no paint looks like L\* 70, a\* 200, b\* -5",
        ),
        ({"masstone": (60.0, 5.0, 40.0), "over_black": (20.0, 1.0, 5.0)}, "over black and over white"),
        (
            {"masstone": (60.0, 5.0, 40.0), "over_black": (70.0, 1.0, 5.0), "over_white": (30.0, 1.0, 5.0)},
            "were they exchanged",
        ),
    ],
)
def test_swatches_no_paint_shows_are_refused(labs: dict[str, object], sentence: str) -> None:
    with pytest.raises(Refusal, match=sentence):
        Swatches(**labs)  # type: ignore[arg-type]


def test_a_tint_like_its_masstone_is_refused() -> None:
    with pytest.raises(Refusal, match="look alike"):
        fit_swatches(Swatches((60.0, 12.0, 40.0), (61.0, 12.0, 40.0)), OCHRE)


def test_a_stronger_tube_takes_fewer_parts() -> None:
    """Read as twice as strong in the tint, an own ochre is needed less of than the library's."""
    tint = OCHRE.tint
    assert tint is not None
    strong = (tint[0] - 5, tint[1] * 1.5, tint[2] * 1.5)
    rack = Rack((own(masstone=OCHRE.masstone, tint=strong),))
    target = mix(
        {"titanium-white": 6, "yellow-ochre": 2}, Palette("p", "P", ("titanium-white", "yellow-ochre"))
    )
    usual = solve_recipe(target.lab, Palette("p", "P", ("titanium-white", "yellow-ochre"))).parts
    mine = solve_recipe(target.lab, Palette("p", "P", ("titanium-white", "old-ochre"), rack=rack)).parts
    assert mine["old-ochre"] / sum(mine.values()) < 0.8 * usual["yellow-ochre"] / sum(usual.values())


def sheet_photo(fall_off: float, tint: tuple[float, ...]) -> np.ndarray:
    """Patches side by side on paper of 88 %, lit by coloured light that falls off to the right."""
    picture = np.full((200, 500, 3), 0.88)
    for i, lab in enumerate(LABS.values()):
        picture[60:140, 40 + i * 110 : 120 + i * 110] = srgb_to_linear(lab_to_srgb(np.array(lab)))
    light = 0.8 * (1 - fall_off * np.linspace(0, 1, 500))[None, :, None] * np.array(tint)
    noise = np.random.default_rng(2).normal(0, 0.004, picture.shape)
    srgb = linear_to_srgb(np.clip(picture * light + noise, 0, 1))
    return np.round(srgb * 255).astype(np.uint8)


def box(x: int, y: int, w: int = 60, h: int = 60) -> SheetMark:
    return SheetMark(x / 500, y / 200, (x + w) / 500, (y + h) / 200)


LABS = {"masstone": (55.0, 15.0, 40.0), "tint": (80.0, 5.0, 20.0), "over_black": (30.0, 5.0, 15.0)}
PATCHES = {name: box(50 + i * 110, 70) for i, name in enumerate(LABS)}


@given(st.floats(0, 0.4), st.floats(0.75, 1), st.floats(0.75, 1))
@settings(max_examples=15)
def test_a_photographs_light_is_taken_out(fall_off: float, green: float, blue: float) -> None:
    """Coloured light that falls off across the sheet: three whites give the patches back within ΔE 2."""
    picture = sheet_photo(fall_off, (1.0, green, blue))
    whites = (box(2, 10, 36, 30), box(230, 5, 40, 40), box(455, 150, 40, 40))
    found = read_patches(picture, PATCHES, whites, 0.88)
    for name, lab in LABS.items():
        assert float(delta_e_2000(np.array(found[name].lab), np.array(lab))) < 2
        assert not found[name].uneven


@pytest.mark.parametrize(
    ("marks", "whites", "sentence"),
    [
        (PATCHES, (), "mark a white or grey patch first"),
        (PATCHES, (box(270, 70),), "far too dark"),
        ({"masstone": box(2, 10, 36, 30)}, (box(160, 70),), "lighter than the white"),
        ({"masstone": SheetMark(0.2, 0.4, 0.201, 0.401)}, (box(2, 10, 36, 30),), "too small"),
    ],
)
def test_useless_marks_get_a_sentence(
    marks: dict[str, SheetMark], whites: tuple[SheetMark, ...], sentence: str
) -> None:
    with pytest.raises(Refusal, match=sentence):
        read_patches(sheet_photo(0, (1.0, 1.0, 1.0)), marks, whites, 0.88)


def test_an_overexposed_white_is_refused() -> None:
    with pytest.raises(Refusal, match="overexposed"):
        read_patches(np.full((200, 500, 3), 255, np.uint8), {}, (box(2, 10),), 0.88)


@given(st.floats(0.5, 9.5), st.sampled_from(sorted(MEDIA)))
def test_wet_paint_dries_to_the_colour_wanted(value: float, medium: str) -> None:
    """Mixed to the wet look, the paint dries back to the value of the recipe."""
    dry = Colour.of_lab((float(10 * value), 8.0, 12.0))
    wet = wet_look(dry, MEDIA[medium].shift)
    assert wet.lab[1:] == dry.lab[1:]
    if 0.01 < wet.value < 9.99:
        assert MEDIA[medium].shift.dry(wet.value) == pytest.approx(dry.value, abs=0.02)


def test_own_drying_swatches_come_before_the_usual_shift() -> None:
    settings_ = StudySettings.model_validate({"flesh": {"medium": "acrylic", "drying": [[6, 5.2], [2, 1.9]]}})
    assert settings_.flesh.drying_shift() == DryingShift(((2.0, 1.9), (6.0, 5.2)))
    assert StudySettings().flesh.drying_shift().dry(5) == 5


def study(**flesh: object) -> Study:
    chosen = {"reference": {"canvas_width_mm": 320, "canvas_height_mm": 400}, "flesh": flesh}
    return Study.of_bytes(truth("maren").data, StudySettings.model_validate(chosen))


def test_a_batch_is_area_times_film() -> None:
    """12 ml before loss for 300 × 400 mm at 0.1 mm, worked by hand; here 320 × 400 mm in all its parts."""
    batch = batch_of(study(loss=0.0, film_mm=0.1, coats=1))
    skin = [line for line in batch.lines if line.family == "skin"]
    shares = study().sitter.regions().shares()
    assert sum(line.area_cm2 for line in skin) == pytest.approx(shares["skin"] * 1280, rel=0.02)
    for line in batch.lines:
        assert line.ml == pytest.approx(line.area_cm2 * 0.01)
        assert line.made_ml >= line.ml or line.ml < 0.005
        assert sum(line.tubes_ml.values()) >= line.made_ml * (1 - 1e-9)
    in_all = sum(sum(line.tubes_ml.values()) for line in batch.lines)
    assert sum(batch.tubes_ml.values()) == pytest.approx(in_all)
    hair = [line for line in batch.lines if line.family == "hair"]
    assert [line.name for line in hair] == [f"tone {i}" for i in range(1, len(hair) + 1)]
    stage = study().flesh
    tones = np.array([tone.seen_lab[0] for tone in stage.string("hair")])
    lightness = study().picture.lab()[..., 0][stage.family_mask("hair")]
    nearest = np.abs(lightness[:, None] - tones).argmin(axis=1)
    shares_of_hair = np.bincount(nearest, minlength=len(tones)) / lightness.size
    whole_hair = sum(line.area_cm2 for line in hair)
    assert [line.area_cm2 / whole_hair for line in hair] == pytest.approx(shares_of_hair, abs=1e-3)
    garment = sum(line.area_cm2 for line in batch.lines if line.family == "garment")
    assert garment == pytest.approx(shares["garment"] * 1280, rel=0.02)
    twice = batch_of(study(loss=0.5, film_mm=0.1, coats=2))
    assert sum(line.ml for line in twice.lines) == pytest.approx(4 * sum(line.ml for line in batch.lines))


def test_a_batch_of_washes_is_puddles_of_paint_and_water() -> None:
    """Of every puddle the paint is what its dilution leaves of it, the rest is water."""
    tubes = ["arylide-yellow", "quinacridone-rose", "ultramarine-blue"]
    chosen = study(palette="watercolour-three", tubes=tubes, transparent=True)
    batch, film = batch_of(chosen), chosen.flesh.palette().thinning.film
    recipes = dict(zip(
        [line.name for line in batch.lines if line.family == "skin"],
        [m.recipe for m in chosen.flesh.mixed().mixtures], strict=True,
    ))  # fmt: skip
    for line in (one for one in batch.lines if one.family == "skin" and one.made_ml):
        thinned = recipes[line.name].dilution
        assert thinned is not None
        paint = sum(line.tubes_ml.values())
        assert line.made_ml == line.ml == pytest.approx(paint + line.thinner_ml)
        assert line.thinner_ml == pytest.approx(paint * thinned.ratio)
        assert line.ml == pytest.approx(paint_ml(line.area_cm2, film, 1, chosen.settings.flesh.loss))


def test_own_tubes_go_through_the_whole_plan() -> None:
    """From recipes to passes, on a palette in which every tube but one is the painter's own."""
    tubes = [
        {"key": f"my-{p}", "name": f"My {p}", "pigment": p}
        for p in ("titanium-white", "yellow-ochre", "raw-umber", "ivory-black")
    ]
    keys = [t["key"] for t in tubes]
    plan = study(tubes=[*keys, "light-red"], own=tubes)
    usual = study(tubes=["titanium-white", "yellow-ochre", "raw-umber", "ivory-black", "light-red"])
    for mine, theirs in zip(plan.flesh.mixed().mixtures, usual.flesh.mixed().mixtures, strict=True):
        assert {k.removeprefix("my-"): n for k, n in mine.recipe.parts.items()} == theirs.recipe.parts
    passes = plan.passes.plan().passes
    assert passes[1].recipe.parts == {"my-raw-umber": 1}
    assert len(passes) == len(usual.passes.plan().passes)


def test_a_key_with_a_line_break_is_no_key() -> None:
    with pytest.raises(Refusal, match="cannot be the key"):
        OwnTube("mine\n", "Mine", "yellow-ochre")


def test_own_tubes_obey_wishes_and_bring_their_cautions() -> None:
    """An own black is black, an own lead white is poisonous: by the pigment on the label."""
    tubes = (
        OwnTube("soot", "Soot", "ivory-black"),
        OwnTube("flake", "Old flake", "lead-white"),
        OwnTube("earth", "Red earth", "light-red"),
    )
    rack = Rack(tubes)
    palette = Palette("p", "P", ("titanium-white", "soot", "earth", "yellow-ochre"), rack=rack)
    dark = (25.0, 5.0, 6.0)
    assert "soot" in solve_recipes(dark, palette, Wishes(), 1)[0].parts
    assert "soot" not in solve_recipes(dark, palette, Wishes(black=False), 1)[0].parts
    with pytest.raises(Refusal, match="Soot is both asked for and ruled out"):
        solve_recipes(dark, palette, Wishes(must=("soot",), black=False), 1)
    (lead, _) = cautions_for(["flake"], rack)
    assert lead.startswith("Old flake (PW1) contains lead")
    assert "Titanium white can stand in" in lead
    oil = MEDIA["oil"]
    assert drying_minutes(100, {"flake": 1}, oil, rack) < drying_minutes(
        100, {"titanium-white": 1}, oil, rack
    )


def test_own_tubes_glaze_nudge_and_hide_as_the_librarys_do() -> None:
    """The same pigment under another key gives the same answers everywhere."""
    mine = tuple(OwnTube(f"my-{p}", p, p) for p in ("quinacridone-rose", "arylide-yellow", "titanium-white"))
    rack = Rack(mine)
    own_palette = Palette("p", "P", tuple(t.key for t in mine), rack=rack)
    usual = Palette("p", "P", tuple(t.pigment for t in mine))
    ground, target = ground_of((80.0, 0.0, 0.0)), np.array([70.0, 20.0, 20.0])
    ours, theirs = (find_glazes(ground, target, p, MEDIA["oil"].thinning) for p in (own_palette, usual))
    assert [(g.mm, g.after.lab) for g in ours] == [(g.mm, g.after.lab) for g in theirs]
    parts = {"my-titanium-white": 4, "my-quinacridone-rose": 1}
    found = nudge(parts, own_palette, "warmer")
    plain = nudge({k.removeprefix("my-"): n for k, n in parts.items()}, usual, "warmer")
    assert found is not None
    assert plain is not None
    assert (found.tube, found.predicted) == (f"my-{plain.tube}", plain.predicted)
    assert hiding(parts, 0.05, rack) == hiding({k.removeprefix("my-"): n for k, n in parts.items()}, 0.05)


@given(st.floats(1, 99), st.floats(-80, 80), st.floats(-80, 80))
def test_chroma_and_hue_are_those_of_a_library(light: float, a: float, b: float) -> None:
    """Source: scikit-image's lab2lch (CIE 15 C*ab and h_ab)."""
    assume(np.hypot(a, b) > 0.1)
    _, chroma, hue = lab2lch(np.array([light, a, b]))
    colour = Colour.of_lab((light, a, b))
    assert colour.chroma == pytest.approx(chroma)
    assert abs((colour.hue - np.degrees(hue) + 180) % 360 - 180) < 1e-6
