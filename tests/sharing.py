"""What one test computed is given to the next: equal keys mean equal results (`tests/core/test_results.py`).

Each test still has a memory of its own; only what would be computed is looked up among what was computed
before in this process, under the same key. Tests that change how something is computed, count it or time it
go without.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import Any

import pytest

from truesitter.core.graph.memo import Memo
from truesitter.core.graph.results import Source

_MOST_BYTES = 500 << 20
_ALONE = (
    "tests/core/test_results",
    "tests/core/test_memo",
    "tests/bench",
    "tests/siege",
    "tests/web/test_results",
    "tests/web/test_guard",
)
"""Files whose tests are about computing itself, or about what is missing when it begins."""


@contextmanager
def shared_results() -> Iterator[Callable[[bool], None]]:
    """Share results for a whole session; what it gives switches sharing on and off."""
    shared, ask, on = Memo(_MOST_BYTES, at_once=64), Source.ask, [False]

    def asked(source: Source, name: str, args: tuple[Any, ...], work: Callable[[], Any]) -> Any:
        if not on[0] or source._watch:
            return ask(source, name, args, work)
        key = (source.key(name), args)
        return ask(source, name, args, lambda: shared.get(key, work))

    def switch(wanted: bool) -> None:
        on[0] = wanted

    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(Source, "ask", asked)
        yield switch


def computes_for_itself(item: pytest.Item) -> bool:
    """Whether a test has to compute everything itself."""
    return "monkeypatch" in getattr(item, "fixturenames", ()) or item.nodeid.startswith(_ALONE)
