"""Schools of the painter's own that were kept before strays became strokes of the hair."""

from __future__ import annotations

import pytest

from truesitter.core.school.library import SCHOOLS
from truesitter.core.settings.pass_settings import PassSettings


@pytest.mark.parametrize(
    ("key", "before", "after"),
    [
        ("direct-oil", "lines", "hair"), ("brown-layer", "scratch", "scratch"),
        ("watercolour-zones", "lines", "washed hair"),
    ],
)  # fmt: skip
def test_strays_of_an_own_school_are_its_light_hairs(key: str, before: str, after: str) -> None:
    kept = SCHOOLS[key].model_dump(mode="json") | {"key": "own-one"}
    hairs = next(p for p in kept["passes"] if p["key"] == "light-hairs")
    hairs |= {"key": "strays", "kind": before, "band": "lines"}
    document = {"school": "own-one", "own": [kept], "done": ["ground"]}
    made = PassSettings.model_validate(PassSettings.upgraded(document, 1))
    (one,) = (p for p in made.own[0].passes if p.key == "strays")
    assert (one.kind, one.band.value) == (after, "light hairs")
    others = [p for p in made.own[0].passes if p.key != "strays"]
    assert others == [p for p in SCHOOLS[key].passes if p.key != "light-hairs"]
    assert PassSettings.upgraded({"own": "nothing"}, 2) == {"own": "nothing"}
