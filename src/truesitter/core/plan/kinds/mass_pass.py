"""Masses: an even covering film in the mean colour of its place."""

from __future__ import annotations

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.plan.laying import Laid, Laying, Scene, Step, even_film
from truesitter.core.sitter.region_names import Region


def _lay(scene: Scene, step: Step, canvas: Canvas) -> Laid:
    """In the flesh stage's own mixture where there is one, else one for the mean colour."""
    if step.regions == (Region.SKIN,) and step.group in scene.subject.flesh:
        return even_film(scene, step, scene.subject.flesh[step.group])
    return even_film(scene, step, scene.recipe(scene.target(step.wanted)))


MASS = Laying("mass", _lay, "mass", covers=True, leaves_ground=True)
