"""Egg tempera with four zones of light over a dark flesh ground (common practice, no source)."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest

from tests.core.canvas.test_drawn_lines import planned
from truesitter.core.canvas.drawn.light_lines import streaks
from truesitter.core.canvas.drawn.tuning import ENDS_BEFORE
from truesitter.core.light.form.zones import Ray
from truesitter.core.pace.waiting import drying_minutes
from truesitter.core.paint.media.media_table import MEDIA
from truesitter.core.school.library import TEMPERA
from truesitter.core.sitter.face import LIPS, UPPER_LIP_FIELD
from truesitter.core.sitter.region_names import Region


@pytest.mark.parametrize("name", ["maren", "selda"])
def test_light_climbs_zone_by_zone_in_one_colour(name: str) -> None:
    """Zone 2 covers zone 1, 3 and 4 all before them; four coats add up to the brightness."""
    study = planned(name, "tempera")
    plan = study.passes.plan()
    keys = [p.key for p in plan.passes]
    zones = [p for p in plan.passes if p.key.startswith("zones-")]
    assert [p.key for p in zones] == ["zones-1", "zones-2", "zones-3", "zones-4"]
    assert [p.name for p in zones] == [f"Light, zone {n}" for n in range(1, 5)]
    for inner, outer in pairwise(zones):
        assert (outer.pieces >= inner.pieces).all()
        assert outer.area_cm2 > inner.area_cm2
        assert outer.recipe.parts == inner.recipe.parts, "one colour throughout"
        assert outer.thinned[0].dilution.thinner <= inner.thinned[0].dilution.thinner
        # What the coat brings its own ring to, within a part of water.
        assert abs(inner.recipe.value_error) < 0.45
    first = keys.index("zones-1")
    sizes = plan.canvases[0].patchwork.sizes
    inside = zones[0].pieces
    seen = [
        float(np.average(c.piece_values()[inside], weights=sizes[inside]))
        for c in plan.canvases[first - 1 : first + 4]
    ]
    assert seen[0] < 4, "a dark flesh ground"
    steps = np.diff(seen)
    assert (steps > 0.1).all(), "every coat lightens what lies inside it"
    assert zones[3].value_error < plan.passes[first - 1].value_error - 0.2, "and comes nearer to the sitter"
    rings = [zones[0].pieces, *(b.pieces & ~a.pieces for a, b in pairwise(zones))]
    last = plan.canvases[first + 3].piece_values()
    means = [float(np.average(last[r], weights=sizes[r])) for r in rings]
    assert means == sorted(means, reverse=True), "lightest in zone 1"


def test_the_shadows_of_the_face_are_the_flesh_ground() -> None:
    study = planned("selda", "tempera")
    plan = study.passes.plan()
    ground = next(p for p in plan.passes if p.key == "flesh-ground")
    assert 2.5 < ground.recipe.predicted.value < 3.8
    assert ground.recipe.predicted.lab[1] < 1, "green-brown"
    regions = plan.canvases[0].patchwork.at(study.passes.subject().regions)
    zones = next(p for p in plan.passes if p.key == "zones-4")
    dark = (regions == Region.SKIN) & ~zones.pieces
    np.testing.assert_allclose(
        plan.canvases[-1].labs()[dark],
        plan.canvases[[p.key for p in plan.passes].index("flesh-ground")].labs()[dark],
    )


def test_the_field_above_the_mouth_and_the_lips_stay_without_light() -> None:
    study = planned("selda", "tempera")
    zones, face = study.light.zones(), study.sitter.face
    assert face is not None
    for outline in (UPPER_LIP_FIELD, LIPS):
        inside = face.outline_mask(outline, zones.zones.shape, 0.85)
        assert (zones.zones[inside] > 0).mean() < 0.03
        free = planned("selda", "layered-oil").light.zones().zones
        assert (free[face.outline_mask(UPPER_LIP_FIELD, free.shape, 0.85)] > 0).mean() > 0.2


def test_streaks_run_outward_from_the_peaks_and_end_before_the_line() -> None:
    rays = (Ray((0.5, 0.5), (0.6, 0.5)), Ray((0.5, 0.5), (0.5, 0.3)))
    right, up = streaks(rays, 150.0)
    assert right.points[0].tolist() == [0.5, 0.5]
    assert right.points[-1, 0] == pytest.approx(0.5 + 0.1 * ENDS_BEFORE)
    assert up.points[-1, 1] == pytest.approx(0.5 - 0.2 * ENDS_BEFORE)
    for line in (right, up):
        assert line.widths_mm[0] < line.widths_mm.max() > line.widths_mm[-1]
    study = planned("selda", "tempera")
    drawn = next(p for p in study.passes.plan().passes if p.key == "streaks")
    assert len(drawn.lines) == len(study.light.zones().rays)
    assert not [p for p in planned("selda", "layered-oil").passes.plan().passes if p.key == "streaks"]


def test_tempera_dries_in_minutes() -> None:
    assert max(t.dries_minutes for t in TEMPERA.passes[1:]) <= 30
    assert (
        drying_minutes(
            TEMPERA.passes[1].dries_minutes,
            {"titanium-white": 1},
            MEDIA["egg tempera"],
        )
        <= 30
    )
    study = planned("selda", "tempera")
    plan = study.passes.plan()
    assert plan.support.name == "gesso board"
    assert plan.thinner == "water"
    waits = [p.wait_minutes for p in plan.passes[1:]]
    assert max(waits) < 60
