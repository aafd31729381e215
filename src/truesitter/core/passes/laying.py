"""What a way of laying paint works on, and what it gives.

Each way is one file in `kinds`: what can be found before anything is laid, and what is laid
on the canvas as it is by then. The planner knows none of them.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import cv2
import numpy as np

from truesitter.core.paint.media import DryMm, Medium, WetMm
from truesitter.core.paint.mixing import as_lab
from truesitter.core.paint.palettes import Palette
from truesitter.core.paint.rounding import Recipe
from truesitter.core.paint.solver import solve_recipes
from truesitter.core.paint.wishes import Wishes
from truesitter.core.passes.canvas import Canvas, Layer
from truesitter.core.passes.plan import Subject
from truesitter.core.sitter.region_names import Region
from truesitter.core.types import Doubles, Floats, Mask


def mean_lab(lab: Floats, mask: Mask) -> Doubles:
    """Mean L*a*b* of a picture (h, w, 3) inside a mask, (3,)."""
    return np.array(cv2.mean(lab, mask.view(np.uint8))[:3])


@dataclass(frozen=True)
class Scene:
    """What every step of a plan is painted from.

    Attributes
    ----------
    subject
        The sitter's maps.
    palette, wishes
        The tubes that may be used, and what recipes must keep to.
    medium, ground_value
        Of the school.
    mapped_lab
        (h, w, 3) reference fitted into the palette's reach.
    """

    subject: Subject
    palette: Palette
    wishes: Wishes
    medium: Medium
    ground_value: float
    mapped_lab: Floats

    def target(self, mask: Mask) -> Doubles:
        """Mean colour wanted inside a mask."""
        return mean_lab(self.mapped_lab, mask)

    def recipe(self, lab: Doubles) -> Recipe:
        """The best mixture for a colour."""
        return solve_recipes(as_lab(lab), self.palette, self.wishes, 1)[0]


@dataclass(frozen=True)
class Step:
    """One place of one template.

    Attributes
    ----------
    mask
        (h, w) where it is.
    group
        Value group it covers, None when it is not one.
    regions, film
        Of its template; the film as it is laid.
    """

    mask: Mask
    group: int | None
    regions: tuple[Region, ...]
    film: WetMm


@dataclass(frozen=True)
class Laid:
    """What a step comes to.

    Attributes
    ----------
    recipe, layers
        Mixture, and what lies on the canvas.
    mask
        (h, w) where it lies, inside the step's own.
    film
        As it is laid.
    """

    recipe: Recipe
    layers: tuple[Layer, ...]
    mask: Mask
    film: WetMm


@dataclass(frozen=True)
class Laying:
    """A way of laying.

    Attributes
    ----------
    name
        Unlike any other's.
    mix
        The mixture, where it depends on nothing laid before; None where it does.
    lay
        What is laid on the canvas as it is, or in words why nothing is.
    covers
        True when falling short of the wanted colour is worth a remark.
    """

    name: str
    mix: Callable[[Scene, Step], Recipe | None]
    lay: Callable[[Scene, Step, Recipe | None, Canvas], Laid | str]
    covers: bool = False


def lay_film(scene: Scene, step: Step, recipe: Recipe | None, canvas: Canvas) -> Laid:
    """An even film of a mixture found beforehand over the whole place."""
    if recipe is None:
        raise ValueError("an even film needs its mixture")
    layer = Layer(step.mask, recipe.parts, scene.medium.dry(step.film))
    return Laid(recipe, (layer,), step.mask, step.film)


def thinned(scene: Scene, film: DryMm) -> WetMm:
    """How thick a dry film was laid in the school's medium."""
    return scene.medium.wet(film)
