"""How a mixture is told: by heaps where a tube is too strong to count, by whole parts where it is thinned."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict, Field

from truesitter.core.paint.media.dilution import Dilution
from truesitter.core.paint.recipes.let_down import told_by_heaps
from truesitter.core.paint.recipes.mixing import mix
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.paint.tubes.rack import Rack
from truesitter.formats.words.wording import dilution_words, let_down_sentence


class Out(BaseModel):
    """What is given out: every field is always there."""

    model_config = ConfigDict(json_schema_serialization_defaults_required=True)


class PlanHeap(Out):
    """Strong tubes let down before they are counted out."""

    parts: dict[str, int] = Field(description="Parts to count out; those of `tubes` are of their heaps")
    tubes: list[str]
    hexes: dict[str, str] = Field(description="Colour of each heap on the palette")
    sentence: str = Field(description="How the heaps are made")


class PlanDilution(Out):
    """Whole parts of paint and of what thins it."""

    paint: int
    thinner: int
    thinned_with: str
    consistency: str
    blotted: bool
    words: str


def heap_of(parts: dict[str, int], rack: Rack) -> PlanHeap | None:
    """How a recipe is told by heaps; None when it needs none."""
    told = told_by_heaps(parts)
    if told is None:
        return None
    hexes = {
        key: mix(told.heap(key), Palette("heap", "Heap", (key, told.into), rack=rack)).hex
        for key in told.heaps
    }
    return PlanHeap(
        parts=told.parts, tubes=list(told.heaps), hexes=hexes, sentence=let_down_sentence(told, rack)
    )


def dilution_of(dilution: Dilution, thinner: str) -> PlanDilution:
    """A dilution in numbers and in words."""
    return PlanDilution(
        paint=dilution.paint,
        thinner=dilution.thinner,
        thinned_with=thinner,
        consistency=dilution.consistency,
        blotted=dilution.blotted,
        words=dilution_words(dilution, thinner),
    )


def dilution_if(recipe: Recipe, thinner: str) -> PlanDilution | None:
    """How a recipe is thinned; None for paint laid thick."""
    return dilution_of(recipe.dilution, thinner) if recipe.dilution else None
