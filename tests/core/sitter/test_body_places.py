"""Places of a body without a face: on figures drawn from usual proportions, mirrored, and on a back.

The figures are drawn here from the eight-heads canon of figure drawing (common practice): shoulders two heads
wide, the neck half a head, the shoulder line a third of a head below the chin.
"""

from __future__ import annotations

import cv2
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.easel import painter
from truesitter.core.settings import StudySettings
from truesitter.core.sitter.body_places import body_places
from truesitter.core.stages import Study
from truesitter.core.types import Mask


def figure(head: float, shift: float = 0.0, heads_wide: float = 2.0) -> tuple[Mask, Mask, Mask]:
    """Skin, figure and hair of a body seen from behind, (600, 500); its head is so many pixels tall."""
    shape, middle = (600, 500), 250 + shift
    out = np.zeros(shape, np.uint8)
    top = 30.0
    hair = np.zeros(shape, np.uint8)
    oval = (int(middle), int(top + head / 2)), (int(head * 0.37), int(head / 2))
    cv2.ellipse(out, *oval, 0, 0, 360, 1, -1)
    cv2.ellipse(hair, *oval, 0, 0, 360, 1, -1)
    neck, across, line = 0.25 * head, heads_wide * head / 2, top + 1.33 * head
    body = [
        (middle - neck, top + 0.7 * head), (middle + neck, top + 0.7 * head),
        (middle + neck, line - 0.15 * head),
        (middle + across * 0.9, line), (middle + across, line + 0.25 * head), (middle + across, 700),
        (middle - across, 700), (middle - across, line + 0.25 * head), (middle - across * 0.9, line),
        (middle - neck, line - 0.15 * head),
    ]  # fmt: skip
    cv2.fillPoly(out, [np.rint(np.array(body)).astype(np.int32)], 1)
    return (out > 0) & (hair == 0), out > 0, hair > 0


@settings(max_examples=25, deadline=None)
@given(st.floats(90, 150), st.floats(-60, 60), st.floats(1.8, 2.4))
def test_shoulders_and_spine_lie_where_the_canon_puts_them(head: float, shift: float, wide: float) -> None:
    found = {p.name: (p.x * 500, p.y * 600) for p in body_places(*figure(head, shift, wide))}
    middle, line = 250 + shift, 30 + 1.33 * head
    assert {"left shoulder", "right shoulder", "spine", "left shoulder blade", "neck"} <= set(found)
    assert found["spine"][0] == pytest.approx(middle, abs=0.06 * head)
    assert found["neck"][1] == pytest.approx(30 + 1.08 * head, abs=0.25 * head)
    for side, sign in (("left", -1), ("right", 1)):
        x, y = found[f"{side} shoulder"]
        assert sign * (x - middle) > 0.3 * wide * head
        assert y == pytest.approx(line, abs=0.25 * head)
        assert 0.1 * wide < sign * (found[f"{side} shoulder blade"][0] - middle) / head < 0.35 * wide


def test_a_mirrored_body_has_mirrored_places() -> None:
    skin, whole, hair = figure(120, 40)
    plain = {p.name: (p.x, p.y) for p in body_places(skin, whole, hair)}
    turned = {p.name: (p.x, p.y) for p in body_places(*(m[:, ::-1].copy() for m in (skin, whole, hair)))}
    for name, (x, y) in plain.items():
        other = name.replace("left", "x").replace("right", "left").replace("x", "right")
        assert turned[other] == pytest.approx((1 - x, y), abs=0.01)


def test_a_torso_without_hair_above_it_is_no_back() -> None:
    skin, whole, hair = figure(120)
    names = {p.name for p in body_places(skin, whole, np.zeros_like(hair))}
    assert "breastbone" in names
    assert not {"spine", "left shoulder blade"} & names


def test_a_place_under_hair_or_cloth_has_no_name() -> None:
    skin, whole, hair = figure(120)
    bare = {p.name for p in body_places(skin, whole, hair)}
    covered = skin.copy()
    covered[:, 230:270] = False
    assert bare - {p.name for p in body_places(covered, whole, hair)} == {
        "neck",
        "spine",
        "small of the back",
    }


def test_a_name_that_the_painter_has_given_is_the_painters() -> None:
    base = painter("ines")
    chosen = base.settings.model_dump()
    chosen["regions"]["names"] = [{"name": "left shoulder", "x": 0.3, "y": 0.9}]
    study = Study(base.sha256, base.source.load, StudySettings.model_validate(chosen), base.source.memo)
    (own,) = (p for p in study.sitter.own_places() if p.name == "left shoulder")
    assert (own.x, own.y) == (0.3, 0.9)
    assert len(study.sitter.own_places()) == len(base.sitter.own_places())


def test_who_stands_beside_does_not_widen_the_shoulders() -> None:
    skin, whole, hair = figure(100, -60)
    plain = body_places(skin, whole, hair)
    whole[100:, 440:] = True
    assert body_places(skin, whole, hair) == plain


def test_a_neck_at_the_upper_rim_has_no_head_above_it() -> None:
    skin, whole, hair = figure(150)
    cut = slice(140, None)
    names = {p.name for p in body_places(skin[cut], whole[cut], np.zeros_like(hair[cut]))}
    assert "head" not in names


def test_what_has_no_neck_has_no_places() -> None:
    block = np.zeros((600, 500), bool)
    block[100:, 100:400] = True
    assert body_places(block, block, np.zeros_like(block)) == ()
    nothing = np.zeros((600, 500), bool)
    assert body_places(nothing, nothing, nothing) == ()


def test_every_stage_speaks_of_the_back_by_name() -> None:
    """Her shoulder to the left is the highest light of the body; nothing is a ninth of the figure there."""
    study = painter("ines")
    named = {p.name for p in study.sitter.body_places}
    assert {"left shoulder", "right shoulder blade", "spine"} <= named
    assert named <= set(study.sitter.areas().names)
    peaks = [p.place for p in study.light.zones().peaks]
    assert any(p.startswith("left shoulder") for p in peaks)
    assert {p.place for p in study.finish.places()} > named
    assert {p.place for p in study.accents.colour().places} <= named
    assert study.accents.colour().places
    assert painter("maren").sitter.body_places == ()
