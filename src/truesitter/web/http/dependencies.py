"""What the routes work on: the shelf, the memory of results, and a study of each sitter."""

from __future__ import annotations

import os
import threading
from collections import OrderedDict
from collections.abc import Sequence
from typing import Annotated

import anyio
from fastapi import Depends, Header, Query, Request, Response, UploadFile

from truesitter.core.graph.memo import Memo
from truesitter.core.pace.own_pace import OwnPace
from truesitter.core.reference.errors import UnusablePhotograph
from truesitter.core.reference.tuning import LARGEST_FILE
from truesitter.core.refusal import Refusal
from truesitter.core.stages import Study
from truesitter.formats.words.wording import Counting
from truesitter.store.settings.sitter import Sitter
from truesitter.store.settings.sitters import Repository
from truesitter.web.access.sessions import SessionAuth
from truesitter.web.http.declared import answers
from truesitter.web.queue.lanes import Queue
from truesitter.web.queue.remote_tasks import RemoteTasks
from truesitter.web.queue.workers import Workers

REMEMBERED = 400 << 20
"""Bytes of results remembered, by default."""
WRITERS = 12
"""So many may wait for the database at a time: of forty threads enough are left for all who read [try]."""
_EDITIONS = 1024
"""Keys of so many revisions of sitters are remembered."""


class Workbench:
    """Shelf, memory, and the line of those who wait; shared by all requests."""

    def __init__(
        self,
        repository: Repository,
        most_bytes: int = REMEMBERED,
        workers: Workers | None = None,
        door: SessionAuth | None = None,
        remote_tasks: RemoteTasks | None = None,
    ) -> None:
        self.repository = repository
        self.door = door
        """Of a studio that is open to other machines; None for one machine alone."""
        self.remote_tasks = remote_tasks
        """To a cluster that computes what is declared; None without one."""
        self.workers = workers
        """Processes that compute; None to do so in this one."""
        cores = max(1, os.cpu_count() or 1)
        self.queue = Queue(cores)
        # One lane never waits for the other: whoever has a place in one finds room to compute.
        self.memo = Memo(most_bytes, at_once=2 * cores)
        self._writers: anyio.CapacityLimiter | None = None
        self._keys: OrderedDict[tuple[str, int, str, str], dict[str, str]] = OrderedDict()
        self._lock = threading.Lock()

    @property
    def writers(self) -> anyio.CapacityLimiter:
        """Places of those who write; made when it is first needed, as it belongs to the loop that serves."""
        if self._writers is None:
            self._writers = anyio.CapacityLimiter(WRITERS)
        return self._writers

    def keys(self, sitter: Sitter) -> dict[str, str]:
        """For every answer a key that changes exactly when the answer may: the browser's query keys."""
        return self._keys_at(sitter, self.repository.log.pace_at(sitter.id))

    def all_keys(self, sitters: Sequence[Sitter]) -> dict[str, dict[str, str]]:
        """The same of several sitters, by their keys."""
        paces = self.repository.log.paces_at([s.id for s in sitters])
        return {s.id: self._keys_at(s, paces[s.id]) for s in sitters}

    def _keys_at(self, sitter: Sitter, pace: OwnPace) -> dict[str, str]:
        revision = (sitter.id, sitter.revision, sitter.sha256, repr(pace))
        found = self._keys.get(revision)
        if found is None:
            study = self._study(sitter, pace)
            found = {path: study.key(declaration) for path, declaration in answers().items()}
            with self._lock:
                self._keys[revision] = found
                while len(self._keys) > _EDITIONS:
                    self._keys.popitem(last=False)
        return found

    def study(self, sitter: Sitter, unkept: dict[str, bytes] | None = None) -> Study:
        """The study of a sitter with the settings in force; `unkept` holds photographs not kept yet."""
        return self._study(sitter, self.repository.log.pace_at(sitter.id), unkept)

    def _study(self, sitter: Sitter, pace: OwnPace, unkept: dict[str, bytes] | None = None) -> Study:
        def painting(sha256: str) -> bytes:
            return unkept[sha256] if unkept and sha256 in unkept else self.repository.paintings.get(sha256)

        return Study(
            sitter.sha256, lambda: self.repository.photograph(sitter.sha256), sitter.settings, self.memo,
            paintings=painting, pace=pace,
        )  # fmt: skip


def workbench(request: Request) -> Workbench:
    """The application's workbench."""
    bench: Workbench = request.app.state.workbench
    return bench


Bench = Annotated[Workbench, Depends(workbench)]


def _sitter(sitter_id: str, bench: Bench) -> Sitter:
    return bench.repository.get(sitter_id)


CurrentSitter = Annotated[Sitter, Depends(_sitter)]


def _study(sitter: CurrentSitter, bench: Bench) -> Study:
    return bench.study(sitter)


CurrentStudy = Annotated[Study, Depends(_study)]


def painter_of(request: Request) -> str | None:
    """Who asks: the name they came in under, empty on a machine of one's own, None before coming in."""
    found: str | None = getattr(request.state, "painter", "")
    return found


PainterName = Annotated[str | None, Depends(painter_of)]


def _by(painter: PainterName) -> str:
    return painter or ""


By = Annotated[str, Depends(_by)]
"""Whose change it is, for the history; empty on a machine of one's own."""


def _expected(if_match: Annotated[str | None, Header()] = None) -> int | None:
    if if_match is None:
        return None
    number = if_match.strip().strip('"')
    if not number.isdecimal() or len(number) > 15:
        raise Refusal("If-Match holds the revision a change was made on, a whole number")
    return int(number)


Expected = Annotated[int | None, Depends(_expected)]
"""The revision of the sitter that the browser made its change on."""


def _counting(count: Annotated[str, Query(pattern="^(up|down)$")] = "up") -> Counting:
    return Counting(count == "down")


CountedAs = Annotated[Counting, Depends(_counting)]
"""How the painter counts values, for what is printed."""


def photograph_bytes(upload: UploadFile) -> bytes:
    """Bytes of an uploaded photograph; no more is read than one may have.

    Raises
    ------
    UnusablePhotograph
        For one that is too large.
    """
    data = upload.file.read(LARGEST_FILE + 1)
    if len(data) > LARGEST_FILE:
        raise UnusablePhotograph("The file is larger than 60 MB. Save a smaller copy.")
    return data


def download(data: bytes | str, media: str, name: str) -> Response:
    """Answer with a file to keep."""
    return Response(data, media_type=media, headers={"Content-Disposition": f'attachment; filename="{name}"'})
