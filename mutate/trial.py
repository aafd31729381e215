"""One change tried: a child process in which the changed module is imported in place of the real one."""

from __future__ import annotations

import importlib.abc
import importlib.machinery
import importlib.util
import os
import select
import signal
import sys
import time
from collections.abc import Sequence
from enum import Enum
from pathlib import Path
from types import ModuleType

from mutate.places import Place

_QUIET = ("-W", "ignore::pytest.PytestAssertRewriteWarning")
"""What is imported before pytest starts is not rewritten; warnings are errors in the tests."""
_NOTICED, _NOT_IMPORTED = (1, 2), 4
"""Exit codes of pytest when tests failed or stopped while they were collected, and when the file of a test
could not be imported: a change noticed, unless nothing was changed. Any other says nothing of it."""
PATIENCE = 40.0
"""Seconds a child may take beyond three times what its tests take unchanged."""


class Outcome(Enum):
    """What became of a change."""

    KILLED = "killed"
    TIMED_OUT = "timed out"
    SURVIVED = "survived"
    UNTESTED = "no test runs the line"


class _Swap(importlib.abc.MetaPathFinder, importlib.abc.Loader):
    """Gives one module other code."""

    def __init__(self, name: str, path: str, code: str) -> None:
        self.name, self.path, self.code = name, path, code

    def find_spec(
        self, fullname: str, path: Sequence[str] | None, target: ModuleType | None = None
    ) -> importlib.machinery.ModuleSpec | None:
        """Only for the module itself."""
        if fullname != self.name:
            return None
        package = self.path.endswith("__init__.py")
        spec = importlib.util.spec_from_file_location(
            fullname,
            self.path,
            loader=self,
            submodule_search_locations=[os.path.dirname(self.path)] if package else None,
        )
        return spec

    def exec_module(self, module: ModuleType) -> None:
        """Run the other code."""
        exec(compile(self.code, self.path, "exec"), module.__dict__)


def preload() -> None:
    """Import what is heavy and not ours once, so that children need not."""
    import alembic
    import colour
    import cv2
    import hypothesis
    import mediapipe
    import pytest
    import reportlab.pdfgen.canvas
    import scipy.integrate
    import scipy.optimize
    import shapely
    import skimage.graph

    cv2.setNumThreads(1)
    del alembic, colour, hypothesis, mediapipe, pytest, reportlab, scipy, shapely, skimage


def _child(place: Place, code: str, tests: Sequence[str]) -> int:
    import pytest

    class InOrder:
        @staticmethod
        def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
            items.sort(key=lambda item: tests.index(item.nodeid))

    sys.meta_path.insert(0, _Swap(place.module, os.path.abspath(place.path), code))
    arguments = ["-x", "-q", "-p", "no:cacheprovider", "-p", "no:cov", "--hypothesis-seed=0", *_QUIET, *tests]
    return int(pytest.main(arguments, plugins=[InOrder()]))


class Trial:
    """A child under way.

    Parameters
    ----------
    place
        What is changed.
    tests
        Run in this order, until one fails.
    seconds
        How long they take unchanged.
    changed
        False for the code as it is: the tests have to pass then.
    """

    def __init__(self, place: Place, tests: Sequence[str], seconds: float, changed: bool = True) -> None:
        self.place, self.tests, self.changed = place, tests, changed
        self.started = time.monotonic()
        self.deadline = self.started + PATIENCE + 3 * seconds
        code = place.mutated() if changed else Path(place.path).read_text("utf-8")
        self.pid = os.fork()
        if self.pid == 0:
            os.setsid()
            silence = os.open(os.devnull, os.O_WRONLY)
            os.dup2(silence, 1)
            os.dup2(silence, 2)
            status = 70
            try:
                status = _child(place, code, tests)
            finally:
                # Nothing of the parent's is to be cleaned up by a child.
                os._exit(status)
        self.handle = os.pidfd_open(self.pid)

    def outcome(self) -> Outcome:
        """Once it ended or ran out of time."""
        ended, _, _ = select.select([self.handle], [], [], 0)
        if not ended:
            os.killpg(self.pid, signal.SIGKILL)
        _, status = os.waitpid(self.pid, 0)
        os.close(self.handle)
        if not ended:
            return Outcome.TIMED_OUT
        code = os.waitstatus_to_exitcode(status)
        if code == 0:
            return Outcome.SURVIVED
        if code in _NOTICED or code < 0 or (code == _NOT_IMPORTED and self.changed):
            return Outcome.KILLED
        raise SystemExit(f"The tests could not be run (pytest ended with {code}): {' '.join(self.tests)}")
