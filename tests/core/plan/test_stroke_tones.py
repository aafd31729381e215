"""Strokes of hair vary round the mixture of their layer, each as the reference under it asks."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from tests.core.plan.test_hair_in_schools import hair_of, study_in
from truesitter.core.canvas.drawn.painted_lines import piece_cover
from truesitter.core.canvas.layer import Layer
from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.plan.pass_plan import Pass
from truesitter.core.plan.planner import plan_passes
from truesitter.core.plan.tuning import TONE_APART, TONE_STEPS
from truesitter.core.school.library import SCHOOLS
from truesitter.core.stages import Study
from truesitter.formats.documents.plan_passes import passes_of, plan_cautions


def varied(name: str, school: str) -> tuple[Study, list[Pass]]:
    study = study_in(name, school)
    found = [one for one in hair_of(study.passes.plan()) if one.tones]
    assert found
    return study, found


@pytest.mark.parametrize(("name", "school"), [
    ("maren", "direct-oil"), ("tobias", "tempera"), ("selda", "watercolour-zones"),
])  # fmt: skip
def test_every_tone_is_a_touch_of_one_tube_away(name: str, school: str) -> None:
    """Near mixtures come of one heap by small additions (common practice), and are seen beside it."""
    study, found = varied(name, school)
    most = study.settings.flesh.most_tubes
    tubes = set(study.flesh.palette().tubes)
    for one in found:
        own, *others = one.tones
        assert own.parts == one.taken_from
        assert not own.added
        assert sum(tone.strokes for tone in one.tones) == len(one.lines)
        drawn = [o for o in one.operations if isinstance(o, Layer)]
        assert [len(o.lines) for o in drawn] == [tone.strokes for tone in one.tones]
        assert [o.parts for o in drawn] == [tone.parts for tone in one.tones]
        assert sum(part for _, part in one.portions) == pytest.approx(1)
        for tone in others:
            ((tube, parts),) = tone.added.items()
            assert parts == 1
            assert tube in tubes
            assert len(tone.parts) <= max(most, len(own.parts))
            whole, rest = sum(tone.parts.values()), dict(tone.parts)
            rest[tube] -= sum(own.parts.values())
            assert {k: n for k, n in rest.items() if n} == {k: n * tone.base for k, n in own.parts.items()}
            assert whole == (tone.base + 1) * sum(own.parts.values())
            apart = float(delta_e_2000(np.array(tone.predicted.lab), np.array(own.predicted.lab)))
            assert TONE_APART[0] - 1e-6 <= apart <= TONE_APART[1] + 1e-6
            assert abs(tone.predicted.value - own.predicted.value) <= TONE_STEPS + 1e-6


@pytest.mark.parametrize(("name", "school"), [("maren", "direct-oil"), ("tobias", "layered-oil")])
def test_lighter_strokes_lie_where_the_hair_is_lighter(name: str, school: str) -> None:
    """Under the strokes of the lightest mixture the photograph is lighter than under those of the darkest."""
    study, found = varied(name, school)
    lab = study.passes.subject().lab
    height, width = lab.shape[:2]

    def under(layer: Layer) -> float:
        points = np.concatenate([line.points for line in layer.lines]) * (width, height)
        columns, rows = np.clip(points.astype(int), 0, (width - 1, height - 1)).T
        return float(lab[rows, columns, 0].mean())

    for one in found:
        drawn = {tone.predicted.value: o for tone, o in zip(one.tones, one.operations, strict=True)}
        lightest, darkest = drawn[max(drawn)], drawn[min(drawn)]
        assert isinstance(lightest, Layer)
        assert isinstance(darkest, Layer)
        assert under(lightest) > under(darkest) + 1.0


def test_greys_vary_in_greys() -> None:
    _, found = varied("tobias", "monochrome-first")
    for one in found:
        own = np.array(one.tones[0].predicted.lab)
        for tone in one.tones[1:]:
            assert float(np.hypot(*(np.array(tone.predicted.lab) - own)[1:])) <= 1.5


def test_strokes_follow_the_hue_of_the_hair_under_them() -> None:
    """One half of the head made warmer: the warmer mixtures of each layer lie in that half."""
    study = study_in("maren", "direct-oil")
    subject = study.passes.subject()
    lab, whole = subject.lab.copy(), subject.hair[0].whole
    middle = float(np.nonzero(whole)[1].mean())
    half = whole & (np.arange(whole.shape[1]) < middle)
    lab[half, 2] += 14
    plan = plan_passes(replace(subject, lab=lab), study.flesh.palette(), SCHOOLS["direct-oil"])
    found = [one for one in hair_of(plan) if one.tones]
    told = 0
    for one in found:
        warmth = [tone.predicted.lab[2] for tone in one.tones]
        if max(warmth) - min(warmth) < 2:
            continue
        ends = [one.operations[int(at(warmth))] for at in (np.argmax, np.argmin)]
        warm, cool = (
            float(np.mean([line.points[:, 0].mean() for line in o.lines])) * whole.shape[1] for o in ends
        )
        assert warm < cool
        told += 1
    assert told


def test_a_tube_touched_in_is_counted_in_the_kit() -> None:
    study, found = varied("maren", "direct-oil")
    kit = {tube.key: tube.ml for tube in study.passes.kit(study.settings.values.group_names()).tubes}
    plan = study.passes.plan()
    assert sum(kit.values()) == pytest.approx(sum(p.ml for p in plan.passes if p.recipe.parts), rel=0.02)
    assert {key for one in found for tone in one.tones for key in tone.parts} <= set(kit)


def test_strokes_parted_in_tones_cover_what_they_covered_as_one() -> None:
    """They lie side by side: sets of them laid one after the other hide no more and no less of each piece."""
    study, found = varied("maren", "direct-oil")
    plan, subject = study.passes.plan(), study.passes.subject()
    for one in found:
        covers = [o.cover for o in one.operations if isinstance(o, Layer) and o.cover is not None]
        whole = piece_cover(one.lines, plan.bare.patchwork, subject.mm_per_px)
        together = 1 - np.prod([1 - cover for cover in covers], axis=0)
        np.testing.assert_allclose(together, whole, atol=0.02)


def test_a_tube_only_touched_in_has_its_caution(monkeypatch: pytest.MonkeyPatch) -> None:
    study, found = varied("maren", "direct-oil")
    plan = study.passes.plan()
    told = [p for p in passes_of(study)[0] if p.key == found[0].key]
    other = "cadmium-red-light"
    touched = replace(found[0].tones[1], parts={**found[0].tones[0].parts, other: 1})
    changed = replace(found[0], tones=(found[0].tones[0], touched))
    passes = tuple(changed if p is found[0] else p for p in plan.passes)
    plain = plan_cautions(study, told)
    monkeypatch.setattr(study.passes, "plan", lambda: replace(plan, passes=passes))
    assert len(plan_cautions(study, told)) == len(plain) + 1
