"""The study: what depends on what, and pictures nobody tuned for."""

from __future__ import annotations

import threading
import time

import numpy as np
import pytest
from pydantic import ValidationError
from skimage.data import astronaut

from tests.conftest import jpeg, study_of, truth
from truesitter.core.graph.memo import Memo
from truesitter.core.settings import StudySettings
from truesitter.core.stages import Study
from truesitter.core.values.edges import Sharpness


@pytest.mark.parametrize(
    "bad",
    [
        {"values": {"mode": "own", "groups": 3, "cuts": [5, 4]}},
        {"values": {"mode": "own", "groups": 4, "cuts": [5]}},
        {"values": {"groups": 40}},
        {"flesh": {"tubes": []}},
        {"flesh": {"tubes": ["nothing"]}},
        {"reference": {"zoom": float("inf")}},
        {"reference": {"unheard_of": 1}},
        {"passes": {"school": "none"}},
        {"hair": {"guides": [{"points": [[0.1, 0.1]]}]}},
        {"hair": {"guides": [{"points": [[0.1, 0.1], [99, 0]]}]}},
    ],
)
def test_settings_refuse_what_makes_no_sense(bad: dict[str, object]) -> None:
    with pytest.raises(ValidationError):
        StudySettings.model_validate(bad)


def test_a_real_photograph_goes_through_every_stage_untouched() -> None:
    """A photograph nobody tuned for, shipped in scikit-image."""
    study = Study.of_bytes(jpeg(astronaut()), StudySettings())
    assert study.picture.framed().shape[0] / study.picture.framed().shape[1] == pytest.approx(4 / 3, rel=0.01)
    assert study.sitter.face is not None
    shares = study.sitter.regions().shares()
    assert shares["skin"] > 0.03
    assert shares["hair"] > 0.02
    assert len(study.values.plan().groups) == 5
    assert 0 <= study.picture.clipping().light_share < 0.2
    assert len(study.sitter.proportions()) >= 5
    assert {e.kind for e in study.looking.edges()} == set(Sharpness)
    shapes = study.values.shapes().shapes
    assert len(shapes) == len(study.values.outlines().outlines) < 400
    assert study.values.outlines().grid == study.picture.value().shape
    assert len(np.unique(study.looking.thumbnail(3))) == 3
    assert len(study.flesh.mixed().mixtures) >= 3
    assert len(study.flesh.string("skin in the light")) == 5
    assert study.light.zones().peaks
    assert study.hair.map().lines
    assert study.passes.plan().passes[-1].value_error < 0.6


def test_without_a_face_and_without_scribbles_everything_still_answers(made_photo: bytes) -> None:
    study = Study.of_bytes(made_photo, StudySettings())
    if study.sitter.face is None:
        assert study.light.direction() is None
    assert study.flesh.mixed().reach.darkest < study.flesh.mixed().reach.lightest
    assert study.passes.plan().passes[0].name == "Ground"
    assert isinstance(study.hair.map().lines, tuple)


def test_features_survive_at_few_groups() -> None:
    three = Study.of_bytes(
        truth("maren").data,
        StudySettings.model_validate(
            {"reference": {"canvas_width_mm": 320, "canvas_height_mm": 400}, "values": {"groups": 3}}
        ),
    )
    face = three.sitter.face
    assert face is not None
    labels = three.values.plan().labels
    for iris in (468, 473):
        x, y = (face.points[iris, :2] * (labels.shape[1], labels.shape[0])).astype(int)
        assert labels[y - 14 : y + 15, x - 14 : x + 15].min() == 0


def test_previewed_cuts_agree_with_the_finished_groups() -> None:
    study = study_of("maren")
    small = study.values.preview_labels(study.values.cuts())
    whole = study.values.plan().labels
    rows = (np.arange(small.shape[0]) + 0.5) * whole.shape[0] / small.shape[0]
    cols = (np.arange(small.shape[1]) + 0.5) * whole.shape[1] / small.shape[1]
    assert (whole[rows.astype(int)][:, cols.astype(int)] == small).mean() > 0.95


def test_the_memory_computes_once_however_many_ask() -> None:
    memo, calls = Memo(), []

    def slow() -> int:
        calls.append(1)
        time.sleep(0.05)
        return 7

    results: list[int] = []
    threads = [threading.Thread(target=lambda: results.append(memo.get("k", slow))) for _ in range(6)]
    for t in threads:
        t.start()
    for t in threads:
        t.join()
    assert results == [7] * 6
    assert len(calls) == 1


def test_the_memory_forgets_the_oldest_and_never_an_error() -> None:
    memo = Memo(most_bytes=3400)
    made: list[str] = []

    def make(name: str) -> np.ndarray:
        made.append(name)
        return np.zeros(1000, np.uint8)

    for name in ("a", "b", "c", "a", "d", "a", "b"):
        memo.get(name, lambda name=name: make(name))
    assert made == ["a", "b", "c", "d", "b"]
    with pytest.raises(ZeroDivisionError):
        memo.get("bad", lambda: 1 // 0)
    assert memo.get("bad", lambda: 5) == 5


def test_a_place_the_painter_named_is_a_place_of_the_picture() -> None:
    plain = study_of("ines")
    chosen = plain.settings.model_dump()
    chosen["regions"]["names"] = [{"name": "shoulder blade", "x": 0.75, "y": 0.8}]
    named = Study.of_bytes(truth("ines").data, StudySettings.model_validate(chosen))
    assert "shoulder blade" in named.sitter.areas().names
    assert "shoulder blade" not in plain.sitter.areas().names
    assert named.sitter.areas().mask("shoulder blade").any()
