"""Photographs without colour: how they are known, and what stands in for hue."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from tests.conftest import study_of, truth
from truesitter.core.colour.spaces import picture_to_lab
from truesitter.core.sitter.segmentation.grey_looks import grey_looks, without_colour


def ramp(tint: tuple[float, float, float]) -> np.ndarray:
    """A sitter in every grey, tinted."""
    grey = np.linspace(10, 245, 200)[None, :, None].repeat(150, axis=0)
    return picture_to_lab(np.round(grey * np.array(tint)).astype(np.uint8))


@pytest.mark.parametrize("tint", [(1, 1, 1), (1.0, 0.85, 0.65), (0.8, 0.9, 1.0)])
def test_a_tinted_picture_has_no_colour(tint: tuple[float, float, float]) -> None:
    person = np.ones((75, 100), np.float32)
    assert without_colour(ramp(tint), person)
    two = ramp(tint)
    two[75:] = ramp((1.0, 0.6, 0.55))[75:]
    assert not without_colour(two, person), "two hues of one lightness are colour"
    assert not without_colour(ramp(tint), np.zeros((75, 100), np.float32)), "nobody, nothing known"


@pytest.mark.parametrize("name", ["maren", "tobias", "selda", "orsolya"])
def test_colour_photographs_are_known_as_such(name: str) -> None:
    guess = study_of(name).sitter.first_guess()
    assert not without_colour(guess.looks.fine, guess.person)


def test_hair_is_rougher_than_skin_by_texture_alone() -> None:
    guess = study_of("orsolya").sitter.first_guess()
    face = guess.detection.face
    assert face is not None
    grey = guess.looks.fine.copy()
    grey[..., 1:] = 0
    looks = grey_looks(replace(guess.looks, fine=grey), face)
    assert looks.features.shape == guess.looks.features.shape
    np.testing.assert_array_equal(looks.features[..., 0], guess.looks.features[..., 0])
    shape = guess.seeds.shape
    step = truth("orsolya").labels.shape[0] / shape[0]
    rows, columns = ((np.arange(n) * step + step / 2).astype(int) for n in shape)
    labels = truth("orsolya").labels[np.ix_(rows, columns)]
    for feature in (1, 2, 3):
        skin, hair = (np.median(looks.features[labels == kind][:, feature]) for kind in (1, 2))
        assert hair > skin + 1, "finer, more ridged, of less one way"
