"""The registry of results: equal keys mean equal results, and nothing is read undeclared."""

from __future__ import annotations

import random
import threading
from functools import cache
from typing import Any

import numpy as np
import pytest
import shapely

from tests.conftest import jpeg, made_head, truth
from truesitter.core.graph.memo import Memo
from truesitter.core.graph.results import (
    OWN_PACE,
    PHOTOGRAPH,
    Declaration,
    Result,
    Source,
    Watch,
    all_declared,
    declared,
)
from truesitter.core.pace.own_pace import Learned, Level, OwnPace
from truesitter.core.reference.decode import decode
from truesitter.core.settings import PaintingSettings, StudySettings
from truesitter.core.stages import Study
from truesitter.core.stages.flesh_stage import FAMILIES, SPLIT
from truesitter.core.usecases.batch import batch_of
from truesitter.devices.camera import Studio, photograph
from truesitter.formats.pictures.views import VIEWS


@cache
def photographed() -> bytes:
    """A photograph of a painting that is the small picture itself."""
    picture = decode(small("maren"))
    return jpeg(photograph(picture, Studio(seed=3, glare=0.0), 700).picture)


def painting_at(**more: Any) -> PaintingSettings:
    """How that photograph is read: its corners given, so that no change of the plan makes it unreadable."""
    shot = photograph(decode(small("maren")), Studio(seed=3, glare=0.0), 700)
    corners = [tuple(float(v) for v in corner) for corner in shot.corners]
    known = {"key": "0" * 12, "sha256": "0" * 64, "name": "", "taken_at": "2000-01-01", "corners": corners}
    return PaintingSettings.model_validate({**known, "refine": False, **more})


@cache
def on_the_easel() -> list[tuple[PaintingSettings]]:
    return [(painting_at(against="photograph"),), (painting_at(against="plan", after=1, wet=True),)]


EASEL = ("painting view", "painting", "comparison", "left to do", "plan again", "two paintings")
"""Results that take a photograph of the painting."""

ARGUMENTS = {
    "thumbnail": [(2,), (5,)],
    "string": [(family,) for family in FAMILIES],
    "colour families": [(family,) for family in SPLIT],
    "approach": [("portrait",), ("every pass",)],
    "hair layers": [(False, "portrait"), (True, "study")],
    "picture of painted hair": [(3,), (9,)],
    "painted without": [(1,), (3,)],
    "brush arrows": [(False,), (True,)],
    "brush directions": [(False,), (True,)],
    "polish": [("garment",), ("background",), ("skin in the light",)],
    "painting photograph": [("0" * 64,)],
    "colour sketch": [("as photographed", 3), ("greys and one accent", 5)],
    "remedies": [((60.0, 10.0, 20.0), (50.0, 10.0, 20.0), True, True)],
}
CHANGES: list[dict[str, dict[str, Any]]] = [
    {"reference": {"grid": "thirds", "grid_rows": 9}},
    {"reference": {"squint": 0.03}},
    {"reference": {"exposure": 0.5}},
    {"reference": {"zoom": 1.5}},
    {"reference": {"canvas_width_mm": 200, "canvas_height_mm": 250}},
    {"values": {"groups": 3}},
    {"values": {"mode": "even", "weigh_sitter": False}},
    {"values": {"mode": "own", "groups": 3, "cuts": [3, 6], "locked": [3]}},
    {"values": {"names": ["a", "b", "c", "d", "e"]}},
    {"values": {"smallest_mm": 8, "features_mm": 3}},
    {"values": {"joins": [{"x": 0.5, "y": 0.5, "group": 0}]}},
    {"regions": {"scribbles": [{"region": "hair", "points": [(0.5, 0.2), (0.6, 0.3)]}]}},
    {"flesh": {"most_tubes": 2, "black": False}},
    {"flesh": {"must": ["light-red"], "without": ["ivory-black"]}},
    {"flesh": {"clip": True, "monochrome": True, "tones": 3}},
    {"flesh": {"medium": "gouache", "film_mm": 0.3, "coats": 3, "loss": 0.4}},
    {
        "flesh": {"palette": "watercolour-three", "tubes": ["arylide-yellow"], "transparent": True},
        "passes": {"school": "watercolour-zones"},
    },
    {"flesh": {"pins": [{"name": "a", "target_lab": [50, 0, 0], "parts": {"yellow-ochre": 1}}]}},
    {"light": {"squint": 0.02, "zone_1_reach": 0.1}},
    {
        "light": {
            "key": (0.5, -0.2, 0.6),
            "peaks": [(0.4, 0.4)],
            "limits": [{"points": [(0.2, 0.2), (0.8, 0.2), (0.5, 0.9)]}],
        },
        "regions": {"names": [{"name": "shoulder", "x": 0.3, "y": 0.8}]},
    },
    {"hair": {"spacing_mm": 12}},
    {"hair": {"guides": [{"points": [(0.4, 0.2), (0.6, 0.25)]}]}},
    {"hair": {"whorls": [{"x": 0.5, "y": 0.15}], "partings": [{"points": [(0.5, 0.1), (0.5, 0.2)]}]}},
    {"hair": {"lock_mm": 20, "lock_strokes": [{"does": "join", "points": [(0.3, 0.3), (0.4, 0.5)]}]}},
    {"hair": {"type": "coily", "way": "strands", "layers": 6, "early_lights": True, "glaze": "in turn"}},
    {"hair": {"hours": 40, "hand": "left"}},
    {"passes": {"school": "watercolour-zones", "background": "first", "order": "by section"}},
    {"passes": {"ground": "auto", "backdrop": "counter", "backdrop_hue": "neutral"}},
    {"passes": {"ground": "own", "ground_lab": (60, 5, 20), "lost": [{"points": [(0.3, 0.3), (0.4, 0.5)]}]}},
    {"passes": {"exactness": "copy", "temperature": 10, "humidity": 80, "hair": "early", "lights": "early"}},
    {"passes": {"focus": [{"x": 0.4, "y": 0.4}, {"x": 0.6, "y": 0.8, "depth": "far"}]}},
    {"passes": {"sitting_hours": 5, "rest_days": 2, "softening": "at once", "shadows": "violet"}},
]


PLANS = (
    "passes", "paced passes", "painted borders", "painted", "painted without", "seams", "sittings",
    "plan again",
)  # fmt: skip


def small(name: str) -> bytes:
    import cv2

    picture = cv2.imdecode(np.frombuffer(truth(name).data, np.uint8), cv2.IMREAD_REDUCED_COLOR_4)
    return jpeg(np.ascontiguousarray(picture[..., ::-1]))


def results() -> dict[str, tuple[str, Result[Any, Any, Any]]]:
    """Every declared result: the stage it belongs to, and its descriptor."""
    study = Study.of_bytes(jpeg(made_head(96, 120)), StudySettings())
    found = {}
    for stage, owner in vars(study).items():
        for value in vars(type(owner)).values():
            if isinstance(value, Result):
                found[value.declaration.name] = (stage, value)
    return found


def ask(study: Study, name: str) -> list[Any]:
    stage, descriptor = results()[name]
    owner = getattr(study, stage)
    call = descriptor.__get__(owner, type(owner))
    if study.settings.flesh.transparent and name in PLANS and study.passes.refused():
        return []
    given = ARGUMENTS.get(name, [()])
    if name in EASEL:
        given = on_the_easel()[1:] if name == "plan again" else on_the_easel()
    if name == "two paintings":
        (first,), (second,) = on_the_easel()
        given = [(first, second)]
    return [call(*args) for args in given]


def same(a: Any, b: Any) -> bool:
    """Equal in every number but for the last bits, which hang on where an array lies in memory."""
    if isinstance(a, np.ndarray):
        near = a.dtype.kind == "f" and a.shape == b.shape and np.allclose(a, b, 1e-5, 1e-7, equal_nan=True)
        return bool(near or np.array_equal(a, b))
    if isinstance(a, float):
        return bool(np.isclose(a, b, rtol=1e-7, atol=1e-9, equal_nan=True))
    if isinstance(a, (list, tuple)):
        return len(a) == len(b) and all(map(same, a, b))
    if isinstance(a, dict):
        return a.keys() == b.keys() and all(same(a[k], b[k]) for k in a)
    if hasattr(a, "__dataclass_fields__"):
        return all(same(getattr(a, f), getattr(b, f)) for f in a.__dataclass_fields__)
    return bool(a.equals_exact(b, 1e-6) if isinstance(a, shapely.Geometry) else a == b)


def merged(*changes: dict[str, dict[str, Any]]) -> StudySettings:
    chosen: dict[str, dict[str, Any]] = {}
    for change in changes:
        for stage, fields in change.items():
            chosen.setdefault(stage, {}).update(fields)
    return StudySettings.model_validate(chosen)


SHARED = Memo()
"""What keeps its key is not computed again for the next change: its readings were noted the first time.

A reading that is not declared cannot hide so: it would be noted when it is first computed.
"""


def test_every_declaration_belongs_to_a_result_and_names_only_what_there_is() -> None:
    found = results()
    assert set(found) == {d.name for d in all_declared()}
    for declaration in all_declared():
        for change in ({}, *CHANGES):
            for need in declaration.needed(merged(change)):
                assert need in {PHOTOGRAPH, OWN_PACE} or declared(need)


@pytest.mark.parametrize("change", [{}, *CHANGES], ids=lambda c: str(c)[:40])
def test_a_computation_reads_only_what_it_declares(change: dict[str, dict[str, Any]]) -> None:
    """Every setting read and every result asked for under way is noted and held against the declaration."""
    watch, settings, data = Watch(), merged(change), small("maren")
    study = Study("hash", lambda: data, settings, SHARED, watch, lambda _: photographed())
    # What the easel reads does not hang on the settings: it takes long, and is asked for now and then.
    seldom = CHANGES.index(change) % 6 if change else 0
    for name in results():
        if name not in EASEL or not seldom:
            ask(study, name)
    if not settings.flesh.transparent:
        watch.compute("batch", lambda: batch_of(study))
    for name, (_, descriptor) in results().items():
        undeclared = watch.settings.get(name, set()) - set(descriptor.declaration.settings)
        assert not undeclared, f"{name} reads {undeclared}"
        strays = watch.needs.get(name, set()) - set(descriptor.declaration.needed(settings))
        assert not strays, f"{name} is made from {strays}"


@pytest.mark.parametrize("name", list(VIEWS))
def test_a_picture_shows_only_what_it_declares(name: str) -> None:
    view, watch, data = VIEWS[name], Watch(), small("maren")
    study = Study("hash", lambda: data, StudySettings(), SHARED, watch)
    watch.compute("picture", lambda: view.make(study))
    assert not watch.settings.get("picture", set()) - set(view.declaration.settings)
    assert not watch.needs.get("picture", set()) - set(view.declaration.needed(study.settings))
    for need in view.declaration.needed(study.settings):
        assert need in {PHOTOGRAPH, OWN_PACE} or declared(need)


@pytest.mark.parametrize("seed", range(5))
def test_equal_keys_mean_equal_results(seed: int) -> None:
    """For settings drawn by lot: whatever keeps its key comes out the same when computed from nothing."""
    rng = random.Random(seed)
    first = rng.sample(CHANGES, 2)
    data = small(rng.choice(["maren", "tobias"]))
    one = Study.of_bytes(data, merged(*first), Memo(), lambda _: photographed())
    other = Study.of_bytes(data, merged(*first, rng.choice(CHANGES)), Memo(), lambda _: photographed())
    kept = [n for n in results() if n not in EASEL and one.source.key(n) == other.source.key(n)]
    for name in kept:
        assert same(ask(one, name), ask(other, name)), name


@pytest.mark.parametrize(
    ("change", "kept"),
    [
        ({"values": {"names": ["a", "b"]}}, {"values", "flesh", "passes", "hair", "light", "string"}),
        ({"reference": {"grid": "thirds"}}, {d.name for d in all_declared()}),
        ({"hair": {"spacing_mm": 9}}, {"hair axes", "hair sense", "values", "surround"}),
        (
            {"hair": {"guides": [{"points": [(0.4, 0.2), (0.6, 0.25)]}]}},
            {"values", "light", "flesh", "recesses"},
        ),
        ({"flesh": {"coats": 3}}, {"flesh", "string", "pins", "passes"}),
        ({"light": {"squint": 0.01}}, {"values", "flesh", "hair", "regions"}),
        ({"reference": {"exposure": 0.5}}, {"photograph", "uncorrected", "clipping"}),
        ({"reference": {"zoom": 2}}, {"photograph"}),
    ],
)
def test_a_handle_leaves_alone_what_does_not_depend_on_it(
    change: dict[str, dict[str, Any]], kept: set[str]
) -> None:
    plain = Study("hash", lambda: b"", StudySettings(), Memo())
    changed = Study("hash", lambda: b"", merged(change), Memo())
    same_keys = {d.name for d in all_declared() if plain.source.key(d.name) == changed.source.key(d.name)}
    assert kept <= same_keys


@pytest.mark.parametrize(
    ("change", "lost"),
    [
        ({"regions": {"scribbles": [{"region": "skin", "points": [(0.5, 0.5)]}]}},
         {"regions", "shapes", "value counts", "values", "flesh", "hair", "light", "passes"}),
        ({"values": {"weigh_sitter": False},
          "regions": {"scribbles": [{"region": "skin", "points": [(0.5, 0.5)]}]}}, {"shapes", "regions"}),
        ({"values": {"groups": 3}}, {"cuts", "values", "flesh", "passes", "edges", "masses"}),
        ({"flesh": {"must": ["light-red"]}}, {"flesh", "string", "passes"}),
        ({"flesh": {"tones": 7}}, {"string"}),
        ({"reference": {"zoom": 2}}, {d.name for d in all_declared()}
         - {"photograph", "heads in photograph", "turns wanted", "pins", "painting photograph", "remedies"}),
    ],
)  # fmt: skip
def test_a_handle_reaches_what_depends_on_it(change: dict[str, dict[str, Any]], lost: set[str]) -> None:
    plain = Study("hash", lambda: b"", StudySettings(), Memo())
    changed = Study("hash", lambda: b"", merged(change), Memo())
    assert not {n for n in lost if plain.source.key(n) == changed.source.key(n)}


def test_a_version_is_part_of_the_key() -> None:
    study = Study("hash", lambda: b"", StudySettings(), Memo())
    one, two = (study.key(Declaration("x", ("hair.spacing_mm",), ("values",), version=v)) for v in (1, 2))
    assert one != two
    assert one == study.key(Declaration("x", ("hair.spacing_mm",), ("values",)))


def test_two_results_cannot_have_one_name() -> None:
    with pytest.raises(ValueError, match="two results"):
        Result(Declaration("values"), lambda stage: None)  # type: ignore[misc]


def test_own_pace_changes_only_what_takes_time_or_paint() -> None:
    """A sitting that ends must not make the canvas be painted anew."""
    pace = OwnPace({Level(): Learned(1.5, 1.2, 3, 1.0)})
    usual, own = (Study("hash", bytes, StudySettings(), Memo(), pace=p) for p in (None, pace))
    changed = {d.name for d in all_declared() if usual.key(d) != own.key(d)}
    assert changed == {"paced passes", "sittings"}


def test_what_is_computed_ahead_is_there_when_it_is_asked_for() -> None:
    """Computed once, elsewhere; what fails ahead fails again where it is asked for."""
    source = Source("x", bytes, StudySettings(), Memo())
    threads: list[str] = []
    begun = threading.Event()

    def work() -> int:
        threads.append(threading.current_thread().name)
        begun.set()
        return 7

    def fails() -> int:
        raise ValueError("no such thing")

    source.ahead(lambda: source.ask("lab", (), work))
    assert begun.wait(10)
    assert source.ask("lab", (), work) == 7
    assert threads != [threading.current_thread().name]
    assert len(threads) == 1
    source.ahead(lambda: source.ask("value", (), fails))
    with pytest.raises(ValueError, match="no such thing"):
        source.ask("value", (), fails)
