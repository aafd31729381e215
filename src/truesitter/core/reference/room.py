"""A shared allowance of memory."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from contextlib import contextmanager


class MemoryRoom:
    """Bytes that several threads may use between them; whoever would go beyond waits.

    Parameters
    ----------
    most
        All that may be in use at a time. One that needs more than that gets it alone.
    """

    def __init__(self, most: int) -> None:
        self._most, self._used = most, 0
        self._changed = threading.Condition()

    def resize(self, most: int) -> None:
        """Allow more or fewer bytes from now on."""
        with self._changed:
            self._most = most
            self._changed.notify_all()

    @contextmanager
    def take(self, amount: int) -> Iterator[None]:
        """Have so many bytes while inside."""
        with self._changed:
            self._changed.wait_for(lambda: self._used == 0 or self._used + amount <= self._most)
            self._used += amount
        try:
            yield
        finally:
            with self._changed:
                self._used -= amount
                self._changed.notify_all()
