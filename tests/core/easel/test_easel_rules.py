"""What the easel reads and judges, on made pictures of a few hundred pixels: each rule, and its fault."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import cache
from typing import Any

import cv2
import numpy as np
import pytest

from truesitter.core.colour.spaces import lab_to_srgb, srgb_to_linear
from truesitter.core.colour.value import value_to_lightness
from truesitter.core.easel.compare.border_widths import read_both
from truesitter.core.easel.compare.squinted import squint
from truesitter.core.easel.compare.tone_curve import whole_of
from truesitter.core.easel.rules.hair_rules import hair_shadow, hair_varied, hairline_soft
from truesitter.core.easel.rules.looked import Looked
from truesitter.core.easel.rules.verdicts import (
    background_quiet,
    cheekbone_light,
    eye_whites,
    full_range,
    lights_under_ceilings,
    no_bare_white,
    shadows_alive,
    verdicts,
)
from truesitter.core.light.mirrored.ceilings import Ceiling
from truesitter.core.sitter.areas import Areas, areas_of
from truesitter.core.sitter.region_names import Region

HEIGHT, WIDTH, MM = 250, 200, 1.0
ROWS, COLUMNS = np.mgrid[0:HEIGHT, 0:WIDTH].astype(np.float32)
WALL, HAIR, SKIN, CLOTH = (int(r) for r in (Region.BACKGROUND, Region.HAIR, Region.SKIN, Region.GARMENT))


@cache
def regions() -> np.ndarray:
    out = np.full((HEIGHT, WIDTH), WALL, np.uint8)
    out[190:, 30:170] = CLOTH
    head = ((COLUMNS - 100) / 52) ** 2 + ((ROWS - 115) / 78) ** 2 < 1
    out[head] = HAIR
    out[head & (ROWS > 80)] = SKIN
    out[150:158, 85:115] = Region.LIPS
    out[110:116, 75:92] = out[110:116, 108:125] = Region.EYES
    return out


@cache
def planned() -> np.ndarray:
    """Values: hair with locks and a soft hairline, its shadow on skin, a face of two sides, a quiet wall."""
    r = regions()
    value = np.full(r.shape, 4.0, np.float32) + 0.002 * ROWS
    value[r == CLOTH] = 3.0
    hair = 2.0 + 1.3 * np.sin(COLUMNS / 6)
    skin = np.where(COLUMNS < 105, 7.0, 4.2) + 0.25 * np.sin(ROWS / 3)
    skin -= 1.5 * np.exp(-np.maximum(ROWS - 80, 0) / 7)
    value[r == HAIR] = hair[r == HAIR]
    face = np.isin(r, (SKIN, Region.LIPS, Region.EYES))
    value[face] = skin[face]
    lips = cv2.GaussianBlur((r == Region.LIPS).astype(np.float32), (0, 0), 2.5)
    value -= 1.6 * lips * face
    value[r == Region.EYES] = 6.0
    across = cv2.GaussianBlur(value, (0, 0), 2.2)
    near = (np.abs(ROWS - 80) < 8) & (np.abs(COLUMNS - 100) < 48)
    return np.where(near, across, value).astype(np.float32)


def pictured(value: np.ndarray, chroma: float = 14.0) -> np.ndarray:
    """Linear light of values, warm where there is flesh."""
    lab = np.zeros((*value.shape, 3), np.float32)
    lab[..., 0] = value_to_lightness(np.clip(value, 0, 10))
    lab[regions() == SKIN, 1:] = chroma
    return np.asarray(srgb_to_linear(np.clip(lab_to_srgb(lab), 0, 1)), np.float32)


def looked(painted: np.ndarray, chroma: float = 14.0, **more: Any) -> Looked:
    seen = squint(pictured(painted, chroma), pictured(planned()), np.ones((HEIGHT, WIDTH), bool))
    groups = np.digitize(planned(), (2.5, 5.0, 6.2)).astype(np.uint8)
    edges = read_both(groups, painted, planned(), np.ones(groups.shape, bool), MM)
    peak = Ceiling("left cheekbone", 0.42, 0.55, 7.2, 7.6, 6.0, False, False)
    known: dict[str, Any] = {
        "seen": seen, "own": painted, "plan": planned(), "regions": regions(), "areas": areas(), "face": None,
        "ceilings": (peak,), "edges": edges, "whole": whole_of(seen), "mm_per_px": MM,
    }  # fmt: skip
    return Looked(**(known | more))


@cache
def areas() -> Areas:
    found = areas_of(regions(), None)
    skin = [n for n, whole in enumerate(found.whole) if whole == "skin"]
    assert skin
    # The head's skin is the face's, as it is where a face is found.
    return replace(found, whole=tuple("face" if n in skin else w for n, w in enumerate(found.whole)))


def soft(value: np.ndarray, where: np.ndarray, sigma: float) -> np.ndarray:
    return np.where(where, cv2.GaussianBlur(value, (0, 0), sigma), value).astype(np.float32)


def hard_hairline(value: np.ndarray) -> np.ndarray:
    out = value.copy()
    above, below = (ROWS > 68) & (ROWS <= 80), (ROWS > 80) & (ROWS < 92)
    across = np.abs(COLUMNS - 100) < 46
    hair, skin = (np.repeat(value[row][None], HEIGHT, axis=0) for row in (68, 92))
    out[above & across], out[below & across] = hair[above & across], skin[below & across]
    return out


def in_place(region: int, change: Callable[[np.ndarray], np.ndarray]) -> Callable[[np.ndarray], np.ndarray]:
    return lambda value: np.where(regions() == region, change(value), value).astype(np.float32)


FAULTS: dict[str, tuple[Any, Callable[[np.ndarray], np.ndarray]]] = {
    "range": (full_range, lambda v: (4.5 + 0.6 * (v - 4.5)).astype(np.float32)),
    "hair flat": (hair_varied, in_place(HAIR, lambda v: 0 * v + 2.0)),
    "hair shadow": (hair_shadow, in_place(SKIN, lambda v: np.where(ROWS < 104, 6.6 - 0 * v, v))),
    "hairline": (hairline_soft, hard_hairline),
    "eye whites": (eye_whites, in_place(int(Region.EYES), lambda v: v + 1.2)),
    "bare white": (no_bare_white, in_place(WALL, lambda v: 0 * v + 9.6)),
    "background": (
        background_quiet,
        in_place(WALL, lambda v: v + 1.5 * np.sign(np.sin(COLUMNS) * np.sin(ROWS))),
    ),
    "ceilings": (
        lights_under_ceilings,
        lambda v: np.where(np.hypot(COLUMNS - 84, ROWS - 137) < 6, 9.0, v).astype(np.float32),
    ),
}


@pytest.mark.parametrize("rule", list(FAULTS))
def test_a_rule_holds_on_the_plan_and_fails_on_its_fault_alone(rule: str) -> None:
    judge, fault = FAULTS[rule]
    well, ill = judge(looked(planned())), judge(looked(fault(planned())))
    assert well is not None
    assert ill is not None
    assert (well.rule, well.holds, ill.holds) == (rule, True, False)
    assert well.words != ill.words
    # What was measured lies on the right side of what is allowed, and far from it either way.
    too_much = rule in ("eye whites", "bare white", "background", "ceilings")
    assert (ill.measured > ill.limit) is too_much
    assert (well.measured > well.limit) is not too_much
    assert (ill.measured > well.measured) is too_much
    failed = [v.rule for v in verdicts(looked(fault(planned()))) if not v.holds]
    assert rule in failed
    assert len(failed) <= 2


def test_on_the_plan_itself_every_rule_holds() -> None:
    found = verdicts(looked(planned()))
    assert len(found) >= 8
    assert [v.words for v in found if not v.holds] == []


def test_black_shadows_of_flesh_are_told_and_grey_ones_that_are_lighter_as_well() -> None:
    well, ill = shadows_alive(looked(planned())), shadows_alive(looked(planned() - 0.4, chroma=0.0))
    assert well is not None
    assert ill is not None
    assert well.holds
    assert not ill.holds
    assert well.measured == pytest.approx(1.0, abs=0.02)
    assert ill.measured < 0.2


def test_a_light_on_the_cheekbone_that_hardly_stands_off_is_told() -> None:
    light = 1.2 * np.exp(-(((COLUMNS - 84) / 5) ** 2) - ((ROWS - 137) / 5) ** 2)
    with_light = looked(planned(), own=planned() + light)
    seen = squint(pictured(planned()), pictured(planned() + light), np.ones(regions().shape, bool))
    lost = replace(with_light, seen=seen)
    kept = replace(
        with_light,
        seen=squint(pictured(planned() + light), pictured(planned() + light), np.ones(regions().shape, bool)),
    )
    assert cheekbone_light(looked(planned())) is None, "nothing is planned there"
    told, well = cheekbone_light(lost), cheekbone_light(kept)
    assert told is not None
    assert well is not None
    assert (told.holds, well.holds) == (False, True)
    assert well.measured == pytest.approx(1.0, abs=0.01)
    assert "left cheekbone" in told.words


def test_what_the_photograph_does_not_show_is_not_judged() -> None:
    nothing = looked(planned())
    blind = replace(nothing, seen=replace(nothing.seen, trusted=np.zeros(regions().shape, bool)))
    assert full_range(blind) is None
    assert lights_under_ceilings(blind) is None
    assert (no_bare_white(blind), background_quiet(blind), eye_whites(blind), shadows_alive(blind)) == (
        None,
    ) * 4


def test_a_light_beside_the_middle_of_its_place_counts_as_well() -> None:
    """All of its place is looked at: two millimetres to each side."""
    row, column = round(0.55 * HEIGHT), round(0.42 * WIDTH)
    ahead = (row - 3 <= ROWS) & (row > ROWS) & (column - 3 <= COLUMNS) & (column + 3 >= COLUMNS)
    verdict = lights_under_ceilings(looked(np.where(ahead, 9.0, planned()).astype(np.float32)))
    assert verdict is not None
    assert not verdict.holds
    assert "past its ceiling" in verdict.words
