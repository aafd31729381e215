"""Short runs of the long trials (`./sitter siege`): what they hold must hold here too."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest

from siege.afternoon import afternoon
from siege.attacks import ATTACKS
from siege.hostile import hostile
from siege.kills import kills
from siege.uploads import uploads
from siege.writers import writers


def test_killed_four_times_nothing_acknowledged_is_lost() -> None:
    figures = kills(4)
    assert (figures["lost"], figures["troubles"]) == ([], [])
    assert int(str(figures["acknowledged photographs"])) > 0


def test_six_windows_lose_nothing_in_history() -> None:
    figures = writers(6, 6)
    assert figures == {"acknowledged": 36, "there": 36, "in history": 36, "after undo": 0}


def test_three_hundred_hostile_requests_break_nothing() -> None:
    figures = hostile(300)
    assert figures["5xx"] == []
    assert figures["refused without a word"] == 0
    statuses: Any = figures["statuses"]
    assert statuses[422] > 100
    assert statuses.get(200, 0) + statuses.get(201, 0) > 10, "some of it is sound and taken"


def test_large_photographs_at_once_share_the_room() -> None:
    figures = uploads(3000, 6)
    assert figures["answers"] == [201] * 6
    assert int(str(figures["peak MiB"])) < 1500


@pytest.mark.parametrize("attack", ATTACKS, ids=lambda a: a.__name__)
def test_what_may_not_happen_does_not(attack: Callable[[Path], bool], tmp_path: Path) -> None:
    assert attack(tmp_path / "data")


def test_a_few_painters_are_served() -> None:
    figures = afternoon(8, 6)
    assert figures["failed"] == []
    assert int(str(figures["requests"])) > 0
