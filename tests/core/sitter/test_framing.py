"""Frames round a head, whole photographs on canvases of their proportions, and quarter turns."""

from __future__ import annotations

import cv2
import numpy as np
import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from tests.conftest import jpeg, made_head, truth
from truesitter.core.reference.decode import decode
from truesitter.core.reference.frame import Frame, apply, place, rectify, whole_canvas
from truesitter.core.settings import ReferenceSettings, StudySettings
from truesitter.core.sitter.framing import Head, framings, on_canvas
from truesitter.core.sitter.landmarks import detect, without_doubtful
from truesitter.core.sitter.tuning import AIR, HEAD_SHARES
from truesitter.core.stages import Study
from truesitter.core.usecases.framing_advice import framed_faces
from truesitter.formats.words.framing_words import framing_sentence, turn_sentence

sides = st.integers(300, 3000)


def head_at(width: int, height: int, size: float, x: float, y: float) -> tuple[Head, float]:
    """A head of a part of the shorter side, somewhere in the photograph, and its height in pixels."""
    head_px = size * min(width, height)
    wide, high = 0.7 * head_px / width, head_px / height
    left, top = x * (1 - wide), y * (1 - high)
    return Head(left, top, left + wide, top + high, 0.7 * high), head_px


@given(
    sides, sides, st.floats(0.05, 0.5), st.floats(0.1, 0.9), st.floats(0, 0.8), st.sampled_from([0.6, 1, 1.5])
)
@example(width=300, height=492, size=0.0508, x=0.5, y=0.0, proportion=0.6)
def test_every_frame_holds_the_head_with_air_and_stays_inside(
    width: int, height: int, size: float, x: float, y: float, proportion: float
) -> None:
    head, head_px = head_at(width, height, size, x, y)
    left, top, wide, high = head.left, head.top, head.right - head.left, head.height
    canvas = (300.0, 300.0 / proportion)
    offered = framings((head,), (height, width), canvas, whole_canvas(width, height, max(canvas)))
    assert offered[-1].name == "as photographed"
    zooms = [f.zoom for f in offered]
    assert zooms == sorted(zooms, reverse=True)
    assert len({f.zoom for f in offered[:-1]}) == len(offered) - 1
    for one in offered[:-1]:
        crop = place(Frame(one.canvas_mm, one.centre, one.zoom), width, height)
        (x0, y0), (x1, y1) = crop.corners()[0], crop.corners()[2]
        assert -1 < x0 <= left * width + 1
        assert (left + wide) * width - 1 <= x1 < width + 1
        assert y1 >= (top + high) * height - 1
        # Air above, or all that the photograph has.
        assert y0 <= max(0.5, top * height - 0.9 * AIR * crop.size[1])
        assert one.zoom == 1 or head_px <= (HEAD_SHARES[one.name] + 0.01) * crop.size[1]
        assert crop.size[0] * crop.size[1] < 0.92 * width * height


@given(
    sides, sides, st.floats(0.05, 0.5), st.floats(0.1, 0.9), st.floats(0, 1), st.sampled_from([0.6, 1, 1.5])
)
@example(width=3000, height=900, size=0.5, x=0.9, y=1.0, proportion=1.5)
def test_a_usual_canvas_takes_all_it_can_round_the_whole_head(
    width: int, height: int, size: float, x: float, y: float, proportion: float
) -> None:
    head, head_px = head_at(width, height, size, x, y)
    left, top, wide, high = head.left, head.top, head.right - head.left, head.height
    usual = (300.0, 300.0 / proportion)
    found = on_canvas((head,), (height, width), usual)
    canvas = found.canvas_mm
    assert sorted(canvas) == sorted(usual)
    assert width == height or proportion == 1 or (canvas[0] > canvas[1]) == (width > height)
    crop = place(Frame(canvas, found.centre, found.zoom), width, height)
    (x0, y0), (x1, y1) = crop.corners()[0], crop.corners()[2]
    assert min(x0, y0, width - x1, height - y1) > -1
    assert max(crop.size[0] - width, crop.size[1] - height) > -1, "all that there is room for"
    if head_px < min(crop.size):
        assert x0 <= left * width + 1
        assert x1 >= (left + wide) * width - 1
        assert y1 >= (top + high) * height - 1
        air = min(0.1 * crop.size[1], top * height, crop.size[1] - head_px)
        assert y0 <= top * height - air + 1
    # Where the middle of the photograph holds the head, with air, it is taken.
    middle = on_canvas((), (height, width), usual).centre
    assert middle == (0.5, 0.5)
    x_off, y_off = (width - crop.size[0]) / 2, (height - crop.size[1]) / 2
    held_x = x_off <= left * width and (left + wide) * width <= width - x_off
    held_y = y_off <= top * height - 0.1 * crop.size[1] and (top + high) * height <= height - y_off
    assert not held_x or found.centre[0] == pytest.approx(0.5)
    assert not held_y or found.centre[1] == pytest.approx(0.5)


@given(st.floats(-45, 45), st.floats(0.05, 0.12), st.sampled_from([0.6, 1.0, 1.5]))
def test_a_straightened_frame_holds_the_head_as_well(turn: float, size: float, proportion: float) -> None:
    """A head in the middle, as an ellipse: all of it inside, with air above it along the frame."""
    width, height = 1000, 800
    wide, high = 0.7 * size * height / width, size
    head = Head(0.5 - wide / 2, 0.5 - high / 2, 0.5 + wide / 2, 0.5 + high / 2, 0.7 * high)
    canvas = (300.0, 300.0 / proportion)
    offered = framings((head,), (height, width), canvas, (400.0, 320.0), turn)
    angle = np.linspace(0, 2 * np.pi, 60)
    rim = np.c_[500 + wide / 2 * width * np.cos(angle), 400 + high / 2 * height * np.sin(angle)]
    assert [f.name for f in offered] == ["head", "head and shoulders", "as photographed"]
    for one in offered[:2]:
        crop = place(Frame(one.canvas_mm, one.centre, one.zoom, straighten=turn), width, height)
        first, second, _, last = crop.corners()
        across, down = (second - first) / crop.size[0], (last - first) / crop.size[1]
        x, y = (rim - first) @ across / crop.size[0], (rim - first) @ down / crop.size[1]
        assert y.min() == pytest.approx(AIR, abs=0.01)
        assert (x.min() > 0.05, x.max() < 0.95, y.max() < 0.9) == (True, True, True)
        assert np.ptp(y) <= HEAD_SHARES[one.name] + 0.01


@given(st.integers(100, 6000), st.integers(100, 6000))
def test_a_new_canvas_has_the_proportions_of_the_photograph(width: int, height: int) -> None:
    begun = ReferenceSettings.of_photograph(width, height)
    wide, high = begun.canvas_width_mm, begun.canvas_height_mm
    assert max(wide, high) == 400
    if max(width, height) <= 4 * min(width, height):
        assert wide / high == pytest.approx(width / height, rel=0.006)
        crop = place(begun.frame(), width, height)
        assert crop.size[0] * crop.size[1] > 0.99 * width * height
    else:
        assert min(wide, high) == 100


@pytest.mark.parametrize("turns", range(4))
def test_a_turned_photograph_is_framed_as_if_its_file_were_turned(turns: int) -> None:
    picture = np.random.default_rng(1).integers(0, 255, (90, 120, 3), np.uint8)
    frame = Frame((30, 40), (0.4, 0.6), 1.3, straighten=5)
    turned = Frame(frame.canvas_mm, frame.centre, frame.zoom, frame.straighten, quarter_turns=turns)
    there = np.ascontiguousarray(np.rot90(picture, turns))
    assert np.array_equal(apply(picture, turned), apply(there, frame))
    assert place(turned, 120, 90) == place(frame, there.shape[1], there.shape[0])


@pytest.mark.parametrize(("turns", "canvas"), [(1, (320, 400)), (2, (400, 320)), (3, (320, 400))])
def test_what_is_turned_begins_anew_but_for_its_canvas(turns: int, canvas: tuple[int, int]) -> None:
    wide = ReferenceSettings(canvas_width_mm=400, canvas_height_mm=320)
    lying = wide.model_copy(update={"zoom": 2, "straighten": 4, "quarter_turns": 2})
    upright = lying.turned(turns)
    assert (upright.canvas_width_mm, upright.canvas_height_mm) == canvas
    assert (upright.quarter_turns, upright.zoom, upright.straighten) == ((2 + turns) % 4, 1, 0)


def test_heads_are_looked_for_in_the_photograph_seen_square_on() -> None:
    corners = ((0.1, 0.0), (1.0, 0.1), (0.95, 1.0), (0.0, 0.9))
    settings = StudySettings.model_validate({"reference": {"keystone": corners}})
    study = Study.of_bytes(truth("selda").data, settings)
    (head,) = study.sitter.heads_in_photograph()
    there = detect(rectify(study.picture.photograph(), corners)).face
    assert there is not None
    assert head.bottom == pytest.approx(there.points[:, 1].max(), abs=0.006)
    flat = detect(study.picture.photograph()).face
    assert flat is not None
    assert abs(head.bottom - flat.points[:, 1].max()) > 0.012


def test_a_study_of_a_turned_photograph_is_that_of_a_turned_file() -> None:
    picture = made_head(96, 120)
    turned = jpeg(np.ascontiguousarray(np.rot90(picture, 1)))
    # Blocks of a JPEG are turned with it: what is unpacked differs by little.
    settings = StudySettings.model_validate({"reference": {"quarter_turns": 3}})
    one, other = Study.of_bytes(jpeg(picture), StudySettings()), Study.of_bytes(turned, settings)
    assert one.picture.photograph().shape == other.picture.photograph().shape
    apart = np.abs(one.picture.framed().astype(int) - other.picture.framed().astype(int))
    assert apart.mean() < 2


def test_without_a_face_it_is_said_what_works() -> None:
    now, offered = framed_faces(Study.of_bytes(jpeg(np.full((300, 200, 3), 120, np.uint8)), StudySettings()))
    assert [one.framing.name for one in offered] == ["as photographed"]
    assert offered[0].framing.canvas_mm == (267.0, 400.0)
    assert "No face was found" in framing_sentence(now)
    assert [turn_sentence(n) for n in (0, 1, 2, 3)] == [
        "",
        "The photograph seems to lie on its side.",
        "The photograph seems to stand on its head.",
        "The photograph seems to lie on its side.",
    ]


def test_where_nobody_is_nothing_is_cloth() -> None:
    """A cup-like thing on a table: the model for persons may take it for one."""
    picture = np.full((400, 600, 3), (120, 90, 70), np.uint8)
    cv2.ellipse(picture, (300, 200), (90, 60), 0, 0, 360, (235, 235, 230), -1)
    study = Study.of_bytes(jpeg(picture), StudySettings())
    assert not study.sitter.detection().person.any()
    assert study.sitter.regions().shares()["background"] == 1
    assert study.passes.plan().passes
    for head, share, kept in ((True, 0.1, True), (False, 0.1, False), (False, 0.3, True)):
        person = np.zeros((20, 20), np.float32)
        person[: round(20 * share)] = 0.9
        assert without_doubtful(person, head).any() == kept


def test_a_small_head_is_told_with_its_size_and_its_brush() -> None:
    """A face of 100 mm has irises of 6.3 mm."""
    close = decode(truth("maren").data, 500)
    far = np.full((2000, 1600, 3), 120, np.uint8)
    small = close[:: max(1, close.shape[0] // 500), :: max(1, close.shape[1] // 400)]
    far[: small.shape[0], 600 : 600 + small.shape[1]] = small
    now, offered = framed_faces(Study.of_bytes(jpeg(far), StudySettings()))
    assert now.small
    assert now.face_mm is not None
    assert f"{now.face_mm:.0f} mm high" in framing_sentence(now)
    assert [one.framing.name for one in offered] == ["head", "head and shoulders", "as photographed"]
    assert not offered[0].small
    assert offered[0].face_mm is not None
    assert offered[0].face_mm > 3 * now.face_mm
    assert framing_sentence(offered[0]) == ""
