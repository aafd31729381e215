"""The heaps of plan.json: what is mixed once, and what each pass takes of it."""

from __future__ import annotations

from collections.abc import Mapping

from pydantic import Field

from truesitter.core.paint.recipes.ingredients import MARK
from truesitter.core.paint.tubes.rack import Rack
from truesitter.core.plan.pass_plan import Pass, PassPlan
from truesitter.core.stages import Study
from truesitter.formats.words.told import Out, PlanHeap, heap_of
from truesitter.formats.words.wording import Counting, mix_sentence, parts_sentence


class PlanMixPart(Out):
    """So many parts of a heap or of a tube."""

    heap: str | None = Field(description="Id of a heap of the plan")
    tube: str | None = Field(description="Key of a tube, where it is no heap")
    name: str
    hex: str
    parts: int


class PlanPaletteHeap(Out):
    """A heap on the palette, mixed once for all its passes."""

    id: str
    name: str
    parts: dict[str, int] = Field(description="Straight from the tubes")
    weakened: PlanHeap | None = Field(description="How, where a tube is too strong to count")
    hex: str
    value: float
    ml: float = Field(description="With loss")
    passes: list[int] = Field(description="Numbers of the passes it goes into, from 1")


def mix_of(one: Pass, plan: PassPlan, rack: Rack) -> list[PlanMixPart]:
    """What a pass takes from the palette; nothing where it is mixed by itself."""
    return mix_parts(one.mix, plan, rack)


def mix_parts(mix: Mapping[str, int], plan: PassPlan, rack: Rack) -> list[PlanMixPart]:
    """What a mix, heaps by `@` and their key, takes from the palette."""
    heaps = {MARK + h.key: h for h in plan.heaps}
    return [
        PlanMixPart(
            heap=heaps[key].key if key in heaps else None,
            tube=None if key in heaps else key,
            name=heaps[key].name if key in heaps else rack.pigment(key).name,
            hex=heaps[key].colour.hex if key in heaps else rack.tube(key).masstone_hex(),
            parts=parts,
        )
        for key, parts in mix.items()
    ]


def mix_words(mix: list[PlanMixPart]) -> str:
    """A mix as ``2 of middle flesh, 1 of Ivory black``; nothing where there is none."""
    return mix_sentence([(part.name, part.parts) for part in mix]) if mix else ""


def heaps_of(study: Study) -> list[PlanPaletteHeap]:
    """The heaps of a study's plan, most first."""
    if study.passes.refused():
        return []
    plan, rack = study.passes.paced(), study.flesh.palette().rack
    return [
        PlanPaletteHeap(
            id=h.key,
            name=h.name,
            parts=h.parts,
            weakened=heap_of(h.parts, rack),
            hex=h.colour.hex,
            value=h.colour.value,
            ml=h.ml,
            passes=[n + 1 for n in h.passes],
        )
        for h in plan.heaps
    ]


def heap_sentence(heap: PlanPaletteHeap, rack: Rack, counting: Counting) -> str:
    """A heap for paper: its name, what it is mixed from, its value and how much of it."""
    passes = f"{'pass' if len(heap.passes) == 1 else 'passes'} {', '.join(map(str, heap.passes))}"
    parts = parts_sentence(heap.parts, rack)
    return f"{heap.name}: {parts}; value {counting(heap.value)}, {heap.ml:.1f} ml, for {passes}."
