"""What a way of laying paint works on, and what it gives.

Each way is one file in `kinds`: what is laid on the canvas as it is by then. The planner
knows none of them.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Layer, Operation
from truesitter.core.canvas.patchwork import Patchwork
from truesitter.core.colour.spaces import Lab, as_lab
from truesitter.core.hair.layers.job import HairLayer
from truesitter.core.imaging.line import Line
from truesitter.core.paint.media.media_table import Medium
from truesitter.core.paint.media.supports import Support
from truesitter.core.paint.media.thickness import WetMm
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.paint.recipes.solver import solve_recipes
from truesitter.core.paint.recipes.wishes import Wishes
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.plan.pass_plan import Doing, PaintTaken, Thinned
from truesitter.core.plan.subject import Subject
from truesitter.core.sitter.region_names import FEATURES, Region
from truesitter.core.types import Doubles, Floats, Labels, Mask

FLESH_AND_FEATURES = {Region.SKIN, *FEATURES}


@dataclass(frozen=True)
class Scene:
    """What every step of a plan is painted from.

    Attributes
    ----------
    subject
        The sitter's maps.
    patchwork
        The pieces every step keeps to.
    palette, wishes
        The tubes that may be used, and what recipes must keep to.
    clear, body
        The same tubes for washes, without whites; and all of them laid thick enough to hide.
    medium, support, ground_lab
        What it is painted in and on, and the colour of its ground.
    mapped_lab
        (h, w, 3) reference fitted into the palette's reach.
    glazed
        Regions of each glaze that a whole place gets in the end.
    pairs
        The two sprayed mixtures of each place, once they are fitted.
    glazes
        Values of greys, and of what its glaze makes of them, of each of those places, once they are known.
    """

    subject: Subject
    patchwork: Patchwork
    palette: Palette
    clear: Palette
    body: Palette
    wishes: Wishes
    medium: Medium
    support: Support
    ground_lab: Lab
    mapped_lab: Floats
    glazed: tuple[tuple[Region, ...], ...] = ()
    pairs: dict[tuple[Region, ...], Any] = field(default_factory=dict, compare=False, repr=False)
    glazes: dict[tuple[Region, ...], tuple[Doubles, Doubles]] = field(
        default_factory=dict, compare=False, repr=False
    )

    @cached_property
    def regions(self) -> Labels:
        """Region of each piece, (n,)."""
        return self.patchwork.at(self.subject.regions)

    @cached_property
    def sums(self) -> Doubles:
        """Sum of the wanted L*a*b* over each piece, (n, 3)."""
        return self.patchwork.sums(self.mapped_lab)

    @cached_property
    def groups(self) -> Labels:
        """Value group of each piece, (n,)."""
        return self.patchwork.at(self.subject.groups)

    def target(self, pieces: Mask) -> Doubles:
        """Mean colour wanted on some pieces."""
        return np.asarray(self.sums[pieces].sum(axis=0) / self.patchwork.sizes[pieces].sum())

    def wishes_at(self, regions: tuple[Region, ...]) -> Wishes:
        """What recipes must keep to there: flesh and features are held nearer than all else."""
        return self.wishes if set(regions) <= FLESH_AND_FEATURES else self.wishes.elsewhere()

    def recipe(self, lab: Doubles, regions: tuple[Region, ...]) -> Recipe:
        """The best mixture for a colour in a place."""
        return solve_recipes(as_lab(lab), self.palette, self.wishes_at(regions), 1)[0]


@dataclass(frozen=True)
class Step:
    """One place of one template.

    Attributes
    ----------
    pieces
        (n,) where it is.
    group
        Value group it covers, None when it is not one.
    regions, film
        Of its template; the film as it is laid.
    aim
        (n,) the pieces whose colour is wanted, where that is not all of them.
    lines
        The lines it is made of, instead of pieces.
    tone
        (h, w) the pixels whose colour lines, or the light of every zone, take.
    order
        Which of the places of its template it is, from 0.
    last
        What the step before it laid, where that was a thin coat.
    hair
        The layer of the hair stage that it lays.
    hollows
        (n,) pieces that were laid as dark as they are wanted: washes stop there.
    spares
        True where it leaves out what it would make darker than it is wanted.
    """

    pieces: Mask
    group: int | None
    regions: tuple[Region, ...]
    film: WetMm
    aim: Mask | None = None
    lines: tuple[Line, ...] = ()
    tone: Mask | None = None
    last: Laid | None = None
    order: int = 0
    hair: HairLayer | None = None
    hollows: Mask | None = None
    spares: bool = False

    @property
    def wanted(self) -> Mask:
        """(n,) the pieces whose colour is wanted."""
        return self.pieces if self.aim is None else self.aim


@dataclass(frozen=True)
class Laid:
    """What a step comes to.

    Attributes
    ----------
    recipe, operations
        Mixture, without parts where nothing is mixed, and what is done to the canvas.
    pieces
        (n,) where it lies, inside the step's own.
    film
        As it is laid, wet.
    paint_mm
        Paint in it, before it was thinned.
    thinned, taken
        How the paint is thinned, and how much is taken off, from dark to light where it differs from
        group to group.
    said
        What else there is to say of it, in a sentence.
    coats
        In how many equal coats it is laid.
    tool
        What it is laid with, where that is not its template's.
    does
        What is done, where that is not what its kind usually does.
    """

    recipe: Recipe
    operations: tuple[Operation, ...]
    pieces: Mask
    film: WetMm
    paint_mm: float
    thinned: tuple[Thinned, ...] = ()
    taken: tuple[PaintTaken, ...] = ()
    said: str = ""
    coats: int = 1
    tool: str = ""
    does: Doing | None = None


@dataclass(frozen=True)
class Laying:
    """A way of laying.

    Attributes
    ----------
    name
        Unlike any other's.
    lay
        What is laid on the canvas as it is, or in words why nothing is.
    does
        What is done, in one of a few words.
    covers
        True when falling short of the wanted colour is worth a remark.
    leaves_ground
        True when it stops short of what the ground is left for.
    """

    name: str
    lay: Callable[[Scene, Step, Canvas], Laid | str]
    does: Doing
    covers: bool = False
    leaves_ground: bool = False


def even_film(scene: Scene, step: Step, recipe: Recipe) -> Laid:
    """An even film of a mixture over the whole place.

    Parameters
    ----------
    scene
        All that a kind of pass may ask.
    step
        Place, film and name of the pass.
    recipe
        What is laid.

    Returns
    -------
    Laid
        One layer.
    """
    layer = Layer(step.pieces, recipe.parts, scene.medium.dry(step.film))
    return Laid(recipe, (layer,), step.pieces, step.film, step.film)
