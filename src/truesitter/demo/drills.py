"""Some goes at drills that a made-up painter has behind them: an eye that gets better."""

from __future__ import annotations

import random

from truesitter.core.drills.drill_kinds import DRILLS, DrillName
from truesitter.core.drills.rounds import Score
from truesitter.core.drills.staircase import Told, chance, estimate
from truesitter.core.drills.tuning import ROUNDS
from truesitter.store.log.drills import Asked, DrillRounds

_EYES: dict[DrillName, tuple[float, ...]] = {
    "value": (1.1, 0.9, 0.9, 0.6),
    "lighter": (0.6, 0.5, 0.35),
    "warm": (6.0, 5.0),
    "mix": (11.0, 9.0, 7.5),
}
"""How good the eye was in each go."""


def practise(rounds: DrillRounds, seed: int = 4) -> None:
    """Keep those goes."""
    rng = random.Random(seed)
    for name, eyes in _EYES.items():
        drill, told = DRILLS[name], list[Told]()
        for number, eye in enumerate(eyes):
            for at in range(ROUNDS):
                level = estimate(drill, told).level
                if drill.choices:
                    right = rng.random() < float(chance(level, eye, drill.choices))
                    off = 0.0 if right else level
                else:
                    off = abs(rng.gauss(0, eye))
                    right = off <= level
                told.append(Told(level, right, off))
                rounds.add(Asked(name, f"{number:08x}", level, at, ""), Score(off, right, ""))
