"""Taking paint off again: with what, from which films, and how hard to press."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Removal
from truesitter.core.canvas.tuning import STEPS
from truesitter.core.paint.media.supports import Support
from truesitter.core.types import Mask

ToolName = Literal["rag", "tissue", "cotton bud", "damp brush", "eraser", "brush handle"]


@dataclass(frozen=True)
class Tool:
    """What takes paint off.

    Attributes
    ----------
    name, does
        As the painter calls it, and what it does.
    wet, dry
        From which films.
    least
        Part of a film that it leaves however hard it is pressed, 0–1 [try].
    lines
        True where it draws lines instead of clearing a place.
    of_a_lock
        True where it is laid on one lock of hair and lifted with it.
    """

    name: ToolName
    does: str
    wet: bool
    dry: bool
    least: float
    lines: bool = False
    of_a_lock: bool = False


TOOLS: dict[ToolName, Tool] = {
    t.name: t
    for t in (
        Tool("rag", "wiped out", wet=True, dry=False, least=0.1),
        Tool("tissue", "lifted off whole", wet=True, dry=False, least=0.005, of_a_lock=True),
        Tool("cotton bud", "wiped out", wet=True, dry=False, least=0.05),
        Tool("damp brush", "lifted", wet=True, dry=True, least=0.3),
        Tool("eraser", "erased", wet=False, dry=True, least=0.05),
        Tool("brush handle", "scratched", wet=True, dry=False, least=0.1, lines=True),
    )
}


def why_not(tool: Tool, canvas: Canvas, pieces: Mask, support: Support) -> str | None:
    """In words why nothing can be taken off some pieces; None when it can.

    Only films still open come off, and dry ones where the support lets go of them by degrees.

    Parameters
    ----------
    tool
        What paint is taken off with.
    canvas
        The canvas as it is.
    pieces
        (n,) pieces of the patchwork that are meant.
    support
        What is painted on.

    Returns
    -------
    str | None
        A sentence, or None.
    """
    if tool.wet and canvas.open_on(pieces):
        return None
    if not tool.dry:
        return f"nothing there is open any more, and a {tool.name} takes off only wet paint."
    if not any((film.layer.pieces & pieces).any() for film in canvas.films):
        return "there is no paint on it yet."
    if support.lightens == "by degrees":
        return None
    if support.lightens == "all or nothing":
        return f"dry paint comes off {support.name} all at once or stays: it cannot be lightened by degrees."
    return f"dry paint does not come off {support.name} again."


def goes_dry(tool: Tool, canvas: Canvas, pieces: Mask) -> bool:
    """True when a tool has to work on dry films there.

    Parameters
    ----------
    tool
        What paint is taken off with.
    canvas
        The canvas as it is.
    pieces
        (n,) pieces of the patchwork that are meant.

    Returns
    -------
    bool
        False where it works in wet films alone.
    """
    return tool.dry and not (tool.wet and canvas.open_on(pieces))


def value_on(canvas: Canvas, pieces: Mask) -> float:
    """Mean value of some pieces, by area."""
    return float(np.average(canvas.piece_values()[pieces], weights=canvas.patchwork.sizes[pieces]))


def share_for_pressure(canvas: Canvas, pieces: Mask, pressure: float, tool: Tool) -> float:
    """What pressing so hard, 0–1, leaves of the films on some pieces: the value moves evenly with it.

    Parameters
    ----------
    canvas
        The canvas as it is.
    pieces
        (n,) pieces of the patchwork that are meant.
    pressure
        0 takes nothing, 1 all that this tool can.
    tool
        What paint is taken off with.

    Returns
    -------
    float
        Part of the films left, 0–1.
    """
    dry = goes_dry(tool, canvas, pieces)
    full = value_on(canvas, pieces)
    least = value_on(canvas.do(Removal(pieces, tool.least, dry)), pieces)
    return share_for_value(canvas, pieces, full + (least - full) * pressure, tool)[0]


def share_for_value(canvas: Canvas, pieces: Mask, value: float, tool: Tool) -> tuple[float, float]:
    """What to leave of the films on some pieces, so that they come nearest to a value.

    Parameters
    ----------
    canvas
        The canvas as it is.
    pieces
        (n,) pieces of the patchwork that are meant.
    value
        Wanted, 0–10.
    tool
        What paint is taken off with.

    Returns
    -------
    share, pressure
        Part of the films left; and how hard to press, 0–1, where the value moves evenly from 0 to 1
        (a few hundredths of an opaque film still hide most).
    """
    dry = goes_dry(tool, canvas, pieces)
    shares = np.geomspace(tool.least, 1, STEPS)
    values = np.array([value_on(canvas.do(Removal(pieces, float(s), dry)), pieces) for s in shares])
    whole = values[-1] - values[0]
    if abs(whole) < 1e-9:
        return 1.0, 0.0
    # The more is left, the farther the value has gone from what lies below: always the same way.
    way = np.maximum.accumulate((values - values[0]) / whole)
    wanted = float(np.clip((value - values[0]) / whole, 0, 1))
    return float(np.exp(np.interp(wanted, way, np.log(shares)))), 1 - wanted
