"""Quick checks of what long trials of whole paintings hold too: lamp, gloss, moved features, lifting."""

from __future__ import annotations

from dataclasses import replace

import cv2
import numpy as np
import pytest

from tests.core.easel.test_easel_parts import two_halves
from tests.core.easel.test_easel_remedies import OIL, WATER, off
from tests.core.easel.test_easel_rules import MM, hard_hairline, looked, planned
from truesitter.core.easel.compare.border_widths import read_both
from truesitter.core.easel.compare.drawing_offsets import OUTLINE, Offset
from truesitter.core.easel.compare.findings import Finding, What, find_differences
from truesitter.core.easel.comparison import _unexplained
from truesitter.core.easel.correct.remedy import remedies
from truesitter.core.easel.lamp.lighting import gloss, lighting_of
from truesitter.core.easel.rules.hair_rules import hairline_soft


@pytest.mark.parametrize("slope", [(0.6, -0.9), (-0.3, 1.1)])
def test_the_fall_off_of_a_lamp_is_found_where_it_lies(slope: tuple[float, float]) -> None:
    """A painting under a lamp from one corner; what it is painted with lies unevenly itself."""
    rng = np.random.default_rng(3)
    height, width = 160, 128
    blots = cv2.GaussianBlur(rng.normal(0, 1, (height, width)).astype(np.float32), (0, 0), 6)
    wanted = (0.3 + 0.15 * blots / np.abs(blots).max())[..., None].repeat(3, axis=2).astype(np.float32)
    y, x = ((np.arange(n) + 0.5) / n for n in (height, width))
    fall = np.exp(slope[0] * (x[None] - 0.5) + slope[1] * (y[:, None] - 0.5)).astype(np.float32)
    found = lighting_of(0.4 * wanted * fall[..., None], wanted, np.ones((height, width), bool))
    over = found.over((height, width))[..., 1]
    off = over / (0.4 * fall) - 1
    assert abs(float(np.median(off))) < 0.002
    assert np.abs(off[8:-8, 8:-8]).max() < 0.012


def test_gloss_on_light_grey_paint_is_what_is_whiter_than_white() -> None:
    """On light paint without colour nothing but its strength tells a mirrored lamp."""
    y, x = np.indices((200, 160))
    away = np.hypot(x - 80, y - 90)
    paint = np.full((200, 160, 3), 0.66, np.float32)
    lit = paint + (0.5 * np.exp(-((away / 10) ** 2)))[..., None].astype(np.float32)
    assert gloss(0.4 * lit, lit, paint)[away < 4].all()
    less = paint + (0.2 * np.exp(-((away / 10) ** 2)))[..., None].astype(np.float32)
    assert not gloss(0.4 * less, less, paint).any(), "paint may be that light"
    wide = lit + np.where(x > 60, 0.12, 0.0)[..., None].astype(np.float32)
    assert not gloss(0.4 * wide, wide, paint).any(), "half a painting that is lighter is painted so"


def finding(what: What, rows: slice, columns: slice) -> Finding:
    mask = np.zeros((200, 160), bool)
    mask[rows, columns] = True
    flat = (50.0, 0.0, 0.0)
    return Finding("cheek", what, 1.0, flat, 4.0, "", 0.5, 0.5, mask, flat, flat, 4.0)


def test_what_a_moved_feature_uncovers_is_not_told_as_a_wrong_tone() -> None:
    """An eye 6 mm off: its old place is too light, its new one too dark. A chin is not its fault."""
    seen = looked(planned()).seen
    seen = replace(seen, trusted=np.ones((200, 160), bool))
    eye = Offset("left eye", 0.3, 0.3, 6.0, 0.0, 0.0, 1.0, 1.0, (30, 40, 70, 80), 0.5)
    inside = finding("value", slice(45, 75), slice(35, 65))
    beside = finding("value", slice(41, 84), slice(26, 73))
    chin = finding("value", slice(150, 180), slice(60, 100))
    below = finding("value", slice(84, 98), slice(30, 70))
    key = finding("key", slice(45, 75), slice(35, 65))
    kept = _unexplained((inside, beside, chin, below, key), (eye,), seen)
    assert [f is k for f, k in zip(kept, (chin, below, key), strict=True)] == [True] * 3
    near = replace(eye, right_mm=0.3)
    assert len(_unexplained((inside, chin), (near,), seen)) == 2, "within a pencil line nothing was moved"
    assert len(_unexplained((inside, chin), (replace(eye, name=OUTLINE),), seen)) == 2


def test_lifting_waits_until_paint_is_dry_and_working_into_it_does_not() -> None:
    """Common practice: a stain is lifted dry; wet oil is worked into while it is open."""
    dark = off((60.0, 12.0, 20.0), -1.0)
    lifted = [r for r in remedies(dark, (60.0, 12.0, 20.0), WATER) if r.kind == "lift"]
    assert lifted
    assert not any(r.into_wet for r in lifted)
    assert all(r.wait_minutes > 0 for r in lifted)
    worked = [r for r in remedies(dark, (60.0, 12.0, 20.0), replace(OIL, wet=True)) if r.kind == "wipe"]
    assert worked
    assert all(r.into_wet and r.wait_minutes == 0 for r in worked)


@pytest.mark.parametrize("mm", [1.0, 0.3, 0.15])
def test_the_hairline_of_a_miniature_is_judged_too(mm: float) -> None:
    """The same head on canvases down to a seventh of the size: two millimetres are still a passage."""
    hard = hard_hairline(planned())
    ones = np.ones(hard.shape, bool)
    groups = np.digitize(planned(), (2.5, 5.0, 6.2)).astype(np.uint8)
    look = replace(looked(hard), edges=read_both(groups, hard, planned(), ones, mm * MM), mm_per_px=mm * MM)
    verdict = hairline_soft(look)
    assert verdict is not None
    assert verdict.holds == (verdict.measured >= verdict.limit)


@pytest.mark.parametrize(("steps", "apart"), [(0.8, 0.0), (0.0, 18.0), (0.6, 9.0)])
def test_a_finding_weighs_its_area_times_what_is_off(steps: float, apart: float) -> None:
    """Twelve units of colour count as one step of value."""
    off, colour = np.zeros((200, 200), np.float32), np.zeros((200, 200, 2), np.float32)
    off[60:120, 20:80], colour[60:120, 20:80, 0] = steps, apart
    seen, areas = two_halves(off, colour)
    told = find_differences(seen, areas, 1.0, absolute=False)[0]
    assert told
    amount = sum(f.weight / f.area_cm2 for f in told[:1])
    assert amount == pytest.approx(steps + apart / 12, rel=0.06)
    weights = [f.weight for f in told]
    assert weights == sorted(weights, reverse=True)
