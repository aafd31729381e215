"""Practice strokes judged, and the way of the brush."""

from __future__ import annotations

import numpy as np
import pytest

from tests.conftest import jpeg, made_head, study_of
from tests.core.hair.test_hair_shapes import MM, SHAPE, along, grid
from truesitter.core.hair.checks.practice import check_strokes
from truesitter.core.hair.strokes.hair_strokes import StrokeGround
from truesitter.core.hair.strokes.stroke_types import SHORT, STRAIGHT
from truesitter.core.light.form.brush_direction import brush_directions
from truesitter.core.settings import StudySettings
from truesitter.core.stages import Study

# Practice


def hanging() -> StrokeGround:
    full = np.ones(SHAPE, np.float32)
    return StrokeGround(along(np.full(SHAPE, -np.pi / 2)), MM, 60 * full, 9 * full, 80.0)


Drawn = tuple[tuple[float, float], ...]


def stroke(x: float, top: float, length: float, bend: float = 0.0, free: float = 0.5) -> Drawn:
    """A stroke that hangs, then leaves by so many radians past a part of its length."""
    points, at, angle = [], np.array((x, top)), 0.0
    for n in range(21):
        points.append((float(at[0]), float(at[1])))
        angle = bend if n / 20 >= free else 0.0
        at = at + np.array((np.sin(angle) * SHAPE[0] / SHAPE[1], np.cos(angle))) * length / 20
    return tuple(points)


def staggered(**kind: float) -> tuple[Drawn, ...]:
    return tuple(stroke(0.3 + 0.05 * n, 0.2 + 0.08 * (n % 3), 0.4, **kind) for n in range(6))


def kinds_of_fault(*strokes: Drawn) -> list[str]:
    return [f.kind for f in check_strokes(strokes, hanging(), STRAIGHT).faults]


def test_right_strokes_pass() -> None:
    report = check_strokes(staggered(bend=0.3, free=0.6), hanging(), STRAIGHT)
    assert report.faults == ()
    assert (report.right, report.strokes) == (6, 6)


def test_every_fault_of_a_stroke_is_named() -> None:
    assert kinds_of_fault(stroke(0.5, 0.2, 0.4, bend=0.5, free=0.0)) == ["root"]
    assert kinds_of_fault(stroke(0.5, 0.2, 0.4)[::-1]) == ["root"]
    assert kinds_of_fault(stroke(0.5, 0.2, 0.4, bend=0.7, free=0.2)) == ["leaves early"]
    assert kinds_of_fault(stroke(0.5, 0.2, 0.4, bend=1.3, free=0.6)) == ["crosses"]
    assert kinds_of_fault(stroke(0.5, 0.2, 0.08)) == ["short"]
    assert kinds_of_fault(*(stroke(0.3 + 0.1 * n, 0.2, 0.4) for n in range(5))) == ["one line"]
    bald = StrokeGround(
        np.zeros((*SHAPE, 2), np.float32), MM, np.zeros(SHAPE, np.float32), np.zeros(SHAPE, np.float32), 80
    )
    assert [f.kind for f in check_strokes((stroke(0.5, 0.2, 0.4),), bald, SHORT).faults] == ["no hair"]


def test_short_strokes_are_right_for_short_hair() -> None:
    assert check_strokes((stroke(0.5, 0.2, 0.06),), hanging(), SHORT).faults == ()


def test_strokes_of_the_planner_pass_its_own_check() -> None:
    """Real hair: what the layers stroke is what the check calls right."""
    study = study_of("orsolya")
    layer = next(one for one in study.hair_layers.layers() if one.name == "Hair: locks")
    drawn = tuple(tuple((float(x), float(y)) for x, y in line.points) for line in layer.lines[:40])
    report = study.hair_layers.practised(drawn)
    wrong = [f for f in report.faults if f.kind in ("root", "no hair", "leaves early")]
    assert len(wrong) <= 4


# Brush


def test_the_brush_goes_round_a_cylinder_or_along_it() -> None:
    """An upright cylinder's normals turn level: round it is level, along its planes upright."""
    _, x = grid()
    u = np.clip((x - 120) / 90, -0.99, 0.99)
    normals = np.dstack([u, np.zeros(SHAPE), np.sqrt(1 - u**2)]).astype(np.float32)
    mask = np.abs(u) < 0.9
    round_it = brush_directions(normals, mask, 200)
    planes = brush_directions(normals, mask, 200, "across the planes")
    middle = (slice(60, 240), slice(80, 160))
    assert np.abs(round_it[middle][..., 0]).min() > 0.95
    assert np.abs(planes[middle][..., 1]).min() > 0.95
    assert not round_it[~mask].any()


def test_the_brush_follows_the_light_across_folds() -> None:
    """Folds that hang slantwise: round them is at right angles to their run."""
    y, x = grid()
    slant = np.radians(60)
    value = (5 + np.sin((x * np.sin(slant) + y * np.cos(slant)) / 9)).astype(np.float32)[..., None]
    found = brush_directions(value, np.ones(SHAPE, bool), 120)[80:220, 60:180]
    wanted = np.array((np.sin(slant), -np.cos(slant)))
    assert np.abs(found @ wanted).min() > 0.95
    assert np.allclose(np.hypot(found[..., 0], found[..., 1]), 1, atol=1e-5)


def test_arrows_of_a_sitter_are_told_by_region_and_are_short() -> None:
    arrows = study_of("maren").brush.arrows(False)
    assert {"skin", "garment", "background"} == set(arrows)
    assert all(len(lines) > 5 for lines in arrows.values())
    for line in arrows["skin"]:
        assert np.hypot(*((line.points[-1] - line.points[0]) * (320, 400))) < 35


@pytest.mark.parametrize("size", [(830, 1001), (1001, 830)])
def test_maps_reduced_twice_and_at_once_lie_on_one_another(size: tuple[int, int]) -> None:
    """By way of 1000 a side may come to a row more than at once: so for one picture in ten."""
    whole = {"reference": {"canvas_width_mm": size[0] / 2, "canvas_height_mm": size[1] / 2}}
    study = Study.of_bytes(jpeg(made_head(*size)), StudySettings.model_validate(whole))
    assert study.picture.framed().shape[1::-1] == size
    assert set(study.brush.arrows(False)) == {"skin", "garment", "background"}
    picture = study.drills.picture()
    assert picture.shadow.shape == picture.figure.shape == picture.lab.shape[:2]
