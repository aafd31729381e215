"""A mixture with a touch of one tube in it: what it looks like where it is laid."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Layer
from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.optics.kubelka_munk import film_reflectance, leave_surface
from truesitter.core.paint.recipes.mixing import Colour
from truesitter.core.plan.kinds.water_pass import beneath
from truesitter.core.plan.laying import Scene
from truesitter.core.plan.pass_plan import StrokeTone
from truesitter.core.plan.tuning import TONE_BASES
from truesitter.core.types import Doubles, Mask


def touched(
    laid: Layer, on: Canvas, scene: Scene, apart_from_own: tuple[float, float], most_steps: float
) -> Iterator[StrokeTone]:
    """A layer's own mixture, then it with a touch of each tube that makes it look a little other.

    Parameters
    ----------
    laid
        The layer, of a film that is known.
    on
        The canvas under it.
    scene
        All that a kind of pass may ask.
    apart_from_own, most_steps
        How far it may look from its own, in ΔE2000, and in value steps.

    Yields
    ------
    StrokeTone
        Taken by no stroke yet.
    """
    rack, main = on.rack, laid.parts
    most = max(scene.wishes.most_tubes, len(main))
    below, film = _below(on, laid, scene), laid.film_mm
    assert film is not None

    def seen(parts: dict[str, int]) -> Doubles:
        k, s = rack.mixture(parts)
        return np.asarray(reflectance_to_lab(leave_surface(film_reflectance(k, s, film, below))))

    own, bare = seen(main), reflectance_to_lab(leave_surface(below))
    yield StrokeTone(dict(main), {}, 0, 0, Colour.of(own))
    whole = sum(main.values())
    for tube in _tubes(scene, laid):
        if len({*main, tube}) > most:
            continue
        for base in TONE_BASES:
            parts = {k: n * base for k, n in main.items()}
            parts[tube] = parts.get(tube, 0) + whole
            lab = seen(parts)
            apart = float(delta_e_2000(lab, own))
            steps = abs(float(lab_value(lab) - lab_value(own)))
            if not apart_from_own[0] <= apart <= apart_from_own[1] or steps > most_steps:
                continue
            # A film that only darkens may not veil what it goes over.
            if laid.fades and lab[0] > bare[0]:
                continue
            yield StrokeTone(parts, {tube: 1}, base, 0, Colour.of(lab))


def _tubes(scene: Scene, laid: Layer) -> tuple[str, ...]:
    """Tubes that may go into the strokes: those of the palette that its own are from."""
    palette = scene.palette if set(laid.parts) <= set(scene.palette.tubes) else scene.body
    return palette.tubes


def _below(on: Canvas, laid: Layer, scene: Scene) -> Doubles:
    """(31,) internal reflectance of what the strokes lie on."""
    under = laid.cover > 0 if laid.cover is not None else laid.pieces
    pieces: Mask = under if under.any() else np.ones_like(laid.pieces)
    return beneath(scene, on, pieces).internal()
