"""The parts of an eye, and what each has to hold to."""

from __future__ import annotations

import numpy as np
import pytest

from tests.conftest import jpeg, study_of
from truesitter.core.light.mirrored.eyes import ORDER
from truesitter.core.settings import StudySettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages import Study

# Eyes


@pytest.mark.parametrize("name", ["maren", "tobias", "selda", "orsolya"])
def test_the_parts_of_an_eye(name: str) -> None:
    """The pupil is its darkest part, the white a grey no lighter than the lit skin (common practice)."""
    study = study_of(name)
    eyes = study.accents.eyes()
    assert [e.side for e in eyes] == ["left", "right"]
    assert eyes[0].box[0] < eyes[1].box[0]
    height, width = study.picture.shape
    for eye in eyes:
        values = {p.name: p.value for p in eye.parts}
        assert tuple(values) == ORDER
        seen = {n: v for n, v in values.items() if v is not None}
        assert min(seen, key=lambda n: seen[n]) == "pupil"
        assert seen["catchlight"] > seen["pupil"]
        left, top, right, bottom = eye.box
        assert 0.02 < right - left < 0.3
        for p in eye.parts:
            if p.value is not None:
                assert left < p.x < right
                assert top < p.y < bottom
        labels = study.sitter.regions().labels
        part = next(p for p in eye.parts if p.name == "pupil")
        assert labels[int(part.y * height), int(part.x * width)] == Region.EYES
    lit = max(eyes, key=lambda e: e.parts[0].value or 0)
    assert lit.checks[0].holds, "the white is not lighter than the skin"
    assert len(lit.checks) == 3


def test_left_is_left_in_a_mirrored_photograph_too() -> None:
    plain = study_of("selda")
    mirrored = np.ascontiguousarray(plain.picture.framed()[:, ::-1])
    settings = {"reference": {"canvas_width_mm": 320, "canvas_height_mm": 400}}
    eyes = Study.of_bytes(jpeg(mirrored), StudySettings.model_validate(settings)).accents.eyes()
    assert [e.side for e in eyes] == ["left", "right"]
    assert eyes[0].box[0] < eyes[1].box[0]
    whites = [{p.name: p.value for p in e.parts} for e in (*plain.accents.eyes(), *eyes)]
    assert whites[3]["white, right"] == pytest.approx(whites[0]["white, left"], abs=0.4)


def test_every_check_of_an_eye_can_fail() -> None:
    from truesitter.core.light.mirrored.eyes import EyePart, checks_of

    def told(**values: float) -> list[bool]:
        parts = tuple(EyePart(n, values.get(n, 4.0), 0.5, 0.5) for n in ORDER)
        return [c.holds for c in checks_of(parts, 6.0)]

    assert told(**{"pupil": 1.0, "catchlight": 8.0}) == [True, True, True]
    assert told(**{"pupil": 1.0, "catchlight": 8.0, "white, right": 7.0}) == [False, True, True]
    assert told(**{"pupil": 1.0, "catchlight": 8.0, "iris, towards the light": 5.0}) == [True, False, True]
    assert told(**{"pupil": 1.0, "catchlight": 3.0}) == [True, True, False]


def test_nothing_is_told_of_eyes_without_a_face() -> None:
    assert study_of("ines").accents.eyes() == ()
