"""Practice strokes judged, and the way of the brush."""

from __future__ import annotations

import io
from dataclasses import replace

import numpy as np
import pytest
from PIL import Image

from tests.conftest import jpeg, made_head, study_of, truth
from tests.core.hair.test_hair_shapes import MM, SHAPE, along, grid
from tests.core.hair.test_hair_strokes import flowing, oval
from truesitter.core.graph.memo import Memo
from truesitter.core.hair.checks.practice import Practised, check_strokes
from truesitter.core.hair.strokes.hair_strokes import StrokeGround, Wish, lay_strokes
from truesitter.core.hair.strokes.hands import Hand
from truesitter.core.hair.strokes.stroke_types import ALL_TYPES, BEARD, SHORT, STRAIGHT, WAVY, StrokeType
from truesitter.core.imaging.line import Line
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


def asked(strokes: tuple[Drawn, ...], type_: StrokeType = STRAIGHT) -> list[Practised]:
    return [Practised(points, type_) for points in strokes]


def kinds_of_fault(*strokes: Drawn) -> list[str]:
    return [f.kind for f in check_strokes(asked(strokes), hanging()).faults]


def test_right_strokes_pass() -> None:
    report = check_strokes(asked(staggered(bend=0.3, free=0.6)), hanging())
    assert report.faults == ()
    assert (report.right, report.strokes) == (6, 6)


def test_every_fault_of_a_stroke_is_named() -> None:
    assert kinds_of_fault(stroke(0.5, 0.2, 0.4, bend=0.5, free=0.0)) == ["root"]
    assert kinds_of_fault(stroke(0.5, 0.2, 0.4)[::-1]) == ["root"]
    assert kinds_of_fault(stroke(0.5, 0.2, 0.4, bend=0.7, free=0.2)) == ["leaves early"]
    assert kinds_of_fault(stroke(0.5, 0.2, 0.4, bend=1.3, free=0.6)) == ["crosses"]
    assert kinds_of_fault(stroke(0.5, 0.2, 0.04)) == ["short"]
    assert kinds_of_fault(*(stroke(0.3 + 0.1 * n, 0.2, 0.4) for n in range(5))) == ["one line"]
    bald = StrokeGround(
        np.zeros((*SHAPE, 2), np.float32), MM, np.zeros(SHAPE, np.float32), np.zeros(SHAPE, np.float32), 80
    )
    assert [f.kind for f in check_strokes(asked((stroke(0.5, 0.2, 0.4),), SHORT), bald).faults] == ["no hair"]


def test_short_strokes_are_right_for_short_hair() -> None:
    assert check_strokes(asked((stroke(0.5, 0.2, 0.06),), SHORT), hanging()).faults == ()


@pytest.mark.parametrize("name", ["orsolya", "maren", "tobias", "selda"])
def test_strokes_of_the_planner_pass_its_own_check(name: str) -> None:
    """Real hair: what the layers stroke is what the check calls right, at 90 % and more.

    What is left over of a place is asked for shorter: that is no fault of those strokes.
    """
    study = study_of(name)
    layer = next(one for one in study.hair_layers.layers() if one.role in ("locks", "smaller locks"))
    lines = layer.lines[: len(layer.lines) - layer.strays][:200]
    report = study.hair_layers.practised(
        [as_drawn(line) for line in lines], [line.widths_mm for line in lines]
    )
    wrong = {f.stroke for f in report.faults if f.kind not in ("short", "clumped")}
    assert len(wrong) <= 0.1 * report.strokes, sorted(f.kind for f in report.faults)


def as_drawn(line: Line) -> Drawn:
    return tuple((float(x), float(y)) for x, y in line.points)


def own(type_: StrokeType, seed: int = 1, slant: float = -1.4) -> list[Practised]:
    """Strokes of the program's own on flowing hair, as they were asked for."""
    lines = lay_strokes(flowing(slant=slant), oval(), Wish(type_, 0.9, 0.35, seed))
    return [Practised(as_drawn(line), type_, line.widths_mm) for line in lines]


@pytest.mark.parametrize("type_", ALL_TYPES, ids=lambda t: t.name)
def test_own_strokes_of_every_type_pass_as_that_type(type_: StrokeType) -> None:
    strokes = own(type_)
    assert len(strokes) > 20
    report = check_strokes(strokes, flowing())
    assert report.right >= 0.9 * report.strokes
    assert not [f for f in report.faults if f.stroke < 0]


@pytest.mark.parametrize("hand", ["right", "left"])
def test_what_a_hand_must_pull_from_the_tip_is_right_so_and_for_the_other_hand_wrong(hand: Hand) -> None:
    """Hair that runs up and away from the hand is pulled from tip to root (common practice)."""
    slant = 2.2 if hand == "right" else 0.94
    ground = flowing(swing=0.1, slant=slant)
    lines = lay_strokes(ground, oval(), Wish(STRAIGHT, 0.9, 0.35, 1))
    pulled = [Practised(as_drawn(line)[::-1], STRAIGHT) for line in lines]
    other: Hand = "left" if hand == "right" else "right"
    assert check_strokes(pulled, ground, hand).right >= 0.9 * len(pulled)
    assert check_strokes(pulled, ground, other).right <= 0.1 * len(pulled)


def scaled(one: Practised, times: float, turned: float = 0.0) -> Practised:
    """The same stroke longer or shorter from its root, and turned about it."""
    at = np.array(one.points) * SHAPE[::-1]
    c, s = np.cos(turned), np.sin(turned)
    moved = at[0] + times * (at - at[0]) @ np.array(((c, s), (-s, c)))
    return replace(one, points=tuple((float(x), float(y)) for x, y in moved / SHAPE[::-1]))


def moved(one: Practised, to: np.ndarray) -> Practised:
    """The same stroke begun elsewhere."""
    at = np.array(one.points)
    return replace(one, points=tuple((float(x), float(y)) for x, y in at + to - at[0]))


def with_widths(one: Practised, kind: str) -> Practised:
    along = np.linspace(0, 1, 30)
    widths = {
        "even": np.ones(30),
        "wet": np.interp(along, (0, 0.85, 1), (0.9, 0.7, 1.4)),
        "beads": 1 + 0.6 * np.sin(along * 10 * np.pi),
    }[kind]
    return replace(one, widths_mm=widths)


@pytest.mark.parametrize("fault", ["short", "long", "even", "wet", "beads", "crosses", "clumped"])
@pytest.mark.parametrize("type_", [STRAIGHT, WAVY, SHORT, BEARD], ids=lambda t: t.name)
def test_planted_faults_are_named(fault: str, type_: StrokeType) -> None:
    """In four of five strokes and more; starts in clumps are told of all of them."""
    ground, right = flowing(), own(type_)
    if fault == "clumped":
        at = np.array([one.points[0] for one in right])
        near = at[np.abs(at - at.mean(axis=0)).sum(axis=1).argsort()[:4]]
        there = [
            replace(
                one, points=tuple((float(x), float(y)) for x, y in np.array(one.points) + to - one.points[0])
            )
            for n, one in enumerate(right)
            for to in [near[n % 4] + 0.002 * np.array((n % 3, n % 2))]
        ]
        assert "clumped" in [f.kind for f in check_strokes(there, ground).faults]
        assert "clumped" not in [f.kind for f in check_strokes(right, ground).faults]
        return
    planted = {
        "short": lambda one: scaled(one, 0.1),
        "long": lambda one: scaled(one, 4.0),
        "crosses": lambda one: scaled(one, 1.0, 1.5),
    }.get(fault, lambda one: with_widths(one, fault))
    named = {"crosses": ("crosses", "root")}.get(fault, (fault,))
    report = check_strokes([planted(one) for one in right], ground)
    told = {f.stroke for f in report.faults if f.kind in named}
    assert len(told) >= 0.8 * len(right)


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


@pytest.mark.parametrize("angle", [30, 140])
def test_a_copy_follows_the_strokes_of_its_reference(angle: float) -> None:
    """Ridges of paint drawn over a wall, as wide as a brush leaves them; a portrait goes along the form."""
    photograph = np.asarray(Image.open(io.BytesIO(truth("maren").data)).convert("RGB")).astype(np.float64)
    y, x = np.mgrid[0 : photograph.shape[0], 0 : photograph.shape[1]]
    across = x * np.sin(np.radians(angle)) + y * np.cos(np.radians(angle))
    wobble = np.random.default_rng(4).normal(0, 3, photograph.shape[:2])
    painted = photograph + (10 * np.sin(2 * np.pi * across / 9) + wobble)[..., None]
    done = io.BytesIO()
    Image.fromarray(np.clip(painted, 0, 255).astype(np.uint8)).save(done, "PNG")
    size = {"canvas_width_mm": 320, "canvas_height_mm": 400}

    def near(exactness: str) -> float:
        chosen = {"reference": size, "passes": {"exactness": exactness}}
        study = Study.of_bytes(done.getvalue(), StudySettings.model_validate(chosen), Memo())
        off = []
        for line in study.brush.arrows(False)["background"]:
            dx, dy = (line.points[-1] - line.points[0]) * (320, -400)
            off.append(abs((np.degrees(np.arctan2(dy, dx)) - angle + 90) % 180 - 90))
        return float((np.array(off) < 20).mean())

    assert near("copy") > 0.75
    assert near("portrait") < 0.6


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
