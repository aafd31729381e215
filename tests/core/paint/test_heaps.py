"""Heaps: few of them, every colour within reach of them, and a plan that is painted from them."""

from __future__ import annotations

import re
from dataclasses import replace
from itertools import combinations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.conftest import study_of
from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Layer
from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.value import lab_value
from truesitter.core.pace.waiting import drying_minutes
from truesitter.core.paint.board.heaps import HEAP_TOLERANCE, Mix, Use, shared_heaps
from truesitter.core.paint.board.tuning import HEAP_RATIO
from truesitter.core.paint.media.supports import WHITE_PAPER
from truesitter.core.paint.media.thickness import DryMm
from truesitter.core.paint.recipes.ingredients import MARK, straight
from truesitter.core.paint.recipes.mixing import Colour, mix
from truesitter.core.paint.recipes.pricing import Tolerance
from truesitter.core.paint.tubes.palettes import STARTERS
from truesitter.core.paint.tubes.rack import LIBRARY
from truesitter.core.plan.heaps import as_dark_as, remade, thinned_by, with_amounts
from truesitter.core.plan.pass_plan import PassPlan
from truesitter.core.school.library import SCHOOLS
from truesitter.core.settings import StudySettings
from truesitter.core.stages import Study

GROUND = WHITE_PAPER.internal()
FOUR, CLEAR = STARTERS[0], STARTERS[4]
PARTS = st.dictionaries(st.sampled_from(FOUR.tubes), st.integers(1, 12), min_size=1, max_size=4)
ROW = st.lists(PARTS, min_size=1, max_size=7)


def thick(parts: dict[str, int]) -> Colour:
    return mix({k: float(n) for k, n in parts.items()}, FOUR)


def taken(one: Mix, heaps: tuple[dict[str, int], ...]) -> dict[str, int]:
    named = {f"{MARK}{h}": n for h, n in one.heaps.items()} | one.tubes
    return straight(named, {str(h): parts for h, parts in enumerate(heaps)})


def off(made: Colour, wanted: Colour) -> tuple[float, float]:
    labs = np.array(made.lab), np.array(wanted.lab)
    return float(delta_e_2000(*labs)), float(lab_value(labs[0]) - lab_value(labs[1]))


@settings(max_examples=60, deadline=None)
@given(ROW)
def test_every_colour_is_one_heap_two_or_one_with_a_tube_and_near_to_its_parts(
    row: list[dict[str, int]],
) -> None:
    found = shared_heaps([Use(parts, None, 1.0) for parts in row], LIBRARY, GROUND)
    assert len(found.mixes) == len(row)
    for parts, one in zip(row, found.mixes, strict=True):
        members = [*one.heaps.values(), *one.tubes.values()]
        assert 1 <= len(members) <= 2
        assert all(1 <= n <= HEAP_RATIO for n in members)
        assert one.heaps or len(one.tubes) == 1
        delta_e, error = off(thick(taken(one, found.heaps)), thick(parts))
        assert delta_e <= HEAP_TOLERANCE.delta_e + 1e-6
        assert abs(error) <= HEAP_TOLERANCE.value + 1e-6
        shift = np.array(thick(taken(one, found.heaps)).lab) - np.array(thick(parts).lab)
        np.testing.assert_allclose(one.shift, shift, atol=0.02)


@settings(max_examples=25, deadline=None)
@given(ROW)
def test_no_fewer_heaps_would_do(row: list[dict[str, int]]) -> None:
    """Two fewer of the colours themselves leave one out of reach; a greedy cover may miss by one."""

    def reaches(heaps: tuple[dict[str, int], ...]) -> bool:
        choices = [{"parts": h} for h in heaps]
        tubes = sorted({k for parts in row for k in parts})
        made = [straight(c["parts"], {}) for c in choices] + [{k: 1} for k in tubes]
        for a, b in combinations(range(len(choices) + len(tubes)), 2):
            if a < len(choices):
                one, other = made[a], made[b]
                for m in range(1, HEAP_RATIO + 1):
                    for n in range(1, HEAP_RATIO + 1):
                        made.append(straight({"@a": m, "@b": n}, {"a": one, "b": other}))
        colours = [np.array(thick(parts).lab) for parts in made]
        for parts in row:
            wanted = np.array(thick(parts).lab)
            near = delta_e_2000(np.array(colours), wanted) <= HEAP_TOLERANCE.delta_e
            level = np.abs(lab_value(np.array(colours)) - lab_value(wanted)) <= HEAP_TOLERANCE.value
            if not (near & level).any():
                return False
        return True

    found = len(shared_heaps([Use(parts, None, 1.0) for parts in row], LIBRARY, GROUND).heaps)
    if found >= 3:
        unlike = [dict(t) for t in {tuple(sorted(p.items())) for p in row}]
        assert not any(reaches(some) for some in combinations(unlike, found - 2))


def test_a_wash_is_the_same_heap_thinned_otherwise() -> None:
    parts = {"yellow-ochre": 2, "light-red": 1}
    rack = LIBRARY.for_washes()
    found = shared_heaps([Use(parts, 0.004, 1.0), Use(parts, 0.001, 1.0)], rack, GROUND)
    assert found.heaps == (parts,)
    assert [m.strength for m in found.mixes] == pytest.approx([1, 1])
    # Twice the black takes about as much light away in less paint.
    more = {"yellow-ochre": 10, "ivory-black": 1}
    less = {"yellow-ochre": 11, "ivory-black": 1}
    two = shared_heaps([Use(more, 0.004, 2.0), Use(less, 0.004, 1.0)], rack, GROUND)
    assert two.heaps == (more,)
    assert 1 > two.mixes[1].strength > 0.8


def test_forced_mixtures_are_heaps_and_wider_tolerance_needs_no_more() -> None:
    row = [{"titanium-white": n, "light-red": 2, "yellow-ochre": 3} for n in (1, 4, 9, 20)]
    forced = {"ivory-black": 1, "light-red": 1}
    found = shared_heaps([Use(p, None, 1.0) for p in row], LIBRARY, GROUND, (forced,))
    assert found.heaps[0] == forced
    counts = [
        len(shared_heaps([Use(p, None, 1.0, Tolerance(t, t / 16)) for p in row], LIBRARY, GROUND).heaps)
        for t in (0.2, 1.0, 4.0, 12.0)
    ]
    assert counts == sorted(counts, reverse=True)
    assert counts[0] > counts[-1]
    assert shared_heaps([], LIBRARY, GROUND).mixes == ()


def planned(name: str, school: str, own: tuple[dict[str, int], ...] = (), **flesh: object) -> PassPlan:
    base = study_of(name)
    chosen = base.settings.model_dump()
    heaps = [{"name": f"own {n}", "parts": parts} for n, parts in enumerate(own)]
    chosen["passes"] |= {"school": school, "own_heaps": heaps}
    chosen["flesh"] |= flesh
    study = Study(base.sha256, base.source.load, StudySettings.model_validate(chosen), base.source.memo)
    return study.passes.plan()


CASES = [("maren", "layered-oil"), ("tobias", "watercolour-zones"), ("selda", "airbrush")]


@pytest.mark.parametrize(("name", "school"), CASES)
def test_a_plan_is_painted_from_its_heaps(name: str, school: str) -> None:
    plan = planned(name, school)
    known = {h.key: h.parts for h in plan.heaps}
    assert 2 <= len(plan.heaps) <= 8
    assert len(known) == len(plan.heaps)
    assert len({h.name for h in plan.heaps}) == len(plan.heaps)
    spent = dict.fromkeys(known, 0.0)
    for number, one in enumerate(plan.passes):
        if not one.mix:
            assert one.does in ("ground", "remove") or not one.recipe.parts
            continue
        assert len(one.mix) <= 2
        assert one.tubes == straight(one.mix, known)
        layers = [o for o in one.operations if isinstance(o, Layer)]
        if one.tones:
            assert one.tones[0].parts == one.tubes, "the others are it with a touch of one tube"
            assert [layer.parts for layer in layers] == [tone.parts for tone in one.tones]
        else:
            dropped = [charge.parts for charge in one.charges]
            assert [layer.parts for layer in layers] == [one.tubes] * (len(layers) - len(dropped)) + dropped
        own = one.ml - sum(charge.ml for charge in one.charges)
        for taken, ml in ((one.mix, own), *((charge.mix, charge.ml) for charge in one.charges)):
            for key, n in taken.items():
                if key.startswith(MARK):
                    spent[key[1:]] += ml * n / sum(taken.values())
                    (heap,) = (h for h in plan.heaps if h.key == key[1:])
                    assert number in heap.passes
        if len(layers) == 1 and layers[0].fades and len(one.thinned) == 1:
            # A line takes no thicker film than it is wide.
            thinning = replace(plan.medium.thinning, film=one.film)
            film = DryMm(float(layers[0].film_mm or 0) / one.coats)
            assert one.thinned[0].dilution == thinning.dilution(film)
    for heap in plan.heaps:
        assert heap.ml == pytest.approx(spent[heap.key], rel=1e-6)
    canvas = plan.bare
    for one, after in zip(plan.passes, plan.canvases, strict=True):
        canvas = canvas if one.into_wet else canvas.dried()
        for operation in one.operations:
            canvas = canvas.do(operation)
        np.testing.assert_allclose(canvas.labs(), after.labs())


@pytest.mark.parametrize(("name", "school"), CASES)
def test_heaps_cost_the_picture_next_to_nothing(name: str, school: str) -> None:
    exact = planned(name, school, recipes="exact")
    assert exact.heaps == ()
    assert not any(p.mix for p in exact.passes)
    assert planned(name, school).passes[-1].value_error <= exact.passes[-1].value_error + 0.06


def test_what_is_really_taken_decides_how_long_it_dries() -> None:
    six, rack = STARTERS[1], LIBRARY
    plan = planned("maren", "layered-oil", palette=six.key, tubes=six.tubes)
    base = {t.key: t.dries_minutes for t in SCHOOLS["layered-oil"].passes}
    assert any(one.taken_from != one.recipe.parts for one in plan.passes)
    for one in plan.passes:
        minutes = next((m for key, m in base.items() if re.fullmatch(rf"{key}(-\d+)?", one.key)), None)
        if minutes is not None:
            assert one.dries_minutes == drying_minutes(minutes, one.taken_from, plan.medium, rack)


def test_of_a_row_of_tints_the_one_that_makes_the_others_is_the_heap() -> None:
    """Each is the strong one with up to six of white; none of the others makes the strong one."""
    strong = {"light-red": 3, "yellow-ochre": 2}
    tints = [{**strong, "titanium-white": 5 * n} for n in (1, 2, 3, 4, 5, 6)]
    for row in ([strong, *tints], [*tints, strong]):
        found = shared_heaps([Use(p, None, 1.0) for p in row], LIBRARY, GROUND)
        assert len(found.heaps) == 1
    apart = shared_heaps(
        [Use(p, None, 1.0) for p in (strong, {"ivory-black": 1, "yellow-ochre": 6})], LIBRARY, GROUND
    )
    assert len(apart.heaps) == 2


def test_a_wash_is_thinned_until_its_place_is_as_dark_as_planned() -> None:
    """A tenth too much paint below is made good by more water above, and the other way."""
    plan = planned("maren", "watercolour-zones", recipes="exact")
    number = next(n for n, p in enumerate(plan.passes) if p.key.startswith("hair-") and n > 0)
    wash, before = plan.passes[number], plan.bare
    for one in plan.passes[:number]:
        for operation in one.operations:
            before = before.do(operation)
    (layer,) = (o for o in wash.operations if isinstance(o, Layer))
    sizes = before.patchwork.sizes[layer.pieces]

    def value(canvas: Canvas) -> float:
        return float(np.average(canvas.piece_values()[layer.pieces], weights=sizes))

    thinning, after = plan.medium.thinning, plan.canvases[number]
    for strength in (0.7, 1.3):
        other = thinned_by(wash, strength, thinning)
        (off,) = (o for o in other.operations if isinstance(o, Layer))
        # As much paint as the whole parts of thinner leave of it.
        film = float(off.film_mm or 0) / float(layer.film_mm or 1)
        assert other.ml / wash.ml == pytest.approx(film, rel=0.01)
        again = remade(other, wash, before, after, thinning, clear=True)
        (laid,) = (o for o in again.operations if isinstance(o, Layer))
        wanted, now = value(after), value(before.do(laid))
        assert abs(now - wanted) < 0.4 * abs(value(before.do(off)) - wanted)
        assert again.thinned != other.thinned
        assert (again.ml > other.ml) == (strength < 1)
        # What is told of its colour is what the canvas shows of it.
        moved = np.average((before.do(laid).labs() - after.labs())[layer.pieces], axis=0, weights=sizes)
        told = np.array(again.recipe.predicted.lab) - wash.recipe.predicted.lab
        np.testing.assert_allclose(told, moved, atol=1e-6)
        assert remade(other, wash, before, after, None, clear=True).thinned == other.thinned
    # In other tubes it ends in another colour, and is told in that.
    redder = replace(wash, operations=(replace(layer, parts={**layer.parts, "light-red": 40}),))
    told = remade(redder, wash, before, after, None, clear=False).recipe.predicted
    (laid,) = (o for o in redder.operations if isinstance(o, Layer))
    moved = np.average((before.do(laid).labs() - after.labs())[layer.pieces], axis=0, weights=sizes)
    assert np.abs(moved).max() > 1
    np.testing.assert_allclose(np.array(told.lab) - wash.recipe.predicted.lab, moved, atol=1e-6)
    ground = plan.passes[-1]
    assert as_dark_as(ground, before, plan.canvases[-1], thinning) is ground


def test_a_wash_that_would_veil_what_is_dark_is_kept_off_it() -> None:
    """Chalky paint lightens black: on half of its place nothing is laid, on all of it the planned wash is."""
    plan = planned("maren", "watercolour-zones", recipes="exact")
    wash = next(p for p in plan.passes if p.key.startswith("hair-"))
    (layer,) = (o for o in wash.operations if isinstance(o, Layer))
    halves = np.flatnonzero(layer.pieces)
    dark = np.zeros_like(layer.pieces)
    dark[halves[: len(halves) // 2]] = True
    black = Layer(dark, {"ivory-black": 1}, None)
    chalk = replace(layer, parts={"titanium-white": 1})
    veil = replace(wash, operations=(chalk,))
    kept = remade(veil, wash, plan.bare.do(black), plan.bare.do(black).do(chalk), None, clear=True)
    assert not (kept.pieces & dark).any()
    sizes = plan.bare.patchwork.sizes
    part = sizes[kept.pieces].sum() / sizes[wash.pieces].sum()
    assert (kept.area_cm2 / wash.area_cm2, kept.ml / wash.ml) == pytest.approx((part, part))
    everywhere = plan.bare.do(replace(black, pieces=np.ones_like(dark)))
    assert remade(veil, wash, everywhere, everywhere, None, clear=True) is wash
    assert remade(veil, wash, everywhere, everywhere.do(chalk), None, clear=False).pieces.any()


def test_what_nobody_takes_of_is_no_heap_of_the_plan() -> None:
    plan = planned("maren", "layered-oil")
    some = plan.heaps[0]
    idle = replace(some, key="idle")
    found = with_amounts((idle, *plan.heaps), plan.passes)
    assert [h.key for h in found] == [h.key for h in plan.heaps]
    assert [h.ml for h in found] == sorted((h.ml for h in found), reverse=True)
    few = with_amounts(plan.heaps, plan.passes[:3])
    assert all(max(h.passes) < 3 for h in few)


def test_water_brings_a_wash_to_its_value() -> None:
    """Whole parts leave a mixture too strong or too weak; how much it is thinned makes that good."""
    laid = planned("tobias", "watercolour-zones", recipes="exact").passes
    # Light hairs are drawn in body colour, which no water makes lighter.
    washes = [p for p in laid if p.does == "wash" and not (p.hair and p.hair.role == "light hairs")]
    assert len(washes) > 8
    off = np.abs([p.recipe.value_error for p in washes])
    assert np.median(off) <= 0.035
    assert off.max() <= 0.25
    for one in washes:
        assert one.recipe.film_mm is not None
        assert one.thinned[0].dilution == one.recipe.dilution


def with_heap(parts: dict[str, int], name: str = "my grey") -> PassPlan:
    base = study_of("maren")
    chosen = base.settings.model_dump()
    chosen["passes"] |= {"school": "layered-oil", "own_heaps": [{"name": name, "parts": parts}]}
    study = Study(base.sha256, base.source.load, StudySettings.model_validate(chosen), base.source.memo)
    return study.passes.plan()


def test_a_mixture_of_the_painters_own_is_a_heap_by_its_name() -> None:
    plain = planned("maren", "layered-oil")
    largest = plain.heaps[0].parts
    # A little otherwise than the plan would mix it.
    own = {k: 3 * n + (n == max(largest.values())) for k, n in largest.items()}
    plan = with_heap(own)
    (mine,) = (h for h in plan.heaps if h.name == "my grey")
    assert mine.parts == own
    assert mine.passes
    assert len(plan.heaps) <= len(plain.heaps) + 1
    assert not any("my grey" in r.name for r in plan.remarks)


def test_of_a_heap_that_no_pass_can_take_of_it_is_told() -> None:
    green = with_heap({"yellow-ochre": 9, "ivory-black": 1}, "sap")
    told = [r for r in green.remarks if "sap" in r.name]
    assert bool(told) != any(h.name == "sap" for h in green.heaps)
    # Of tubes that are not set out nothing is mixed.
    away = with_heap({"phthalo-blue": 1}, "sea")
    assert any("sea" in r.name for r in away.remarks)
    assert not any(h.name == "sea" for h in away.heaps)
    heaps = planned("maren", "layered-oil").heaps
    reddish = next(h.parts for h in heaps if "light-red" in h.parts)
    foreign = {("venetian-red" if k == "light-red" else k): n for k, n in reddish.items()}
    assert not any(h.name == "rust" for h in with_heap(foreign, "rust").heaps)


def test_white_priming_is_bought_and_a_toned_ground_is_mixed() -> None:
    tempera, oil = planned("maren", "tempera").passes[0], planned("maren", "layered-oil").passes[0]
    assert tempera.does == oil.does == "ground"
    assert tempera.recipe.parts == {}
    assert tempera.ml == 0
    assert "primed" in tempera.note
    assert oil.recipe.parts
    assert tempera.recipe.predicted.value > 9
