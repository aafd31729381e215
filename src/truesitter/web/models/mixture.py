"""A mixture as the screen shows it."""

from __future__ import annotations

import numpy as np
from pydantic import BaseModel

from truesitter.core.colour.spaces import Lab, lab_to_srgb, srgb_to_hex
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.layered.wet import wet_look
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.paint.recipes.solver import Suggestion
from truesitter.core.settings import FleshSettings
from truesitter.formats.words.told import PlanDilution, PlanHeap, dilution_if, heap_of
from truesitter.formats.words.wording import judgement

_SHIFT_SHOWN = 0.05


class WetOut(BaseModel):
    """What a mixture has to look like wet."""

    hex: str
    value: float
    shift: float
    """Dry minus wet, in value steps."""


class MixtureOut(BaseModel):
    """A mixture with the colours to show."""

    group: int | None
    share: float | None
    seen_hex: str
    target_hex: str
    predicted_hex: str
    on_screen: bool
    target_value: float
    seen_value: float
    parts: dict[str, int]
    heap: PlanHeap | None
    film_mm: float | None
    """Only for keeping a wash as it is; it is told by its dilution."""
    dilution: PlanDilution | None
    delta_e: float
    value_error: float
    judgement: str
    wet: WetOut | None
    """Only where the paint dries visibly lighter or darker."""
    reached: bool
    suggested_tube: str | None
    suggested_delta_e: float | None


def hex_of(lab: Lab) -> str:
    """A colour as the screen shows it."""
    return srgb_to_hex(lab_to_srgb(np.array(lab)))


def mixture_out(
    flesh: FleshSettings, seen: Lab, recipe: Recipe, suggestion: Suggestion | None = None,
    group: int | None = None, share: float | None = None,
) -> MixtureOut:  # fmt: skip
    """A recipe with everything that is shown of it."""
    wet = wet_look(recipe.predicted, flesh.drying_shift())
    shift = recipe.predicted.value - wet.value
    return MixtureOut(
        group=group,
        share=share,
        seen_hex=hex_of(seen),
        target_hex=hex_of(recipe.target_lab),
        predicted_hex=recipe.predicted.hex,
        on_screen=recipe.predicted.on_screen,
        target_value=float(lab_value(np.array(recipe.target_lab))),
        seen_value=float(lab_value(np.array(seen))),
        parts=recipe.parts,
        heap=heap_of(recipe.parts, flesh.rack()),
        film_mm=recipe.film_mm,
        dilution=dilution_if(recipe, flesh.washes().thinner),
        delta_e=recipe.delta_e,
        value_error=recipe.value_error,
        judgement=judgement(recipe.target_lab, recipe.predicted.lab, recipe.value_error),
        wet=WetOut(hex=wet.hex, value=wet.value, shift=shift) if abs(shift) >= _SHIFT_SHOWN else None,
        reached=recipe.reached,
        suggested_tube=suggestion.tube if suggestion else None,
        suggested_delta_e=suggestion.delta_e if suggestion else None,
    )
