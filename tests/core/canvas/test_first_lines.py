"""Lines drawn first to measure by, and the lines of the lids."""

from __future__ import annotations

import cv2
import numpy as np
import pytest

from tests.conftest import study_of, truth
from tests.core.school.test_schools import planned
from truesitter.core.canvas.drawn.construction_lines import construction_lines
from truesitter.core.canvas.drawn.face_lines import lid_margins, lower_rims
from truesitter.core.canvas.drawn.painted_lines import line_cover
from truesitter.core.sitter.face import EYES, LOWER_LIDS, UPPER_LIDS

FACES = ["maren", "tobias", "selda", "hedda", "orsolya"]
WALL, CLOTH = 0, 7


def first_lines(name: str) -> tuple[list[np.ndarray], np.ndarray]:
    """Of a sitter by its true masks, in pixels of the truth; and its true head (h, w)."""
    labels, face = truth(name).labels, study_of(name).sitter.face
    head = (labels != WALL) & (labels != CLOTH)
    lines = construction_lines(face, head, labels != WALL, (320.0, 400.0))
    return [line.points * labels.shape[::-1] for line in lines], head


@pytest.mark.parametrize("name", FACES)
def test_the_oval_holds_the_head_and_the_levels_run_as_it_is_tilted(name: str) -> None:
    """Held against the true mask of the head and the landmarks, mirrored too."""
    (oval, axis, brows, eyes, nose, mouth, gesture), head = first_lines(name)
    face = study_of(name).sitter.face
    assert face is not None
    size = np.array(head.shape[::-1])
    filled = np.zeros(head.shape, np.uint8)
    cv2.fillPoly(filled, [np.round(oval).astype(np.int32)], 1)
    # From crown to chin all of the face lies inside, and nearly all of the oval is head.
    outline = cv2.convexHull(np.round(face.points[:, :2] * size).astype(np.int32))
    inner = np.zeros(head.shape, np.uint8)
    cv2.fillPoly(inner, [outline], 1)
    assert (filled & inner).sum() > 0.9 * inner.sum()
    assert (head & (filled > 0)).sum() > 0.85 * filled.sum()
    np.testing.assert_allclose(axis[0], face.chin * size, atol=1.5)
    # Long hair beside it does not make a head wider than nine tenths of its height.
    tall = np.hypot(*(axis[-1] - axis[0]))
    assert np.ptp(oval[:, 0]) < 0.95 * tall
    for level, features in ((eyes, EYES), (brows, None)):
        heading = level[-1] - level[0]
        if features is not None:
            ends = [face.line(one).mean(axis=0) * size for one in features]
            wanted = ends[1] - ends[0]
            cosine = abs(heading @ wanted) / np.hypot(*heading) / np.hypot(*wanted)
            assert cosine > 0.999
    heights = [float(line[:, 1].mean()) for line in (brows, eyes, nose, mouth)]
    assert heights == sorted(heights)
    # The gesture runs down the middle of what is not wall.
    rows = np.clip(gesture[:, 1].astype(int), 0, head.shape[0] - 1)
    figure = truth(name).labels != WALL
    middle = np.array([np.flatnonzero(figure[r]).mean() for r in rows])
    assert np.abs(gesture[:, 0] - middle).mean() < 0.05 * head.shape[1]


def test_without_a_face_only_the_gesture_is_drawn_and_without_a_figure_nothing() -> None:
    figure = np.zeros((100, 80), bool)
    figure[10:, 30:40] = True
    (line,) = construction_lines(None, figure, figure, (80.0, 100.0))
    np.testing.assert_allclose(line.points[:, 0], 35 / 80, atol=0.01)
    assert construction_lines(None, ~figure & figure, ~figure & figure, (80.0, 100.0)) == ()


def test_first_lines_are_drawn_in_thin_earth_before_any_colour_and_are_covered() -> None:
    plan = planned("maren", "direct-oil").passes.plan()
    keys = [p.key for p in plan.passes]
    drawn = plan.passes[keys.index("construction")]
    assert keys.index("tone") < keys.index("construction") < keys.index("wiped-lights")
    assert drawn.into_wet
    assert drawn.thinned
    tone = plan.passes[keys.index("tone")]
    assert set(drawn.taken_from) == set(tone.taken_from)
    # Seen on the tone, gone under the paint.
    assert drawn.recipe.target_lab[0] < tone.recipe.target_lab[0] - 5
    assert drawn.thinned[0].dilution.ratio < tone.thinned[0].dilution.ratio


@pytest.mark.parametrize("name", FACES)
def test_a_lid_is_drawn_heavier_outward_and_its_rim_lies_under_the_eye(name: str) -> None:
    face = study_of(name).sitter.face
    assert face is not None
    size = np.array((320.0, 400.0))
    for line, lid in zip(lid_margins(face, size), UPPER_LIDS, strict=True):
        outer, inner = face.line(lid)[0], face.line(lid)[-1]
        assert np.hypot(*(line.points[0] - inner)) < np.hypot(*(line.points[0] - outer))
        thick = line.widths_mm[:-2]
        assert (np.diff(thick) >= -1e-9).all()
        assert thick[-1] >= thick[0]
    for line, lid in zip(lower_rims(face, size), LOWER_LIDS, strict=True):
        away = np.hypot(*((line.points[:, None] - face.line(lid)[None]) * size).transpose(2, 0, 1)).min(
            axis=1
        )
        assert away.max() < 3


@pytest.mark.parametrize("name", ["maren", "tobias", "orsolya"])
def test_a_rim_takes_the_light_along_the_lids_and_a_margin_the_dark(name: str) -> None:
    study = planned(name, "monochrome-first")
    plan = study.passes.plan()
    of = {p.key: p.recipe.target_lab[0] for p in plan.passes}
    subject = study.passes.subject()
    rows, columns, levels = line_cover(
        subject.lines["lower-rims"][0].lines, subject.value.shape, subject.mm_per_px
    )
    along = subject.lab[rows, columns][levels > 0][:, 0]
    assert of["lower-rims"] > np.median(along)
    assert of["lid-margins"] < of["lower-rims"] - 15
    order = [p.key for p in plan.passes]
    assert order.index("lid-margins") < order.index("lashes")
