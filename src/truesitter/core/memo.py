"""A bounded memory of results, and the bench at which only so many are computed at a time."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable, Iterator
from concurrent.futures import Future
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import fields, is_dataclass
from typing import Any, TypeVar, cast

import numpy as np

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


def size_of(result: object) -> int:
    """Bytes held by the arrays of a result; a small flat charge for everything else."""
    if isinstance(result, np.ndarray):
        return int(result.nbytes)
    if isinstance(result, (tuple, list)):
        return sum(size_of(item) for item in result)
    if isinstance(result, bytes):
        return len(result)
    if is_dataclass(result):
        return sum(size_of(getattr(result, f.name)) for f in fields(result))
    return 256


class Memo:
    """Each result is computed once for its key, however many ask at the same time.

    Least recently used results are forgotten when the memory is full.

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
        self._results: OrderedDict[Hashable, tuple[Any, int]] = OrderedDict()
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
                self._results.move_to_end(key)
                return cast(T, self._results[key][0])
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
        try:
            result = compute()
        except BaseException as error:
            with self._lock:
                del self._busy[key]
            running.set_exception(error)
            raise
        with self._lock:
            self._keep(key, result)
            del self._busy[key]
        running.set_result(result)
        return result

    def peek(self, key: Hashable) -> Any:
        """The result for a key when it is remembered; None when it is not."""
        with self._lock:
            if key not in self._results:
                return None
            self._results.move_to_end(key)
            return self._results[key][0]

    def keep(self, key: Hashable, result: object) -> None:
        """Remember a result that was come by otherwise."""
        with self._lock:
            if key not in self._results:
                self._keep(key, result)

    def _keep(self, key: Hashable, result: object) -> None:
        size = size_of(result)
        if size > self._most:
            return
        self._results[key] = (result, size)
        self._held += size
        while self._held > self._most:
            _, (_, freed) = self._results.popitem(last=False)
            self._held -= freed
