"""Brushes: numbers and names, what goes into a shape, and which few a painting is done with."""

from __future__ import annotations

from dataclasses import replace
from itertools import combinations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import study_of
from tests.core.school.test_schools import planned
from truesitter.core.brushes.brush import EVERY_BRUSH, NUMBERS, STARTING_SET, Brush, brush_of
from truesitter.core.brushes.choice import Work, chosen, fits, minutes_with, tool_words
from truesitter.core.brushes.tuning import (
    MINUTES_A_BRUSH,
    MOST_BRUSHES,
    OTHER_SHAPE,
    STROKE_MM,
    STROKE_SECONDS,
    UNLIKE,
)
from truesitter.core.refusal import Refusal
from truesitter.core.settings import BrushSettings, StudySettings, brush_settings
from truesitter.core.stages import Study
from truesitter.formats.documents.plan_brushes import brush_ids, brushes_of
from truesitter.formats.documents.plan_passes import passes_of

NONE = np.zeros(0)


def place(room_mm: float, cm2: float = 50.0, tool: str = "flat brush", watery: bool = False) -> Work:
    return Work(tool, room_mm, cm2, NONE, watery)


def lines(*widths: float, tool: str = "small liner") -> Work:
    return Work(tool, max(widths), 2.0, np.array(widths))


@pytest.mark.parametrize("table", NUMBERS.values(), ids=NUMBERS)
def test_higher_numbers_are_wider(table: dict[str, float]) -> None:
    assert list(table.values()) == sorted(table.values())


@given(st.sampled_from(EVERY_BRUSH))
def test_a_brush_is_told_by_its_short_name_and_kept_as_a_setting(brush: Brush) -> None:
    assert brush_of(brush.key) == brush
    assert brush_settings(brush).brush() == brush
    assert brush.number in brush.name
    wide = Brush(brush.shape, 7.5)
    assert brush_of(wide.key) == wide
    assert brush_settings(wide).brush() == wide


@pytest.mark.parametrize(
    "said", ["", "flat", "13flat", "10fan", "0mm-flat", "900mm-flat", "-3mm-flat", "1e9round"]
)
def test_what_names_no_brush_is_refused(said: str) -> None:
    with pytest.raises(Refusal):
        brush_of(said)


def test_a_makers_own_width_goes_before_the_usual_one_of_the_number() -> None:
    assert BrushSettings(shape="filbert", number="6", mm=12.5).brush().mm == 12.5
    assert BrushSettings(shape="filbert", number="6").brush().mm == 11.0
    with pytest.raises(ValueError, match=r"no filbert no\. 5"):
        BrushSettings(shape="filbert", number="5")


@pytest.mark.parametrize(
    ("tool", "brush", "said"),
    [
        ("filbert, then rigger", "10filbert", "no. 10 filbert, then rigger"),
        ("flat brush and rag", "24flat", "no. 24 flat and rag"),
        ("round, or a flat", "6round", "no. 6 round"),
        ("large flat or mop", "12flat", "no. 12 flat"),
        ("large soft round", "14round", "no. 14 round"),
        ("small round, loaded", "2round", "no. 2 round, loaded"),
        ("soft brush, wiped thin", "8mop", "no. 8 mop, wiped thin"),
        ("small liner", "00liner", "no. 00 liner"),
    ],
)
def test_the_brush_that_is_taken_stands_in_the_words(tool: str, brush: str, said: str) -> None:
    assert tool_words(tool, brush_of(brush)) == said
    assert Work(tool, 5, 5, NONE).shape is not None


@pytest.mark.parametrize(
    "tool",
    [
        "rag round a finger",
        "airbrush, finest, freehand",
        "eraser, cut to a wedge",
        "handle of the brush",
        "palette knife",
    ],
)
def test_what_is_no_brush_takes_none(tool: str) -> None:
    found = chosen([Work(tool, 5, 5, NONE)], STARTING_SET)
    assert found.brushes == ()
    assert found.taken == (None,)
    assert found.longer == (0.0,)
    assert tool_words(tool, None) == tool


def test_what_goes_in() -> None:
    flat, round_, liner = brush_of("10flat"), brush_of("6round"), brush_of("00liner")
    assert fits(flat, place(20.0))
    assert not fits(flat, place(19.9))
    # A pointed brush lays strokes narrower than its belly.
    assert fits(round_, place(2.2))
    assert not fits(round_, place(2.0))
    assert fits(liner, lines(0.3, 0.4, 0.6))
    assert not fits(round_, lines(0.3, 0.4, 0.6))
    assert not fits(brush_of("4flat"), lines(1.0, 2.0))
    assert not fits(brush_of("4mop"), lines(1.0, 2.0))
    # Stiff hair takes up the wash below; a mop pushes no thick paint.
    bristle = Brush.of_number("flat", "10", "bristle")
    assert fits(bristle, place(30))
    assert not fits(bristle, place(30, watery=True))
    assert not fits(brush_of("4mop"), place(30))
    assert fits(brush_of("4mop"), place(30, tool="large soft round"))


@given(st.sampled_from(EVERY_BRUSH), st.floats(1, 60), st.floats(0.1, 900), st.booleans())
def test_a_wider_brush_of_a_shape_is_never_slower(
    brush: Brush, room: float, cm2: float, watery: bool
) -> None:
    work = place(room, cm2, watery=watery)
    wider = [b for b in EVERY_BRUSH if b.shape == brush.shape and b.mm >= brush.mm and fits(b, work)]
    wider = [b for b in wider if b.mm <= room]
    assert all(minutes_with(b, work) <= minutes_with(brush, work) * (1 + 1e-9) for b in wider)
    assert minutes_with(brush, place(room, 2 * cm2)) == pytest.approx(
        2 * minutes_with(brush, place(room, cm2))
    )


def test_lines_wider_than_the_brush_are_drawn_in_strokes_side_by_side() -> None:
    """By hand: three strokes for 1.2 mm with a liner of 0.5 mm, one for 0.4 mm, four seconds each."""
    assert minutes_with(brush_of("00liner"), lines(1.2, 0.4)) == pytest.approx(4 * 4 / 60)
    worn, long = Brush("liner", 0.5, point="worn"), Brush("liner", 0.5, length="long")
    assert not fits(worn, lines(0.4, 0.5))
    assert minutes_with(long, lines(0.4)) < minutes_with(brush_of("00liner"), lines(0.4))
    stiff = Brush("liner", 0.5, stiffness="stiff")
    assert minutes_with(stiff, lines(0.4)) > minutes_with(brush_of("00liner"), lines(0.4))


WORKS = st.lists(
    st.builds(
        place, st.sampled_from([1.0, 3.0, 6.0, 12.0, 20.0, 50.0]), st.floats(1, 600),
        st.sampled_from(["flat brush", "small round", "large soft round"]), st.booleans(),
    ),
    min_size=1, max_size=8,
)  # fmt: skip


@settings(max_examples=60, deadline=None)
@given(WORKS, st.lists(st.sampled_from(EVERY_BRUSH), min_size=3, max_size=8, unique=True))
def test_no_other_few_would_be_quicker(works: list[Work], owned: list[Brush]) -> None:
    """Against every choice of three."""
    found = chosen(works, owned, most=3)
    assert 1 <= len(found.brushes) <= 3
    assert set(found.taken) == set(found.brushes)

    def total(some: tuple[Brush, ...]) -> float:
        each = [min(minutes_with(b, w) + (0 if fits(b, w) else float("inf")) for b in some) for w in works]
        return sum(each) + MINUTES_A_BRUSH * len(some)

    unfit = [w for w, b in zip(works, found.taken, strict=True) if b is not None and not fits(b, w)]
    if not unfit:
        best = min(total(some) for n in (1, 2, 3) for some in combinations(owned, n))
        assert total(found.brushes) <= best + 1


def test_of_brushes_that_are_all_too_wide_the_narrowest_is_taken_and_a_narrower_one_told() -> None:
    works = [place(3.0, 4.0), lines(0.3, 0.4), place(50.0, 900.0)]
    found = chosen(works, [brush_of("10flat"), brush_of("24flat"), brush_of("6flat")])
    assert found.taken == (brush_of("6flat"), brush_of("6flat"), brush_of("24flat"))
    assert found.missing[0].too_wide
    assert {0, 1} & set(found.missing[0].works)
    assert all(m.brush.mm < 11 for m in found.missing)
    full = chosen(works, [brush_of(b) for b in ("24flat", "1flat", "00liner")])
    assert full.missing == ()


def test_a_brush_is_worth_buying_for_what_takes_long_with_a_narrow_one() -> None:
    large = [place(50.0, 1200.0), place(6.0, 10.0)]
    found = chosen(large, [brush_of("2flat")])
    (missing,) = found.missing
    assert missing.works == (0,)
    assert missing.brush.mm >= 30
    assert not missing.too_wide
    saved = minutes_with(brush_of("2flat"), large[0]) - minutes_with(missing.brush, large[0])
    assert missing.minutes == pytest.approx(saved)
    assert found.longer[0] == pytest.approx(
        minutes_with(brush_of("2flat"), large[0]) - 1200 * 100 / 1500 / 10 * 1.5
    )
    assert chosen([place(50.0, 60.0)], [brush_of("10flat")]).missing == ()


@pytest.mark.parametrize("school", ["layered-oil", "watercolour-zones", "airbrush", "tempera"])
def test_a_plan_is_painted_with_six_brushes_that_are_there(school: str) -> None:
    study = planned("maren", school)
    plan, there = study.passes.plan(), {b.brush() for b in study.settings.passes.brushes}
    assert len(plan.brushes) <= MOST_BRUSHES
    assert set(plan.brushes) <= there
    assert {p.brush for p in plan.passes} - {None} == set(plan.brushes)
    for one in plan.passes:
        if one.brush is None:
            assert school == "airbrush"
            continue
        assert one.brush.name in one.tool
        assert one.brush_mm == one.brush.mm
        assert one.lines or one.brush.mm <= one.room_mm * 2


def test_with_few_narrow_brushes_a_painting_takes_longer() -> None:
    base = study_of("maren")

    def hours(*brushes: str) -> float:
        chosen_ = base.settings.model_dump()
        chosen_["passes"]["brushes"] = [brush_settings(brush_of(b)).model_dump() for b in brushes]
        study = Study(base.sha256, base.source.load, StudySettings.model_validate(chosen_), base.source.memo)
        return study.passes.plan().hours.likely

    best, any_, few = (
        hours("24flat", "10filbert", "4filbert", "2round", "00liner"),
        hours(),
        hours("2filbert"),
    )
    assert any_ <= best + 0.1
    assert few > best + 0.5


def test_a_pointed_brush_lays_no_more_than_its_place_is_wide() -> None:
    """By hand: 7 cm² in a place of 6 mm with the tip of a round of 11 mm, which covers seven tenths."""
    tip = minutes_with(brush_of("14round"), place(6.0, 7.0, "large round"))
    strokes = 700 / (6.0 * 0.7 * STROKE_MM)
    assert tip == pytest.approx(strokes * STROKE_SECONDS / 60 * 1.5 * UNLIKE)
    assert minutes_with(brush_of("14round"), place(11.0, 7.0, "large round")) < tip


def test_brushes_of_one_number_are_told_apart() -> None:
    """A soft one for washes and a springy one for body paint, a maker's own width, another stiffness."""
    base = study_of("maren")
    soft, springy = Brush.of_number("round", "6", "soft hair"), brush_of("6round")
    own = Brush("filbert", 12.5, "6", stiffness="stiff")
    for brush in (soft, springy, own):
        assert brush_settings(brush).brush() == brush
    settings_ = base.settings.model_dump()
    settings_["passes"]["brushes"] = [brush_settings(b).model_dump() for b in (soft, springy, own)]
    settings_["passes"]["school"] = "watercolour-zones"
    study = Study(base.sha256, base.source.load, StudySettings.model_validate(settings_), base.source.memo)
    told = brushes_of(study)
    assert len({b.id for b in told}) == len(told)
    passes, _ = passes_of(study)
    for brush in told:
        assert brush.passes == [n for n, p in enumerate(passes, 1) if p.brush == brush.id]
    twin = replace(study.passes.plan(), brushes=(soft, springy))
    assert len(set(brush_ids(twin).values())) == 2


def test_a_filbert_lays_what_a_flat_is_asked_for_and_a_round_takes_longer() -> None:
    def work(tool: str) -> Work:
        return Work(tool, 20, 100, np.zeros(0))

    filbert, flat, small = brush_of("10filbert"), brush_of("10flat"), brush_of("8round")
    assert minutes_with(filbert, work("flat brush")) == minutes_with(filbert, work("filbert"))
    assert minutes_with(flat, work("filbert")) == minutes_with(flat, work("flat brush"))
    assert minutes_with(small, work("flat brush")) == OTHER_SHAPE * minutes_with(small, work("small round"))
