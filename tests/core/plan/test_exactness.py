"""How exact it is wanted changes what is painted: a study keeps to masses, a copy follows the photograph."""

from __future__ import annotations

import numpy as np
import pytest

from tests.core.school.test_schools import planned
from truesitter.core.plan.subject import Exactness
from truesitter.core.settings import StudySettings
from truesitter.core.stages import Study


def exact(name: str, exactness: Exactness, school: str = "direct-oil") -> Study:
    plain = planned(name, school)
    chosen = plain.settings.model_dump()
    chosen["passes"]["exactness"] = exactness
    return Study(plain.sha256, plain.source.load, StudySettings.model_validate(chosen), plain.source.memo)


@pytest.mark.parametrize("name", ["maren", "orsolya"])
def test_a_study_has_few_large_shapes_and_a_copy_many_small_ones(name: str) -> None:
    """Chosen on maren, checked on orsolya."""
    study, portrait, copy = (exact(name, e) for e in ("study", "portrait", "copy"))
    shapes = [len(s.values.shapes().shapes) for s in (study, portrait, copy)]
    assert 1.5 * shapes[0] < shapes[1] < shapes[2] / 1.4
    # Each holds to its own smallest shape: the plan is made from those that Values draws.
    for one, factor in ((study, 3.0), (portrait, 1.0), (copy, 0.5)):
        assert one.values.smallest_mm() == factor * one.settings.values.smallest_mm
        assert one.values.features_mm() == factor * one.settings.values.features_mm
    values = portrait.picture.value()
    away = [float(np.abs(s.values.smoothed() - values).mean()) for s in (study, portrait, copy)]
    assert away[0] > away[1] > away[2]


def test_a_study_draws_half_of_the_many_lines_and_every_line_of_the_features() -> None:
    study, portrait = exact("tobias", "study"), exact("tobias", "portrait")
    few, many = study.passes.subject().lines, portrait.passes.subject().lines
    strokes = [sum(len(h.lines) for h in s.passes.subject().hair) for s in (study, portrait)]
    for key in ("lashes", "lid-creases", "lip-parting"):
        assert len(few[key][0].lines) == len(many[key][0].lines)
    assert strokes[0] == pytest.approx(strokes[1] / 2, abs=3)


@pytest.mark.parametrize("name", ["maren", "selda"])
def test_a_study_has_shorter_borders_and_takes_less_time(name: str) -> None:
    studies = [exact(name, e) for e in ("study", "portrait", "copy")]
    borders = []
    for one in studies:
        labels = one.values.plan().labels
        borders.append(sum(int((np.diff(labels, axis=axis) != 0).sum()) for axis in (0, 1)))
    assert borders[0] < 0.88 * borders[1]
    assert borders[1] < 0.92 * borders[2]
    hours = [s.passes.plan().hours.likely for s in studies]
    assert hours == sorted(hours)
