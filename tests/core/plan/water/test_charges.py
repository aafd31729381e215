"""Washes dropped into one another, on made maps whose borders are known."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.canvas.test_painted import LEFT, RIGHT, SIZE, UMBER, step
from tests.core.plan.test_pass_places import subject
from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Layer
from truesitter.core.canvas.painted import Painting, paint
from truesitter.core.canvas.painted_borders import cover, measure_borders
from truesitter.core.canvas.patchwork import Patchwork
from truesitter.core.colour.spaces import srgb_to_lab
from truesitter.core.paint.media.media_table import MEDIA
from truesitter.core.paint.media.thickness import DryMm
from truesitter.core.paint.tubes.palettes import STARTERS
from truesitter.core.plan.pass_plan import Pass, PassPlan
from truesitter.core.plan.planner import plan_passes
from truesitter.core.plan.subject import Subject
from truesitter.core.plan.water.tuning import MERGES_MM, RUNS_MM
from truesitter.core.school.library import SCHOOLS
from truesitter.core.sitter.region_names import Region

OCHRE = {"yellow-ochre": 1}


def turning(width_mm: float, lab: tuple[float, float] = (12.0, 16.0)) -> Subject:
    """A face that turns once, from value 7.5 to 4.5, over so many mm; 0.5 mm to a pixel."""
    height, width = 120, 160
    x = (np.arange(width) + 0.5 - width / 2) * 0.5
    row = np.clip(0.5 - x / max(width_mm, 1e-6), 0, 1)
    value = np.broadcast_to(4.5 + 3.0 * row, (height, width)).astype(np.float32)
    full = np.empty((height, width, 3), np.float32)
    full[..., 0], full[..., 1], full[..., 2] = value * 10, *lab
    skin = np.full((height, width), int(Region.SKIN), np.uint8)
    return replace(
        subject(), groups=(value < 6).astype(np.uint8), regions=skin, zones=np.zeros_like(skin), lab=full,
        value=value, size="portrait", mm_per_px=0.5,
    )  # fmt: skip


def planned(one: Subject, tubes: str = "warm-cool-six") -> PassPlan:
    palette = next(p for p in STARTERS if p.key == tubes)
    return plan_passes(one, palette, SCHOOLS["watercolour-zones"], medium=MEDIA["watercolour"])


def skin_washes(plan: PassPlan) -> list[Pass]:
    return [p for p in plan.passes if p.does == "wash" and p.thinned]


@pytest.mark.parametrize("width_mm", [20.0, 40.0])
def test_what_turns_softly_is_dropped_in(width_mm: float) -> None:
    plan = planned(turning(width_mm))
    assert any(p.charges for p in skin_washes(plan))


def test_what_ends_sharply_is_laid_on_dry_paper() -> None:
    plan = planned(turning(0.0))
    assert len(skin_washes(plan)) >= 2
    assert not any(charge for p in skin_washes(plan) for charge in p.charges if not charge.added)


def test_a_planned_painting_begun_keeps_its_passes_and_what_is_dropped_into_them() -> None:
    from truesitter.core.canvas.begun import Begun

    one = turning(30.0)
    plan = planned(one)
    first = next(n for n, p in enumerate(plan.passes) if p.charges)
    nothing = np.zeros((*one.groups.shape, 3), np.float32)
    begun = Begun(
        first + 1, nothing, np.ones(one.groups.shape, bool), plan.every_key,
        tuple(h.parts for h in plan.heaps),
    )  # fmt: skip
    palette = next(p for p in STARTERS if p.key == "warm-cool-six")
    again = plan_passes(one, palette, SCHOOLS["watercolour-zones"], medium=MEDIA["watercolour"], begun=begun)
    assert begun.last == plan.passes[first].keys[-1]
    assert set(again.every_key[first]) >= {plan.passes[first].key}
    assert begun.has(plan.passes[first].charges[-1].key)


def widths_mm(layers: tuple[Layer, ...]) -> float:
    """10–90 % width of the border in the middle, over a ground of ochre, 0.5 mm to a pixel."""
    borders = step(0.4, 0.4)
    seen = paint(borders, [Painting(layers)]).picture(1)
    lightness = srgb_to_lab(seen[SIZE[0] // 2] / 255)[..., 0]
    share = np.sort((lightness - lightness.min()) / np.ptp(lightness))
    return (
        float(np.interp(0.9, share, np.arange(len(share))) - np.interp(0.1, share, np.arange(len(share)))) / 2
    )


def test_a_drop_runs_into_wet_paper_and_not_onto_dry_paper() -> None:
    base = Layer(LEFT | RIGHT, OCHRE, DryMm(0.002), fades=True)
    dry = Layer(LEFT, UMBER, DryMm(0.0004), fades=True)
    wet = replace(dry, wet=LEFT | RIGHT, runs_mm=RUNS_MM)
    elsewhere = replace(dry, wet=LEFT, runs_mm=RUNS_MM)
    assert widths_mm((base, wet)) == pytest.approx(RUNS_MM, rel=0.35)
    assert widths_mm((base, dry)) < 0.6 * widths_mm((base, wet))
    assert widths_mm((base, elsewhere)) == pytest.approx(widths_mm((base, dry)))


def test_a_drop_stops_where_the_paper_is_dry() -> None:
    """Its place, a strip of two pixels that is wet, and dry paper: it would run eight pixels."""
    marks = np.zeros(SIZE, np.uint8)
    marks[:, 40:42], marks[:, 42:] = 1, 2
    patchwork = Patchwork.of(SIZE, marks)
    flat = np.broadcast_to(8 - marks.astype(np.float32), SIZE)
    borders = measure_borders(patchwork, np.ascontiguousarray(flat), 0.5)
    place = patchwork.labels[0, [0, 40, 79]]
    drop, strip, dry = (np.arange(len(patchwork.sizes)) == number for number in place)
    reach = []
    for wet in (strip, strip | dry):
        rows, columns, levels = cover(borders, drop, None, drop | wet, RUNS_MM)
        out = np.zeros(SIZE, np.uint8)
        out[rows, columns] = levels
        reach.append(int(np.flatnonzero(out[30]).max()))
    assert reach[0] <= 43
    assert reach[1] >= reach[0]


@given(st.floats(0.0002, 0.002), st.floats(0.0002, 0.002))
def test_a_wash_and_its_drop_look_like_two_washes(one: float, other: float) -> None:
    """Two films of one paint are one film of their summed thickness (Kubelka 1948)."""
    ground = Canvas.bare(step(1.0, 1.0).patchwork)
    first, second = (Layer(LEFT, UMBER, DryMm(mm), fades=True) for mm in (one, other))
    together = ground.do(Layer(LEFT, UMBER, DryMm(one + other), fades=True))
    np.testing.assert_allclose(ground.do(first).dried().do(second).labs(), together.labs(), atol=1e-6)
    np.testing.assert_allclose(ground.do(first).do(second).labs(), together.labs(), atol=1e-6)


def test_the_threshold_lies_between_what_merges_and_what_is_cut() -> None:
    soft, sharp = planned(turning(2 * 3 * MERGES_MM)), planned(turning(0.5 * MERGES_MM))
    drops = [sum(len(p.charges) for p in skin_washes(plan)) for plan in (soft, sharp)]
    assert drops[0] > drops[1]
