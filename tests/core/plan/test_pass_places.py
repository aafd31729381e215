"""Where each band of a school lies, on a made map whose bands are known."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import cv2
import numpy as np

from truesitter.core.hair.layers.job import HairLayer, Role
from truesitter.core.imaging.line import Line
from truesitter.core.plan.pass_places import Place, patchwork_of, split, tones_of
from truesitter.core.plan.subject import Mark, Subject
from truesitter.core.school.school_document import Band, PassTemplate
from truesitter.core.sitter.region_names import Region

HEIGHT, WIDTH = 120, 100
ROWS, COLUMNS = np.mgrid[0:HEIGHT, 0:WIDTH]
SKIN = COLUMNS < 60


def subject(**more: Any) -> Subject:
    """Skin on the left in three values from top to bottom, hair on the right; 1 mm to a pixel."""
    regions = np.where(SKIN, int(Region.SKIN), int(Region.HAIR)).astype(np.uint8)
    groups = (ROWS // 40).astype(np.uint8)
    value = np.where(SKIN, np.array([3.0, 5.0, 7.0])[ROWS // 40], 2.0).astype(np.float32)
    lab = np.zeros((HEIGHT, WIDTH, 3), np.float32)
    lab[..., 0] = value * 10
    known: dict[str, Any] = {
        "groups": groups, "regions": regions, "zones": np.zeros_like(groups), "lab": lab, "value": value,
        "mm_per_px": 1.0,
    }  # fmt: skip
    return Subject(**(known | more))


def template(band: Band, **more: Any) -> PassTemplate:
    known: dict[str, Any] = {
        "key": "x", "name": "Skin, {band}", "kind": "mass", "regions": [int(Region.SKIN)], "band": band.value,
        "film_mm": 0.1, "dries_minutes": 10, "edge": "soft", "tool": "flat",
    }  # fmt: skip
    return PassTemplate.model_validate(known | more)


def told(places: list[Place]) -> list[tuple[str, str, int]]:
    return [(p.key, p.name, int(p.mask.sum())) for p in places]


def test_groups_are_numbered_from_one_and_keep_to_their_regions() -> None:
    found = split(template(Band.EACH_GROUP), subject())
    assert told(found) == [
        ("x-1", "Skin, {band}", 2400),
        ("x-2", "Skin, {band}", 2400),
        ("x-3", "Skin, {band}", 2400),
    ]
    assert [p.group for p in found] == [0, 1, 2]
    for n, place in enumerate(found):
        np.testing.assert_array_equal(place.mask, SKIN & (n == ROWS // 40))
    everywhere = split(template(Band.EVERYTHING, regions=[int(r) for r in Region]), subject())
    assert [int(p.mask.sum()) for p in everywhere] == [HEIGHT * WIDTH]


def test_thirds_lie_side_by_side_or_inside_one_another() -> None:
    side = split(template(Band.THIRDS), subject())
    assert [p.name for p in side] == ["Skin, darks", "Skin, middle", "Skin, lights"]
    assert [p.key for p in side] == ["x-1", "x-2", "x-3"]
    assert all(p.aim is None for p in side)
    for n, place in enumerate(side):
        np.testing.assert_array_equal(place.mask, SKIN & (n == ROWS // 40))
    nested = split(template(Band.NESTED_THIRDS), subject())
    for n, place in enumerate(nested):
        np.testing.assert_array_equal(place.mask, SKIN & (n <= ROWS // 40))
        assert place.aim is not None
        np.testing.assert_array_equal(place.aim, SKIN & (n == ROWS // 40))
    one = subject(value=np.full((HEIGHT, WIDTH), 5.0, np.float32))
    (all_of_it,) = split(template(Band.THIRDS), one)
    assert (all_of_it.name, int(all_of_it.mask.sum())) == ("Skin, all of it", int(SKIN.sum()))
    assert tones_of(one.value, np.zeros_like(SKIN)) == []
    assert [w for w, _ in tones_of(subject().value, SKIN)] == ["darks", "middle", "lights"]


def test_washes_go_from_light_to_dark_each_over_all_that_is_darker() -> None:
    found = split(template(Band.WASHES, steps=3), subject())
    assert [p.key for p in found] == ["x-1", "x-2", "x-3"]
    assert [p.name for p in found] == [f"Skin, wash {n}" for n in (1, 2, 3)]
    assert [p.order for p in found] == [0, 1, 2]
    for n, place in enumerate(found):
        np.testing.assert_array_equal(place.mask, SKIN & (2 - n >= ROWS // 40))
        assert place.aim is not None
        np.testing.assert_array_equal(place.aim, SKIN & (2 - n == ROWS // 40))
    later = split(template(Band.WASHES, steps=3, from_step=2), subject())
    assert [(p.key, int(p.mask.sum())) for p in later] == [("x-2", 4800), ("x-3", 2400)]
    first = split(template(Band.WASHES, steps=3, to_step=1), subject())
    assert [(p.key, int(p.mask.sum())) for p in first] == [("x-1", 7200)]
    one = subject(value=np.full((HEIGHT, WIDTH), 5.0, np.float32))
    assert [p.key for p in split(template(Band.WASHES, steps=3), one)] == ["x-1"]
    assert split(template(Band.WASHES, regions=[int(Region.GARMENT)]), subject()) == []


def test_a_wash_after_the_first_leaves_out_what_is_finer_than_the_hand() -> None:
    value = np.full((HEIGHT, WIDTH), 7.0, np.float32)
    value[20:80, 10:12] = 3.0
    value[20:80, 25:50] = 3.0
    fine = split(template(Band.WASHES, steps=2), subject(value=value))
    coarse = split(template(Band.WASHES, steps=2, finest_mm=8.0), subject(value=value))
    np.testing.assert_array_equal(fine[1].mask, SKIN & (value == 3.0))
    assert not coarse[1].mask[:, :20].any()
    np.testing.assert_array_equal(coarse[1].mask[30:70, 25:50], True)
    # What is too fine stays part of the wash below it, and of what that aims at.
    assert coarse[0].aim is not None
    assert coarse[0].aim[50, 11]
    thin = np.full((HEIGHT, WIDTH), 7.0, np.float32)
    thin[40:43, 5:55] = 3.0
    level = split(template(Band.WASHES, steps=2, finest_mm=8.0), subject(value=thin))
    assert len(level) == 1


def test_zones_cover_those_inside_them_and_aim_at_their_own_ring() -> None:
    away = np.hypot(ROWS - 60, COLUMNS - 30)
    zones = np.select([away < 5, away < 10, away < 15, away < 20], [1, 2, 3, 4], 0).astype(np.uint8)
    found = split(template(Band.ZONES), subject(zones=zones))
    assert [(p.key, p.name, p.order) for p in found] == [
        (f"x-{n}", f"Skin, zone {n}", n - 1) for n in (1, 2, 3, 4)
    ]
    for n, place in enumerate(found, 1):
        np.testing.assert_array_equal(place.mask, (zones > 0) & (zones <= n))
        assert place.aim is not None
        assert place.tone is not None
        np.testing.assert_array_equal(place.aim, zones == n)
        np.testing.assert_array_equal(place.tone, zones == 1)
    no_light = np.where(zones == 1, 0, zones).astype(np.uint8)
    assert split(template(Band.ZONES), subject(zones=no_light)) == []


def test_peaks_are_the_lightest_of_the_first_zones_in_the_shape_of_the_light() -> None:
    zones = np.zeros((HEIGHT, WIDTH), np.uint8)
    zones[50:70, 20:40], zones[55:65, 25:35] = 2, 1
    base = subject(zones=zones)
    lab = base.lab.copy()
    lab[zones == 1, 0] = np.linspace(60, 80, 100)
    lab[50:54, 20:40, 0] = 90
    (place,) = split(template(Band.PEAKS), replace(base, lab=lab))
    assert place.mask[50:54, 20:40].all(), "as light, though in the second zone"
    inside = lab[..., 0][place.mask]
    assert inside.min() > np.quantile(lab[zones == 1, 0], 0.3)
    assert split(template(Band.PEAKS), base.__class__(**{**vars(base), "zones": np.zeros_like(zones)})) == []


def test_marks_of_the_light_are_laid_where_it_found_them() -> None:
    marks = np.zeros((HEIGHT, WIDTH), np.uint8)
    marks[10:30, 5:25], marks[15:25, 10:20] = Mark.RECESS, Mark.RECESS_DARK
    marks[80:82, 40:42] = Mark.HIGHLIGHT
    marks[80:90, 70:90] = Mark.RECESS
    seen = subject(marks=marks)
    (coat,), (dark,) = split(template(Band.RECESSES), seen), split(template(Band.RECESS_DARKS), seen)
    assert (int(coat.mask.sum()), int(dark.mask.sum())) == (400, 100), "the dark lies inside, hair has none"
    (light,) = split(template(Band.HIGHLIGHTS), seen)
    assert int(light.mask.sum()) == 4, "a catchlight is small"
    marks[15:25, 10:20] = Mark.RECESS
    marks[15:17, 10:12] = Mark.RECESS_DARK
    assert split(template(Band.RECESS_DARKS), subject(marks=marks)) == [], "anything else so small is left"
    assert split(template(Band.RECESSES), subject()) == []


def test_shadow_and_halftone_are_what_is_darker_than_the_middle() -> None:
    (place,) = split(template(Band.SHADOW_AND_HALFTONE), subject())
    np.testing.assert_array_equal(place.mask, SKIN & (ROWS // 40 == 0))


def test_layers_of_hair_are_stroked_laid_flat_or_drawn_as_lines() -> None:
    mask = np.zeros((HEIGHT, WIDTH), bool)
    mask[10:50, 50:90] = True
    line = Line(np.array([[0.7, 0.2], [0.8, 0.4]]), np.array([1.0, 1.0]))

    def layer(role: Role, mass: str) -> HairLayer:
        return HairLayer(role, f"{mass}: {role}", mass, "", mask, mask, mask, 1.0, ("wavy",), (line,))

    hair = (layer("locks", "Hair"), layer("light hairs", "Hair"), layer("locks", "Beard"))
    where = [int(Region.HAIR)]

    def found(band: Band, kind: str) -> list[Place]:
        return split(template(band, regions=where, kind=kind), subject(hair=hair))

    stroked = found(Band.HAIR_LAYERS, "hair")
    assert [(p.key, p.name) for p in stroked] == [("x-1", "Skin, locks"), ("x-2", "Skin, beard: locks")]
    for place in stroked:
        np.testing.assert_array_equal(place.mask, mask & ~SKIN)
        assert place.lines == (line,)
    (hairs,) = found(Band.LIGHT_HAIRS, "hair")
    assert hairs.hair is hair[1]
    assert found(Band.DARK_HAIRS, "hair") == []
    (flat, _) = found(Band.HAIR_LAYERS, "light coats")
    assert flat.lines == ()
    assert flat.mask.any()
    (drawn,) = found(Band.LIGHT_HAIRS, "lines out")
    assert drawn.lines == (line,)
    assert not drawn.mask.any(), "lines lie on no place"


def test_pieces_part_along_every_place() -> None:
    """Each place is made of whole pieces: nothing of a pass is laid beside it."""
    zones = np.zeros((HEIGHT, WIDTH), np.uint8)
    cv2.circle(zones, (30, 60), 14, 2, -1)
    cv2.circle(zones, (30, 60), 7, 1, -1)
    value = subject().value + 0.8 * (COLUMNS > 30)
    seen = subject(zones=zones, value=value.astype(np.float32))
    places = [
        p for band in (Band.EACH_GROUP, Band.NESTED_THIRDS, Band.WASHES, Band.ZONES)
        for p in split(template(band, key=f"k{band.value.replace(' ', '')}", steps=4), seen)
    ]  # fmt: skip
    patchwork = patchwork_of(seen, places)
    assert patchwork.sizes.sum() == HEIGHT * WIDTH
    for place in places:
        pieces = patchwork.at(place.mask.astype(np.uint8)) > 0
        np.testing.assert_array_equal(patchwork.mask(pieces), place.mask)


def test_a_cool_halftone_is_laid_in_the_groups_that_hold_much_of_it() -> None:
    whole = subject()
    cool = np.zeros(whole.groups.shape, bool)
    groups = np.zeros(whole.groups.shape, np.uint8)
    groups[:, WIDTH // 2 :] = 1
    cool[: HEIGHT // 2, WIDTH // 2 - 2 : WIDTH // 2 + 30] = True
    skin = np.full(whole.groups.shape, Region.SKIN, np.uint8)
    given = replace(whole, groups=groups, regions=skin, halftone=cool)
    found = split(template(Band.COOL_HALFTONE), given)
    assert [p.key.rsplit("-", 1)[-1] for p in found] == ["2"]
    assert (found[0].mask == (cool & (groups == 1))).all()
    assert found[0].group is None
    assert split(template(Band.COOL_HALFTONE), replace(given, halftone=None)) == []
