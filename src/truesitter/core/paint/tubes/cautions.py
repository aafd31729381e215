"""Usual cautions for pigments. They never replace a label, a safety data sheet or local rules."""

from __future__ import annotations

from collections.abc import Iterable

from truesitter.core.paint.media.media_table import Medium
from truesitter.core.paint.tubes.rack import LIBRARY, Rack

_SENTENCES = {
    "toxic-lead": "contains lead: no sanding, no spraying, no food near; gloves, wash hands; "
    "keep from children; waste goes to a collection point",
    "toxic-mercury": "contains mercury: no heating, no sanding, no spraying; gloves; "
    "waste goes to a collection point",
    "toxic-cadmium": "contains cadmium: no sanding, no spraying, do not breathe the dry pigment; "
    "waste goes to a collection point",
    "cobalt": "contains cobalt: avoid skin contact, do not breathe the dry pigment",
    "nickel": "contains nickel: avoid skin contact if you are sensitive to it",
    "manganese": "contains manganese: do not breathe the dry pigment",
}
PROCESSES = {
    "sanding": "Sanding dry paint makes dust of its pigment: wet-sand out of doors with a fitted mask, "
    "and never lead, mercury, cadmium, cobalt, nickel or manganese.",
    "spraying": "Spraying carries pigment into the lungs: only non-toxic colours, with a respirator "
    "and extraction.",
    "solvents": "Turpentine and mineral spirit harm lungs, skin and nerves, the odourless kinds too: "
    "open the window, close the jar, wear gloves.",
    "leaf and size": "Sizes and leaf adhesives give off vapour: open the window. Cut away from the hand.",
}
"""Usual cautions for what is done with paint, whatever is in it."""

_OFF = {
    "toxic-lead": "contains lead, which poisons by dust, by mouth and through broken skin",
    "toxic-mercury": "contains mercury, whose dust and fumes are poisonous",
}


def safe_substitute(key: str, rack: Rack = LIBRARY) -> str:
    """A tube without a hazard that stands in for one: substitutes are followed until there is none.

    Empty when the tube needs no substitute or has none; the last of the line when all have a hazard.
    """
    found = ""
    while rack.pigment(key).hazard and rack.pigment(key).substitute:
        key = found = rack.pigment(key).substitute
    return found


def off_by_default(hazard: str) -> str:
    """Why a tube is not offered unless asked for; empty when it is offered."""
    return _OFF.get(hazard, "")


GENERAL = (
    "Labels, safety data sheets and local rules come before anything said here. "
    "Air the room; rags soaked with drying oil can catch fire by themselves: "
    "lay them flat to dry or keep them in a closed metal tin with water."
)


def cautions_for(tubes: Iterable[str], rack: Rack = LIBRARY, medium: Medium | None = None) -> tuple[str, ...]:
    """Cautions for the tubes used, each a sentence naming the pigment; the general one last.

    Parameters
    ----------
    medium
        What they are bound with: its own caution comes first, and of sprayed paint what must not be sprayed.
    """
    lines = [medium.caution] if medium and medium.caution else []
    for key in dict.fromkeys(tubes):
        pigment = rack.pigment(key)
        if pigment.hazard:
            line = f"{pigment.name} ({pigment.ci_name}) {_SENTENCES[pigment.hazard]}."
            if substitute := safe_substitute(key, rack):
                line += f" {rack.pigment(substitute).name} can stand in for it."
            lines.append(line)
            if medium and medium.sprayed:
                lines.append(f"Do not spray {pigment.name}: set out another tube for it.")
        if pigment.lightfastness in ("III", "IV", "V"):
            lines.append(f"{pigment.name} ({pigment.ci_name}) fades in light.")
    return (*lines, GENERAL)
