"""Tables as CSV."""

from __future__ import annotations

import csv
import io

from truesitter.core.passes.brushes import widest_brush
from truesitter.core.sitter.region_names import Region
from truesitter.core.study import Study

HEADER = (
    "number", "group", "group_name", "region", "place", "area_mm2", "value", "L", "a", "b",
    "circle_mm", "brush_mm", "x", "y", "neighbours",
)  # fmt: skip


def shapes_csv(study: Study) -> str:
    """Every value shape, one to a line; numbers with a point, lengths in mm on the canvas."""
    names = study.values.settings.group_names()
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(HEADER)
    for s in study.values.shapes().shapes:
        writer.writerow(
            [
                s.number + 1, s.group + 1, names[s.group], Region(s.region).name.lower(),
                study.sitter.place_at(s.x, s.y), f"{s.area_mm2:.1f}", f"{s.value:.2f}",
                *(f"{v:.2f}" for v in s.lab), f"{s.circle_mm:.1f}", f"{widest_brush(s.circle_mm):g}",
                f"{s.x:.4f}", f"{s.y:.4f}", " ".join(str(n + 1) for n in s.neighbours),
            ]
        )  # fmt: skip
    return out.getvalue()
