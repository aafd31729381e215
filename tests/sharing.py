"""What one test computed is given to the next: equal keys mean equal results (`tests/core/test_results.py`).

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
_LONG = 0.4
"""Seconds: what takes longer is given to the other processes too."""
_ALONE = (
    "tests/core/test_results",
    "tests/core/test_memo",
    "tests/bench",
    "tests/siege",
    "tests/web/test_results",
    "tests/web/test_guard",
)
"""Files whose tests are about computing itself, or about what is missing when it begins."""


def folder_of(run: str) -> Path:
    """Where the processes of one run leave results for each other."""
    return Path(tempfile.gettempdir()) / f"results-{run}"


def between_processes(folder: Path | None, key: tuple[Any, ...], work: Callable[[], Any]) -> Any:
    """What another process computed, else what this one does."""
    if folder is None:
        return work()
    path = folder / hashlib.sha256(pickle.dumps(key)).hexdigest()
    if path.exists():
        return pickle.loads(path.read_bytes())
    began = time.monotonic()
    value = work()
    if time.monotonic() - began > _LONG:
        own = path.with_suffix(f".{os.getpid()}")
        own.write_bytes(pickle.dumps(value, pickle.HIGHEST_PROTOCOL))
        own.replace(path)
    return value


@contextmanager
def shared_results() -> Iterator[Callable[[bool], None]]:
    """Share results for a whole session; what it gives switches sharing on and off."""
    shared, ask, on = Memo(_MOST_BYTES, at_once=64), Source.ask, [False]
    run = os.environ.get("PYTEST_XDIST_TESTRUNUID")
    folder = folder_of(run) if run else None
    if folder:
        folder.mkdir(exist_ok=True)

    def asked(source: Source, name: str, args: tuple[Any, ...], work: Callable[[], Any]) -> Any:
        if not on[0] or source._watch:
            return ask(source, name, args, work)
        key = (source.key(name), args)
        return ask(source, name, args, lambda: shared.get(key, lambda: between_processes(folder, key, work)))

    def switch(wanted: bool) -> None:
        on[0] = wanted

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(Source, "ask", asked)
        yield switch


def computes_for_itself(item: pytest.Item) -> bool:
    """Whether a test has to compute everything itself."""
    return "monkeypatch" in getattr(item, "fixturenames", ()) or item.nodeid.startswith(_ALONE)
