"""Two windows on one sitter: what one is answered never hides what the other wrote."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any
from unittest.mock import patch

import pytest
from fastapi.testclient import TestClient
from sqlalchemy.orm import Session

from tests.conftest import jpeg, made_head
from truesitter.store.settings.edits import Edit
from truesitter.store.settings.sitters import Repository
from truesitter.web.server.app import create_app


class Between:
    """Writing sessions of one window, each with a change by another right before and right after it."""

    def __init__(self, writing: Any, before: Any, after: Any) -> None:
        self._writing, self._before, self._after = writing, before, after

    @contextmanager
    def begin(self) -> Iterator[Session]:
        self._before()
        with self._writing.begin() as session:
            yield session
        self._after()


@pytest.mark.parametrize("when", ["before", "after"])
def test_a_change_between_two_others_overwrites_nothing(tmp_path: Path, when: str) -> None:
    """Window B sets the groups while A's change of the hair is on its way; A then sets the groups too."""
    mine, theirs = Repository(tmp_path), Repository(tmp_path)
    sitter = mine.add(jpeg(made_head()), "a.jpg").id
    known = mine.get(sitter).revision

    def other_window() -> None:
        theirs.change(sitter, "values", Edit("Three", {"groups": 3}))

    nothing = lambda: None  # noqa: E731
    hooks = (other_window, nothing) if when == "before" else (nothing, other_window)
    with TestClient(create_app(mine, tmp_path), base_url="http://127.0.0.1") as window:
        path = f"/api/sitters/{sitter}/settings"
        with patch.object(mine._sessions, "writing", Between(mine._sessions.writing, *hooks)):
            first = window.patch(
                f"{path}/hair", json={"set": {"spacing_mm": 9}}, headers={"If-Match": f'"{known}"'}
            ).json()
        assert set(first["set"]) == {"spacing_mm"}
        # A window follows the answer only when it was made on the revision it knows; else it asks anew.
        believes = first["revision"] if first["before"] == known else window.get(path[:-9]).json()["revision"]
        again = window.patch(
            f"{path}/values", json={"set": {"groups": 7}}, headers={"If-Match": f'"{believes}"'}
        )
        if when == "before":
            assert first["before"] == known + 1, "it was not made on what this window knew"
        else:
            assert (first["before"], first["revision"]) == (known, known + 1)
            assert again.status_code == 412, "the groups that B set were never seen here"
            assert theirs.get(sitter).settings.values.groups == 3
    mine.close()
    theirs.close()
