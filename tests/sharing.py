"""What one test computed is given to the next: equal keys mean equal results.

That is held by `tests/core/graph/test_results.py`.

Each test still has a memory of its own; only what would be computed is looked up among what was computed
before in this process, under the same key; what took long also among what the other processes of this run
computed. Tests that change how something is computed, count it or time it go without.
"""

from __future__ import annotations

import hashlib
import os
import pickle
import tempfile
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import pytest

from truesitter.core.graph.memo import Memo
from truesitter.core.graph.results import Source

_MOST_BYTES = 500 << 20
_LONG, _ROOM = 0.4, 600 << 20
"""Seconds from which on a result is left for the other processes too, and bytes that each process leaves."""
_ALONE = (
    "tests/core/graph/test_results",
    "tests/core/graph/test_memo",
    "tests/bench",
    "tests/siege",
    "tests/web/test_results",
    "tests/web/test_guard",
)
"""Files whose tests are about computing itself, or about what is missing when it begins."""


def folder_of(run: str) -> Path:
    """Where the processes of one run leave results for each other."""
    return Path(tempfile.gettempdir()) / f"results-{run}"


class BetweenProcesses:
    """What took long is left in a folder for the other processes of a run, as far as there is room.

    Parameters
    ----------
    folder
        Of the run; None for a process alone.
    """

    def __init__(self, folder: Path | None) -> None:
        self._folder, self._room = folder, _ROOM
        if folder:
            folder.mkdir(exist_ok=True)

    def get(self, key: tuple[Any, ...], work: Callable[[], Any]) -> Any:
        """What another process computed, else what this one does."""
        if self._folder is None:
            return work()
        path = self._folder / hashlib.sha256(pickle.dumps(key)).hexdigest()
        if path.exists():
            return pickle.loads(path.read_bytes())
        began = time.monotonic()
        value = work()
        if time.monotonic() - began > _LONG and self._room > 0:
            packed = pickle.dumps(value, pickle.HIGHEST_PROTOCOL)
            self._room -= len(packed)
            own = path.with_suffix(f".{os.getpid()}")
            own.write_bytes(packed)
            own.replace(path)
        return value


@contextmanager
def shared_results() -> Iterator[Callable[[bool], None]]:
    """Share results for a whole session; what it gives switches sharing on and off."""
    shared, ask, on = Memo(_MOST_BYTES, at_once=64), Source.ask, [False]
    run = os.environ.get("PYTEST_XDIST_TESTRUNUID")
    others = BetweenProcesses(folder_of(run) if run else None)

    def asked(source: Source, name: str, args: tuple[Any, ...], work: Callable[[], Any]) -> Any:
        if not on[0] or source._watch:
            return ask(source, name, args, work)
        key = (source.key(name), args)
        return ask(source, name, args, lambda: shared.get(key, lambda: others.get(key, work)))

    def switch(wanted: bool) -> None:
        on[0] = wanted

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(Source, "ask", asked)
        yield switch


def computes_for_itself(item: pytest.Item) -> bool:
    """Whether a test has to compute everything itself."""
    return "monkeypatch" in getattr(item, "fixturenames", ()) or item.nodeid.startswith(_ALONE)
