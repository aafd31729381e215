"""Faults planted by the simulated painter, and the rules that name them."""

from __future__ import annotations

import cv2
import numpy as np
import pytest

from tests.core.easel.test_easel_parts import QUIET
from tests.easel import painter, photographed, relit
from truesitter.core.easel.compare.small_finish import finish_off
from truesitter.core.refusal import Refusal
from truesitter.core.sitter.areas import Areas
from truesitter.core.sitter.region_names import Region
from truesitter.devices.faults import Fault, plant


def test_a_place_worked_farther_than_the_rest_is_told_and_grain_is_not() -> None:
    rng = np.random.default_rng(2)
    plan = np.full((300, 400), 5, np.float32)
    plan += cv2.GaussianBlur(rng.normal(0, 1.2, plan.shape).astype(np.float32), (0, 0), 1.5) * 0.15
    labels = (np.arange(400) // 100).astype(np.uint8)[None].repeat(300, 0)
    areas = Areas(labels, ("a", "b", "c", "d"), ("a", "b", "c", "d"))
    trusted = np.ones(plan.shape, bool)
    grain = rng.normal(0, 0.7, plan.shape).astype(np.float32)
    assert finish_off(plan + grain, plan, areas, trusted, 0.4) == ()
    marks = cv2.GaussianBlur(rng.normal(0, 1, plan.shape).astype(np.float32), (0, 0), 1.3)
    worked = plan + grain + np.where(labels == 2, 2.0 * marks / marks.std(), 0).astype(np.float32)
    found = finish_off(worked.astype(np.float32), plan, areas, trusted, 0.4)
    assert [(f.place, f.ratio > 1.5) for f in found] == [("c", True)]


@pytest.mark.parametrize(
    ("rule", "wrong"),
    [
        ("hair flat", lambda c, a, r: flat(c, r == Region.HAIR)),
        ("eye whites", lambda c, a, r: relit(c, r == Region.EYES, 1.6)),
        ("background", lambda c, a, r: noisy(c, r == Region.BACKGROUND)),
        ("bare white", lambda c, a, r: white(c, r == Region.BACKGROUND)),
        ("shadow colour", lambda c, a, r: black(c, r)),
    ],
)  # fmt: skip
def test_a_usual_fault_is_named(rule: str, wrong: object) -> None:
    study = painter("maren")
    canvas = study.passes.painted().picture(study.easel.pass_count())
    painted = wrong(canvas, study.sitter.areas(), study.surround.regions())  # type: ignore[operator]
    found = study.easel.compared(photographed(painted, QUIET, study.easel.pass_count()))
    failed = {v.rule for v in found.verdicts if not v.holds}
    assert rule in failed
    right = study.easel.compared(photographed(canvas, QUIET, study.easel.pass_count()))
    assert rule in {v.rule for v in right.verdicts if v.holds}


def flat(canvas: np.ndarray, where: np.ndarray) -> np.ndarray:
    out = canvas.astype(np.float32)
    out[where] = 0.75 * out[where].mean(axis=0) + 0.25 * out[where]
    return out.round().astype(np.uint8)


def noisy(canvas: np.ndarray, where: np.ndarray) -> np.ndarray:
    rng = np.random.default_rng(0)
    marks = cv2.GaussianBlur(rng.normal(0, 1, canvas.shape[:2]).astype(np.float32), (0, 0), 5)
    return np.clip(canvas + (where * 45 * marks / marks.std())[..., None], 0, 255).round().astype(np.uint8)


def white(canvas: np.ndarray, where: np.ndarray) -> np.ndarray:
    out = canvas.copy()
    out[where] = 247
    return out


def black(canvas: np.ndarray, regions: np.ndarray) -> np.ndarray:
    lab = cv2.cvtColor((canvas / 255).astype(np.float32), cv2.COLOR_RGB2LAB)
    skin = regions == Region.SKIN
    dark = skin & (lab[..., 0] < np.quantile(lab[..., 0][skin], 0.25))
    lab[dark, 1:] *= 0.2
    lab[dark, 0] -= 6
    return np.clip(cv2.cvtColor(lab, cv2.COLOR_LAB2RGB) * 255, 0, 255).round().astype(np.uint8)


@pytest.mark.parametrize(
    "text",
    ["cheek", "cheek=", "=+1", "cheek=shift:3", "cheek=blue:4", "cheek=1e99", "cheek=nan", "cheek=turn:x"],
)
def test_a_fault_is_read_or_refused(text: str) -> None:
    with pytest.raises(Refusal, match="a fault is given as"):
        Fault.read(text)


def test_faults_do_what_they_say() -> None:
    study = painter("maren")
    canvas, areas = study.easel.template(None, "photograph"), study.sitter.areas()
    where = cv2.erode(areas.mask("left cheek").astype(np.uint8), np.ones((15, 15))) > 0
    lab = [cv2.cvtColor((p / 255).astype(np.float32), cv2.COLOR_RGB2LAB)[where].mean(axis=0) for p in (
        canvas, plant(canvas, (Fault.read("left cheek=-1"),), areas, (), 0.4),
        plant(canvas, (Fault.read("left cheek=warm:8"),), areas, (), 0.4),
    )]  # fmt: skip
    assert lab[1][0] < lab[0][0] - 8
    assert lab[2][2] - lab[0][2] == pytest.approx(8, abs=1)
    with pytest.raises(Refusal, match="no place is called"):
        plant(canvas, (Fault.read("left ankle=-1"),), areas, (), 0.4)
    with pytest.raises(Refusal, match="no feature is called"):
        plant(canvas, (Fault.read("left cheek=shift:1,1"),), areas, (), 0.4)
