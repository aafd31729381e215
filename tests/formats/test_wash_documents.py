"""Washes of plan.json and on paper: how they are laid, what goes into them, what is kept out."""

from __future__ import annotations

import io
from dataclasses import replace

import numpy as np
import pypdf
import pytest

from tests.core.plan.test_hair_in_schools import study_in
from truesitter.core.paint.tubes.rack import LIBRARY
from truesitter.formats.documents.plan import plan_of, tubes_used
from truesitter.formats.documents.plan_passes import PlanPass, passes_of
from truesitter.formats.pictures.wash_pictures import charged_picture
from truesitter.formats.print.pdf import plan_pdf
from truesitter.formats.words.wash_words import grain_words
from truesitter.formats.words.wording import Counting


def told(school: str) -> list[PlanPass]:
    return passes_of(study_in("maren", school))[0]


@pytest.mark.parametrize("school", ["watercolour-zones", "watercolour-direct"])
def test_every_wash_says_how_it_is_laid_and_only_washes_do(school: str) -> None:
    for one in told(school):
        wash = one.kind == "wash" and bool(one.thinned)
        assert (one.way is not None) == (one.paper_state is not None) == wash
        assert bool(one.charge) == (one.way in ("graded", "charged"))
        assert bool(one.laid_words) == (wash and not one.lines)
        assert ("Wet the whole place" in one.laid_words) == (one.paper_state == "wet")
        assert one.wash_words.startswith(one.laid_words)
        if wash:
            assert one.wet_value is not None
            assert one.wet_value < one.value
            assert 0 < one.strength < 1


def test_each_drop_says_what_where_and_how_strong() -> None:
    study = study_in("maren", "watercolour-zones")
    plan = study.passes.plan()
    for one, laid in zip(told("watercolour-zones"), plan.passes, strict=True):
        for drop, charge in zip(one.charge, laid.charges, strict=True):
            mask = plan.bare.patchwork.mask(charge.pieces)
            assert mask[int(drop.y * mask.shape[0]), int(drop.x * mask.shape[1])]
            assert 0 < drop.area_cm2 <= one.area_cm2 * 1.03
            assert f"{drop.words}, {drop.place}" in one.wash_words
            assert "more of the same" in drop.words or drop.added or drop.parts != one.parts
            counted = drop.heap.parts if drop.heap else drop.parts
            assert sum(counted.values()) <= 200, "nobody counts out more"
            if drop.same_puddle:
                said = f"1 : {drop.dilution.thinner:g}" if drop.dilution.thinner else "as it comes"
                assert said in drop.words or drop.dilution.paint == 2


def test_lights_are_kept_from_the_first_wash_to_the_last_over_them() -> None:
    passes = told("watercolour-zones")
    kept = [(n, r) for n, p in enumerate(passes, 1) for r in p.reserve]
    assert kept
    assert min(number for number, _ in kept) == 1, "the first wash lies on the skin already"
    for number, one in kept:
        assert number <= one.until <= len(passes)
        assert one.means in ("paper", "mask", "lift")
        assert one.why
    assert not any(p.reserve for p in passes_of(study_in("maren", "layered-oil"))[0])


def test_the_sheet_tells_what_is_dropped_in_and_every_tube_is_named() -> None:
    study = study_in("maren", "watercolour-zones")
    plan, rack = plan_of(study, {}), study.flesh.palette().rack
    pages = pypdf.PdfReader(io.BytesIO(plan_pdf(study, plan, "Maren", "A4", Counting()))).pages
    words = " ".join(page.extract_text() for page in pages)
    assert "While it shines, drop in: a, " in " ".join(words.split())
    dropped = {k for p in plan.passes for c in p.charge for k in c.parts}
    assert dropped <= set(tubes_used(plan, rack))


def test_places_are_drawn_round_and_lettered() -> None:
    canvas = np.full((200, 300, 3), 200, np.uint8)
    one = np.zeros((200, 300), bool)
    one[40:160, 60:240] = True
    inner = np.zeros_like(one)
    inner[80:120, 150:220] = True
    drawn = charged_picture(canvas, (one, inner))
    assert (canvas == 200).all()
    changed = (drawn != canvas).any(axis=2)
    rim = one ^ np.roll(one, 1, axis=0)
    assert changed[rim].mean() > 0.9
    assert changed[one & ~inner].any()
    assert not changed[:20].any()
    np.testing.assert_array_equal(charged_picture(canvas, ()), canvas)


def test_a_wash_of_a_pigment_that_granulates_says_so() -> None:
    """Ultramarine granulates, arylide yellow does not (both from memory)."""
    study = study_in("maren", "watercolour-zones")
    wash = next(p for p in study.passes.plan().passes if p.way == "graded")
    large = replace(wash, charges=(), area_cm2=50.0)
    for tube, grains in (("ultramarine-blue", True), ("arylide-yellow", False)):
        words = grain_words(replace(large, tubes={tube: 3, "quinacridone-rose": 2}), LIBRARY)
        assert ("granulates" in words) is grains
    assert grain_words(replace(large, tubes={"ultramarine-blue": 1, "arylide-yellow": 9}), LIBRARY) == ""
    assert grain_words(replace(large, tubes={"ultramarine-blue": 1}, area_cm2=1.0), LIBRARY) == ""
