"""The hair as each school paints it: tones, films, tools, and how near it comes."""

from __future__ import annotations

from functools import cache

import numpy as np
import pytest

from tests.conftest import study_of
from truesitter.core.brushes.line_tools import line_tool
from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.drawn.painted_lines import line_length_mm, piece_cover
from truesitter.core.canvas.layer import Layer, Removal
from truesitter.core.canvas.painted import Painting, paint
from truesitter.core.canvas.painted_borders import even_borders
from truesitter.core.canvas.patchwork import Patchwork
from truesitter.core.colour.value import lab_value
from truesitter.core.imaging.line import Line
from truesitter.core.paint.media.thickness import DryMm
from truesitter.core.plan.painted_hair import hair_numbers
from truesitter.core.plan.pass_plan import Pass, PassPlan
from truesitter.core.school.library import SCHOOLS
from truesitter.core.settings import StudySettings
from truesitter.core.stages import Study

OPAQUE = [key for key, one in SCHOOLS.items() if not one.transparent]
CLEAR = [key for key, one in SCHOOLS.items() if one.transparent]


@cache
def study_in(name: str, school: str, size: str = "portrait", way: str | None = None) -> Study:
    base = study_of(name)
    chosen = base.settings.model_dump()
    chosen["passes"] |= {"school": school, "size": size}
    chosen["hair"] |= {"way": way}
    if SCHOOLS[school].transparent:
        chosen["flesh"]["medium"] = SCHOOLS[school].media[0]
    return Study(base.sha256, base.source.load, StudySettings.model_validate(chosen), base.source.memo)


def hair_of(plan: PassPlan) -> list[Pass]:
    return [plan.passes[n] for n in hair_numbers(plan)]


@pytest.mark.parametrize("school", [*OPAQUE, *CLEAR])
@pytest.mark.parametrize("name", ["maren", "tobias", "selda"])
def test_painted_hair_is_as_near_as_the_reference_asks(name: str, school: str) -> None:
    """Squinted, in the palette's reach: ≤ 0.30 steps in opaque paint (reached 0.14–0.28), ≤ 0.35 in water and
    spray (reached 0.08–0.24), and in greys whose darks no glaze may come over (0.22–0.33).
    """
    errors = study_in(name, school).passes.hair_errors()
    assert len(errors) >= 2
    assert errors[-1] <= (0.35 if school in CLEAR else 0.30)


@pytest.mark.parametrize("school", ["direct-oil", "watercolour-zones", "tempera"])
def test_masses_or_strands_change_the_plan_of_every_school(school: str) -> None:
    masses, strands = (study_in("orsolya", school, way=way).passes.plan() for way in ("masses", "strands"))
    few, many = (sum(len(p.lines) for p in hair_of(plan)) for plan in (masses, strands))
    assert many > 1.5 * few
    assert len(hair_of(strands)) > len(hair_of(masses))
    hours = [sum(p.work_minutes for p in hair_of(plan)) for plan in (masses, strands)]
    assert hours[1] > 1.35 * hours[0], "with what every pass takes by itself"


@pytest.mark.parametrize("school", [*OPAQUE, "watercolour-zones"])
def test_strokes_are_drawn_with_paint_that_can_make_them(school: str) -> None:
    """A film is no thicker than half its line is wide; the finer the line, the thinner the paint."""
    plan = study_in("orsolya", school, "every pass").passes.plan()
    found, medium = [p for p in hair_of(plan) if p.lines], plan.medium
    assert len(found) >= 2
    for one in (p for p in found if p.does != "remove"):
        widths = sorted(float(line.widths_mm.max()) for line in one.lines)
        assert one.film <= 0.5 * widths[len(widths) // 10] + 1e-6
        size = study_in("orsolya", school, "every pass").passes.subject().size_mm
        long = float(np.median([line_length_mm(line, size) for line in one.lines]))
        tool = line_tool(widths[len(widths) // 2], long)
        assert tool.name == "filbert" or one.thinned, "lines want paint that flows off the tip"
        layers = [o for o in one.operations if isinstance(o, Layer)]
        assert layers
        if one.does == "mass":
            left = one.thinned[0].dilution.left if one.thinned else 1.0
            for layer in layers:
                assert layer.film_mm == pytest.approx(medium.dry(one.film) * left), "what dries of it"
        if one.does == "mass" and one.thinned:
            assert (one.thinned[0].dilution.paint, one.thinned[0].dilution.thinner) == (
                tool.paint, tool.thinner,
            )  # fmt: skip
        if one.brush is not None and one.hair is not None and one.hair.role == "light hairs":
            assert one.brush.shape in ("liner", "round")


@pytest.mark.parametrize("school", CLEAR)
def test_no_light_hair_is_drawn_with_a_film_that_darkens(school: str) -> None:
    """Reserved, taken out or opaque: where a light hair lies nothing gets darker."""
    study = study_in("tobias", school, "every pass")
    plan, painted = study.passes.plan(), study.passes.painted()
    value = lab_value(painted.labs.astype(np.float64))
    lights = [n for n in hair_numbers(plan) if "light hairs" in str(plan.passes[n].hair.role)]  # type: ignore[union-attr]
    for number in lights:
        where = painted.changes[number].where
        before, after = (value[painted.stacks(n)].ravel()[where] for n in (number, number + 1))
        assert (after >= before - 0.1).mean() > 0.97
        assert after.mean() > before.mean() + 0.1
    if school == "airbrush":
        assert lights, "lines are taken out with the edge of an eraser or a needle"
        for number in lights:
            one = plan.passes[number]
            assert all(isinstance(o, Removal) and o.lines for o in one.operations)
            assert "eraser" in one.tool or "needle" in one.tool


@pytest.mark.parametrize("school", ["watercolour-zones"])
def test_every_layer_says_what_it_gains_and_those_of_nothing_are_left_out(school: str) -> None:
    """Selda's light hairs change nothing: her lightest tone is as light."""
    plan = study_in("selda", school, "every pass").passes.plan()
    for one in hair_of(plan):
        assert one.gain is not None
        assert one.gain.steps >= 0.01 or one.gain.colour >= 0.3, one.key
    assert [r.name for r in plan.remarks if "as near without it" in r.words] == ["Hair, light hairs"]
    assert not any(one.key.startswith("light-hairs") for one in plan.passes)


def test_greys_are_so_much_lighter_as_their_glaze_darkens() -> None:
    """Common practice. Glazed they come within a quarter of a step of the sitter."""
    study = study_in("maren", "monochrome-first", "every pass")
    plan = study.passes.plan()
    patchwork = plan.bare.patchwork
    subject = study.passes.subject()
    wanted = lab_value(patchwork.sums(subject.lab) / patchwork.sizes[:, None])
    glaze = next(n for n, p in enumerate(plan.passes) if p.key == "glaze-flesh")
    here = plan.passes[glaze].pieces
    sizes = patchwork.sizes[here]
    before, after = (
        float(np.average((plan.canvases[n].piece_values() - wanted)[here], weights=sizes))
        for n in (glaze - 1, glaze)
    )
    assert before > 0.1, "the greys are lighter than the sitter"
    assert abs(after) < 0.25
    assert abs(after) < before


def test_a_glaze_spares_what_it_would_bring_farther_off() -> None:
    plan = study_in("maren", "monochrome-first", "every pass").passes.plan()
    glaze = next(n for n, p in enumerate(plan.passes) if p.key == "glaze-hair")
    one = plan.passes[glaze]
    hair = np.any([p.pieces for p in hair_of(plan)], axis=0)
    assert (hair & ~one.pieces).any()
    values = plan.canvases[glaze - 1].piece_values()
    sizes = plan.bare.patchwork.sizes
    spared, glazed = (
        float(np.average(values[m], weights=sizes[m])) for m in (hair & ~one.pieces, one.pieces)
    )
    assert spared < glazed, "darks"
    # Value first: what is glazed is hardly farther off in value than before.
    subject, patchwork = (
        study_in("maren", "monochrome-first", "every pass").passes.subject(),
        plan.bare.patchwork,
    )
    wanted = lab_value(patchwork.sums(subject.lab) / patchwork.sizes[:, None])
    before, after = (np.abs(plan.canvases[n].piece_values() - wanted) for n in (glaze - 1, glaze))
    worse = one.pieces & (after > before + 0.35)
    assert sizes[worse].sum() < 0.03 * sizes[one.pieces].sum()
    assert "Spare" in one.note


def test_strokes_on_a_canvas_in_pieces_look_in_the_mean_as_they_do_when_painted() -> None:
    """Murray & Davies (1936): white strokes over black, half a place covered, against the drawn picture."""
    shape, mm = (120, 160), 1.0
    labels = np.zeros(shape, np.uint8)
    labels[20:100, 20:140] = 1
    patchwork = Patchwork.of(shape, labels)
    rows = np.arange(24, 98, 4.0)
    lines = tuple(
        Line(np.array([(22 / 160, r / 120), (138 / 160, r / 120)]), np.array([2.0, 2.0])) for r in rows
    )
    cover = piece_cover(lines, patchwork, mm)
    assert cover[1] == pytest.approx(len(rows) * 116 * 2 / (80 * 120), abs=0.02)
    black = Layer(np.ones(2, bool), {"ivory-black": 1}, None)
    strokes = Layer(np.array([False, True]), {"titanium-white": 1}, DryMm(0.2), lines=lines, cover=cover)
    canvas = Canvas.bare(patchwork).do(black).do(strokes)
    drawn = paint(even_borders(patchwork, 0, mm), [Painting((black,)), Painting((strokes,))])
    values = lab_value(drawn.labs.astype(np.float64))[drawn.stacks(2)]
    luminance = (values[labels == 1] / 10) ** 2.2
    seen = (canvas.piece_values()[1] / 10) ** 2.2
    assert seen == pytest.approx(float(luminance.mean()), rel=0.12)
    taken = canvas.do(Removal(np.array([False, True]), 0.0))
    assert taken.piece_values()[1] == pytest.approx(Canvas.bare(patchwork).piece_values()[1], abs=0.05)
