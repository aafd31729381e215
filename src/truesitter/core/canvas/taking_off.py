"""Taking paint off again: with what, from which films, and how hard to press."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import THICK_MM, Removal
from truesitter.core.canvas.tuning import LIFTED_LEFT, SAME_VALUE, STEPS
from truesitter.core.paint.media.supports import Support
from truesitter.core.types import Doubles, Mask

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
    lifts
        True where what it leaves of dry paint is a matter of the pigment.
    """

    name: ToolName
    does: str
    wet: bool
    dry: bool
    least: float
    lines: bool = False
    of_a_lock: bool = False
    lifts: bool = False


TOOLS: dict[ToolName, Tool] = {
    t.name: t
    for t in (
        Tool("rag", "wiped out", wet=True, dry=False, least=0.1),
        Tool("tissue", "lifted off whole", wet=True, dry=False, least=0.005, of_a_lock=True),
        Tool("cotton bud", "wiped out", wet=True, dry=False, least=0.05),
        Tool("damp brush", "lifted", wet=True, dry=True, least=0.3, lifts=True),
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
    shares, values = _values_left(canvas, pieces, tool)
    return float(np.exp(np.interp(1 - pressure, _way(values), np.log(shares))))


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
        (a few hundredths of an opaque film still hide most). Of shares that come as near, the largest:
        the least paint is taken off.
    """
    shares, values = _values_left(canvas, pieces, tool)
    # Between two shares the value moves evenly with the logarithm of the share.
    steps = np.diff(values)
    part = np.clip(np.divide(value - values[:-1], steps, out=np.ones_like(steps), where=steps != 0), 0, 1)
    off = np.abs(values[:-1] + part * steps - value)
    best = len(off) - 1 - int(np.argmin(np.round(off[::-1], 9)))
    at = best + float(part[best])
    every = np.arange(len(shares))
    share = float(np.exp(np.interp(at, every, np.log(shares))))
    return share, 1 - float(np.interp(at, every, _way(values)))


def least_left(canvas: Canvas, pieces: Mask, tool: Tool) -> float:
    """Part of the films that a tool leaves on some pieces however hard it is pressed.

    A damp brush lifts dry paint by its pigments: some let go of the paper, some have stained it.

    Parameters
    ----------
    canvas
        The canvas as it is.
    pieces
        (n,) pieces of the patchwork that are meant.
    tool
        What paint is taken off with.

    Returns
    -------
    float
        0–1.
    """
    if not (tool.lifts and goes_dry(tool, canvas, pieces)):
        return tool.least
    weights, left = [], []
    for film in canvas.films:
        over = film.layer.pieces & pieces
        area = float((canvas.patchwork.sizes * film.left)[over].sum())
        whole = sum(film.layer.parts.values())
        for key, parts in film.layer.parts.items() if area > 0 else ():
            weights.append(area * float(film.layer.film_mm or THICK_MM) * parts / whole)
            left.append(LIFTED_LEFT[canvas.rack.pigment(key).staining])
    return float(np.average(left, weights=weights)) if weights else tool.least


def _values_left(canvas: Canvas, pieces: Mask, tool: Tool) -> tuple[Doubles, Doubles]:
    """Shares that a tool can leave, rising to 1, and the value of the pieces with each."""
    dry = goes_dry(tool, canvas, pieces)
    shares = np.geomspace(least_left(canvas, pieces, tool), 1, STEPS)
    return shares, np.array([value_on(canvas.do(Removal(pieces, float(s), dry)), pieces) for s in shares])


def _way(values: Doubles) -> Doubles:
    """How far along the way of the value each share lies, 0–1.

    The way, not the value: over a ground of its own value a film goes darker and comes back, and one
    value then belongs to two shares.
    """
    way = np.concatenate([[0.0], np.cumsum(np.abs(np.diff(values)))])
    if way[-1] < SAME_VALUE:
        return np.linspace(0, 1, len(values))
    return np.asarray(way / way[-1])
