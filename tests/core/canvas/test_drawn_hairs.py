"""Moustache lines, a second thin coat, and borders that are sprayed."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from tests.conftest import study_of
from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.drawn.hair_lines import moustache
from truesitter.core.canvas.drawn.tuning import A_SIDE
from truesitter.core.canvas.layer import Layer
from truesitter.core.canvas.patchwork import Patchwork
from truesitter.core.paint.media.dilution import Dilution
from truesitter.core.paint.media.media_table import MEDIA
from truesitter.core.paint.media.supports import SUPPORTS
from truesitter.core.paint.media.thickness import DryMm, WetMm
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.paint.tubes.palettes import STARTERS
from truesitter.core.plan.kinds.again_pass import AGAIN
from truesitter.core.plan.laying import Laid, Scene, Step
from truesitter.core.plan.pass_plan import Thinned
from truesitter.core.plan.subject import Subject
from truesitter.core.sitter.region_names import Region

SIZE = (320.0, 400.0)


def test_the_lines_of_a_moustache() -> None:
    """Up to three a side, outward, widest in the middle, the dark ones lower; sides never mirrored."""
    study = study_of("tobias")
    face, sets = study.sitter.face, study.lines.lines()["moustache-lines"]
    assert face is not None
    middle, dark = sets[0].lines, sets[1].lines
    centre = face.at(2, 14)[0]
    for side in (-1, 1):
        own = [line for line in middle if (line.points[:, 0].mean() - centre) * side > 0]
        assert 1 <= len(own) <= A_SIDE
        for line in own:
            assert (line.points[-1, 0] - line.points[0, 0]) * side > 0, "outward"
            assert line.widths_mm.argmax() == pytest.approx(len(line.points) / 2, abs=1)
    assert np.mean([p.points[:, 1].mean() for p in dark]) > np.mean([p.points[:, 1].mean() for p in middle])
    assert max(p.widths_mm.max() for p in dark) < max(p.widths_mm.max() for p in middle)
    lengths = sorted(float(np.ptp(line.points[:, 0])) for line in middle)
    assert len(set(np.round(lengths, 4))) > len(lengths) / 2
    assert all(face.nose_base_row - 0.03 < line.points[:, 1].mean() < face.mouth_row for line in middle)
    tones = [s.tone for s in sets]
    value = study.picture.value()[::2, ::2]
    assert tones[0] is not None
    assert tones[1] is not None
    assert value[tones[1]].mean() < value[tones[0]].mean()
    assert "moustache-lines" not in study_of("maren").lines.lines()
    directed = np.dstack([np.ones((90, 72)), np.zeros((90, 72))]).astype(np.float32)
    assert moustache(directed, np.zeros((90, 72), bool), face, SIZE) == ((), ())


def test_a_second_coat_only_where_one_is_not_enough() -> None:
    """The same parts and dilution; every piece it lies on comes nearer, and gets darker."""
    labels = np.repeat(np.arange(3, dtype=np.uint8), 40)[None].repeat(60, axis=0)
    patchwork = Patchwork.of(labels.shape, labels)
    pieces = np.ones(3, bool)
    parts, palette = {"burnt-sienna": 1}, next(p for p in STARTERS if p.key == "warm-cool-six")
    layer = Layer(pieces, parts, DryMm(0.0004), fades=True)
    bare = Canvas.bare(patchwork)
    once, twice = (c.labs() for c in (bare.do(layer), bare.do(layer).do(layer)))
    # The first piece wants one coat, the second two, the third none.
    wanted = np.stack([once[0], twice[1], bare.labs()[2]])
    lab = wanted[labels].astype(np.float32)
    subject = Subject(labels, labels, labels, lab, lab[..., 0] / 10, 1.0)
    scene = Scene(
        subject, patchwork, palette, palette, palette, Wishes(), MEDIA["oil"], SUPPORTS["primed canvas"],
        (90, 0, 0), lab,
    )  # fmt: skip
    recipe = Recipe.of_parts(parts, (50, 0, 0), palette, None)
    last = Laid(recipe, (layer,), pieces, WetMm(0.01), 0.001, (Thinned(Dilution(1, 5, False)),))
    step = Step(pieces, None, (Region.SKIN,), WetMm(0.01), last=last)
    canvas = bare.do(layer)
    again = AGAIN.lay(scene, step, canvas)
    assert isinstance(again, Laid)
    assert again.pieces.tolist() == [False, True, False]
    assert again.recipe.parts == parts
    assert again.thinned == last.thinned
    assert again.recipe.delta_e < 0.01
    done = canvas
    for operation in again.operations:
        done = done.do(operation)
    np.testing.assert_allclose(done.labs()[1], twice[1], atol=1e-6)
    assert done.piece_values()[1] < canvas.piece_values()[1] - 0.1
    assert "darkens" in again.said
    enough = AGAIN.lay(scene, replace(step, pieces=np.array([True, False, True])), canvas)
    assert enough == "one coat is enough everywhere."
    assert AGAIN.lay(scene, replace(step, last=None), canvas) == "no thin coat lies under it."


def test_only_the_coat_before_is_laid_again() -> None:
    """Where the glaze is left out there is no second coat of the underpainting either."""
    for name in ("maren", "tobias", "orsolya", "selda"):
        keys = [p.key for p in study_of(name).passes.plan().passes]
        if "glaze-again" in keys:
            assert keys[keys.index("glaze-again") - 1] == "glaze"
