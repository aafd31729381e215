"""The trial of changes: what is not changed survives, what is wrong does not, what cannot run is said."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]
EXAMPLE = "tests/core/values/test_values.py::test_even_cuts_divide_the_ladder"
SCRIPT = """
import select, sys
from mutate.places import all_places
from mutate.trial import Trial, preload
place = next(p for p in all_places("core.values.cuts") if "10 * i / groups" in p.shown())
tests, changed = sys.argv[2:], sys.argv[1] == "changed"
preload()
trial = Trial(place, tests, 20.0, changed)
select.select([trial.handle], [], [], 120)
print(trial.outcome().value)
"""


@pytest.mark.parametrize(
    ("how", "test", "outcome"),
    [
        ("unchanged", EXAMPLE, "survived"),
        ("changed", EXAMPLE, "killed"),
        ("unchanged", "tests/core/test_nothing.py::test_nothing", "could not be run"),
    ],
)
def test_a_change_is_noticed_and_none_is_not(how: str, test: str, outcome: str) -> None:
    asked = [sys.executable, "-c", SCRIPT, how, test]
    done = subprocess.run(asked, cwd=ROOT, capture_output=True, text=True, timeout=300, check=False)
    assert outcome in done.stdout + done.stderr
