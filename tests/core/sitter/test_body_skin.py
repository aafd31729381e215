"""Skin below the neck: what skin looks like at equal light, and where it goes on."""

from __future__ import annotations

import cv2
import numpy as np
import pytest

from tests.conftest import begun, jpeg, study_of, truth
from truesitter.core.sitter.region_names import Region
from truesitter.core.sitter.segmentation.body_skin import EqualLight, body_skin, candidates, grown
from truesitter.core.sitter.segmentation.straps import beyond_straps
from truesitter.core.stages import Study


def skin(lightness: np.ndarray, a: float = 14.0, b: float = 20.0) -> np.ndarray:
    """Skin of one hue in any light: chroma over (L + 18) is even, as the rule assumes."""
    scale = (lightness + 18) / 63
    return np.stack([lightness, a * scale, b * scale], axis=-1).astype(np.float32)


def test_shadow_and_light_of_one_skin_are_alike_and_other_hues_are_not() -> None:
    rng = np.random.default_rng(1)
    seen = skin(rng.uniform(25, 80, 4000)) + rng.normal(0, 0.6, (4000, 3)).astype(np.float32)
    model = EqualLight.of(seen)
    for lightness in (30.0, 50.0, 75.0):
        along, across = model.off(skin(np.full(1, lightness)))
        assert abs(float(along[0])) < 0.3
        assert abs(float(across[0])) < 0.3
    along, across = model.off(skin(np.full(1, 50.0), 20.0, 14.0))
    assert float(across[0]) < -4, "redder lies to one side of the skin's own chroma"
    along, across = model.off(skin(np.full(1, 50.0), 21.0, 30.0))
    assert float(along[0]) > 6, "stronger lies along it"
    assert abs(float(across[0])) < 0.5


def test_a_few_strange_pixels_and_many_of_one_light_do_not_turn_the_model() -> None:
    rng = np.random.default_rng(2)
    light, dark = skin(np.full(4000, 70.0)), skin(rng.uniform(25, 45, 150))
    strange = np.tile(np.array([60.0, -30.0, -30.0], np.float32), (60, 1))
    both = np.concatenate([light, dark, strange])
    both += rng.normal(0, 0.4, both.shape).astype(np.float32)
    along, across = EqualLight.of(both).off(skin(np.array([30.0, 40.0, 70.0])))
    assert np.abs(along).max() < 3
    assert np.abs(across).max() < 1.4


@pytest.mark.parametrize("name", ["maren", "tobias", "orsolya"])
def test_an_ordinary_portrait_stays_as_it_is(name: str) -> None:
    """Covered shoulders, and a garment nearly of the skin's own hue: no bare body is seen."""
    guess = study_of(name).sitter.first_guess()
    assert guess.detection.face is not None
    looks = guess.looks
    seeds = guess.seeds == Region.SKIN
    found = body_skin(looks.fine, looks.features[..., 3], guess.person, guess.detection.face, seeds)
    assert found is None


def test_a_dark_portrait_wears_no_straps() -> None:
    """A stop darker a sweater lies beyond the narrow end of the beard in nearly the neck's own colours."""
    photo = cv2.imdecode(np.frombuffer(truth("tobias").data, np.uint8), cv2.IMREAD_COLOR)[..., ::-1]
    height, width = photo.shape[:2]
    study = Study.of_bytes(jpeg((photo * 0.5).astype(np.uint8)), begun(width, height))
    guess = study.sitter.first_guess()
    looks, face = guess.looks, guess.detection.face
    assert face is not None
    seeds = guess.seeds == Region.SKIN
    assert body_skin(looks.fine, looks.features[..., 3], guess.person, face, seeds) is None
    assert study.sitter.regions().shares()["garment"] > 0.2


def test_bare_shoulders_are_found_almost_without_error() -> None:
    guess = study_of("selda").sitter.first_guess()
    looks, face = guess.looks, guess.detection.face
    assert face is not None
    shape = guess.seeds.shape
    step = truth("selda").labels.shape[0] / shape[0]
    rows, columns = ((np.arange(n) * step + step / 2).astype(int) for n in shape)
    true = truth("selda").labels[np.ix_(rows, columns)] == 1
    inside = guess.seeds == Region.SKIN
    inside[int(face.chin[1] * shape[0]) :] = False
    found = body_skin(looks.fine, looks.features[..., 3], guess.person, face, inside)
    assert found is not None
    low = np.arange(shape[0])[:, None] > face.chin[1] * shape[0]
    assert (found & true).sum() / found.sum() > 0.97
    assert (found & true & low).sum() / (true & low).sum() > 0.85
    assert body_skin(looks.fine, looks.features[..., 3], guess.person, face, inside & False) is None


@pytest.mark.parametrize(("weak", "joined"), [(0, False), (8, False), (12, True), (20, True)])
def test_an_open_line_is_passed_and_a_hem_is_not(weak: int, joined: bool) -> None:
    """The median of the edge along the whole border decides: a collarbone is open, a hem is not."""
    areas = np.zeros((20, 30), np.int32)
    areas[:, 10:20], areas[:, 20:] = 1, 2
    edges = np.zeros(areas.shape, np.float32)
    edges[weak:, 9:11] = 5
    everywhere, nowhere = np.ones(areas.shape, bool), np.zeros(areas.shape, np.float32)
    start = areas == 0
    every = candidates(areas, everywhere, nowhere, everywhere)
    found = grown(areas, edges, every, start, 3.0)
    assert found[:, :10].all()
    assert found[:, 10:].all() == joined, "and what lies behind it comes with it"
    assert found[:, 10:].any() == joined
    rough = grown(areas, edges * 0, candidates(areas, everywhere, nowhere, areas != 1), start, 3.0)
    assert not rough[:, 10:].any(), "cloth as rough as a knit stops it too"
    other = grown(areas, edges * 0, candidates(areas, areas != 1, nowhere, everywhere), start, 3.0)
    assert not other[:, 10:].any()


def strip_of(width: int) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Skin found on the left of a strip, what could be skin on both sides, and areas of ten pixels."""
    could = np.ones((80, 200), bool)
    could[:, 100 : 100 + width] = False
    found = could.copy()
    found[:, 100:] = False
    y, x = np.indices(could.shape)
    return found, could, (y // 10) * 20 + x // 10


@pytest.mark.parametrize(("width", "beyond"), [(1, False), (6, True), (14, True), (30, False)])
def test_skin_goes_on_behind_a_strap_but_not_behind_a_hem_or_a_sleeve(width: int, beyond: bool) -> None:
    """On a face of 100 pixels: the shadow of a hem, a strap, a broad one, and a sleeve."""
    found, could, areas = strip_of(width)
    light = np.full(found.shape, 60.0)
    there = beyond_straps(found, could, areas, light, 100.0)
    assert there.any() == beyond
    light[:, 100:] = 35.0
    assert not beyond_straps(found, could, areas, light, 100.0).any(), "a dark top past its neckline"
    assert not (there & (found | ~could)).any()
    if beyond:
        assert there[:, 100 + width : 110].all() or there[:, 110:120].all()
        assert not there[:, 140:].any(), "what lies farther off is grown into"


def test_a_strip_that_no_skin_was_found_beside_leads_nowhere() -> None:
    found, could, areas = strip_of(8)
    light = np.full(found.shape, 60.0)
    assert not beyond_straps(found & False, could, areas, light, 100.0).any()
    far = could.copy()
    far[:, 60:] = False
    far[:, 160:] = True
    far[:, 180:188] = False
    found[:, 60:] = False
    assert not beyond_straps(found, far, areas, light, 100.0).any(), "that strip lies elsewhere"
