"""The easel against what is known of made photographs: where corners are, what light fell, what was planted.

The studios are drawn by lot. Thresholds were chosen on seeds from 107 on of all five sitters while the easel
was built; the seeds here were not looked at. Bars: at least nine of ten, as said beside each.
"""

from __future__ import annotations

import numpy as np
import pytest

from tests.easel import bristly, painter, photographed, pushed, relit, shot
from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spaces import linear_to_srgb, picture_to_linear, srgb_to_lab
from truesitter.core.easel.compare.drawing_offsets import features_of
from truesitter.core.easel.find.corners import find_corners
from truesitter.core.easel.find.registration import register
from truesitter.core.easel.find.view import View
from truesitter.core.refusal import Refusal
from truesitter.devices.camera import Studio, photograph
from truesitter.devices.faults import Fault, plant

NAMES = ("maren", "tobias", "selda", "orsolya", "ines")
GRID = np.stack(np.meshgrid(np.linspace(0.03, 0.97, 9), np.linspace(0.03, 0.97, 9)), -1).reshape(-1, 2)


def test_a_squared_picture_shows_what_lies_at_each_spot() -> None:
    """A photograph whose red is its column and whose green is its row."""
    y, x = np.mgrid[0:800, 0:600].astype(np.float32)
    plain = View.of_corners(np.array([(0.1, 0.1), (0.8, 0.2), (0.9, 0.9), (0.2, 0.8)]), (800, 600))
    view = View(plain.matrix, 0.03, (800, 600))
    squared = view.squared(np.dstack([x + 0.5, y + 0.5, x]), (500, 400))
    rows, columns = np.mgrid[20:480:46, 20:380:36]
    spots = np.c_[(columns.ravel() + 0.5) / 400, (rows.ravel() + 0.5) / 500]
    found = squared[rows.ravel(), columns.ravel(), :2]
    assert np.abs(found - view.seen(spots)).max() < 0.6


def error_px(view: View, taken: object) -> float:
    """Mean distance of a view from the camera's own, in pixels of a picture 1500 high."""
    away = np.hypot(*(view.seen(GRID) - taken.seen_at(GRID)).T)  # type: ignore[attr-defined]
    return float(away.mean() / view.pixels_to_one((1500, 1200)))


@pytest.mark.parametrize("name", NAMES)
def test_corners_are_found_and_the_painting_laid_on_its_plan(name: str) -> None:
    """At two stages, in studios drawn by lot: within 3 % unaided, and 0.5 px mean at 1500 px after that."""
    study = painter(name)
    count, reference = study.easel.pass_count(), study.easel.template(None, "photograph")
    for k, after in enumerate((count, count // 2)):
        canvas = study.passes.painted().picture(after)
        taken = photograph(canvas, Studio.by_lot(7000 + 10 * NAMES.index(name) + k))
        shape = taken.picture.shape[:2]
        found = find_corners(taken.picture, (canvas, reference), canvas.shape[0] / canvas.shape[1])
        away = np.hypot(*((found.corners - taken.corners) * shape[::-1]).T).max()
        assert away < 0.03 * max(shape)
        done = register(taken.picture, View.of_corners(found.corners, shape), canvas)
        assert error_px(done.view, taken) < 0.5
        assert done.view.radial_distortion == pytest.approx(taken.studio.radial_distortion, abs=0.006)


def test_a_bare_ground_is_found_by_its_sides() -> None:
    """Nothing is painted on it yet that could be recognised: most are found, the others are set by hand."""
    canvas = np.full((1000, 800, 3), (150, 128, 96), np.uint8)
    good = 0
    for seed in range(10):
        taken = photograph(canvas, Studio.by_lot(7100 + seed))
        try:
            found = find_corners(taken.picture, (canvas,), 1.25)
        except Refusal:
            continue
        away = np.hypot(*((found.corners - taken.corners) * taken.picture.shape[1::-1]).T).max()
        good += away < 0.03 * max(taken.picture.shape)
    assert good >= 6


def test_features_painted_elsewhere_and_a_coarse_brush_do_not_drag_the_corners_along() -> None:
    """Two features moved by 5 mm, coarse marks all over: below 0.4 px mean at 1500 px (1.5 would do).

    Without outvoting them it is 0.7.
    """
    study = painter("tobias")
    canvas = study.passes.painted().picture(study.easel.pass_count())
    boxes = {f.name: f.box for f in features_of(study.sitter.face, canvas.shape[:2])}
    wrong = bristly(pushed(pushed(canvas, boxes["mouth"], 12, 5), boxes["left eye"], -9, 8), 0.08)
    for seed in (7201, 7202):
        taken = photograph(wrong, Studio.by_lot(seed))
        done = register(taken.picture, View.of_corners(taken.corners, taken.picture.shape[:2]), canvas)
        assert error_px(done.view, taken) < 0.4


@pytest.mark.parametrize("card", [False, True])
def test_the_lamp_is_taken_out(card: bool) -> None:
    """Median ΔE2000 to the canvas itself ≤ 2, over studios with known lamps and no gloss."""
    study = painter("maren")
    canvas = study.passes.painted().picture(study.easel.pass_count())
    lab = srgb_to_lab(canvas[::25, ::25].reshape(-1, 3) / 255)
    medians = []
    for seed in range(7300, 7340):
        studio = Studio.by_lot(seed)
        if studio.glare > 0 or studio.card != card:
            continue
        taken = photograph(canvas, studio)
        whites = ()
        if card and taken.card is not None:
            (x1, y1), (x2, y2) = taken.card.min(axis=0), taken.card.max(axis=0)
            whites = ({"x1": x1, "y1": y1, "x2": x2, "y2": y2, "reflects": 0.9},)
        seen = study.easel.taken(shot(taken.picture, None, whites=whites))
        assert seen.lighting.absolute == bool(whites)
        spots = np.array([(0.2, 0.2), (0.8, 0.3), (0.5, 0.9)])
        ratio = seen.lighting.at(spots[:, 0], spots[:, 1]) / taken.light_at(spots)
        assert np.abs(np.log(ratio)).max() < 0.1
        own = seen.light[::25, ::25].reshape(-1, 3)
        found = srgb_to_lab(linear_to_srgb(np.clip(own, 0, 1)))
        medians.append(np.median(delta_e_2000(found, lab)))
        if len(medians) == 3:
            break
    assert len(medians) == 3
    assert max(medians) <= 2


def test_a_card_lets_the_key_be_seen_and_the_plan_alone_does_not() -> None:
    """All of the canvas a step darker: one sentence with a card, none without."""
    study = painter("maren")
    canvas = study.passes.painted().picture(study.easel.pass_count())
    dark = relit(canvas, np.ones(canvas.shape[:2], bool), -0.8)
    studio = next(s for s in map(Studio.by_lot, range(7400, 7500)) if s.card and s.glare == 0)
    taken = photograph(dark, studio)
    assert taken.card is not None
    (x1, y1), (x2, y2) = taken.card.min(axis=0), taken.card.max(axis=0)
    white = {"x1": x1, "y1": y1, "x2": x2, "y2": y2, "reflects": 0.9}
    told = study.easel.compared(shot(taken.picture, None, whites=(white,))).findings
    assert told[0].what in ("key", "range")
    assert told[0].steps < -0.5
    assert len(told) <= 2
    without = study.easel.compared(shot(taken.picture))
    assert not any(f.what == "key" for f in without.findings)


def test_gloss_is_left_out_and_light_paint_is_not() -> None:
    study = painter("orsolya")
    canvas = study.passes.painted().picture(study.easel.pass_count())
    studio = Studio(glare=0.9, glare_at=(0.35, 0.75), lamp=(0.75, 0.7, 0.6), fall_off=0.15, seed=5)
    seen = study.easel.taken(shot(photograph(canvas, studio).picture))
    height, width = seen.trusted.shape
    assert not seen.trusted[int(0.75 * height), int(0.35 * width)]
    assert seen.trusted[int(0.2 * height) : int(0.3 * height), int(0.6 * width) : int(0.9 * width)].all()
    assert 0.02 < seen.gloss < 0.15
    areas = study.sitter.areas()
    lighter = relit(canvas, areas.mask("garment, lower left"), 1.2)
    plain = study.easel.taken(photographed(lighter, next(n for n in range(90) if not Studio.by_lot(n).glare)))
    assert plain.gloss < 0.01


@pytest.mark.parametrize("name", NAMES)
def test_a_faultless_painting_is_met_with_silence(name: str) -> None:
    """Two stages each: nothing off by 0.3 step or more, and no rule broken."""
    study = painter(name)
    count = study.easel.pass_count()
    for k, after in enumerate((None, 2 * count // 3)):
        canvas = study.passes.painted().picture(after or count)
        one = photographed(canvas, 7600 + 10 * NAMES.index(name) + k, after)
        assert study.easel.seen(one).how == "plan"
        found = study.easel.compared(one)
        assert [f.words for f in found.findings if abs(f.steps) >= 0.3 or f.what != "value"] == []
        assert all(v.holds for v in found.verdicts)
        assert len(found.holds) >= 4


@pytest.mark.parametrize(
    ("names", "least", "right"), [(("maren", "ines"), 4, 0.7), (NAMES, 10, 0.8)], ids=["two", "all"]
)
def test_planted_faults_are_found_and_little_else_is(
    names: tuple[str, ...], least: int, right: float
) -> None:
    """Values by ±1 and ±1.5 steps, features by 3–6 mm, edited by another way than the camera's own faults.

    Recall at least 0.9, and at least 0.8 of the first ten findings lie where something was planted; of two
    sitters' seven, five.
    """
    hits, told = [], []
    for name in names:
        number, study = NAMES.index(name), painter(name)
        areas, count = study.sitter.areas(), study.easel.pass_count()
        canvas = study.passes.painted().picture(count)
        rng = np.random.default_rng(7700 + number)
        mm2 = (320 / canvas.shape[1]) ** 2
        large = [n for n in areas.names if areas.mask(n).sum() * mm2 > 300]
        wrong, planted = canvas, []
        for place in rng.permutation(large)[:2]:
            where, steps = areas.mask(place), float(rng.choice([-1.5, -1.0, 1.0, 1.5]))
            value = srgb_to_lab(canvas[where][::7] / 255)[:, 0].mean() / 10
            steps = steps if 1.2 < value + steps < 9 else -steps
            wrong = relit(wrong, where, steps)
            planted.append((place, steps, where))
        features = features_of(study.sitter.face, canvas.shape[:2])
        moved = None
        if features:
            moved = features[int(rng.integers(len(features)))]
            angle, far = rng.uniform(0, 2 * np.pi), rng.uniform(3, 6) / 0.4
            wrong = pushed(wrong, moved.box, far * np.cos(angle), far * np.sin(angle))
        one = photographed(wrong, 7750 + number)
        found = study.easel.compared(one).findings[:10]
        trusted = study.easel.taken(one).trusted
        touched = np.zeros(canvas.shape[:2], bool)
        for _, steps, where in planted:
            touched |= where
            if (where & trusted).sum() >= 0.5 * where.sum():
                same = [f for f in found if np.sign(f.steps) == np.sign(steps)]
                hits.append(any((f.mask & where).sum() > 0.3 * where.sum() for f in same))
        if moved is not None:
            touched[moved.inside()] = True
            if trusted[moved.inside()].mean() > 0.8:
                hits.append(any(f.what == "drawing" and f.place == moved.name for f in found))
        told += [(f.mask & touched).sum() > 0.4 * f.mask.sum() for f in found]
    assert len(hits) >= least
    assert np.mean(hits) >= 0.9
    assert np.mean(told) >= right


@pytest.mark.parametrize(
    ("name", "place"),
    [("maren", "chin"), ("tobias", "right cheekbone"), ("selda", "left cheek"), ("orsolya", "forehead")],
)
def test_a_place_worked_too_far_is_told_and_no_other(name: str, place: str) -> None:
    """Marks of a standard deviation of 3 L*, planted in one place of a finished canvas."""
    study = painter(name)
    areas, count = study.sitter.areas(), study.easel.pass_count()
    canvas = study.passes.painted().picture(count)
    worked = plant(canvas, (Fault(place, "overworked"),), areas, (), 320 / canvas.shape[1], 4)
    told = study.easel.compared(photographed(worked, 9700)).findings
    assert [(f.what, f.place) for f in told if f.what == "finish"] == [("finish", place)]
    assert "worked farther" in next(f.words for f in told if f.what == "finish")


def test_drawing_is_told_in_millimetres() -> None:
    study = painter("maren")
    canvas = study.passes.painted().picture(study.easel.pass_count())
    mouth = next(f for f in features_of(study.sitter.face, canvas.shape[:2]) if f.name == "mouth")
    wrong = pushed(canvas, mouth.box, -5.0, 10.0)
    seed = next(n for n in range(7800, 7900) if not Studio.by_lot(n).glare)
    found = study.easel.compared(photographed(wrong, seed)).findings
    drawing = [f for f in found if f.what == "drawing"]
    assert [f.place for f in drawing] == ["mouth"]
    assert drawing[0].offset_mm == pytest.approx((-2.0, 4.0), abs=0.7)
    assert "4 mm too low" in drawing[0].words
    # What follows from it is not told a second time.
    assert not any(f.what == "value" and (f.mask[mouth.inside()].sum() > 0.5 * f.mask.sum()) for f in found)


def test_another_picture_is_refused() -> None:
    study = painter("maren")
    other = painter("tobias").easel.template(None, "photograph")
    with pytest.raises(Refusal, match="does not look like the painting"):
        study.easel.seen(photographed(other, 7900, study.easel.pass_count()))


def test_free_work_is_held_to_the_photograph() -> None:
    study = painter("maren")
    reference = study.easel.template(None, "photograph")
    free = photographed(reference, 7951)
    assert study.easel.seen(free).how == "photograph"
    assert [f.words for f in study.easel.compared(free).findings] == []
    areas = study.sitter.areas()
    wrong = relit(reference, areas.mask("left cheek"), 1.3)
    found = study.easel.compared(photographed(wrong, 7953)).findings
    assert "left cheek" in found[0].place
    assert found[0].steps > 0.7


def test_linear_light_of_the_camera_is_what_it_says() -> None:
    """A grey canvas under a known lamp and nothing else: the light in its middle, by IEC 61966-2-1."""
    canvas = np.full((400, 320, 3), 188, np.uint8)
    studio = Studio(lamp=(0.8, 0.6, 0.4), grain=0, texture=0, blur_px=0.1)
    taken = photograph(canvas, studio, 800)
    middle = taken.seen_at(np.array([(0.5, 0.5)]))[0].astype(int)
    seen = picture_to_linear(taken.picture)[middle[1], middle[0]]
    true = ((188 / 255 + 0.055) / 1.055) ** 2.4
    assert seen == pytest.approx(true * np.array((0.8, 0.6, 0.4)), rel=0.02)
