"""A bounded memory of results, and the bench at which only so many are computed at a time."""

from __future__ import annotations

import threading
import time
from collections import OrderedDict
from collections.abc import Callable, Hashable, Iterator
from concurrent.futures import Future
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass
from typing import Any, TypeVar, cast

from truesitter.core.graph.footprint import Footprint
from truesitter.core.graph.tuning import BROUGHT, CHEAP

T = TypeVar("T")

_wanted: ContextVar[Callable[[], bool]] = ContextVar("wanted", default=lambda: True)


class Abandoned(Exception):
    """Nobody waits for what was being computed."""


@contextmanager
def wanted_while(condition: Callable[[], bool]) -> Iterator[None]:
    """What is asked for inside is computed only while a condition holds; it is looked at before each step."""
    token = _wanted.set(condition)
    try:
        yield
    finally:
        _wanted.reset(token)


@dataclass
class _Kept:
    """A result, what it holds, its worth in seconds per byte, and its rank among others."""

    result: Any
    footprint: Footprint
    worth: float
    rank: float


class Memo:
    """Each result is computed once for its key, however many ask at the same time.

    When the memory is full, what is cheap to compute again for its size is forgotten first, among equals the
    least recently used (GreedyDual-Size: Cao and Irani 1997, *Cost-aware WWW proxy caching algorithms*).
    What several results share is counted once, and is free only when the last of them is forgotten; arrays
    that are kept are read-only.

    Parameters
    ----------
    most_bytes
        Upper bound for the arrays held; one result larger than this is still returned, not kept.
    at_once
        So many threads compute at a time, the others wait; ≥ 1.
    """

    def __init__(self, most_bytes: int = 600 * 2**20, at_once: int = 2) -> None:
        self._most = most_bytes
        self._held = 0
        self._results: OrderedDict[Hashable, _Kept] = OrderedDict()
        self._inflation = 0.0
        self._holders: dict[int, int] = {}
        self._busy: dict[Hashable, Future[Any]] = {}
        self._lock = threading.Lock()
        self._places = threading.BoundedSemaphore(at_once)
        self._mine = threading.local()

    @property
    def held(self) -> int:
        """Bytes of everything remembered."""
        return self._held

    @contextmanager
    def place(self) -> Iterator[None]:
        """A place at the bench for this thread; waits until there is one, unless it has one already."""
        if getattr(self._mine, "place", False):
            yield
            return
        with self._places:
            self._mine.place = True
            try:
                yield
            finally:
                self._mine.place = False

    def get(self, key: Hashable, compute: Callable[[], T]) -> T:
        """The result for a key, computed now if it is not remembered. Errors are not remembered.

        Raises
        ------
        Abandoned
            When it is not there and is not wanted any more (see `wanted_while`).
        """
        with self._lock:
            if key in self._results:
                return cast(T, self._used(key))
            if not _wanted.get()():
                raise Abandoned
            running = self._busy.get(key)
            # A thread without a place may not begin: who began holds one, so whoever waits
            # for it waits for someone at work.
            begin = running is None and getattr(self._mine, "place", False)
            if begin:
                running = self._busy[key] = Future()
        if running is None:
            with self.place():
                return self.get(key, compute)
        if not begin:
            try:
                return cast(T, running.result())
            except Abandoned:
                # Whoever computed it has left; this one has not.
                return self.get(key, compute)
        began = time.perf_counter()
        try:
            result = compute()
        except BaseException as error:
            with self._lock:
                del self._busy[key]
            running.set_exception(error)
            raise
        took = time.perf_counter() - began
        with self._lock:
            self._keep(key, result, took)
            del self._busy[key]
        running.set_result(result)
        return result

    def peek(self, key: Hashable) -> Any:
        """The result for a key when it is remembered; None when it is not."""
        with self._lock:
            return self._used(key) if key in self._results else None

    def keep(self, key: Hashable, result: object) -> None:
        """Remember a result that was come by otherwise."""
        with self._lock:
            self._keep(key, result, BROUGHT)

    def _used(self, key: Hashable) -> Any:
        """A result that is there; it is worth keeping anew."""
        kept = self._results[key]
        kept.rank = self._inflation + kept.worth
        self._results.move_to_end(key)
        return kept.result

    def _keep(self, key: Hashable, result: object, seconds: float) -> None:
        if key in self._results:
            # Brought from elsewhere while it was computed here: it is charged once.
            return
        footprint = Footprint(result)
        footprint.freeze()
        # From now on only the sizes are wanted.
        footprint.arrays.clear()
        if footprint.total > self._most:
            return
        worth = max(seconds, CHEAP) / max(footprint.total, 1)
        self._results[key] = _Kept(result, footprint, worth, self._inflation + worth)
        self._held += footprint.own
        for buffer, size in footprint.shared.items():
            holders = self._holders.get(buffer, 0)
            self._holders[buffer] = holders + 1
            self._held += 0 if holders else size
        while self._held > self._most:
            self._forget(key)

    def _forget(self, fresh: Hashable) -> None:
        """Let go of what is worth least, of what was just computed only when there is nothing else."""
        others = (key for key in self._results if key != fresh)
        least = min(others, key=lambda key: self._results[key].rank, default=fresh)
        kept = self._results.pop(least)
        self._inflation = max(self._inflation, kept.rank)
        self._held -= kept.footprint.own
        for buffer, size in kept.footprint.shared.items():
            self._holders[buffer] -= 1
            if not self._holders[buffer]:
                del self._holders[buffer]
                self._held -= size
