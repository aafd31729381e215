"""Keeping the white: masks for crisp lights alone (common practice)."""

from __future__ import annotations

import numpy as np
import pytest

from tests.core.school.test_schools import planned
from truesitter.core.design.reserve import Means, mask_shapes, reserve_for, widest_tape
from truesitter.core.light.mirrored.highlights import Edge
from truesitter.core.paint.media.supports import SUPPORTS
from truesitter.formats.print.masks import masks_svg, reserves_of


@pytest.mark.parametrize(
    ("edge", "mm", "paper", "means", "pools"),
    [
        (Edge.SOFT, 10, "smooth paper", "lift", False),
        (Edge.SOFT, 10, "rough paper", "paper", False),
        (Edge.ONE_SIDE, 10, "smooth paper", "paper", False),
        (Edge.CRISP, 1, "smooth paper", "opaque", False),
        (Edge.CRISP, 5, "smooth paper", "mask", False),
        (Edge.CRISP, 20, "smooth paper", "mask", True),
        (Edge.CRISP, 60, "smooth paper", "paper", False),
    ],
)
def test_the_means_follow_from_edge_and_size(
    edge: Edge, mm: float, paper: str, means: Means, pools: bool
) -> None:
    found = reserve_for("cheek", edge, mm, SUPPORTS[paper])  # type: ignore[index]
    assert (found.means, found.pools) == (means, pools)
    assert found.why.endswith(".")


def test_soft_lights_of_a_face_are_never_masked() -> None:
    """A mask leaves a hard border: wrong for them (common practice)."""
    for name in ("maren", "tobias", "selda"):
        study = planned(name, "watercolour-zones")
        kinds = {h.place: h.light.edge for h in study.accents.highlights()}
        found = reserves_of(study)
        assert len(found) == len(kinds)
        assert all(r.means != "mask" for r in found if kinds[r.place] is Edge.SOFT)


def test_tape_follows_wide_bends_alone() -> None:
    y, x = np.indices((200, 200))
    round_ = {radius: (x - 100) ** 2 + (y - 100) ** 2 < radius**2 for radius in (60, 20, 11, 2)}
    assert {r: widest_tape(shape, 1.0) for r, shape in round_.items()} == {60: 12, 20: 6, 11: 3, 2: None}
    assert widest_tape(round_[60], 0.2) == 3, "the same bend on a smaller canvas"
    star = (np.abs(x - 100) < 2) | (np.abs(y - 100) < 2)
    assert widest_tape(star, 1.0) is None


def test_a_mask_reaches_to_half_the_strength_of_its_own_light_and_no_other() -> None:
    strength = np.zeros((100, 100), np.float32)
    strength[30:70, 30:70] = 0.2
    strength[40:60, 40:60] = 1
    strength[40:60, 5:25] = 1
    ((points, _),) = mask_shapes(strength, 1.0, ((0.5, 0.5, 1.0),))
    assert (points.min(), points.max()) == (40, 59)
    assert len(mask_shapes(strength, 1.0, ((0.5, 0.5, 1.0), (0.15, 0.5, 1.0)))) == 2
    assert mask_shapes(strength, 1.0, ((0.9, 0.9, 1.0),)) == ()


def test_masks_are_drawn_at_true_size() -> None:
    import xml.etree.ElementTree as ET

    root = ET.fromstring(masks_svg(planned("maren", "watercolour-zones"), (300.0, 400.0)))
    shapes = [p for p in root if p.tag.endswith("polygon")]
    masked = sum(r.means == "mask" for r in reserves_of(planned("maren", "watercolour-zones")))
    assert len(shapes) == masked == 1, "no soft light among them"
    (title,) = (p[0].text or "" for p in shapes)
    assert title.startswith("tape, ") == (shapes[0].attrib["class"] == "tape")
    assert root.attrib["width"] == "300mm"
    assert root.attrib["viewBox"] == "0 0 300 400"
    assert all(p.attrib["class"] in ("tape", "fluid") for p in root if p.tag.endswith("polygon"))
