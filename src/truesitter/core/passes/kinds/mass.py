"""Masses: an even covering film in the mean colour of its place."""

from __future__ import annotations

from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.passes.laying import Laying, Scene, Step, lay_film
from truesitter.core.sitter.region_names import Region


def _mix(scene: Scene, step: Step) -> Recipe:
    """The flesh stage's own mixture where there is one, else one for the mean colour."""
    if step.regions == (Region.SKIN,) and step.group in scene.subject.flesh:
        return scene.subject.flesh[step.group]
    return scene.recipe(scene.target(step.pieces))


MASS = Laying("mass", _mix, lay_film, covers=True)
