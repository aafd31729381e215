"""Regions that are only drawn, places the painter names, and what follows from both."""

from __future__ import annotations

import numpy as np
import pytest

from tests.conftest import study_of, truth
from truesitter.core.settings import StudySettings
from truesitter.core.sitter.places import OwnPlace, is_unnamed, numbered, own_name
from truesitter.core.sitter.region_names import DRAWN, Region
from truesitter.core.sitter.segmentation.region_map import Scribble, rasterise
from truesitter.core.sitter.tuning import OWN_REACH
from truesitter.core.stages import Study

ROUND = tuple((0.5 + 0.1 * float(np.cos(a)), 0.15 + 0.06 * float(np.sin(a))) for a in np.linspace(0, 6.1, 24))


def drawn(size: str = "portrait", **regions: object) -> Study:
    canvas = {"canvas_width_mm": 320, "canvas_height_mm": 400}
    chosen = {"reference": canvas, "regions": regions, "passes": {"size": size}}
    return Study.of_bytes(truth("selda").data, StudySettings.model_validate(chosen))


@pytest.mark.parametrize("region", DRAWN)
def test_a_stroke_that_closes_is_filled(region: Region) -> None:
    filled = rasterise((Scribble(region, ROUND, 0.01),), (400, 320))
    assert (filled == region).sum() > 0.9 * np.pi * 32 * 24
    assert filled[60, 160] == region
    half = rasterise((Scribble(region, ROUND[:14], 0.01),), (400, 320))
    assert half[60, 160] == 255, "an open one is only a stroke"
    skin = rasterise((Scribble(Region.SKIN, ROUND, 0.01),), (400, 320))
    assert skin[60, 160] == 255, "and other strokes speak for what they reach"


def test_a_hat_is_where_it_was_drawn_and_nowhere_else() -> None:
    study = drawn(scribbles=[{"region": "hat", "points": ROUND, "width": 0.01}])
    labels, plain = study.sitter.regions().labels, study_of("selda").sitter.regions().labels
    hat = labels == Region.HAT
    height, width = labels.shape
    rows, _ = np.nonzero(hat)
    assert hat[int(0.15 * height), int(0.5 * width)]
    assert rows.min() / height > 0.07
    assert rows.max() / height < 0.23
    assert (labels != plain)[~hat].mean() < 0.02, "the rest stays as it was"
    assert not np.isin(plain, DRAWN).any(), "it is never guessed"
    assert study.sitter.place_at(0.5, 0.15) == "hat"
    assert study.flesh.string("hat")
    polish = study.flesh.polish("hat")
    assert polish is not None
    assert polish.lightest > polish.darkest
    names = [p.name for p in study.passes.plan().passes if p.key.startswith("worn")]
    assert names
    assert all(n.startswith("Spectacles, hat and jewellery") for n in names)
    assert not [p for p in study_of("selda").passes.plan().passes if p.key.startswith("worn")]


def test_the_inside_of_a_mouth_has_passes_of_its_own() -> None:
    face = study_of("selda").sitter.face
    assert face is not None
    x, y = face.at(13, 14)
    ring = [(x + 0.03 * float(np.cos(a)), y + 0.012 * float(np.sin(a))) for a in np.linspace(0, 6.2, 20)]
    study = drawn("every pass", scribbles=[{"region": "mouth", "points": ring, "width": 0.004}])
    passes = [p for p in study.passes.plan().passes if p.key.startswith("mouth-")]
    assert passes
    assert "teeth" in passes[0].note
    values = [p.recipe.predicted.value for p in passes]
    assert values == sorted(values), "dark to light"


def test_own_names_hold_near_their_spot() -> None:
    own = (OwnPlace("left shoulder", 0.2, 0.7), OwnPlace("right shoulder", 0.8, 0.7))
    assert own_name(0.25, 0.72, own, 1.25) == "left shoulder"
    assert own_name(0.7, 0.68, own, 1.25) == "right shoulder"
    assert own_name(0.2, 0.7 - OWN_REACH - 0.01, own, 1.25) is None
    assert own_name(0.5, 0.5, (), 1.25) is None
    assert is_unnamed("figure")
    assert is_unnamed("lower left of the figure")
    assert not is_unnamed("left cheek")


def test_every_list_calls_a_named_place_by_its_name() -> None:
    """And none says the same name twice."""
    plain = study_of("selda")
    assert plain.sitter.place_at(0.24, 0.76) == "figure"
    study = drawn(
        names=[{"name": "left shoulder", "x": 0.24, "y": 0.76}, {"name": "chest", "x": 0.45, "y": 0.8}]
    )
    assert study.sitter.place_at(0.24, 0.76) == "left shoulder"
    assert study.sitter.place_at(0.4, 0.44) == plain.sitter.place_at(0.4, 0.44), (
        "places of the face keep theirs"
    )
    peaks = [p.place for p in study.light.zones().peaks]
    assert "left shoulder" in peaks
    assert "figure" not in peaks
    lights = [n.place for n in study.accents.highlights()]
    assert "left shoulder" in lights
    for names in (peaks, lights, [r.place for r in study.light.recesses().recesses]):
        assert len(set(names)) == len(names)
    assert [(p.x, p.y) for p in study.light.zones().peaks] == [(p.x, p.y) for p in plain.light.zones().peaks]


def test_a_spot_is_held_against_this_skin_at_its_value() -> None:
    study = study_of("selda")
    face = study.sitter.face
    assert face is not None
    nose = study.accents.against_skin(*face.spot(4))
    assert any("redder" in words for words in nose), nose
    assert study.accents.against_skin(0.02, 0.02) == ()


def test_names_are_made_unlike_one_another() -> None:
    """A painter's own name may hold a comma, or look like a numbered one."""
    assert numbered(["neck", "neck", "chin", "neck"]) == ("neck", "neck, 2", "chin", "neck, 3")
    assert numbered(["neck", "neck, 2", "neck"]) == ("neck", "neck, 2", "neck, 3")
    assert numbered([]) == ()


def test_a_name_with_a_comma_is_kept_whole() -> None:
    study = drawn(names=[{"name": "shoulder, near", "x": 0.24, "y": 0.76}])
    assert "shoulder, near" in [p.place for p in study.light.zones().peaks]
    names = [c.place for c in study.accents.ceilings()]
    assert "shoulder, near" in names
    assert len(set(names)) == len(names)
