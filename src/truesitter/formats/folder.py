"""A plan as a folder of open files: JSON, pictures, SVG and PDF."""

from __future__ import annotations

from pathlib import Path

from truesitter.core.study import Study
from truesitter.formats.hair_files import brush_svg, growth_svg, lock_codes, strokes_svg
from truesitter.formats.light_files import light_pdf, light_svg
from truesitter.formats.light_pictures import enlarged, recess_codes, shine_codes
from truesitter.formats.pdf import plan_pdf
from truesitter.formats.pictures import VIEWS
from truesitter.formats.plan import Plan, plan_of
from truesitter.formats.png import encode_png
from truesitter.formats.strokes import lines_svg
from truesitter.formats.svg import outlines_svg
from truesitter.formats.wording import Counting

FILES = {
    "reference": "reference.jpg",
    "grey": "grey.jpg",
    "groups": "groups.png",
    "groups_grey": "groups_grey.png",
    "regions": "regions.png",
    "zones": "zones.png",
    "form": "form.png",
    "highlights": "highlights.png",
    "recesses": "recesses.png",
    "light": "light.svg",
    "light_sheet": "light.pdf",
    "hair_direction": "hair_direction.png",
    "outlines": "outlines.svg",
    "hair_lines": "hair_lines.svg",
    "locks": "locks.png",
    "strokes": "strokes.svg",
    "brush": "brush.svg",
    "lines": "lines.svg",
    "sheet": "plan.pdf",
}


def plan_files(study: Study, title: str) -> tuple[Plan, dict[str, bytes]]:
    """Compute everything; the plan, and its files by name."""
    reference = study.settings.reference
    canvas = (reference.canvas_width_mm, reference.canvas_height_mm)
    files = dict(FILES)
    planned = not study.passes.refused()
    count = len(study.passes.plan().passes) if planned else 0
    if not planned:
        del files["lines"]
    for number in range(1, count + 1):
        files[f"canvas_{number:02d}"] = f"canvas_{number:02d}.png"
    layers = len(study.hair_layers.layers())
    for number in range(1, layers + 1):
        files[f"hair_{number:02d}"] = f"hair_{number:02d}.png"
    plan = plan_of(study, files)
    drawing = study.values.outlines()
    contents: dict[str, bytes] = {
        "reference": VIEWS["colour"].make(study)[0],
        "grey": VIEWS["grey"].make(study)[0],
        "groups": encode_png(study.values.plan().labels),
        "groups_grey": VIEWS["groups"].make(study)[0],
        "regions": encode_png(study.sitter.regions().labels),
        "zones": encode_png(study.light.zones().zones),
        "form": encode_png(enlarged(study.light.form().classes, study.picture.shape)),
        "highlights": encode_png(enlarged(shine_codes(study), study.picture.shape)),
        "recesses": encode_png(enlarged(recess_codes(study), study.picture.shape)),
        "light": light_svg(study).encode(),
        "light_sheet": light_pdf(study, title, "A4", Counting()),
        "hair_direction": encode_png(study.hair.map().field_codes(study.sitter.hair_mask())),
        "outlines": outlines_svg(drawing, canvas).encode(),
        "hair_lines": growth_svg(study.hair.map().lines, canvas).encode(),
        "locks": encode_png(lock_codes(study)),
        "strokes": strokes_svg(study).encode(),
        "brush": brush_svg(study, across=False).encode(),
        "sheet": plan_pdf(study, plan, title, "A4", Counting()),
    }
    if planned:
        contents["lines"] = lines_svg(study.passes.plan(), canvas).encode()
    for number in range(1, count + 1):
        contents[f"canvas_{number:02d}"] = encode_png(study.passes.painted().picture(number))
    for number in range(1, layers + 1):
        contents[f"hair_{number:02d}"] = encode_png(study.hair_layers.picture(number))
    named = {files[key]: data for key, data in contents.items()}
    named["plan.json"] = plan.model_dump_json(indent=1, by_alias=True).encode()
    return plan, named


def write_plan(study: Study, folder: Path, title: str) -> Plan:
    """Compute everything and write it into a folder, made if it is missing.

    Raises
    ------
    OSError
        When the folder cannot be written.
    """
    plan, files = plan_files(study, title)
    folder.mkdir(parents=True, exist_ok=True)
    for name, data in files.items():
        (folder / name).write_bytes(data)
    return plan
