"""The unifying glaze: a thin film over shadows and halftones that draws them together."""

from __future__ import annotations

import numpy as np

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spaces import as_lab
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.media.dilution import Dilution
from truesitter.core.paint.optics.kubelka_munk import film_reflectance, leave_surface
from truesitter.core.paint.recipes.glazes import glaze_blends
from truesitter.core.paint.recipes.mixing import Colour
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.passes.canvas import Canvas
from truesitter.core.passes.layer import Layer
from truesitter.core.passes.laying import Laid, Laying, Scene, Step
from truesitter.core.passes.plan import Thinned
from truesitter.core.types import Doubles

LEAST_GAIN = 0.15
"""A glaze that brings a place nearer by less than this, in ΔE2000, is not worth laying."""


def _lay(scene: Scene, step: Step, canvas: Canvas) -> Laid | str:
    """The thin film, of one or two tubes, that brings a place nearest to its reference.

    Every stack of the place is compared with the mean reference colour over it;
    the gain is the area-weighted fall in ΔE2000.
    """
    stacks, which = np.unique(canvas.stack[step.pieces], return_inverse=True)
    area = np.bincount(which, weights=scene.patchwork.sizes[step.pieces])
    sums = [np.bincount(which, weights=channel) for channel in scene.sums[step.pieces].T]
    wanted = np.stack(sums, axis=1) / area[:, None]
    below = canvas.spectra[stacks]
    share = area / area.sum()
    now = float(share @ delta_e_2000(reflectance_to_lab(leave_surface(below)), wanted))
    thinning = scene.medium.thinning
    # Every third dilution will do: neighbours look alike.
    dilutions = thinning.every()[::3]
    films = np.array([thinning.dry(d) for d in dilutions])[:, None, None]
    best: tuple[float, dict[str, int], Dilution, Doubles] | None = None
    for parts in glaze_blends(scene.palette):
        k, s = scene.palette.rack.mixture(parts)
        labs = reflectance_to_lab(leave_surface(film_reflectance(k, s, films, below)))
        errors = delta_e_2000(labs, wanted) @ share
        best_film = int(np.argmin(errors))
        if best is None or errors[best_film] < best[0]:
            best = (float(errors[best_film]), parts, dilutions[best_film], labs[best_film])
    if best is None or now - best[0] < LEAST_GAIN:
        return "no thin film from this palette brings the shadows and halftones nearer to the reference."
    error, parts, dilution, labs = best
    film = thinning.dry(dilution)
    mean, target = share @ labs, share @ wanted
    made = Recipe(
        parts=parts,
        target_lab=as_lab(target),
        predicted=Colour.of(mean),
        delta_e=error,
        value_error=float(lab_value(mean) - lab_value(target)),
        film_mm=film,
        dilution=dilution,
    )
    layers = (Layer(step.pieces, parts, film, fades=True),)
    paint = film / thinning.strength
    return Laid(made, layers, step.pieces, thinning.film, paint, (Thinned(dilution),))


GLAZE = Laying("glaze", _lay)
