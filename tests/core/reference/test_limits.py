"""Where things begin and end: limits, words and small tables, each by an example on both sides."""

from __future__ import annotations

import numpy as np
import pytest
from pydantic import ValidationError

from truesitter.core.colour.spaces import srgb_to_hex
from truesitter.core.light.form.peaks import find_peaks
from truesitter.core.light.form.tuning import PEAKS_MOST
from truesitter.core.light.key.light_direction import LightDirection
from truesitter.core.paint.board.nudges import nudge
from truesitter.core.paint.media.drying import DryingShift
from truesitter.core.paint.recipes.reach import Reach, map_picture, map_target
from truesitter.core.paint.tubes.palettes import STARTERS, Palette
from truesitter.core.plan.kinds.wash_pass import wash_parts
from truesitter.core.reference.decode import PhotographInfo, estimated_bytes
from truesitter.core.reference.frame import Frame, place
from truesitter.core.reference.tone import balance_from
from truesitter.core.reference.tuning import LEAST_CROP_PX
from truesitter.core.refusal import Refusal
from truesitter.core.settings import StudySettings
from truesitter.core.values.names import group_names

EARTH = STARTERS[0]
OCHRE = {"yellow-ochre": 2, "titanium-white": 1}
ROSE = {"light-red": 1, "titanium-white": 3}


@pytest.mark.parametrize(
    ("vector", "words"),
    [
        ((0.0, 0.0, 1.0), "middle, from the front"),
        ((-0.5, 0.5, 0.7), "upper left, from the front"),
        ((0.5, -0.5, 0.3), "lower right, from the side"),
        ((0.1, 0.1, -0.1), "middle, from the side"),
        ((-0.1, 0.2, -0.6), "middle, from behind"),
        ((0.9, 0.3, -0.3), "upper right, from behind"),
    ],
)
def test_where_the_light_comes_from_in_words(vector: tuple[float, float, float], words: str) -> None:
    assert LightDirection(vector, 1.0).in_words() == words


@pytest.mark.parametrize(
    ("parts", "added", "direction", "words"),
    [
        (OCHRE, "titanium-white", "greyer", "0.5 steps lighter, bluer"),
        (OCHRE, "burnt-sienna", "redder", "1.0 steps darker, greyer, bluer"),
        (OCHRE, "ivory-black", "greener", "greyer, bluer"),
        (ROSE, "burnt-sienna", "greener", "0.3 steps darker"),
        (ROSE, "ivory-black", "greyer", "greener"),
    ],
)
def test_what_else_the_only_tube_at_hand_does(
    parts: dict[str, int], added: str, direction: str, words: str
) -> None:
    """White lightens and cools, black greens a red, a brown darkens: as any painter has seen."""
    found = nudge(parts, Palette("own", "Own", (added,)), direction)  # type: ignore[arg-type]
    assert found is not None
    assert (found.tube, found.side_effects) == (added, words)


def test_peaks_close_together_are_one_and_only_so_many_are_named() -> None:
    value = np.full((200, 200), 5.0, np.float32)
    spots = [(100, 100), (100, 110), (100, 160), (40, 40), (160, 60)]
    for n, (y, x) in enumerate(spots):
        value[y - 2 : y + 3, x - 2 : x + 3] = 8 - 0.2 * n
    skin = np.ones(value.shape, bool)
    peaks = find_peaks(value, skin, None, 200)
    found = sorted((round(p.value, 1) for p in peaks), reverse=True)
    assert found == [8.0, 7.6, 7.4, 7.2], "the second is swallowed by the first"
    assert (peaks[0].x, peaks[0].y) == pytest.approx((0.5, 0.5), abs=0.02)
    crowd = value.copy()
    crowd[4::20, 4::20] = 8
    assert len(find_peaks(crowd, skin, None, 100)) == PEAKS_MOST
    assert len(find_peaks(value, skin, None, 100)) == 5


@pytest.mark.parametrize(
    ("srgb", "code"), [((0, 0, 0), "#000000"), ((1, 1, 1), "#ffffff"), ((0.75, 0.2, 2), "#bf33ff")]
)
def test_colours_as_codes(srgb: tuple[float, float, float], code: str) -> None:
    assert srgb_to_hex(srgb) == code


@pytest.mark.parametrize("clip", [False, True])
def test_a_picture_is_mapped_as_its_pixels_are(clip: bool) -> None:
    lab = np.random.default_rng(4).uniform((0, -40, -40), (100, 40, 40), (20, 30, 3)).astype(np.float32)
    lab[0, :2, 0] = 0, 100
    reach = Reach(2.2, 9.1)
    mapped, _ = map_picture(lab, reach, clip)
    exact = map_target(lab.reshape(-1, 3).astype(float), reach, clip).reshape(lab.shape)
    np.testing.assert_allclose(mapped, exact, atol=0.01)


def test_an_underpainting_takes_the_umber_there_is() -> None:
    white = "titanium-white"
    assert wash_parts(Palette("own", "Own", (white, "burnt-umber", "raw-umber"))) == {"raw-umber": 1}
    assert wash_parts(Palette("own", "Own", (white, "burnt-umber"))) == {"burnt-umber": 1}
    assert len(wash_parts(EARTH)) > 1, "mixed where there is none"


def test_names_of_groups_run_from_dark_to_light() -> None:
    for count in range(2, 10):
        assert len(set(group_names(count))) == len(group_names(count)) == count
    assert group_names(2) == ("dark", "light")
    assert group_names(4) == ("dark accent", "shadow", "halftone", "light")


@pytest.mark.parametrize(
    ("values", "sentence"),
    [
        ({"mode": "own", "groups": 4, "cuts": [3, 5]}, "4 groups need 3 cuts"),
        ({"groups": 2, "locked": [3, 5]}, "2 groups have only 1 cuts to lock"),
    ],
)
def test_cuts_that_do_not_go_with_the_groups_are_counted(values: dict[str, object], sentence: str) -> None:
    with pytest.raises(ValidationError, match=sentence):
        StudySettings.model_validate({"values": values})


def frame(**changes: object) -> Frame:
    return Frame(**changes)  # type: ignore[arg-type]


def test_a_frame_keeps_to_its_limits() -> None:
    assert place(frame(zoom=20.0), 6000, 8000).size == pytest.approx((300, 400))
    for wrong in ({"zoom": 20.1}, {"zoom": 0.9}, {"straighten": 45.5}, {"canvas_mm": (9.0, 400.0)}):
        with pytest.raises(Refusal):
            place(frame(**wrong), 6000, 8000)
    thin = frame(canvas_mm=(LEAST_CROP_PX * 10.0, 1000.0))
    assert place(thin, 1000, 100).size == pytest.approx((LEAST_CROP_PX, 100))
    with pytest.raises(Refusal, match=f"only {LEAST_CROP_PX - 1} × 100 pixels"):
        place(frame(canvas_mm=((LEAST_CROP_PX - 1) * 10.0, 1000.0)), 1000, 100)


def test_a_grey_is_not_any_colour() -> None:
    """A channel is raised fourfold at most: a spot whose blue is a quarter of its light is refused."""
    grey = np.full((40, 40, 3), 128, np.uint8)
    assert balance_from(grey) == pytest.approx((1, 1, 1))
    grey[..., 2] = 70
    assert 3 < balance_from(grey)[2] < 4
    grey[..., 2] = 60
    with pytest.raises(Refusal, match="too strongly coloured"):
        balance_from(grey)


def test_paint_shifts_by_four_steps_at_most() -> None:
    assert DryingShift(((2.0, 5.9), (8.0, 8.0))).dry(2.0) == pytest.approx(5.9)
    with pytest.raises(Refusal, match="more than 4"):
        DryingShift(((2.0, 6.1), (8.0, 8.0)))


def test_what_a_photograph_takes_to_unpack() -> None:
    """Bytes to a pixel by kind, as unpacked, turned upright and converted at once."""
    large = PhotographInfo(4000, 3000, "PNG", "RGB")
    assert estimated_bytes(large) == 12_000_000 * 10
    assert estimated_bytes(PhotographInfo(4000, 3000, "PNG", "RGBA")) == 12_000_000 * 10
    assert 12_000_000 * 4 < estimated_bytes(large, 500) < 12_000_000 * 5, "given back small"
    jpeg = PhotographInfo(4000, 3000, "JPEG", "RGB")
    assert estimated_bytes(jpeg, 2000) == 3_000_000 * 10
    assert estimated_bytes(jpeg, 500) == 12_000_000 // 64 * 10
