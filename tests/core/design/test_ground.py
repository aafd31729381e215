"""Grounds: one that fits the picture wins, stays, and is left out of the passes."""

from __future__ import annotations

import numpy as np
import pytest

from tests.conftest import study_of
from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.value import lab_value
from truesitter.core.design.ground_tone import choose_grounds, stays_where
from truesitter.core.design.tuning import STAYS_DELTA_E, STAYS_VALUE
from truesitter.core.paint.tubes.palettes import starter
from truesitter.core.plan.clock.minutes import rates
from truesitter.core.refusal import Refusal
from truesitter.core.school.library import SCHOOLS
from truesitter.core.settings import StudySettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages import Study

PACE = rates(SCHOOLS["layered-oil"].pace, "portrait", False)


def dressed(cloth: tuple[float, float, float]) -> tuple[np.ndarray, np.ndarray]:
    """L*a*b* and regions of a head over cloth of one colour before an unlike wall; 1 mm a pixel."""
    regions = np.zeros((300, 240), np.uint8)
    regions[180:] = Region.GARMENT
    y, x = np.indices(regions.shape)
    regions[(x - 120) ** 2 + (y - 110) ** 2 < 60**2] = Region.SKIN
    lab = np.zeros((300, 240, 3), np.float32)
    lab[..., 0] = 20 + 60 * x / 240
    lab[..., 2] = -20
    skin = regions == Region.SKIN
    lab[skin] = np.stack([40 + 40 * (x[skin] - 60) / 120, 15 + 0 * x[skin], 20 + 0 * x[skin]], axis=-1)
    lab[regions == Region.GARMENT] = cloth
    return lab, regions


@pytest.mark.parametrize("cloth", [(75.0, 5.0, 25.0), (35.0, 4.0, 10.0)])
def test_a_ground_that_equals_the_garment_wins(cloth: tuple[float, float, float]) -> None:
    lab, regions = dressed(cloth)
    best, *rest = choose_grounds(lab, regions, 1.0, starter("earth-four"), (60.0, -3.0, 9.0), PACE)
    assert best.key == "garment"
    assert best.serves == "garment"
    cloth_cm2 = (regions == Region.GARMENT).sum() / 100
    assert best.area_cm2 >= 0.95 * cloth_cm2
    assert best.minutes >= max(r.minutes for r in rest)
    assert best.ml > 0
    assert {r.key for r in rest} >= {"school", "halftone", "background"}


def test_what_stays_is_near_in_colour_and_value_and_no_crumbs() -> None:
    lab, _ = dressed((55.0, 6.0, 22.0))
    ground = (55.0, 6.0, 22.0)
    stays = stays_where(lab, ground, 1.0)
    assert (delta_e_2000(lab[stays].astype(float), np.array(ground)) <= STAYS_DELTA_E + 0.5).all()
    assert (
        np.abs(lab_value(lab[stays].astype(float)) - lab_value(np.array(ground))) <= STAYS_VALUE + 0.1
    ).all()
    lab[10:14, 10:14] = ground
    assert not stays_where(lab, ground, 1.0)[:20, :20].any(), "16 mm² is a crumb"
    assert not stays_where(lab, (99.0, 0.0, 0.0), 1.0).any()


def with_ground(name: str, school: str, **passes: object) -> Study:
    plain = study_of(name)
    chosen = plain.settings.model_dump()
    chosen["passes"].update(school=school, **passes)
    return Study(plain.sha256, plain.source.load, StudySettings.model_validate(chosen), plain.source.memo)


def test_the_passes_leave_out_what_stays() -> None:
    plain = with_ground("selda", "layered-oil").passes.plan()
    study = with_ground("selda", "layered-oil", ground="auto")
    plan, ground = study.passes.plan(), study.surround.ground()
    assert ground is not None
    stays = plan.canvases[0].patchwork.at(ground.stays)
    assert stays.any()
    for one in plan.passes:
        if one.does in ("mass", "wash"):
            assert not (one.pieces & stays).any(), one.key
    seen = plan.canvases[-1].labs()[stays]
    wanted = np.array(plan.passes[0].recipe.predicted.lab)
    assert np.abs(seen - wanted).max() < 1, "it is still the ground at the end"
    assert sum(p.ml for p in plan.passes) < sum(p.ml for p in plain.passes)
    assert plan.passes[-1].value_error < 0.35


def test_a_ground_of_ones_own_is_laid() -> None:
    plan = with_ground("maren", "direct-oil", ground="own", ground_lab=(45, 10, 25)).passes.plan()
    assert plan.passes[0].recipe.target_lab == pytest.approx((45, 10, 25))


def test_a_ground_nobody_knows_is_refused_and_paper_takes_none() -> None:
    with pytest.raises(Refusal, match="no ground called “moon”"):
        with_ground("maren", "layered-oil", ground="moon").passes.plan()
    study = with_ground("maren", "watercolour-zones", ground="auto")
    assert study.surround.grounds() == ()
    assert study.surround.ground() is None
