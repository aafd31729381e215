"""`./sitter mutate [MODULE] [--sample N] [--seed S]`."""

from __future__ import annotations

import argparse
import os
import random
import select
import time
from collections import Counter
from collections.abc import Sequence

from mutate.places import Place, all_places
from mutate.touching import Touching, measure
from mutate.trial import Outcome, Trial, preload

LONGEST = 25.0
"""Seconds of tests run for one change at most; what only a later one would notice counts as not noticed."""


def sampled(places: Sequence[Place], sample: int, seed: int) -> list[Place]:
    """One change in each of so many lines drawn by lot: a table of numbers weighs no more than a line."""
    rng = random.Random(seed)
    lines: dict[tuple[str, int], list[Place]] = {}
    for place in places:
        lines.setdefault((place.path, place.line), []).append(place)
    if not sample or sample >= len(lines):
        return list(places)
    return [rng.choice(lines[line]) for line in rng.sample(sorted(lines), sample)]


def run(places: Sequence[Place], touching: Touching, workers: int) -> dict[Place, Outcome]:
    """Try every place, so many at once; results in the order they come."""
    results: dict[Place, Outcome] = {}
    left, running = list(reversed(places)), list[Trial]()
    while left or running:
        while left and len(running) < workers:
            place = left.pop()
            tests = touching.tests(place.path, place.line, LONGEST)
            if tests:
                running.append(Trial(place, tests, touching.time_of(tests)))
            else:
                _note(place, Outcome.UNTESTED, results, len(places))
        if not running:
            continue
        wait = max(0.0, min(t.deadline for t in running) - time.monotonic())
        ended, _, _ = select.select([t.handle for t in running], [], [], wait)
        now = time.monotonic()
        for trial in [t for t in running if t.handle in ended or now >= t.deadline]:
            running.remove(trial)
            _note(trial.place, trial.outcome(), results, len(places))
    return results


def check_unchanged(places: Sequence[Place], touching: Touching) -> None:
    """Stop unless tests pass in a child while nothing is changed: else every change would seem noticed."""
    for place in places:
        tests = touching.tests(place.path, place.line, LONGEST)
        if tests:
            trial = Trial(place, tests, touching.time_of(tests), changed=False)
            select.select([trial.handle], [], [], max(0.0, trial.deadline - time.monotonic()))
            if trial.outcome() is not Outcome.SURVIVED:
                raise SystemExit(f"These tests fail though nothing was changed: {' '.join(tests)}")
            return


def _note(place: Place, outcome: Outcome, results: dict[Place, Outcome], total: int) -> None:
    results[place] = outcome
    words = f"{len(results):4}/{total} {outcome.value:9} {place.path}:{place.line}"
    if outcome in (Outcome.SURVIVED, Outcome.UNTESTED):
        words += f"  {place.operator}\n          {place.shown()}"
    print(words, flush=True)


def main() -> None:
    """Sample, try, and say how many were killed."""
    parser = argparse.ArgumentParser(prog="./sitter mutate", description=__doc__)
    parser.add_argument("module", nargs="?", default="core", help="below truesitter: core, core.paint, …")
    parser.add_argument("--sample", type=int, default=300, help="how many changes to try; 0 for all")
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--line", type=int, default=0, help="only this line of a module")
    chosen = parser.parse_args()
    touching = measure()
    places = [p for p in all_places(chosen.module) if chosen.line in (0, p.line)]
    places = sampled(places, chosen.sample, chosen.seed)
    if not places:
        raise SystemExit(f"Nothing to change in {chosen.module}.")
    # Two children share the machine; more threads in each would only make them wait.
    os.environ["OMP_NUM_THREADS"] = os.environ["OPENBLAS_NUM_THREADS"] = "1"
    preload()
    check_unchanged(places, touching)
    counts = Counter(run(places, touching, os.cpu_count() or 1).values())
    killed = counts[Outcome.KILLED] + counts[Outcome.TIMED_OUT]
    print(f"\n{killed} of {len(places)} killed: {killed / len(places):.0%}")
    print(", ".join(f"{n} {outcome.value}" for outcome, n in counts.most_common()))


if __name__ == "__main__":
    main()
