"""What is said of a photograph: tints, lamps and exposures laid over the made sitters by hand.

Lamps are gains of linear light by rule; what skin looks like in white light the photographs show.
"""

from __future__ import annotations

import io

import cv2
import numpy as np
import pytest
from PIL import Image

from tests.conftest import begun, jpeg, truth
from truesitter.core.colour.spaces import LUMINANCE_WEIGHTS, lab_to_srgb, linear_to_srgb, srgb_to_linear
from truesitter.core.reference.cast import balance_by_skin
from truesitter.core.reference.tone import PictureTone, correct
from truesitter.core.settings import StudySettings
from truesitter.core.stages import Study
from truesitter.core.usecases.photograph_condition import Condition, condition_of
from truesitter.core.values.value_map import value_map
from truesitter.formats.words.condition_words import condition_sentences

NAMES = ("maren", "tobias", "selda", "orsolya", "hedda")
LAMPS = {
    "yellow": (1.45, 1.0, 0.5),
    "blue": (0.75, 1.0, 1.4),
    "green": (0.8, 1.15, 0.75),
    "purple": (1.3, 0.8, 1.25),
}


def photo(name: str, height: int = 800) -> np.ndarray:
    whole = np.asarray(Image.open(io.BytesIO(truth(name).data)).convert("RGB"))
    return cv2.resize(
        whole, (round(height * whole.shape[1] / whole.shape[0]), height), interpolation=cv2.INTER_AREA
    )


def lit_by(picture: np.ndarray, gains: tuple[float, ...]) -> np.ndarray:
    linear = srgb_to_linear(picture / 255.0) * np.array(gains)
    return np.round(linear_to_srgb(np.clip(linear, 0, 1)) * 255).astype(np.uint8)


def study_of(picture: np.ndarray, **reference: object) -> Study:
    settings = begun(picture.shape[1], picture.shape[0])
    chosen = settings.model_dump()
    chosen["reference"] |= reference
    return Study.of_bytes(jpeg(picture), StudySettings.model_validate(chosen))


def condition(picture: np.ndarray) -> Condition:
    return condition_of(study_of(picture))


@pytest.mark.parametrize("name", [*NAMES, "ines"])
def test_nothing_is_wrong_with_a_photograph_as_it_was_taken(name: str) -> None:
    found = condition(photo(name)[:, ::-1])
    assert (found.colourless, found.tinted, found.balance, found.exposure) == (False, False, None, 0)
    assert len(condition_sentences(found)) == 1


@pytest.mark.parametrize("lamp", list(LAMPS))
@pytest.mark.parametrize("name", ["maren", "selda", "hedda"])
def test_a_strong_cast_is_seen_and_taken_out_by_the_skin(name: str, lamp: str) -> None:
    gains = LAMPS[lamp]
    found = condition(lit_by(photo(name), gains))
    assert found.balance is not None
    left = np.array(found.balance) * gains
    assert left[0] / left[1] == pytest.approx(1, abs=0.12)
    assert left[2] / left[1] == pytest.approx(1, abs=0.3)
    assert f"The light was {lamp}" in condition_sentences(found)[0]


@pytest.mark.parametrize("lab", [(65.7, 18.1, 17.8), (38.0, 13.6, 14.1)], ids=["light", "dark"])
def test_the_published_skin_patches_need_no_balance_and_get_theirs_back(
    lab: tuple[float, float, float],
) -> None:
    """The 24-patch chart's averages; a lamp of A's yellowness is taken out to within a third of its blue."""
    patch = np.repeat(srgb_to_linear(lab_to_srgb(np.array([lab]))), 400, axis=0)
    assert balance_by_skin(patch) is None
    gains = balance_by_skin(patch * np.array(LAMPS["yellow"]))
    assert gains is not None
    left = np.array(gains) * LAMPS["yellow"]
    assert left[0] / left[1] == pytest.approx(1, abs=0.2)
    assert left[2] / left[1] == pytest.approx(1, abs=0.35)
    mean = (patch * np.array(LAMPS["yellow"])).mean(axis=0)
    assert float((mean * gains) @ LUMINANCE_WEIGHTS) == pytest.approx(float(mean @ LUMINANCE_WEIGHTS))
    assert balance_by_skin(patch[:50] * np.array(LAMPS["yellow"])) is None, "too little to go by"


@pytest.mark.parametrize("name", ["maren", "tobias"])
def test_sepia_is_a_grey_photograph_in_a_tint_that_can_be_taken_out(name: str) -> None:
    grey = cv2.cvtColor(photo(name), cv2.COLOR_RGB2GRAY).astype(float) / 255
    sepia = np.round(np.dstack([grey**0.85, grey**1.0, grey**1.25]) * 255).astype(np.uint8)
    plain = np.repeat(np.round(grey * 255).astype(np.uint8)[..., None], 3, axis=2)
    tinted, colourless = condition(sepia), condition(plain)
    assert (tinted.colourless, tinted.tinted, tinted.balance) == (True, True, None)
    assert (colourless.colourless, colourless.tinted) == (True, False)
    assert "one tint" in condition_sentences(tinted)[0]
    assert "no colour" in condition_sentences(colourless)[0]
    kept, out = study_of(sepia), study_of(sepia, untinted=True)
    assert np.ptp(out.picture.framed().astype(int), axis=2).max() == 0
    np.testing.assert_allclose(out.picture.value(), kept.picture.value(), atol=0.06)
    assert out.sitter.first_guess().colourless
    assert kept.sitter.first_guess().colourless


def test_what_is_too_dark_or_too_light_is_told_with_how_far_it_can_be_moved() -> None:
    dark, light = (correct(photo("maren"), PictureTone(exposure=e)) for e in (-1.8, 0.0))
    under = condition(dark)
    assert 0.5 < under.exposure < 2
    raised = correct(dark, PictureTone(exposure=under.exposure))
    assert condition(raised).exposure == 0
    assert np.quantile(value_map(raised), 0.99) == pytest.approx(7, abs=0.3)
    assert "trust masses" in " ".join(condition_sentences(under))
    pale = np.clip(150 + light.astype(float) * 0.4, 0, 255).astype(np.uint8)
    over = condition(pale)
    assert over.exposure < 0
    assert "Lower the middle" in " ".join(condition_sentences(over))


def test_what_has_run_out_is_told_by_its_place() -> None:
    burnt = lit_by(photo("maren"), (2.2, 2.2, 2.2))
    found = condition(burnt)
    assert found.light_share > 0.02
    assert found.lost
    assert all(one.light for one in found.lost)
    assert found.lost[0].share >= found.lost[-1].share >= 0.05
    said = condition_sentences(found)[-1]
    assert found.lost[0].place in said
    assert "run into white" in said
    assert "no correction brings back" in said
    black = condition(correct(photo("maren"), PictureTone(black=3.0)))
    assert black.dark_share > 0.05
    assert not black.lost[0].light
    assert "colour from shadows" in condition_sentences(black)[-1]
