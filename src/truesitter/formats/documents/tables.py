"""Tables as CSV."""

from __future__ import annotations

import csv
import io

from truesitter.core.brushes.laying import widest_brush
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.sitter.region_names import Region
from truesitter.core.stages import Study
from truesitter.formats.documents.cells import safe
from truesitter.formats.words.wording import added_sentence

HEADER = (
    "number", "group", "group_name", "region", "place", "area_mm2", "value", "L", "a", "b",
    "circle_mm", "brush_mm", "x", "y", "neighbours",
)  # fmt: skip

MIXTURE_HEADER = (
    "family", "name", "value", "L", "a", "b", "delta_e", "value_error", "parts", "from_the_last",
)  # fmt: skip


def shapes_csv(study: Study) -> str:
    """Every value shape, one to a line; numbers with a point, lengths in mm on the canvas."""
    names = study.settings.values.group_names()
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(HEADER)
    for s in study.values.shapes().shapes:
        writer.writerow(
            [
                s.number + 1, s.group + 1, safe(names[s.group]), Region(s.region).name.lower(),
                study.sitter.place_at(s.x, s.y), f"{s.area_mm2:.1f}", f"{s.value:.2f}",
                *(f"{v:.2f}" for v in s.lab), f"{s.circle_mm:.1f}", f"{widest_brush(s.circle_mm):g}",
                f"{s.x:.4f}", f"{s.y:.4f}", " ".join(str(n + 1) for n in s.neighbours),
            ]
        )  # fmt: skip
    return out.getvalue()


def board_rows(study: Study) -> list[tuple[str, str, Recipe, str]]:
    """Every mixture of the palette board: family, name, recipe, and how it comes from the one before."""
    rack = study.flesh.palette().rack
    rows: list[tuple[str, str, Recipe, str]] = [
        ("pinned", name, recipe, "") for name, recipe in study.flesh.pinned()
    ]
    names = study.settings.values.group_names()
    rows += [("skin by value group", names[m.group], m.recipe, "") for m in study.flesh.mixed().mixtures]
    for family in study.flesh.families():
        for number, tone in enumerate(study.flesh.string(family), start=1):
            added = f"{tone.base} of the last + {added_sentence(tone.added, rack)}" if tone.added else ""
            rows.append((family, f"tone {number}", tone.recipe, added))
    return rows


def mixtures_csv(study: Study) -> str:
    """The palette board, one mixture to a line."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(MIXTURE_HEADER)
    for family, name, r, added in board_rows(study):
        writer.writerow(
            [
                family, safe(name), f"{r.predicted.value:.2f}", *(f"{v:.2f}" for v in r.predicted.lab),
                f"{r.delta_e:.2f}", f"{r.value_error:+.2f}",
                " ".join(f"{k}={n}" for k, n in r.parts.items()), safe(added),
            ]
        )  # fmt: skip
    return out.getvalue()
