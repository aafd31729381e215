"""`./sitter siege [NAME …] [--seed S] [--count N]`: the long trials; ends with 1 when one does not hold."""

from __future__ import annotations

import argparse
import sys
import time
from collections.abc import Callable

from siege.afternoon import SECONDS, afternoon
from siege.attacks import attacks
from siege.hostile import hostile
from siege.kills import kills
from siege.pictures import pictures
from siege.server import seconds_asked
from siege.uploads import AT_ONCE, uploads
from siege.writers import writers

Figures = dict[str, object]


def _counted(figures: Figures) -> bool:
    same = figures["acknowledged"] == figures["there"] == figures["in history"]
    return same and figures["after undo"] == 0


def _within(figures: Figures, mib: int) -> bool:
    return int(str(figures["peak MiB"])) < mib


TRIALS: dict[str, tuple[Callable[[], Figures], Callable[[Figures], bool]]] = {
    "kills": (kills, lambda f: not f["lost"] and not f["troubles"]),
    "writers": (writers, _counted),
    "hostile": (hostile, lambda f: not f["5xx"] and not f["refused without a word"] and _within(f, 1536)),
    "uploads": (uploads, lambda f: f["answers"] == [201] * AT_ONCE and _within(f, 2048)),
    "attacks": (attacks, lambda f: all(f.values())),
    "afternoon": (
        lambda: afternoon(seconds_asked(SECONDS)),
        lambda f: not f["failed"] and _within(f, 2048),
    ),
}


def main() -> int:
    parser = argparse.ArgumentParser(prog="./sitter siege", description=__doc__)
    parser.add_argument("names", nargs="*", help=", ".join([*TRIALS, "pictures"]))
    parser.add_argument("--seed", type=int, default=1, help="of the pictures drawn by lot")
    parser.add_argument("--count", type=int, default=60, help="how many of them")
    chosen = parser.parse_args()
    trials = {
        **TRIALS, "pictures": (lambda: pictures(chosen.count, chosen.seed), lambda f: not f["in trouble"]),
    }  # fmt: skip
    asked = chosen.names or list(trials)
    unknown = [name for name in asked if name not in trials]
    if unknown:
        print(f"There is no trial called {unknown[0]}; there are {', '.join(trials)}.", file=sys.stderr)
        return 2
    failed = False
    for name in asked:
        trial, holds = trials[name]
        began = time.monotonic()
        figures = trial()
        held = holds(figures)
        failed |= not held
        print(
            f"{name}: {'holds' if held else 'DOES NOT HOLD'} ({time.monotonic() - began:.0f} s)", flush=True
        )
        for what, figure in figures.items():
            print(f"  {what}: {figure}", flush=True)
    return int(failed)


if __name__ == "__main__":
    sys.exit(main())
