"""Which washes lie side by side: what is begun while its neighbour is wet runs into it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from truesitter.core.canvas.patchwork import Patchwork
from truesitter.core.plan.pass_plan import Pass
from truesitter.core.types import Ints


def with_neighbours(passes: Sequence[Pass], patchwork: Patchwork) -> tuple[Pass, ...]:
    """Washes with the earlier ones that they border on without lying over them.

    Parameters
    ----------
    passes
        In order, with what each lies over.
    patchwork
        Their pieces.
    """
    washes = [n for n, one in enumerate(passes) if one.way is not None and not one.lines]
    if len(washes) < 2:
        return tuple(passes)
    first, second = _borders(patchwork.labels)
    found = list(passes)
    for number in washes:
        one = passes[number].pieces
        beside = []
        for other in (n for n in washes if n < number and n not in passes[number].over):
            there = passes[other].pieces
            if bool(((one[first] & there[second]) | (one[second] & there[first])).any()):
                beside.append(other)
        found[number] = replace(found[number], beside=tuple(beside))
    return tuple(found)


def wet_minutes(one: Pass, other: Pass) -> float:
    """Minutes for which an earlier wash is still wet when another is begun; 0 for a dry one."""
    dry = other.start_minutes + other.work_minutes + other.dries_minutes
    return max(0.0, dry - one.start_minutes)


def _borders(labels: Ints) -> tuple[Ints, Ints]:
    """Pairs of pieces that touch, each pair once."""
    ones, others = [], []
    for here, there in ((labels[:, :-1], labels[:, 1:]), (labels[:-1], labels[1:])):
        apart = here != there
        ones.append(here[apart])
        others.append(there[apart])
    pairs = np.sort(np.column_stack([np.concatenate(ones), np.concatenate(others)]), axis=1)
    count = int(labels.max()) + 1
    keys = np.unique(pairs[:, 0].astype(np.int64) * count + pairs[:, 1])
    return keys // count, keys % count
