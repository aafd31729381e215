"""Mixing by eye: parts are chosen, then the true mixture is shown."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.drills.drill_picture import DrillPicture
from truesitter.core.drills.rounds import Answer, NotHere, Places, Question, Rng, Round, Score
from truesitter.core.drills.tuning import MOST_PARTS, TARGET_PARTS, TUBES
from truesitter.core.paint.recipes.mixing import mix
from truesitter.core.refusal import Refusal


def mix_by_eye(picture: DrillPicture, level: float, rng: Rng, places: Places) -> Round:
    """A colour that three of four tubes make, in few parts."""
    del places
    rack = picture.palette.rack
    whites = [t for t in picture.palette.tubes if rack.pigment(t).family == "white"][:1]
    others = [t for t in picture.palette.tubes if rack.pigment(t).family != "white"]
    if len(whites) + len(others) < 2:
        raise NotHere("two tubes at least are needed to mix: set some out on the palette")
    picked = [str(t) for t in rng.permutation(others)[: TUBES - len(whites)]]
    offered = whites + picked
    used = whites + [str(t) for t in rng.permutation(picked)[:2]]
    parts = {t: int(rng.integers(1, TARGET_PARTS + 1)) for t in used}
    palette = replace(picture.palette, tubes=tuple(offered))
    target = mix({k: float(v) for k, v in parts.items()}, palette)

    def score(answer: Answer) -> Score:
        given = {k: v for k, v in answer.parts.items() if v}
        if not given or set(given) - set(offered) or any(not 0 <= v <= MOST_PARTS for v in given.values()):
            raise Refusal(f"choose parts of the tubes that are set out, up to {MOST_PARTS} of each")
        made = mix({k: float(v) for k, v in given.items()}, palette)
        off = float(delta_e_2000(np.array(made.lab), np.array(target.lab)))
        recipe = " : ".join(f"{v} {rack.pigment(k).name}" for k, v in parts.items())
        value = made.value - target.value
        side = "" if abs(value) < 0.1 else f", {abs(value):.1f} steps too {'light' if value > 0 else 'dark'}"
        words = f"Your mixture is ΔE {off:.1f} off{side}. It was made of {recipe}."
        return Score(off, off <= level, words, patches=(made.hex, target.hex))

    shown = tuple((t, rack.pigment(t).name, mix({t: 1.0}, palette).hex) for t in offered)
    return Round(Question(patches=(target.hex,), tubes=shown), score)
