"""Borders as they are told: as wide as they are seen, however the picture was cut, and how they are made."""

from __future__ import annotations

from math import erf

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.school.test_schools import planned
from truesitter.core.brushes.brush import Brush, brush_of
from truesitter.core.canvas.painted_borders import measure_borders, told_near
from truesitter.core.canvas.patchwork import Patchwork
from truesitter.core.canvas.tuning import TENTH_OF_RAMP
from truesitter.core.imaging.reduce import reduced_labels
from truesitter.core.paint.media.media_table import MEDIA, MediumName
from truesitter.core.plan.hand.border_means import Border, means_of
from truesitter.core.plan.hand.seams import Seam, Sides, seams_of, with_hairline
from truesitter.core.plan.hand.tuning import HAIR
from truesitter.core.school.library import SCHOOLS
from truesitter.core.settings import StudySettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages import Study
from truesitter.core.stages.tuning import PLANNING_LONG_SIDE
from truesitter.core.types import Doubles
from truesitter.core.values.edges import Sharpness
from truesitter.formats.words.pass_words import edge_words

SIZE, MM = (60, 200), 0.5
TENTHS = 2 * 1.2815515655446004
"""σ from the 10 % to the 90 % point of a Gaussian's integral."""


def blurred_edge(sigma_mm: float, low: float = 3.0, high: float = 7.0) -> np.ndarray:
    """Values of an edge across the middle, blurred by a Gaussian."""
    x = (np.arange(SIZE[1]) + 0.5 - SIZE[1] / 2) * MM
    profile = [low + (high - low) * (1 + erf(v / sigma_mm / 2**0.5)) / 2 for v in x]
    return np.tile(np.array(profile, np.float32), (SIZE[0], 1))


def seen_mm(value: np.ndarray, steps: int) -> Doubles:
    """Widths told of all borders when an edge is cut into steps of equal value."""
    cuts = np.linspace(value.min(), value.max(), steps + 1)[1:-1]
    found = measure_borders(Patchwork.of(SIZE, np.digitize(value, cuts).astype(np.uint8)), value, MM)
    assert (found.seen_px >= found.sides_px - 1e-3).all()
    return np.asarray(found.seen_px.sum(axis=1) * (MM * TENTH_OF_RAMP), dtype=np.float64)


@settings(max_examples=25, deadline=None)
@given(st.floats(0.8, 3.0))
def test_an_edge_is_as_soft_however_many_steps_it_is_cut_into(sigma_mm: float) -> None:
    """Against the width that the Gaussian has; the step in its middle most of all."""
    value, true = blurred_edge(sigma_mm), TENTHS * sigma_mm
    for steps in (2, 4, 7):
        told = seen_mm(value, steps)
        assert np.median(told) == pytest.approx(true, rel=0.2, abs=0.5)
    assert seen_mm(value, 2).std() < 0.05 * true


def test_a_hard_edge_beside_a_soft_turn_stays_hard() -> None:
    """Above a soft edge, below a hard one; each is told as it is."""
    value = blurred_edge(2.5)
    value[SIZE[0] // 2 :] = blurred_edge(0.15)[SIZE[0] // 2 :]
    side = np.zeros(SIZE, np.uint8)
    side[:, SIZE[1] // 2 :] = 1
    found = measure_borders(Patchwork.of(SIZE, side), value, MM)
    row = found.pixels[:, 0] // SIZE[1]
    told = found.seen_px.sum(axis=1) * (MM * TENTH_OF_RAMP)
    assert np.median(told[row < 20]) > 5
    assert np.median(told[row > 40]) < 1.5


def test_no_border_is_harder_than_wished_nor_softer_for_it() -> None:
    value = blurred_edge(1.0)
    halves = Patchwork.of(SIZE, (value > 5).astype(np.uint8))
    found, soft = measure_borders(halves, value, MM), measure_borders(halves, value, MM, 6.0)
    for sides in (soft.sides_px, soft.seen_px):
        np.testing.assert_allclose(sides.sum(axis=1) * MM * TENTH_OF_RAMP, 6, atol=0.1)
    same = measure_borders(halves, value, MM, 0.5)
    np.testing.assert_array_equal(same.seen_px, found.seen_px)
    below = np.zeros(SIZE, np.float32)
    below[SIZE[0] // 2 :] = 8.0
    half = measure_borders(halves, value, MM, below).seen_px.sum(axis=1) * MM * TENTH_OF_RAMP
    rows = found.pixels[:, 0] // SIZE[1]
    assert half[rows < 20].max() < 3.5
    assert half[rows > 40].min() > 7.5
    # A shape that is only one narrow step is not softened past its middle.
    stripe = np.digitize(value, np.linspace(4, 6, 6)).astype(np.uint8)
    narrow = measure_borders(Patchwork.of(SIZE, stripe), value, MM, 12.0)
    assert np.median(narrow.sides_px.sum(axis=1)) * MM < 4
    assert np.median(narrow.seen_px.sum(axis=1)) * MM * TENTH_OF_RAMP == pytest.approx(12, abs=0.2)


def test_what_is_read_elsewhere_is_told_near_it() -> None:
    value = blurred_edge(1.0)
    found = measure_borders(Patchwork.of(SIZE, (value > 5).astype(np.uint8)), value, MM)
    near = told_near(found, np.ones(len(found.pixels), bool), np.array([[50.0, 5.0]]), np.array([9.0]), 3.0)
    width = near.seen_px.sum(axis=1) * MM * TENTH_OF_RAMP
    row = found.pixels[:, 0] // SIZE[1] * MM
    np.testing.assert_allclose(width[np.abs(row - 5) < 2], 9, atol=1e-3)
    np.testing.assert_array_equal(near.seen_px[row > 10], found.seen_px[row > 10])
    np.testing.assert_array_equal(near.sides_px, found.sides_px)


@pytest.mark.parametrize("school", list(SCHOOLS))
def test_every_border_told_is_one_of_the_pass(school: str) -> None:
    study = planned("maren", school)
    plan, seams = study.passes.plan(), study.passes.seams()
    assert len(seams) == len(plan.passes)
    for current, met in zip(plan.passes, seams, strict=True):
        assert len(met) <= 5
        assert [s.length_mm for s in met] == sorted((s.length_mm for s in met), reverse=True)
        assert all(s.length_mm >= 12 and min(s.here_mm, s.there_mm) > 0 for s in met)
        assert not any(s.same and s.region in HAIR for s in met), "strokes make the borders inside hair"
        if current.lines or current.pieces.all():
            assert not met
    if school == "tempera" or SCHOOLS[school].transparent:
        return
    flesh = next(m for p, m in zip(plan.passes, seams, strict=True) if p.key == "flesh-2")
    assert {(s.region, s.step) for s in flesh} >= {(Region.SKIN, 1), (Region.SKIN, -1), (Region.HAIR, 0)}


def skin_width(name: str, school: str, groups: int) -> float:
    """Middle width of the borders between steps of the skin, by length."""
    base = planned(name, school)
    chosen = base.settings.model_dump()
    chosen["values"]["groups"] = groups
    study = Study(base.sha256, base.source.load, StudySettings.model_validate(chosen), base.source.memo)
    inner = [s for met in study.passes.seams() for s in met if s.same and s.region is Region.SKIN]
    widths, lengths = np.array([s.width_mm for s in inner]), np.array([s.length_mm for s in inner])
    order = np.argsort(widths)
    return float(widths[order][np.searchsorted(np.cumsum(lengths[order]), lengths.sum() / 2)])


@pytest.mark.parametrize("name", ["maren", "tobias"])
def test_a_cheek_is_as_soft_in_every_school_and_with_three_steps_or_seven(name: str) -> None:
    found = [skin_width(name, school, groups) for school, groups in (
        ("layered-oil", 3), ("layered-oil", 7), ("watercolour-zones", 5), ("direct-oil", 5),
    )]  # fmt: skip
    assert min(found) > 3, "no cheek is hard"
    assert max(found) < 1.5 * min(found)


def test_the_plan_says_of_the_hairline_what_the_hair_says() -> None:
    study = planned("maren", "direct-oil")
    plan, borders, hairline = study.passes.plan(), study.passes.borders(), study.hair.hairline()
    at = borders.patchwork.at
    regions = reduced_labels(study.sitter.regions().labels, PLANNING_LONG_SIDE)
    groups = reduced_labels(study.values.plan().labels, PLANNING_LONG_SIDE)
    sides = Sides(at(regions), at(groups))
    told = with_hairline(borders, sides, hairline)
    moved = (told.seen_px != borders.seen_px).any(axis=1)
    pair = np.sort(sides.regions[borders.pieces[moved]], axis=1)
    assert (pair == (Region.SKIN, Region.HAIR)).all()
    widths = told.seen_px[moved].sum(axis=1) * borders.mm_per_px * TENTH_OF_RAMP
    wanted = np.array([s.width_mm + s.soften_mm for s in hairline.spots])
    assert np.abs(widths[:, None] - wanted).min(axis=1).max() < 0.01
    flesh = [n for n, p in enumerate(plan.passes) if p.key.startswith("flesh")]
    as_told, as_seen = (
        [seams_of(b, plan.passes[n], sides, plan.medium, False) for n in flesh] for b in (told, borders)
    )
    assert [study.passes.seams()[n] for n in flesh] == as_told != as_seen


@pytest.mark.parametrize(
    ("here", "there", "contrast", "kind", "softer", "tones"),
    [
        (0.5, 0.5, 2.0, Sharpness.HARD, None, 3),
        (0.2, 0.9, 2.0, Sharpness.HARD, None, 3),
        (1.5, 1.5, 0.7, Sharpness.FIRM, None, 1),
        (3.0, 3.0, 0.8, Sharpness.SOFT, None, 2),
        (3.0, 1.5, 1.4, Sharpness.SOFT, "this", 2),
        (1.0, 2.1, 1.41, Sharpness.FIRM, "that", 3),
        (6.0, 1.0, 0.2, Sharpness.LOST, None, 0),
    ],
)
def test_a_border_says_what_it_is(
    here: float, there: float, contrast: float, kind: Sharpness, softer: str | None, tones: int
) -> None:
    """Tones: one for every 0.7 step begun (from the painter's own starting value)."""
    seam = Seam(Region.SKIN, True, 1, 100, here, there, contrast)
    assert (seam.kind, seam.softer, seam.tones) == (kind, softer, tones)


@pytest.mark.parametrize(
    ("medium", "brush", "kind", "one_sided", "said"),
    [
        ("oil", "10flat", Sharpness.HARD, False, "the flat set along it"),
        ("oil", "10filbert", Sharpness.HARD, False, "narrow side of the filbert"),
        ("oil", "6round", Sharpness.FIRM, False, "the point along it, then one light stroke while"),
        ("oil", "10filbert", Sharpness.SOFT, False, "the filbert over both"),
        ("oil", "10filbert", Sharpness.SOFT, True, "loaded on one side"),
        ("oil", "6round", Sharpness.SOFT, True, "drawn out with a clean brush"),
        ("oil", "10flat", Sharpness.LOST, False, "run into one another"),
        ("acrylic", "10flat", Sharpness.SOFT, False, "damp brush over both within 5 minutes"),
        ("gouache", "10flat", Sharpness.FIRM, False, "within 2 minutes"),
        ("watercolour", "6round", Sharpness.HARD, False, "dry paper"),
        ("watercolour", "6round", Sharpness.SOFT, False, "damp brush along it within a minute"),
        ("watercolour", "6round", Sharpness.LOST, False, "damp paper"),
        ("egg tempera", "2round", Sharpness.SOFT, False, "hatched, strokes that part over 6 mm"),
        ("egg tempera", "2round", Sharpness.LOST, False, "thinner from coat to coat"),
        ("airbrush", "", Sharpness.SOFT, False, "freehand, about 3 cm off"),
        ("airbrush", "", Sharpness.HARD, False, "a shield or narrow tape"),
    ],
)  # fmt: skip
def test_how_a_border_is_made(
    medium: MediumName, brush: str, kind: Sharpness, one_sided: bool, said: str
) -> None:
    """Common practice in each medium, with the brush in hand."""
    held = brush_of(brush) if brush else None
    assert said in means_of(Border(kind, one_sided, 6.0), MEDIA[medium], False, held)


BRUSHES = st.none() | st.sampled_from(
    [brush_of(b) for b in ("10flat", "6filbert", "6round", "0liner", "4mop")]
)


@given(
    st.sampled_from(list(MEDIA.values())), st.sampled_from(Sharpness), st.booleans(), st.booleans(), BRUSHES,
    st.floats(0, 20),
)  # fmt: skip
def test_means_name_no_brush_that_is_not_in_hand_and_no_softening_of_what_is_dry(
    medium: object, kind: Sharpness, one_sided: bool, clear: bool, brush: Brush | None, width: float
) -> None:
    words = means_of(Border(kind, one_sided, width), medium, clear, brush)  # type: ignore[arg-type]
    named = [s for s in ("flat", "filbert", "liner", "mop") if s in words.split()]
    assert named in ([], [brush.shape if brush else ""])
    if medium in (MEDIA["watercolour"], MEDIA["egg tempera"], MEDIA["airbrush"]):
        assert "open" not in words


def test_borders_in_a_few_words() -> None:
    def seam(region: Region, length: float, width: float) -> Seam:
        return Seam(region, False, 0, length, width / 2, width / 2, 2.0)

    soft, firm = seam(Region.SKIN, 100, 6), seam(Region.GARMENT, 40, 3)
    assert edge_words((soft,)) == "soft"
    assert edge_words((soft, firm)) == "mostly soft, firm towards garment"
    other = seam(Region.BACKGROUND, 20, 3)
    assert edge_words((soft, firm, other)) == "mostly soft, firm towards garment and background"
