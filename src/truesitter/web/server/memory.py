"""Memory that was let go of is given back to the machine, where the system can do so."""

from __future__ import annotations

import ctypes
import threading
import time

TRIM_EVERY = 5.0
"""Seconds [try]."""
_ARENA_MAX = -8
"""Number of glibc's setting for how many heaps threads spread over (malloc.h)."""
ARENAS = 2
"""Heaps of a process: with one a thread, each keeps what its largest picture once took [try]."""


def keep_small() -> None:
    """From now on give memory back every few seconds, and spread over few heaps."""
    try:
        libc = ctypes.CDLL(None)
        libc.mallopt(_ARENA_MAX, ARENAS)
        trim = libc.malloc_trim
    except (OSError, AttributeError):
        # Not every system can; nothing depends on it.
        return

    def again_and_again() -> None:
        while True:
            time.sleep(TRIM_EVERY)
            trim(0)

    threading.Thread(target=again_and_again, name="giving back memory", daemon=True).start()
