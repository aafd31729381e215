"""What is dropped into a wash, and on what paper it is laid, in words."""

from __future__ import annotations

import math
from collections.abc import Sequence

from truesitter.core.paint.tubes.rack import Rack
from truesitter.core.plan.pass_plan import Pass
from truesitter.core.plan.water.ways import Charge, Way
from truesitter.core.plan.water.wet_beside import wet_minutes
from truesitter.core.school.school_document import PaperState
from truesitter.formats.words.wording import added_sentence, parts_sentence

GRAIN_SHARE, GRAIN_CM2 = 0.2, 4.0
"""A pigment that is so much of a wash, on so many cm², shows its grain [try]."""

_WAYS: dict[Way, str] = {
    "flat": "Laid flat, in one strength.",
    "graded": "One puddle in several strengths: laid at its weakest, stronger paint goes in while it shines.",
    "charged": "Other mixtures go in while it shines, and merge by themselves.",
    "pulled out": "Begun at its dark end, at full strength, and drawn out with a clean, damp brush.",
    "linked": "One wash over several places of one value; nothing stops at their borders.",
}

_PAPER: dict[PaperState, str] = {
    "dry": "",
    "damp": "The paper is damp, no longer shining, when it is laid.",
    "wet": "Wet the whole place first, and begin while the paper shines.",
    "soaked": "Soak the sheet first, and let the shine sink in.",
}


def charge_words(charge: Charge, rack: Rack, mixed: str) -> str:
    """One drop, as ``more of the same puddle, 1 : 7``.

    Parameters
    ----------
    charge
        What is dropped.
    rack
        Says what the tubes are called.
    mixed
        What it is mixed from, in words; empty where there are no heaps.
    """
    dilution = charge.dilution
    strength = f"{dilution.paint} : {dilution.thinner}" if dilution.thinner else "as it comes"
    if charge.added:
        return f"{added_sentence(charge.added, rack)} to {charge.base} parts of the wash"
    if charge.same:
        return f"more of the same puddle, {strength}"
    return f"{mixed or parts_sentence(charge.told, rack)}, {strength}"


def grain_words(one: Pass, rack: Rack) -> str:
    """Which of its pigments settle into the paper, and where that will be seen; empty for an even wash."""
    if one.way is None or one.lines:
        return ""
    found = dict[str, int]()
    for parts, _ in one.portions:
        whole = sum(parts.values())
        for key, count in parts.items():
            pigment = rack.pigment(key)
            if pigment.granulation and count >= GRAIN_SHARE * whole:
                found[pigment.name] = max(found.get(pigment.name, 0), pigment.granulation)
    if not found or one.area_cm2 < GRAIN_CM2:
        return ""
    names = " and ".join(found)
    verb = "granulates" if len(found) == 1 else "granulate"
    where = "wherever the wash stands wet" if max(found.values()) > 1 else "on rough paper most"
    return f"{names} {verb}: grain will show {where}; tilt and leave it."


def letter(number: int) -> str:
    """What the first drop, 0, and those after it are called: a, b, c."""
    return chr(ord("a") + number)


def laid_words(one: Pass, rack: Rack, passes: Sequence[Pass]) -> str:
    """How wet its paper is, how it is laid, what would bloom, what grain it will show.

    Parameters
    ----------
    one
        The pass.
    rack
        Says what the tubes are called.
    passes
        All of the plan.

    Returns
    -------
    str
        Empty for what is no wash, and for lines on dry paper.
    """
    if one.way is None or one.paper is None:
        return ""
    # The edge of a line tells how it is drawn.
    way = () if one.lines else (_WAYS[one.way], *_neighbours(one, passes), _bloom(one))
    return " ".join(said for said in (_PAPER[one.paper], *way, grain_words(one, rack)) if said)


def _bloom(one: Pass) -> str:
    """When nothing may touch it: what is wetter than a wash that has lost its shine makes a bloom in it."""
    shines, dry = math.ceil(one.open_minutes[1]), round(one.dries_minutes)
    if dry <= shines:
        return ""
    return f"From {shines} to {dry} minutes after it is laid nothing wetter may touch it: it would bloom."


def _neighbours(one: Pass, passes: Sequence[Pass]) -> list[str]:
    """Washes beside it that are wet when it is begun: they run together.

    Bare paper between two things is closed later; across a face it would be a crack.
    """
    found = list[str]()
    for same, advice in (
        (True, "wait where the border is to stay, and let them meet where it is soft."),
        (False, "leave a hair of dry paper between, or wait."),
    ):
        wet = [
            (passes[n].name, wet_minutes(one, passes[n]))
            for n in one.beside
            if bool(set(one.places) & set(passes[n].places)) == same
        ]
        names = [f"“{name}”" for name, minutes in wet if minutes >= 1]
        if names:
            minutes = math.ceil(max(minutes for _, minutes in wet))
            verb = "is" if len(names) == 1 else "are"
            found.append(f"{' and '.join(names)} beside it {verb} wet for {minutes} minutes more: {advice}")
    return found


def wash_words(one: Pass, rack: Rack, drops: Sequence[str], passes: Sequence[Pass]) -> str:
    """How a wash is laid and what is dropped in, in a few sentences; empty for what is no wash.

    Parameters
    ----------
    one
        The wash.
    rack
        Says what the tubes are called.
    drops
        What goes in and where, in order.
    passes
        All of the plan.
    """
    said = [words for words in (laid_words(one, rack, passes),) if words]
    if drops:
        told = "; ".join(f"{letter(n)}, {words}" for n, words in enumerate(drops))
        said.append(f"While it shines, drop in: {told}. Let it run; do not stir.")
    return " ".join(said)
