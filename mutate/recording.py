"""A pytest plug-in: how long each test takes, and no study carried from one file of tests to the next.

Studies are kept between tests; a line would seem to be run only by the first test that asked.
"""

from __future__ import annotations

import json
import os
from collections import defaultdict
from pathlib import Path

import pytest

_seconds: dict[str, float] = defaultdict(float)
_file: list[str] = []


@pytest.hookimpl(tryfirst=True)
def pytest_runtest_setup(item: pytest.Item) -> None:
    """Forget the studies of the last file."""
    file = item.nodeid.split("::")[0]
    if _file != [file]:
        from tests.conftest import study_of

        study_of.cache_clear()
        _file[:] = [file]


def pytest_runtest_logreport(report: pytest.TestReport) -> None:
    """Add up set-up, call and tear-down."""
    _seconds[report.nodeid] += report.duration


def pytest_sessionfinish() -> None:
    """Write the times down, once for all processes."""
    if "PYTEST_XDIST_WORKER" in os.environ:
        return
    Path(os.environ["MUTATE_SECONDS"]).write_text(json.dumps(_seconds))
