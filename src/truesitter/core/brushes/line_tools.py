"""What draws a line of some width, and how fluid its paint must be to run off the tip."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from truesitter.core.brushes.tuning import LINE_TOOLS, LONG_LINE_MM, LONG_LINE_TOOLS, THICKEST_OF_WIDTH
from truesitter.core.imaging.line import Line


@dataclass(frozen=True)
class LineTool:
    """A tool for lines from some width on.

    Attributes
    ----------
    name
        As the painter calls it.
    from_mm
        Its lines are so wide or wider.
    paint, thinner
        Parts of each that its lines are drawn with, so that they run off the tip.
    """

    name: str
    from_mm: float
    paint: int
    thinner: int


def line_tool(width_mm: float, length_mm: float = 0.0) -> LineTool:
    """The tool for lines of a width; long ones want long hair, which carries their paint to the end.

    Parameters
    ----------
    width_mm
        Where they are fullest.
    length_mm
        Of one of them; 0 where it does not matter.

    Examples
    --------
    >>> line_tool(6.0).name, line_tool(0.5).name, line_tool(0.12).name
    ('filbert', 'liner', 'rigger')
    >>> line_tool(0.5, 60.0).name, line_tool(2.0, 60.0).name, line_tool(2.0, 10.0).name
    ('rigger', 'slanted liner', 'small round')
    """
    found = next(tool for tool in (LineTool(*row) for row in LINE_TOOLS) if width_mm >= tool.from_mm)
    if length_mm >= LONG_LINE_MM and found.name in LONG_LINE_TOOLS:
        return replace(found, name=LONG_LINE_TOOLS[found.name])
    return found


def widths_mm(lines: tuple[Line, ...]) -> tuple[float, float]:
    """Widths of some lines where they are fullest, in mm: usual, and of the thinner ones.

    Parameters
    ----------
    lines
        At least one.

    Returns
    -------
    tuple[float, float]
        Median, which the tool is chosen by, and tenth part, which the film must suit.
    """
    usual, thin = np.quantile([float(line.widths_mm.max()) for line in lines], (0.5, 0.1))
    return float(usual), float(thin)


def thickest_film(width_mm: float) -> float:
    """Wet film of a line at most, in mm: paint heaps up no higher than half as wide as it lies.

    A bead of liquid that meets the ground at a right angle is half a cylinder; paint wets its ground, so
    that it stands lower (wetting angle under 90°).
    """
    return THICKEST_OF_WIDTH * width_mm
