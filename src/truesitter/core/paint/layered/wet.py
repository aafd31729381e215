"""What a mixture looks like before it has dried."""

from __future__ import annotations

from truesitter.core.colour.value import value_to_lightness
from truesitter.core.paint.media.drying import DryingShift
from truesitter.core.paint.recipes.mixing import Colour


def wet_look(dry: Colour, shift: DryingShift) -> Colour:
    """What a mixture has to look like wet to dry to a colour; hue and chroma are kept as they are."""
    wet = shift.wet(dry.value)
    return Colour.of_lab((float(value_to_lightness(wet)), dry.lab[1], dry.lab[2]))
