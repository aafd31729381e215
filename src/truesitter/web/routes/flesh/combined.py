"""Mixtures made of mixtures: which there are, and what some parts of them come to."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field, TypeAdapter, ValidationError

from truesitter.core.colour.spaces import Lab
from truesitter.core.paint.board.turned import Way, turned
from truesitter.core.paint.recipes.ingredients import MARK, expand, until
from truesitter.core.paint.recipes.mixing import mix
from truesitter.core.paint.tubes.cautions import cautions_for
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.refusal import Refusal
from truesitter.core.stages.flesh_stage import TUBES
from truesitter.formats.words.told import PlanHeap, heap_of
from truesitter.web.http.answers import BenchRoute, answered
from truesitter.web.http.dependencies import CurrentStudy

_NAMED = ("values.names", "values.groups")
_NEEDS = ("flesh", "pins", "string", "colour families")
_LONGEST = 2000
Ingredient = tuple[Annotated[str, Field(min_length=1, max_length=80)], Annotated[int, Field(ge=0, le=1000)]]
_INGREDIENTS: TypeAdapter[list[Ingredient]] = TypeAdapter(Annotated[list[Ingredient], Field(max_length=12)])
router = APIRouter(prefix="/api/sitters/{sitter_id}", tags=["flesh"], route_class=BenchRoute)


class NamedOut(BaseModel):
    """A mixture that others may be mixed from."""

    name: str
    parts: dict[str, int]
    hex: str


class CombinedOut(BaseModel):
    """What parts of mixtures and tubes come to."""

    parts: dict[str, int]
    heap: PlanHeap | None
    lab: Lab
    hex: str
    value: float
    base: int
    """Parts of the mixture, where something was added to change it; else 1."""
    added: dict[str, int]
    """Parts of each tube added to them."""
    cautions: list[str]


@router.get("/flesh/named", dependencies=[answered("flesh/named", (*TUBES, *_NAMED), _NEEDS)])
def named(study: CurrentStudy) -> list[NamedOut]:
    """The mixtures of the skin, the pins, and those that painters know by name."""
    rack = study.flesh.palette().rack
    found = []
    for name, parts in study.flesh.named().items():
        amounts = {key: float(n) for key, n in parts.items()}
        colour = mix(amounts, Palette("named", "Named", tuple(parts), rack=rack))
        found.append(NamedOut(name=name, parts=parts, hex=colour.hex))
    return found


@router.get(
    "/flesh/combined", dependencies=[answered("flesh/combined", (*TUBES, *_NAMED), _NEEDS, version=2)]
)
def combined(
    study: CurrentStudy,
    parts: Annotated[str, Query(max_length=_LONGEST)],
    tube: Annotated[str, Query(max_length=60)] = "",
    steps: Annotated[float, Query(ge=-9, le=9)] = 0,
    way: Way | None = None,
) -> CombinedOut:
    """Parts of tubes and, with an @ before the name, of mixtures; then made lighter, darker or turned.

    `parts` is a JSON list of pairs of name and number. With a tube, that is added until the steps are
    made; without one the smallest addition from the tubes set out is found, for a way as well.
    """
    try:
        wanted = _INGREDIENTS.validate_json(parts)
    except ValidationError:
        raise Refusal("what is mixed is given as names with whole numbers of parts") from None
    amounts: dict[str, int] = {}
    for name, count in wanted:
        amounts[name] = amounts.get(name, 0) + count
    rack = study.flesh.palette().rack
    plain = tuple(name for name in amounts if not name.startswith(MARK))
    if plain:
        rack.check(plain)
    whole = expand(amounts, study.flesh.named())
    base, added = 1, dict[str, int]()
    if (steps or way) and not tube:
        allowed = study.settings.flesh.wishes().palette(study.flesh.palette())
        palette = Palette("made", "Made", tuple(dict.fromkeys((*whole, *allowed.tubes))), rack=rack)
        found = turned(whole, steps, way, palette)
        base, added = found.base, found.added
    elif tube and steps:
        rack.check((tube,))
        palette = Palette("made", "Made", tuple({*whole, tube}), rack=rack)
        changed = until(whole, tube, steps, palette)
        base, added = changed.base, {tube: changed.added}
    if added:
        whole = expand({f"{MARK}made": base, **added}, {"made": whole})
    colour = mix({k: float(n) for k, n in whole.items()}, Palette("made", "Made", tuple(whole), rack=rack))
    return CombinedOut(
        parts=whole, heap=heap_of(whole, rack), lab=colour.lab, hex=colour.hex, value=colour.value,
        base=base, added=added, cautions=list(cautions_for(whole, rack)[:-1]),
    )  # fmt: skip
