"""What can be done now: the next pass that nothing wet lies under, or when there will be one."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime

from truesitter.core.log.drying_clocks import Clock
from truesitter.core.plan.pass_plan import Pass


@dataclass(frozen=True)
class Possible:
    """What may be painted next.

    Attributes
    ----------
    number
        Of the pass, from 1; None when all are done.
    since
        From when on it may be (UTC); at or before now when it may be painted now.
    minutes
        Of work that are left of it.
    waits_for
        Numbers of the passes below that are still wet.
    left
        How many passes are not done.
    """

    number: int | None
    since: datetime
    minutes: float
    waits_for: tuple[int, ...]
    left: int


def possible_now(
    passes: tuple[Pass, ...],
    school: str,
    done: Iterable[str],
    progress: dict[tuple[str, str], float],
    clocks: Iterable[Clock],
    now: datetime,
) -> Possible:
    """The first pass in order that is not done and may be painted; else the one that may be soonest.

    Parameters
    ----------
    done
        Keys of the passes that were ticked.
    progress
        How much of each is done, by school and key.
    clocks
        Of this picture.

    Notes
    -----
    What lies below has to be painted, or to be next itself: a pass is only offered when every pass that
    it lies over is done. One that goes into wet paint waits for nothing.
    """
    ticked = set(done)
    dry = {c.key: c.dry_at for c in clocks if c.school == school and c.key}
    part = {key: share for (of, key), share in progress.items() if of == school}
    over = {n for n, p in enumerate(passes) if p.key in ticked or part.get(p.key, 0.0) >= 1}
    open_ = [n for n in range(len(passes)) if n not in over]
    best: Possible | None = None
    for n in open_:
        one = passes[n]
        if any(b not in over for b in one.over):
            continue
        wet = [] if one.into_wet else [b for b in one.over if dry.get(passes[b].key, now) > now]
        since = max((dry[passes[b].key] for b in wet), default=now)
        minutes = one.work_minutes * (1 - part.get(one.key, 0.0))
        found = Possible(n + 1, since, minutes, tuple(b + 1 for b in wet), len(open_))
        if since <= now:
            return found
        if best is None or since < best.since:
            best = found
    return best or Possible(None, now, 0.0, (), len(open_))
