"""A plan as a folder of open files: JSON, pictures, SVG and PDF."""

from __future__ import annotations

import os
from collections.abc import Callable
from concurrent.futures import Future, ThreadPoolExecutor
from pathlib import Path
from threading import BoundedSemaphore
from typing import Any

from numpy.typing import NDArray

from truesitter.core.plan.painted_hair import hair_numbers
from truesitter.core.stages import Study
from truesitter.formats.documents.plan import Plan, plan_of
from truesitter.formats.pictures.light_pictures import enlarged, recess_codes, shine_codes
from truesitter.formats.pictures.png import encode_png
from truesitter.formats.pictures.views import VIEWS
from truesitter.formats.print.hair_files import brush_svg, growth_svg, hairline_svg, lock_codes, strokes_svg
from truesitter.formats.print.light_files import light_pdf, light_svg
from truesitter.formats.print.pdf import plan_pdf
from truesitter.formats.print.strokes import lines_svg
from truesitter.formats.print.svg import outlines_svg
from truesitter.formats.words.wording import Counting

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
    "hairline": "hairline.svg",
    "locks": "locks.png",
    "strokes": "strokes.svg",
    "brush": "brush.svg",
    "lines": "lines.svg",
    "sheet": "plan.pdf",
}


_AT_ONCE = 2 * (os.cpu_count() or 1)
"""Pictures that are being packed, or wait to be: each is a few megabytes."""


class _Packing:
    """Packs pictures beside other work; whoever brings more than can be packed waits."""

    def __init__(self, threads: ThreadPoolExecutor) -> None:
        self._threads, self._room = threads, BoundedSemaphore(_AT_ONCE)

    def png(self, picture: NDArray[Any]) -> Future[bytes]:
        """A picture as PNG, when it is packed."""
        self._room.acquire()
        done = self._threads.submit(encode_png, picture)
        done.add_done_callback(lambda _: self._room.release())
        return done


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
    layers = len(hair_numbers(study.passes.plan())) if planned else 0
    for number in range(1, layers + 1):
        files[f"hair_{number:02d}"] = f"hair_{number:02d}.png"
    with ThreadPoolExecutor(os.cpu_count()) as threads, ThreadPoolExecutor(1) as painter:
        # Whoever paints pictures mostly waits for those who pack them: the rest is written meanwhile.
        painting = painter.submit(_pictures, study, _Packing(threads).png, planned)
        plan = plan_of(study, files)
        contents = _drawings(study, canvas, plan, title)
        if planned:
            contents["lines"] = lines_svg(study.passes.plan(), canvas).encode()
        contents |= {key: picture.result() for key, picture in painting.result().items()}
    named = {files[key]: contents[key] for key in files}
    named["plan.json"] = plan.model_dump_json(indent=1, by_alias=True).encode()
    return plan, named


def _pictures(
    study: Study, png: Callable[[NDArray[Any]], Future[bytes]], planned: bool
) -> dict[str, Future[bytes]]:
    """Pictures by key, being packed."""
    shape = study.picture.shape
    packed = {
        "groups": png(study.values.plan().labels),
        "regions": png(study.sitter.regions().labels),
        "zones": png(study.light.zones().zones),
        "form": png(enlarged(study.light.form().classes, shape)),
        "highlights": png(enlarged(shine_codes(study), shape)),
        "recesses": png(enlarged(recess_codes(study), shape)),
        "hair_direction": png(study.hair.map().field_codes(study.sitter.hair_mask())),
        "locks": png(lock_codes(study)),
    }
    if planned:
        for number, picture in enumerate(study.passes.painted().pictures(), 1):
            packed[f"canvas_{number:02d}"] = png(picture)
        for number, at in enumerate(hair_numbers(study.passes.plan()), 1):
            packed[f"hair_{number:02d}"] = png(study.passes.hair_picture(at))
    return packed


def _drawings(study: Study, canvas: tuple[float, float], plan: Plan, title: str) -> dict[str, bytes]:
    """Everything else by key."""
    return {
        "reference": VIEWS["colour"].make(study)[0],
        "grey": VIEWS["grey"].make(study)[0],
        "groups_grey": VIEWS["groups"].make(study)[0],
        "light": light_svg(study).encode(),
        "light_sheet": light_pdf(study, title, "A4", Counting()),
        "outlines": outlines_svg(study.values.outlines(), canvas).encode(),
        "hair_lines": growth_svg(study.hair.drawn_lines(), canvas).encode(),
        "hairline": hairline_svg(study).encode(),
        "strokes": strokes_svg(study).encode(),
        "brush": brush_svg(study, across=False).encode(),
        "sheet": plan_pdf(study, plan, title, "A4", Counting()),
    }


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
