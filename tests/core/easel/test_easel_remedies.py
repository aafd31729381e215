"""Remedies, planning again, stopping: what is proposed has to work where it is laid."""

from __future__ import annotations

from typing import Any

import cv2
import numpy as np
import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from tests.easel import painter, photographed, relit
from truesitter.core.colour.spaces import as_lab, srgb_to_lab
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value, value_to_lightness
from truesitter.core.easel.correct.remedy import Bench, remedies
from truesitter.core.easel.correct.stop import stop_test
from truesitter.core.paint.layered.films import Film, ground_of, stack
from truesitter.core.paint.media.media_table import MEDIA
from truesitter.core.paint.media.supports import SUPPORTS
from truesitter.core.paint.optics.kubelka_munk import leave_surface
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.paint.tubes.palettes import starter
from truesitter.core.refusal import Refusal
from truesitter.core.school.library import school
from truesitter.core.school.school_palettes import palettes_for
from truesitter.core.usecases.painted_again import plan_again
from truesitter.devices.camera import Studio


def bench(key: str, palette: str, support: str = "primed canvas", wet: bool = False) -> Bench:
    one = school(key)
    medium = one.medium
    palettes = palettes_for(one, starter(palette), Wishes(), medium, SUPPORTS[support])  # type: ignore[index]
    return Bench(palettes, Wishes(), medium, SUPPORTS[support], one.transparent, wet)  # type: ignore[index]


OIL = bench("layered-oil", "warm-cool-six")
WATER = bench("watercolour-zones", "watercolour-three", "smooth paper")
STAINED = bench("watercolour-zones", "watercolour-three", "primed canvas")
FLESH = st.tuples(st.floats(30, 80), st.floats(5, 22), st.floats(8, 28))


def off(lab: tuple[float, float, float], steps: float) -> tuple[float, float, float]:
    value = float(np.clip(lab_value(np.array(lab)) + steps, 0.5, 9.3))
    return float(value_to_lightness(value)), lab[1], lab[2]


@settings(max_examples=25)
@given(FLESH, st.floats(0.35, 1.5), st.sampled_from([-1.0, 1.0]))
def test_the_first_remedy_in_oil_brings_a_place_right(
    wanted: tuple[float, float, float], steps: float, sign: float
) -> None:
    """Reckoned anew from what it says is laid: mixture and film over the measured colour (0.2 step)."""
    measured = off(wanted, sign * steps)
    found = remedies(measured, wanted, OIL)
    first = found[0]
    assert first.enough
    assert abs(lab_value(np.array(first.predicted)) - lab_value(np.array(wanted))) <= 0.2
    if first.kind in ("scumble", "glaze"):
        solids = OIL.medium.solids if first.kind == "scumble" else 1.0
        film = first.film_mm * solids
        if first.kind == "glaze":
            assert first.dilution is not None
            film = OIL.medium.thinning.dry(first.dilution)
        pal = OIL.palettes.body if first.kind == "scumble" else OIL.palettes.clear
        laid = stack(ground_of(measured), (Film(first.parts, film),), pal.rack)  # type: ignore[arg-type]
        lab = reflectance_to_lab(leave_surface(laid))
        assert np.abs(lab - np.array(first.predicted)).max() < 0.6


@settings(max_examples=25)
@given(FLESH, st.floats(-2.0, 2.0))
@example((14.0, 4.0, 20.0), 0.0)
@example((22.0, 6.0, 23.0), 0.0)
def test_a_transparent_film_never_lightens(wanted: tuple[float, float, float], steps: float) -> None:
    measured = off(wanted, steps) if steps else (wanted[0], wanted[1], wanted[2] - 15)
    before = lab_value(np.array(measured))
    for one in (OIL, WATER, STAINED):
        for remedy in remedies(measured, wanted, one):
            if remedy.kind == "glaze":
                assert lab_value(np.array(remedy.predicted)) <= before + 0.02


def test_watercolour_gone_too_dark_is_lifted_or_its_neighbour_darkened() -> None:
    wanted = (62.0, 14.0, 20.0)
    dark = off(wanted, -1.0)
    kinds = [r.kind for r in remedies(dark, wanted, WATER)]
    assert kinds[0] == "lift"
    assert "glaze" not in kinds
    assert "neighbour" in kinds
    stained = [r.kind for r in remedies(dark, wanted, STAINED)]
    assert "lift" not in stained
    assert "neighbour" in stained
    lifted = remedies(dark, wanted, WATER)[0]
    assert lifted.parts == {}
    assert (
        lab_value(np.array(dark)) < lab_value(np.array(lifted.predicted)) <= lab_value(np.array(wanted)) + 0.1
    )


def test_wet_paint_is_worked_into_at_once_and_dry_paint_is_waited_for() -> None:
    wanted = (55.0, 14.0, 20.0)
    wet = remedies(off(wanted, 1.0), wanted, bench("layered-oil", "warm-cool-six", wet=True))
    wipe = next(r for r in wet if r.kind == "wipe")
    assert wipe.into_wet
    assert wipe.wait_minutes == 0
    assert abs(wipe.steps_left) < 0.5
    dry = remedies(off(wanted, 1.0), wanted, OIL)
    assert all(not r.into_wet and r.wait_minutes == OIL.medium.wait_minutes for r in dry)
    assert not any(r.kind == "wipe" for r in dry)


def test_of_what_is_enough_that_comes_first_which_disturbs_least() -> None:
    wanted = (55.0, 14.0, 20.0)
    for steps in (0.6, -0.6):
        found = [r for r in remedies(off(wanted, steps), wanted, OIL) if r.enough]
        kinds = [r.kind for r in found]
        assert kinds[0] in ("glaze", "scumble")
        assert kinds.index("repaint") > 0


def test_what_is_right_needs_nothing() -> None:
    lab = (60.0, 12.0, 20.0)
    assert all(r.kind == "neighbour" for r in remedies(lab, lab, OIL))


def test_remedies_mend_what_was_photographed() -> None:
    """Faults planted, photographed, found, and corrected on the true canvas: nine of ten within 0.2 step."""
    good = []
    study = painter("maren")
    areas, count = study.sitter.areas(), study.easel.pass_count()
    canvas = study.passes.painted().picture(count)
    seeds = [n for n in range(8000, 8200) if not Studio.by_lot(n).glare]
    for place, steps, seed in zip(
        ("left cheek", "chin", "garment, lower right", "background, upper right", "hair, lower left", "neck"),
        (1.0, -1.0, 1.0, -1.2, 1.2, -0.9),
        seeds,
        strict=False,
    ):
        where = areas.mask(place)
        wrong = relit(canvas, where, steps)
        found = study.easel.compared(photographed(wrong, seed)).findings
        one = next(f for f in found if (f.mask & where).sum() > 0.3 * where.sum())
        remedy = study.easel.remedies(one.measured, one.wanted, False, True)[0]
        heart = cv2.erode(where.astype(np.uint8), np.ones((9, 9), np.uint8)) > 0
        true = as_lab(srgb_to_lab(wrong[heart] / 255).mean(axis=0))
        planned = srgb_to_lab(canvas[heart] / 255).mean(axis=0)
        if remedy.kind == "repaint":
            after = np.array(remedy.predicted)
        else:
            used = study.easel.bench(False)
            film = remedy.film_mm * used.medium.solids
            if remedy.dilution:
                film = used.medium.thinning.dry(remedy.dilution)
            rack = used.palettes.body.rack if remedy.kind == "scumble" else used.palettes.clear.rack
            after = reflectance_to_lab(
                leave_surface(stack(ground_of(true), (Film(remedy.parts, film),), rack))
            )  # type: ignore[arg-type]
        good.append(abs(float(lab_value(after) - lab_value(planned))) <= 0.25)
    assert np.mean(good) >= 0.8


@pytest.mark.parametrize("name", ["maren", "ines"])
def test_a_canvas_as_planned_gives_the_old_rest_of_the_plan(name: str) -> None:
    """Targets within 0.2 step, no pass lost, nothing out of reach."""
    study = painter(name)
    laid = study.easel.pass_count() // 2
    again = plan_again(study, photographed(study.passes.painted().picture(laid), 8301, laid))
    assert [p.key for p in again.new] == [p.key for p in again.old]
    assert all(abs(a.target_value - b.target_value) < 0.2 for a, b in zip(again.old, again.new, strict=True))
    assert all(abs(a.recipe.predicted.value - b.recipe.predicted.value) < 0.2
               for a, b in zip(again.old, again.new, strict=True))  # fmt: skip
    assert [a.mix for a in again.old] == [b.mix for b in again.new]
    assert again.dropped == ()
    assert again.beyond == ()


def test_watercolour_darkened_by_two_steps_is_reported_and_never_planned_lighter() -> None:
    study = painter("maren", "watercolour-zones")
    count = study.easel.pass_count()
    laid = count - 2
    canvas = study.passes.painted().picture(laid)
    areas = study.sitter.areas()
    where = areas.wholes("background") & (np.arange(canvas.shape[1]) > canvas.shape[1] / 2)
    dark = photographed(
        relit(canvas, where, -2.0), next(n for n in range(90) if not Studio.by_lot(n).glare), laid
    )
    again = plan_again(study, dark)
    told = [b for b in again.beyond if b.place.startswith("background")]
    assert told
    assert told[0].steps < -1.0
    kinds = [w.kind for w in told[0].ways]
    assert "lift" in kinds
    assert "opaque touch" in kinds
    before = again.plan.canvases[laid - 1].piece_values()
    after = again.plan.canvases[-1].piece_values()
    work = again.plan.canvases[-1].patchwork
    inside = np.bincount(work.labels[where], minlength=len(work.sizes)) > 0.9 * work.sizes
    assert (after[inside] <= before[inside] + 0.05).all()


def _covers(operations: tuple[Any, ...]) -> bool:
    """True for a pass without lines: those are too thin for the pieces that are compared."""
    return bool(operations) and not any(d.lines for d in operations)


def test_what_is_there_already_drops_out() -> None:
    """The opaque pass that changes its place most, painted ahead of the plan, is not laid a second time."""
    study = painter("maren")
    plan, painted = study.passes.plan(), study.passes.painted()

    def change(number: int) -> float:
        where = plan.mask(number)
        pair = (painted.picture(n)[where][::50] / 255 for n in (number, number + 1))
        before, after = (srgb_to_lab(p)[:, 0] for p in pair)
        return float(np.abs(after - before).mean() * np.sqrt(where.sum()))

    masses = [n for n, p in enumerate(plan.passes) if n and p.does == "mass" and _covers(p.operations)]
    number = max(masses, key=change)
    where = plan.mask(number)
    assert change(number) > 5 * np.sqrt(where.sum())
    ahead = np.where(where[..., None], painted.picture(number + 1), painted.picture(number))
    quiet = next(n for n in range(8320, 8400) if not Studio.by_lot(n).glare)
    again = plan_again(study, photographed(ahead, quiet, number))
    assert plan.passes[number].key not in [p.key for p in again.new]
    assert any("is there already" in words for words in again.dropped)


def test_planning_again_says_why_it_cannot() -> None:
    study = painter("maren")
    count = study.easel.pass_count()
    canvas = study.passes.painted().picture(count)
    with pytest.raises(Refusal, match="all passes have been laid"):
        study.easel.again(photographed(canvas, 8331, count))
    with pytest.raises(Refusal, match="has 33 passes" if count == 33 else "passes"):
        study.easel.seen(photographed(canvas, 8331, count + 5))


@pytest.mark.parametrize(
    ("errors", "largest", "finished", "stop"),
    [
        ((0.5, 0.3), 0.6, True, False),
        ((0.5, 0.3), 0.2, True, True),
        ((0.5, 0.49), 0.6, True, True),
        ((0.5, 0.51), 0.6, True, True),
        ((0.5, 0.49), 0.2, False, False),
        ((0.4,), 0.6, True, False),
    ],
)
def test_when_to_stop(errors: tuple[float, ...], largest: float, finished: bool, stop: bool) -> None:
    found = stop_test(errors, largest, finished)
    assert found.stop == stop
    assert ("upside down" in found.words) == stop


def test_media_that_shift_are_read_as_they_will_dry() -> None:
    """Wet watercolour dries lighter: photographed wet it is no fault that it is darker."""
    from truesitter.core.easel.comparison import dried

    shift = MEDIA["watercolour"].shift
    light = np.full((4, 4, 3), 0.2, np.float32)
    wet = lab_value(srgb_to_lab(np.full(3, ((0.2 * 1.0) ** (1 / 2.4)) * 1.055 - 0.055)))
    dry = dried(light, shift)[0, 0, 0]
    after = lab_value(srgb_to_lab(np.full(3, 1.055 * float(dry) ** (1 / 2.4) - 0.055)))
    assert float(after) == pytest.approx(shift.dry(float(wet)), abs=0.05)
    assert after > wet
