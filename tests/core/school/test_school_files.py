"""Schools as documents: every built-in one is sound, round trips, and a bad file is refused with its line."""

from __future__ import annotations

import json
from typing import Any

import jsonschema
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from truesitter.core.plan.kinds.registry import KINDS
from truesitter.core.refusal import Refusal
from truesitter.core.school.library import SCHOOLS
from truesitter.core.school.library import school as school_of
from truesitter.core.school.school_document import School
from truesitter.formats.documents.school_files import line_of, read_school, school_json, school_schema

TEN = {
    "layered-oil", "direct-oil", "brown-layer", "monochrome-first", "thumbnail-first", "skin-string",
    "tempera", "watercolour-zones", "watercolour-recesses", "airbrush",
}  # fmt: skip


def document(key: str = "layered-oil") -> dict[str, Any]:
    found: dict[str, Any] = json.loads(school_json(SCHOOLS[key]))
    return found


def as_file(found: Any) -> bytes:
    return json.dumps(found, indent=1).encode()


def test_the_ten_schools_of_the_trade_are_among_them() -> None:
    """Common practice, no source."""
    assert set(SCHOOLS) >= TEN
    for one in SCHOOLS.values():
        assert one.about
        assert one.preparing
        assert one.clearing
        assert all(p.inspect and p.note and p.edge and p.tool for p in one.passes if p.kind != "again")


@pytest.mark.parametrize("key", sorted(SCHOOLS))
def test_a_school_comes_back_from_its_file_and_fits_the_schema(key: str) -> None:
    data = school_json(SCHOOLS[key])
    assert read_school(data) == SCHOOLS[key]
    jsonschema.validate(json.loads(data), school_schema())


def test_light_to_dark_and_dark_to_light_are_properties_of_the_school() -> None:
    """Common practice: watercolour and airbrush keep the white, oil and tempera lay it."""
    clear = {k for k, s in SCHOOLS.items() if s.transparent}
    waters = {f"watercolour-{one}" for one in ("zones", "recesses", "all-over", "direct")}
    assert clear == {*waters, "airbrush"}
    for key in clear:
        opaque = {p.kind for p in SCHOOLS[key].passes} & {"mass", "grey", "ground", "light", "flesh ground"}
        assert not opaque
        assert all(KINDS[p.kind] for p in SCHOOLS[key].passes)


@pytest.mark.parametrize(
    ("change", "says"),
    [
        (lambda d: d.update(passes=[]), "passes"),
        (lambda d: d["passes"][2].update(film_mm=-1), "pass 3, film_mm"),
        (lambda d: d["passes"][2].update(film_mm=float("1e9")), "pass 3, film_mm"),
        (lambda d: d["passes"][1].update(kind="magic"), "pass 2, kind"),
        (lambda d: d["passes"][1].update(band="everywhere"), "pass 2, band"),
        (lambda d: d["passes"][0].update(regions=["elbow"]), "no region called “elbow”"),
        (lambda d: d["passes"][0].update(surprise=1), "surprise"),
        (lambda d: d["passes"][3].update(key=d["passes"][2]["key"]), "two passes have the key"),
        (lambda d: d["passes"][-1].update(fat=0), "fat goes over lean"),
        (lambda d: d.update(key="Not A Key"), "key"),
        (lambda d: d.update(media=["crayon"]), "media"),
        (lambda d: d["pace"].update(skin=-3), "skin"),
        (lambda d: d["passes"][0].update(name="{0.__class__}"), "braces"),
        (lambda d: d["passes"][0].update(name="{band!r}"), "braces"),
        (lambda d: d["passes"][0].update(from_step=7, steps=4), "comes after the last"),
    ],
)
def test_a_bad_school_is_refused_with_the_line_and_what_is_wrong(change: Any, says: str) -> None:
    found = document()
    change(found)
    with pytest.raises(Refusal, match=r"^line \d+: ") as refused:
        read_school(as_file(found))
    assert says in refused.value.sentence


def test_the_line_named_is_the_line_that_is_wrong() -> None:
    found = document()
    found["passes"][4]["dries_minutes"] = "soon"
    text = as_file(found).decode()
    with pytest.raises(Refusal) as refused:
        read_school(text.encode())
    number = int(refused.value.sentence.split(":")[0].lower().removeprefix("line "))
    assert '"dries_minutes": "soon"' in text.splitlines()[number - 1]


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "line 1 is not JSON"),
        (b'{\n"key": "a",\n"name" "b"}', "line 3 is not JSON"),
        (b"[1, 2]", "line 1: a school is a JSON object"),
        (b"\xff\xfe\x00", "no text file"),
        (b" " * 1_000_001, "too large"),
        (b"[" * 100_000, "nested too deep"),
    ],
)
def test_what_is_no_school_at_all_is_refused(data: bytes, says: str) -> None:
    with pytest.raises(Refusal, match=says):
        read_school(data)


@settings(max_examples=200, deadline=None)
@given(st.binary(max_size=200))
def test_no_bytes_make_the_reader_stumble(data: bytes) -> None:
    with pytest.raises(Refusal):
        read_school(data)


@settings(max_examples=100, deadline=None)
@given(
    st.recursive(
        st.integers() | st.text(max_size=5) | st.none(),
        lambda inner: (
            st.lists(inner, min_size=1, max_size=3)
            | st.dictionaries(st.text(max_size=4), inner, min_size=1, max_size=3)
        ),
        max_leaves=12,
    ),
    st.data(),
)
def test_the_line_of_any_place_holds_its_value(value: Any, data: st.DataObject) -> None:
    place: list[Any] = []
    at = value
    while isinstance(at, (list, dict)) and data.draw(st.booleans()):
        step = data.draw(st.sampled_from(range(len(at)) if isinstance(at, list) else sorted(at)))
        place.append(step)
        at = at[step]
    text = json.dumps(value, indent=1)
    line = text.splitlines()[line_of(text, tuple(place)) - 1].strip()
    if place and isinstance(place[-1], str) and not isinstance(at, (list, dict)):
        assert line.startswith(json.dumps(place[-1]))
    elif not isinstance(at, (list, dict)):
        assert line.rstrip(",") == json.dumps(at)


def test_a_school_of_ones_own_goes_before_the_built_in_ones() -> None:
    own = SCHOOLS["layered-oil"].model_copy(update={"key": "own-oil", "name": "Mine"})
    assert school_of("own-oil", (own,)).name == "Mine"
    with pytest.raises(Refusal, match="own-oil"):
        school_of("nothing", (own,))
    assert isinstance(school_of("tempera", (own,)), School)
