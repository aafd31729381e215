"""Wet hair that went wrong: one lock lifted off whole, one stroke narrowed."""

from __future__ import annotations

import numpy as np
import pytest

from tests.core.plan.test_hair_in_schools import study_in
from truesitter.core.canvas.layer import Layer
from truesitter.core.plan.painted_hair import hair_numbers
from truesitter.core.refusal import Refusal
from truesitter.core.stages import Study
from truesitter.core.usecases.take_off import take_off


def locks_pass(study: Study) -> int:
    """Number, from 1, of the first pass of strokes of the hair."""
    plan = study.passes.plan()
    return next(n + 1 for n in hair_numbers(plan) if plan.passes[n].lines)


def largest_lock(study: Study) -> tuple[float, float]:
    numbers = study.hair.locks().numbers
    lock = max(study.hair.locks().locks, key=lambda one: one.area)
    rows, columns = np.nonzero(numbers == lock.number)
    spine = lock.spine * numbers.shape[::-1]
    middle = spine[len(spine) // 2]
    near = int(np.hypot(columns - middle[0], rows - middle[1]).argmin())
    return (float(columns[near]) + 0.5) / numbers.shape[1], (float(rows[near]) + 0.5) / numbers.shape[0]


@pytest.mark.parametrize("name", ["maren", "selda"])
def test_a_tissue_lifts_one_wet_lock_off_whole(name: str) -> None:
    study = study_in(name, "layered-oil")
    number, spot = locks_pass(study), largest_lock(study)
    found = take_off(study, number, "tissue", 1.0, False, (spot,))
    assert found.share < 0.02
    assert found.does.endswith("strokes lifted off whole")
    painted = study.passes.painted()
    before, laid = painted.picture(number - 1).astype(int), painted.picture(number).astype(int)
    after = found.picture(study).astype(int)
    height, width = after.shape[:2]
    numbers = study.hair.locks().numbers
    mine = numbers[int(spot[1] * numbers.shape[0]), int(spot[0] * numbers.shape[1])]
    inside = np.zeros((height, width), bool)
    rows, columns = np.nonzero(numbers == mine)
    inside[rows * height // numbers.shape[0], columns * width // numbers.shape[1]] = True
    changed = np.abs(after - laid).max(axis=2) > 2
    stroked = np.abs(laid - before).max(axis=2) > 6
    own = inside & stroked
    left, there = (np.abs(p - before).max(axis=2)[own].mean() for p in (after, laid))
    assert left < 0.75 * there, "what lay below is back, but for the strokes of its neighbours"
    assert changed.sum() < 0.35 * stroked.sum(), "that lock, not the layer"
    assert changed[inside].mean() > 2 * changed[~inside & stroked].mean()
    with pytest.raises(Refusal, match="wet"):
        take_off(study, number, "tissue", 1.0, True, (spot,))


def test_a_cotton_bud_narrows_the_stroke_it_is_drawn_along() -> None:
    study = study_in("maren", "layered-oil")
    number = locks_pass(study)
    one = study.passes.plan().passes[number - 1]
    line = max(one.lines, key=lambda each: float(each.widths_mm.max()))
    spot = tuple(float(v) for v in line.points[len(line.points) // 2])
    light, hard = (take_off(study, number, "cotton bud", p, False, (spot,)).relaid for p in (0.2, 1.0))
    assert light is not None
    assert hard is not None
    assert light.width_mm is not None
    assert hard.width_mm is not None
    assert light.width_mm[0] == hard.width_mm[0] > light.width_mm[1] > hard.width_mm[1]
    assert hard.width_mm[1] == pytest.approx(0.3 * hard.width_mm[0])
    lines = [each for o in hard.operations if isinstance(o, Layer) for each in o.lines]
    narrower = [
        (a, b)
        for a, b in zip((each for o in one.operations for each in o.lines), lines, strict=True)
        if a.widths_mm.max() != b.widths_mm.max()
    ]
    assert len(narrower) == 1, "that stroke alone"
    picture = take_off(study, number, "cotton bud", 1.0, False, (spot,)).picture(study)
    assert (picture != study.passes.painted().picture(number)).any()
    far = take_off(study, number, "tissue", 0.0, False, (spot,))
    assert far.share == pytest.approx(1.0)
