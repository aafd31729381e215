"""A bounded memory of results: each is computed once for its key, however many ask at the same time."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Callable, Hashable
from dataclasses import fields, is_dataclass
from typing import Any, TypeVar, cast

import numpy as np

T = TypeVar("T")


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
    """Least recently used results are forgotten when the memory is full.

    Parameters
    ----------
    most_bytes
        Upper bound for the arrays held; one result larger than this is still returned, not kept.
    """

    def __init__(self, most_bytes: int = 600 * 2**20) -> None:
        self._most = most_bytes
        self._held = 0
        self._results: OrderedDict[Hashable, tuple[Any, int]] = OrderedDict()
        self._busy: dict[Hashable, threading.Lock] = {}
        self._lock = threading.Lock()

    def get(self, key: Hashable, compute: Callable[[], T]) -> T:
        """The result for a key, computed now if it is not remembered. Errors are not remembered."""
        with self._lock:
            if key in self._results:
                self._results.move_to_end(key)
                return cast(T, self._results[key][0])
            busy = self._busy.setdefault(key, threading.Lock())
        with busy:
            with self._lock:
                if key in self._results:
                    return cast(T, self._results[key][0])
            try:
                result = compute()
            finally:
                with self._lock:
                    self._busy.pop(key, None)
            self._keep(key, result)
            return result

    def _keep(self, key: Hashable, result: object) -> None:
        size = size_of(result)
        if size > self._most:
            return
        with self._lock:
            self._results[key] = (result, size)
            self._held += size
            while self._held > self._most:
                _, (_, freed) = self._results.popitem(last=False)
                self._held -= freed
