"""Which tests run which line: coverage with a context for each test, kept until code or tests change."""

from __future__ import annotations

import ast
import functools
import hashlib
import json
import os
import re
import subprocess
import sys
from collections import Counter, defaultdict
from collections.abc import Iterable
from dataclasses import dataclass
from pathlib import Path

import coverage

STATE = Path(".sitter/mutate")
CONTRACT = "tests/web/test_app.py::test_the_checked_in_schemas_are_those_of_the_code"
WRITTEN_DOWN = ("/core/settings/", "/school/school_document.py", "/log/events.py")
"""What documents hold and how far their numbers go is written down in the schemas that it compares."""

TESTS = ("tests/core", "tests/published", "tests/truth", "tests/formats", "tests/store", CONTRACT)


@dataclass(frozen=True)
class Touching:
    """Tests by line.

    Attributes
    ----------
    lines
        Path → line → tests that ran it while they were called; a line run at import has none.
    seconds
        How long each test takes.
    """

    lines: dict[str, dict[int, frozenset[str]]]
    seconds: dict[str, float]

    @functools.cached_property
    def breadth(self) -> Counter[str]:
        """How many lines each test runs."""
        return Counter(t for of_file in self.lines.values() for tests in of_file.values() for t in tests)

    def tests(self, path: str, line: int, longest: float) -> tuple[str, ...]:
        """Tests to run for a changed line, so many seconds of them at most.

        Those that name its module come first, then those most about it.

        None when no test runs its statement; of one run at import (a constant), all of its module's.
        """
        if path.endswith("/tuning.py"):
            return self._by_use(path, line, longest)
        of_file = self.lines.get(path, {})
        run = [of_file[n] for n in _statement(path, line) if n in of_file]
        if not run:
            return ()
        touching = frozenset().union(*run) or frozenset().union(*of_file.values())
        return self._in_order(path, touching, longest)

    def _by_use(self, path: str, line: int, longest: float) -> tuple[str, ...]:
        """Tests that run a statement which uses the number of a tuning table."""
        where = _statement(path, line)
        head = "\n".join(_text(path).splitlines()[where.start - 1 : where.stop - 1]).split("=")[0]
        used = re.compile(rf"\b({'|'.join(re.findall('[A-Z][A-Z0-9_]*', head))})\b")
        for user, of_file in self.lines.items():
            if f"from {_module(path)} import" not in _text(user):
                continue
            places = [n for n, words in enumerate(_text(user).splitlines(), 1) if used.search(words)]
            run = [of_file[n] for place in places for n in _statement(user, place) if n in of_file]
            touching = frozenset().union(*run)
            if touching:
                # A number has one user, but for a few.
                return self._in_order(user, touching, longest)
        return ()

    def _in_order(self, path: str, touching: frozenset[str], longest: float) -> tuple[str, ...]:
        of_file = self.lines[path]
        about = Counter(t for tests in of_file.values() for t in tests)
        chosen = [CONTRACT] if any(part in path for part in WRITTEN_DOWN) else []
        total = self.time_of(chosen)
        module = _module(path)
        order = {t: (module not in _text(t.split("::")[0]), -about[t] / self.breadth[t], t) for t in touching}
        for test in sorted(touching - set(chosen), key=lambda t: order[t]):
            total += self.seconds.get(test, 1.0)
            if chosen and total > longest:
                break
            chosen.append(test)
        return tuple(chosen)

    def time_of(self, tests: Iterable[str]) -> float:
        """Seconds of some tests together."""
        return sum(self.seconds.get(t, 1.0) for t in tests)


def _module(path: str) -> str:
    return path.removeprefix("src/").removesuffix(".py").replace("/", ".")


@functools.cache
def _text(path: str) -> str:
    return Path(path).read_text("utf-8")


@functools.cache
def _statements(path: str) -> tuple[tuple[int, int], ...]:
    """First and last line of every statement, of one with a body those of its head; innermost last."""
    found = []
    for node in ast.walk(ast.parse(Path(path).read_text("utf-8"))):
        if isinstance(node, ast.stmt):
            body = getattr(node, "body", None)
            last = body[0].lineno - 1 if body else node.end_lineno or node.lineno
            found.append((node.lineno, max(node.lineno, last)))
    return tuple(sorted(found))


def _statement(path: str, line: int) -> range:
    """Lines of the statement a line belongs to."""
    first, last = max((s for s in _statements(path) if s[0] <= line <= s[1]), default=(line, line))
    return range(first, last + 1)


def _digest() -> str:
    files = sorted([*Path("src/truesitter").rglob("*.py"), *Path("tests").rglob("*.py")])
    return hashlib.sha256(b"".join(f.read_bytes() for f in files)).hexdigest()


def measure() -> Touching:
    """Run the tests of the core once with coverage, unless nothing changed since."""
    STATE.mkdir(parents=True, exist_ok=True)
    stamp, data, times = STATE / "of", STATE / "coverage", STATE / "seconds.json"
    now = _digest()
    if not stamp.exists() or stamp.read_text() != now:
        command = [
            sys.executable, "-m", "pytest", *TESTS, "-p", "mutate.recording", "--cov=src/truesitter/core",
            "--cov-context=test", "--cov-report=", "-n", str(os.cpu_count() or 1), "--dist", "loadfile",
        ]  # fmt: skip
        environment = {"COVERAGE_FILE": str(data), "MUTATE_SECONDS": str(times)}
        done = subprocess.run(command, env={**os.environ, **environment}, check=False)
        if done.returncode:
            raise SystemExit("The tests fail as they are; mend them first.")
        stamp.write_text(now)
    return _read(data, times)


def _read(data: Path, times: Path) -> Touching:
    measured = coverage.CoverageData(basename=str(data))
    measured.read()
    lines: dict[str, dict[int, frozenset[str]]] = {}
    here = Path.cwd()
    for file in measured.measured_files():
        by_line: dict[int, frozenset[str]] = defaultdict(frozenset)
        for line, contexts in measured.contexts_by_lineno(file).items():
            # "…|run", "…|setup": what a fixture ran counts for the test that asked for it first.
            by_line[line] = frozenset(c.rsplit("|", 1)[0] for c in contexts if c)
        lines[Path(file).relative_to(here).as_posix()] = dict(by_line)
    return Touching(lines, json.loads(times.read_text()))
