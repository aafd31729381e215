"""Hair taken along: growth lines, strokes and arrows in mm, prints at true size, numbers of the locks."""

from __future__ import annotations

import io
import re
from xml.etree import ElementTree

import numpy as np
import pypdf
import pytest

from tests.conftest import study_of
from truesitter.core.hair.field.growth_lines import GrowthLine
from truesitter.formats.documents.plan_hair import hair_of, hairline_of
from truesitter.formats.pictures.hair_pictures import band_veil, locks_veil, tones_picture, volume_picture
from truesitter.formats.print.hair_files import (
    brush_svg,
    growth_pdf,
    growth_svg,
    hair_practice_pdf,
    hairline_svg,
    lock_codes,
    strokes_svg,
    weight_mm,
)  # fmt: skip

SVG = "{http://www.w3.org/2000/svg}"


def group(root: ElementTree.Element, name: str) -> ElementTree.Element:
    found = root.find(f".//{SVG}g[@id='{name}']")
    assert found is not None, name
    return found


def test_growth_lines_are_solid_then_dotted_with_a_dot_at_the_root() -> None:
    points = np.array([[0.1, 0.2], [0.14, 0.28], [0.2, 0.4], [0.25, 0.5], [0.3, 0.6]])
    lines = (GrowthLine(points, 0.9), GrowthLine(points + 0.1, 0.1))
    root = ElementTree.fromstring(growth_svg(lines, (200, 150)).encode())
    root_part, free = group(root, "root-part"), group(root, "free")
    first = root_part[0].get("points")
    assert first is not None
    assert first.startswith("20.00,30.00 28.00,42.00")
    rest = free[0].get("points")
    assert rest is not None
    assert rest.endswith("60.00,90.00")
    assert first.split()[-1] == rest.split()[0], "one goes on where the other ends"
    assert free.get("stroke-dasharray")
    assert not root_part.get("stroke-dasharray")
    dots = [(c.get("cx"), c.get("cy")) for c in group(root, "roots")]
    assert dots == [("20.00", "30.00"), ("40.00", "45.00")]
    assert [t.text for t in group(root, "numbers")] == ["1", "2"]
    widths = [float(p.get("stroke-width") or 0) for p in root_part]
    assert widths[0] > 2 * widths[1], "the surer the heavier"
    assert weight_mm(-1) == weight_mm(0) < weight_mm(1) == weight_mm(3)


def test_growth_lines_print_at_true_size() -> None:
    """Source: 72 points an inch; the canvas of 320 × 400 mm needs 2 × 2 sheets of A4."""
    study = study_of("orsolya")
    reader = pypdf.PdfReader(io.BytesIO(growth_pdf(study, "Odd", "A4")))
    assert len(reader.pages) == 4
    assert "Growth lines" in reader.pages[0].extract_text()
    mirrored = pypdf.PdfReader(io.BytesIO(growth_pdf(study, "Odd", "A4", mirrored=True)))
    assert "mirrored" in mirrored.pages[0].extract_text()
    form = reader.pages[0]["/Resources"]["/XObject"].values()
    boxes = [[float(v) for v in one.get_object()["/BBox"]] for one in form]
    assert any(
        box[2] - box[0] - 2 == pytest.approx(320 * 72 / 25.4, abs=1)
        and box[3] - box[1] - 2 == pytest.approx(400 * 72 / 25.4, abs=1)
        for box in boxes
    )


def test_strokes_are_drawn_layer_by_layer_in_the_colour_of_their_mixture() -> None:
    study = study_of("orsolya")
    root = ElementTree.fromstring(strokes_svg(study).encode())
    assert (root.get("width"), root.get("height")) == ("320mm", "400mm")
    drawn_by = {p.key: p for p in study.passes.plan().passes if p.layer and p.lines}
    groups = list(root.findall(f"{SVG}g"))
    assert [g.get("id") for g in groups] == list(drawn_by)
    for drawn in groups:
        one = drawn_by[drawn.get("id") or ""]
        hexes = [t.predicted.hex for t in one.tones] or [one.recipe.predicted.hex]
        assert [tone.get("fill") for tone in drawn] == hexes
        assert sum(len(tone) for tone in drawn) == len(one.lines)
        assert drawn.get("data-name") == one.name
    numbers = [float(v) for v in re.findall(r"-?\d+\.\d+", groups[0][0][0].get("d") or "")]
    assert min(numbers) > -20
    assert max(numbers) < 420


def test_the_practice_sheet_names_types_layers_and_brushes() -> None:
    study = study_of("tobias")
    text = "".join(
        page.extract_text()
        for page in pypdf.PdfReader(io.BytesIO(hair_practice_pdf(study, "Odd", "Letter"))).pages
    )
    for words in (
        "Beard",
        "Moustache, left half",
        "Left brow",
        "Hair, locks",
        "strokes, ",
        "Hairline",
        "mm soft",
    ):
        assert words in text
    whole = " ".join(text.split())
    assert "Locks in the order of painting" in whole
    for lock in hair_of(study).locks:
        assert f"L{lock.id.replace('-', ' ')[1:]}, {lock.type}" in whole


def test_arrows_of_the_brush_are_told_by_region() -> None:
    for across in (False, True):
        root = ElementTree.fromstring(brush_svg(study_of("maren"), across).encode())
        for region in ("skin", "garment", "background"):
            assert len(group(root, region)) > 5


def test_locks_are_numbered_at_the_size_of_the_picture() -> None:
    study = study_of("tobias")
    codes = lock_codes(study)
    assert codes.dtype == np.uint16
    assert codes.shape == study.picture.shape
    locks = study.hair.locks()
    assert set(np.unique(codes)) == {0, *(lock.number for lock in locks.locks)}

    told = hair_of(study).locks
    assert [one.id for one in told] == [f"lock-{n}" for n in range(1, len(locks.locks) + 1)]
    assert 5 < np.median([one.width_mm for one in told]) < 40
    assert {one.type for one in told} <= {"short", "beard", "moustache"}, "a beard is no hair of the head"
    assert sum(one.type == "beard" for one in told) > 2
    assert all(one.brush_mm < one.width_mm for one in told)
    for one in told:
        assert set(one.over) <= {other.id for other in told} - {one.id}
        if one.dark and one.light and one.middle:
            assert one.dark.value < one.light.value
            assert one.dark.value - 0.1 < one.middle.value < one.light.value + 0.1, "as near as can be mixed"
        assert one.middle or (one.dark and one.light)
    turning = [one for one in told if one.dark and one.light]
    assert turning
    mixtures = {
        tuple(tone.parts.items()) for one in told for tone in (one.dark, one.middle, one.light) if tone
    }
    assert len(mixtures) < 2 * len(told), "locks share them"


def test_the_plan_tells_the_hair_in_the_agreed_words() -> None:
    plan = hair_of(study_of("tobias")).model_dump(by_alias=True)
    assert {"kind", "approach", "shine", "hairline", "locks", "layers", "lines", "whorls", "field"} <= set(
        plan
    )
    assert {k["kind"] for k in plan["kind"]} >= {"hair", "beard", "left brow", "right brow"}
    assert set(plan["hairline"][0]) >= {"x", "y", "seen_mm", "wanted_mm", "shadow_steps"}
    for layer in plan["layers"]:
        assert set(layer) >= {
            "id", "name", "strokes", "type", "tones", "mixture", "dilution", "film_mm", "tool", "width_mm",
            "minutes", "gain",
        }  # fmt: skip
        assert all(tone["parts"] == layer["parts"] for tone in layer["tones"]), "counted as the pass is"
    assert plan["approach"]["chosen"] in ("masses", "strands")


def test_the_hairline_is_drawn_as_soft_as_it_is_and_shall_be() -> None:
    study = study_of("maren")
    spots = hairline_of(study)
    rings = list(ElementTree.fromstring(hairline_svg(study).encode()).iter(f"{SVG}circle"))
    assert len(rings) == 2 * len(spots) > 0
    for spot, seen, wanted in zip(spots, rings[::2], rings[1::2], strict=True):
        assert float(seen.get("cx") or 0) == pytest.approx(spot.x * 320, abs=0.01)
        assert float(seen.get("cy") or 0) == pytest.approx(spot.y * 400, abs=0.01)
        assert float(seen.get("r") or 0) == pytest.approx(max(0.2, spot.seen_mm / 2), abs=0.01)
        assert float(wanted.get("r") or 0) == pytest.approx(spot.wanted_mm / 2, abs=0.01)


@pytest.mark.parametrize("which", ["skull", "relief", "locks", "surface"])
def test_a_volume_is_shown_in_its_place(which: str) -> None:
    study = study_of("tobias")
    picture, mask = volume_picture(study, which), study.hair.volumes().mask
    assert picture.shape == mask.shape
    assert picture[mask].std() > 5
    assert picture[~mask].min() > 100, "the rest is paled"


def test_tones_are_flat_inside_each_lock() -> None:
    study = study_of("maren")
    picture, locks = tones_picture(study), study.hair.locks()
    lock = max(locks.locks, key=lambda one: one.area)
    mine = locks.numbers == lock.number
    assert 2 <= len(np.unique(picture[mine])) <= 3
    assert picture[mine & (locks.tones == 3)].mean() > picture[mine & (locks.tones == 1)].mean() + 5


def test_veils_cover_only_what_they_mark() -> None:
    study = study_of("maren")
    borders = locks_veil(study)
    assert 0 < (borders[..., 3] > 0).mean() < 0.2
    band = band_veil(study)
    _, kinds = study.hair.directed()
    assert 0.001 < (band[..., 3] > 0).mean() < 0.2
    assert ((band[..., 3] > 0) & (kinds == 0)).mean() < 0.005
