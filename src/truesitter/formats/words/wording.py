"""Numbers as a painter writes them down."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from truesitter.core.colour.spaces import WARM_AXIS, Lab
from truesitter.core.paint.board.puddles import SAME, WATER
from truesitter.core.paint.media.dilution import Dilution
from truesitter.core.paint.recipes.let_down import LetDown, told_by_heaps
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.paint.recipes.tuning import HEAP_PARTS
from truesitter.core.paint.tubes.rack import Rack


@dataclass(frozen=True)
class Counting:
    """How the painter counts values: 0 black to 10 white, or 9 dark to 1 light."""

    down: bool = False

    def __call__(self, value: float) -> str:
        """A value as it is counted."""
        return f"{10 - value if self.down else value:.1f}"

    def error(self, steps: float) -> str:
        """A value error in words, the same however values are counted."""
        if abs(steps) < 0.05:
            return "value right"
        return f"{abs(steps):.1f} steps too {'light' if steps > 0 else 'dark'}"


def error_sentence(recipe: Recipe, counting: Counting) -> str:
    """The value a recipe makes, and how far it is from what was wanted."""
    return (
        f"value {counting(recipe.predicted.value)}, {counting.error(recipe.value_error)}; "
        f"colour difference {recipe.delta_e:.1f}"
    )


def duration(minutes: float) -> str:
    """Minutes as days, hours or minutes, rounded to what matters."""
    if minutes >= 2 * 24 * 60:
        return f"{minutes / 1440:.0f} days"
    if minutes >= 90:
        return f"{minutes / 60:.0f} hours"
    return f"{minutes:.0f} minutes" if minutes >= 1 else "less than a minute"


def many(number: int, what: str) -> str:
    """So many of something, as ``one sitting`` or ``3 sittings``."""
    return f"one {what}" if number == 1 else f"{number} {what}s"


def worked(minutes: float) -> str:
    """Minutes of work as hours and minutes, as ``3 h 20 min``."""
    hours, rest = divmod(round(minutes), 60)
    return f"{hours} h {rest} min" if hours and rest else f"{hours} h" if hours else f"{rest} min"


def dilution_words(dilution: Dilution, thinner: str) -> str:
    """Whole parts and consistency, as ``1 of paint to 27 of water, a trace``."""
    if not dilution.thinner:
        words = "paint as it comes"
    else:
        words = f"{dilution.paint} of paint to {dilution.thinner} of {thinner}, {dilution.consistency}"
    return f"{words}; blot it at once" if dilution.blotted else words


def parts_sentence(parts: dict[str, int], rack: Rack, thinned: str | None = None) -> str:
    """Parts as ``8 Titanium white : 3 Yellow ochre``, and how the mixture is thinned where it is."""
    told = told_by_heaps(parts)
    sentence = " : ".join(
        f"{n} {rack.pigment(k).name}{' let down' if told and k in told.heaps else ''}"
        for k, n in (told.parts if told else parts).items()
    )
    if told:
        sentence += f" (first {let_down_sentence(told, rack)})"
    return f"{sentence}; {thinned}" if thinned else sentence


def added_sentence(added: dict[str, int], rack: Rack) -> str:
    """What goes into a heap or a puddle, as ``12 water, 1 Yellow ochre``."""
    return ", ".join(
        f"{n} {key if key in (WATER, SAME) else rack.pigment(key).name}" for key, n in added.items()
    )


def mix_sentence(of: Sequence[tuple[str, int]]) -> str:
    """Parts of heaps and tubes by name, as ``2 of middle flesh, 1 of Ivory black``; one alone as it is."""
    if len(of) == 1:
        return f"{of[0][0]}, as it is"
    return ", ".join(f"{parts} of {name}" for name, parts in of)


def let_down_sentence(told: LetDown, rack: Rack) -> str:
    """How the heaps are made, as ``1 Phthalo blue in 20 Titanium white``."""
    into = f"{HEAP_PARTS} {rack.pigment(told.into).name}"
    return "; ".join(
        f"1 {rack.pigment(key).name} in {into}"
        + (f", then 1 of that in {HEAP_PARTS} again" if times == 2 else "")
        for key, times in told.heaps.items()
    )


def judgement(target: Lab, made: Lab, value_error: float) -> str:
    """How a mixture differs from what was wanted, as a painter would say it.

    Parameters
    ----------
    target, made
        L*a*b* wanted and predicted.
    value_error
        Predicted minus wanted, in value steps.
    """
    warmth = float(WARM_AXIS[0] * (made[1] - target[1]) + WARM_AXIS[1] * (made[2] - target[2]))
    chroma = math.hypot(made[1], made[2]) - math.hypot(target[1], target[2])
    said = []
    for amount, more, less, least in (
        (warmth, "warm", "cool", 1.0),
        (chroma, "strong in colour", "grey", 2.0),
    ):
        if abs(amount) >= least:
            size = "a touch too" if abs(amount) < 3 * least else "too"
            said.append(f"{size} {more if amount > 0 else less}")
    if abs(value_error) < 0.1:
        said.append("value right")
    else:
        size = "a touch too" if abs(value_error) < 0.35 else "too"
        said.append(f"{size} {'light' if value_error > 0 else 'dark'}")
    return "colour and value right" if said == ["value right"] else ", ".join(said)
