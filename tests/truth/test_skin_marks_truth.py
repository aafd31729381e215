"""Freckles and cool halftones planted in the made sitters are found; where none were planted none are."""

from __future__ import annotations

from functools import cache

import cv2
import numpy as np
import pytest

from tests.conftest import TRUTH, jpeg, study_of, truth
from tests.restaged import restaged
from truesitter.core.colour.spaces import linear_to_srgb, srgb_to_linear
from truesitter.core.graph.memo import Memo
from truesitter.core.plan.planner import plan_passes
from truesitter.core.settings import StudySettings
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages import Study

SKIN = 1
MELANIN = np.array((0.35, 0.75, 1.25), np.float32)
"""Absorbance of one unit in the red, green and blue: it falls steeply with the wavelength (Anderson and
Parrish 1981)."""


def linear(name: str) -> np.ndarray:
    picture = cv2.imdecode(np.frombuffer(truth(name).data, np.uint8), cv2.IMREAD_COLOR)[..., ::-1]
    return np.asarray(srgb_to_linear(picture / np.float32(255)), np.float32)


def study_from(light: np.ndarray) -> Study:
    picture = np.clip(255 * np.asarray(linear_to_srgb(light)), 0, 255).astype(np.uint8)
    size = {"canvas_width_mm": 320, "canvas_height_mm": 400}
    return Study.of_bytes(jpeg(picture), StudySettings.model_validate({"reference": size}), Memo())


def planted(
    name: str, count: int, mirrored: bool, absorbs: np.ndarray = MELANIN
) -> tuple[Study, np.ndarray, float]:
    """A sitter with freckles by lot on the lit skin of the face: (n, 2) x, y in pixels; pixels of a mm."""
    light, labels = linear(name), truth(name).labels
    face = study_of(name).sitter.face
    assert face is not None
    life = face.height(labels.shape) / 180
    rng = np.random.default_rng([3, *name.encode()])
    skin = cv2.resize((labels == SKIN).astype(np.uint8), light.shape[1::-1], interpolation=cv2.INTER_NEAREST)
    lit = cv2.imread(str(TRUTH / name / "diffuse_light.png"), cv2.IMREAD_GRAYSCALE)
    lit = cv2.resize(lit, light.shape[1::-1])
    scale = light.shape[0] / labels.shape[0]
    life *= scale
    off = face.feature_mask(light.shape[:2], 1.9)
    free = (skin > 0) & ~off & (lit > 0.45 * np.quantile(lit[skin > 0], 0.95))
    side = 2 * round(9 * life) + 1
    free = cv2.erode(free.astype(np.uint8), np.ones((side, side), np.uint8)) > 0
    rows, columns = np.indices(free.shape)
    nose = face.at(1) * light.shape[1::-1]
    near = np.hypot(columns - nose[0], rows - nose[1])
    free &= near < 95 * life
    spots: list[np.ndarray] = []
    for row, column in rng.permutation(np.argwhere(free)):
        if len(spots) == count:
            break
        if all(np.hypot(*(np.array((column, row)) - s)) > 5 * life for s in spots):
            spots.append(np.array((column, row)))
    y, x = np.indices(free.shape)
    for column, row in spots:
        wide, strength = rng.uniform(1.5, 4) * life, rng.uniform(0.35, 0.8)
        reach = int(2 * wide) + 3
        box = np.s_[max(0, row - reach) : row + reach, max(0, column - reach) : column + reach]
        away = np.hypot(x[box] - column, y[box] - row)
        dose = strength / (1 + np.exp((away - wide / 2) / (0.12 * wide)))
        light[box] *= np.exp(-dose[..., None] * absorbs)
    found = np.array(spots, float)
    if mirrored:
        light, found = light[:, ::-1], found * (-1, 1) + (light.shape[1] - 1, 0)
    return study_from(light), found, life


@pytest.mark.parametrize(
    ("name", "mirrored"), [("maren", False), ("selda", True), ("hedda", False), ("orsolya", True)]
)
def test_planted_freckles_are_found_where_they_are(name: str, mirrored: bool) -> None:
    """Thresholds were chosen on maren and tobias, with spots of another make."""
    study, spots, life = planted(name, 60, mirrored)
    height, width = study.picture.value().shape
    scale = height / (1.0 * cv2.imdecode(np.frombuffer(truth(name).data, np.uint8), 0).shape[0])
    found = np.array([(f.x * width, f.y * height) for f in study.finish.freckles()]) / scale
    assert len(found)
    away = np.hypot(*(found[:, None] - spots[None]).transpose(2, 0, 1))
    assert (away.min(axis=0) < 2 * life).mean() >= 0.6
    assert (away.min(axis=1) < 2 * life).mean() >= 0.85


@pytest.mark.parametrize("name", ["maren", "tobias", "selda", "hedda", "ines", "orsolya"])
def test_no_freckles_are_seen_on_skin_without(name: str) -> None:
    """Pores, folds, lashes, nostrils and shine are none, nor are three moles."""
    assert study_of(name).finish.freckles() == ()


@pytest.mark.parametrize("name", ["maren", "selda", "orsolya"])
def test_spots_that_only_have_less_light_are_no_freckles(name: str) -> None:
    """As dark as those of melanin, but no browner: pores, dust, a print of a net."""
    study, _, _ = planted(name, 60, False, np.full(3, 0.75, np.float32))
    assert study.finish.freckles() == ()


def test_three_moles_are_no_freckles() -> None:
    study, _, _ = planted("maren", 3, False)
    assert study.finish.freckles() == ()


def test_freckles_become_a_pass_of_touches_as_large_as_they_are() -> None:
    study, _, _ = planted("maren", 60, False)
    lines = study.passes.subject().lines["freckles"][0].lines
    assert len(lines) == len(study.finish.freckles())
    face = study.sitter.face
    assert face is not None
    mm = face.height((400, 320)) / 180
    widths = np.array([line.widths_mm.max() for line in lines]) / mm
    assert widths.min() > 1.4
    assert widths.max() < 4.1
    chosen = study.settings.model_dump()
    chosen["passes"]["size"] = "every pass"
    whole = Study(study.sha256, study.source.load, StudySettings.model_validate(chosen), study.source.memo)
    spotted = next(p for p in whole.passes.plan().passes if p.key == "freckles")
    assert len(spotted.lines) == len(lines)
    flesh = [p.recipe.predicted.value for p in whole.passes.plan().passes if p.key.startswith("flesh")]
    assert min(flesh) < spotted.recipe.predicted.value < max(flesh)


@cache
def turned(name: str, cool: float, until: float = 0.75) -> tuple[Study, np.ndarray]:
    """A sitter whose skin is cooler by so much where the light ends; and where that is, (h, w)."""
    light, labels = linear(name), truth(name).labels
    size = light.shape[1::-1]
    skin = cv2.resize((labels == SKIN).astype(np.uint8), size, interpolation=cv2.INTER_NEAREST) > 0
    lit = cv2.resize(cv2.imread(str(TRUTH / name / "diffuse_light.png"), cv2.IMREAD_GRAYSCALE), size)
    part = lit / np.quantile(lit[skin], 0.95)
    strip = (skin & (part > 0.4) & (part < until)).astype(np.float32)
    strip = cv2.GaussianBlur(strip, (0, 0), 4)[..., None]
    light = light * np.exp(strip * cool * np.array((-0.6, 0.0, 1.0), np.float32))
    return study_from(light), strip[..., 0] > 0.5


def halftone(study: Study) -> np.ndarray:
    found = study.passes.subject().halftone
    assert found is not None
    return found


@pytest.mark.parametrize("name", ["maren", "selda", "hedda", "orsolya"])
def test_a_cool_halftone_is_found_where_the_light_ends(name: str) -> None:
    study, strip = turned(name, 0.25)
    found = halftone(study)
    there = cv2.resize(strip.astype(np.uint8), found.shape[::-1], interpolation=cv2.INTER_NEAREST) > 0
    assert found.sum() > 0.15 * there.sum()
    assert (found & there).sum() > 0.7 * found.sum()


@pytest.mark.parametrize("name", ["maren", "tobias", "selda", "hedda", "orsolya"])
def test_none_is_proposed_where_the_photograph_has_none(name: str) -> None:
    """As they are, and with a warmer strip instead."""
    regions = study_of(name).surround.regions() == Region.SKIN
    assert regions.any()
    assert not halftone(study_of(name)).any()
    if name in ("maren", "selda"):
        assert not halftone(turned(name, -0.25)[0]).any()


@pytest.mark.parametrize(("name", "seed"), [("tobias", 813), ("orsolya", 814)])
def test_none_is_seen_in_rooms_by_lot(name: str, seed: int) -> None:
    """Another skin, lamp, exposure and grain: a few cool spots are no halftone, and no freckles are seen."""
    picture, _ = restaged(name, seed)
    size = {"canvas_width_mm": 320, "canvas_height_mm": 400}
    study = Study.of_bytes(jpeg(picture), StudySettings.model_validate({"reference": size}), Memo())
    assert not halftone(study).any()
    assert study.finish.freckles() == ()


def test_with_its_pass_the_canvas_is_as_cool_as_the_sitter_there() -> None:
    study, _ = turned("selda", 0.35, 0.55)
    chosen = study.settings.model_dump()
    chosen["passes"]["size"] = "every pass"
    whole = Study(study.sha256, study.source.load, StudySettings.model_validate(chosen), study.source.memo)
    plan, flesh = whole.passes.plan(), whole.flesh.settings
    school = whole.settings.passes.adapted()
    without = school.model_copy(
        update={"passes": tuple(p for p in school.passes if p.key != "cool-halftone")}
    )
    plain = plan_passes(
        whole.passes.subject(), whole.flesh.palette(), without, flesh.wishes(), flesh.medium_used()
    )
    lab = whole.passes.subject().lab
    away = []
    for one in (plan, plain):
        at = one.bare.patchwork.labels[halftone(whole)]
        off = one.canvases[-1].labs()[at][:, 1:] - lab[halftone(whole)][:, 1:]
        away.append(float(np.hypot(*off.T).mean()))
    assert away[0] < 0.4 * away[1]
    keys = [p.key for p in plan.passes]
    first = next(n for n, k in enumerate(keys) if k.startswith("cool-halftone"))
    assert first > max(n for n, k in enumerate(keys) if k.startswith("flesh-"))
