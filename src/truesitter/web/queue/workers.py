"""Processes that compute, so that the one which answers never waits for them.

Each is this application once more on the same folder, behind a socket that only this user can open,
and of lower priority. A sitter stays with one of them, which remembers what was computed for it. One
that dies is started again, and what it was asked for is asked again.
"""

from __future__ import annotations

import asyncio
import subprocess
import sys
import tempfile
import threading
from collections import Counter, OrderedDict
from collections.abc import AsyncIterator
from dataclasses import dataclass
from pathlib import Path
from typing import IO

import httpx
from fastapi import Request, Response

from truesitter.core.refusal import Unavailable
from truesitter.web.queue.lanes import Lane, Queue

MOVES_AFTER = 3
"""A sitter moves to another process when so many more for other sitters wait for its own than wait for that
one in all [try]. How many wait for itself does not count: elsewhere all of it would have to begin anew."""
NICENESS = 5
"""Computing gives way to answering, from its first breath, and still gets a third of what another program
that is busy on the machine gets; at 15 it got a thirtieth: a photograph of the easel took minutes [try]."""
_STARTS_WITHIN = 120.0
"""Seconds: a crowded machine takes its time [try]."""
_SITTERS = 512
_PASSED_ON = ("content-type", "if-none-match", "if-match", "accept")
_RETURNED = ("content-type", "etag", "cache-control", "content-disposition")


@dataclass(frozen=True)
class WorkerLimits:
    """Memory in MiB that computing may take: of pictures in flight, and of results remembered."""

    in_flight: int = 1024
    remembered: int = 400


class Worker:
    """One process; started when it is first needed, and again when it has died."""

    def __init__(self, command: list[str], socket: Path) -> None:
        self._command, self._socket = command, socket
        self._process: subprocess.Popen[bytes] | None = None
        self._lock = threading.Lock()
        # What one process works on at a time: one heavy thing, and one that follows the hand.
        self.queue = Queue(1)
        self._asked: Counter[str] = Counter()
        self.client = httpx.AsyncClient(
            transport=httpx.AsyncHTTPTransport(uds=str(socket)), base_url="http://127.0.0.1", timeout=None
        )

    def start(self) -> None:
        """Start the process unless it runs."""
        with self._lock:
            if self._process is not None and self._process.poll() is None:
                return
            self._socket.unlink(missing_ok=True)
            # Its standard input is a thread to this process: when it breaks, the other ends too.
            self._process = subprocess.Popen(self._command, stdin=subprocess.PIPE)

    @property
    def pid(self) -> int | None:
        """Number of the process; None before it was started."""
        return None if self._process is None else self._process.pid

    @property
    def here(self) -> bool:
        """Whether it can be asked at once; one that is not running is started."""
        if self._process is None or self._process.poll() is not None:
            threading.Thread(target=self.start, daemon=True).start()
            return False
        return self._socket.exists()

    async def ready(self) -> None:
        """Wait until it can be asked.

        Raises
        ------
        Unavailable
            When it does not start in time.
        """
        await asyncio.to_thread(self.start)
        for _ in range(int(_STARTS_WITHIN / 0.05)):
            if self._socket.exists():
                return
            if self._process is not None and self._process.poll() is not None:
                break
            await asyncio.sleep(0.05)
        raise Unavailable("the part of the program that computes did not start yet: try again in a moment")

    def lost(self, pid: int | None) -> None:
        """Bury the process of a number, which broke off; another that was started since goes on."""
        with self._lock:
            if self._process is not None and self._process.pid == pid:
                self._process.kill()
                self._process.wait()

    async def answer(self, lane: Lane, request: Request, body: IO[bytes], painter: str) -> Response:
        """Have a request answered by the process, when it has a place."""
        sitter = request.path_params.get("sitter_id", "") if lane == "heavy" else None
        if sitter is not None:
            self._asked[sitter] += 1
        try:
            return await self.queue.run(lane, request, lambda: _ask(self, request, body, painter))
        finally:
            if sitter is not None:
                self._asked[sitter] -= 1
                # Sitters that nobody asks for any more are not counted.
                self._asked += Counter()

    def others(self, sitter_id: str) -> int:
        """How many at work or in line ask for heavy work on other sitters."""
        return self._asked.total() - self._asked[sitter_id]

    def stop(self) -> None:
        """End the process."""
        if self._process is None:
            return
        if self._process.stdin is not None:
            self._process.stdin.close()
        try:
            self._process.wait(5)
        except subprocess.TimeoutExpired:
            self._process.kill()
            self._process.wait()


class Workers:
    """The processes, and which of them has which sitter.

    Parameters
    ----------
    folder
        Of the data.
    count
        How many, ≥ 1.
    ceiling
        Shared evenly among them.
    """

    def __init__(self, folder: Path, count: int, ceiling: WorkerLimits = WorkerLimits()) -> None:
        shares = [str(max(64, mib // count)) for mib in (ceiling.in_flight, ceiling.remembered)]
        self._aside = tempfile.TemporaryDirectory(prefix="truesitter-")
        self._sitters: OrderedDict[str, Worker] = OrderedDict()
        self.all = []
        for number in range(count):
            socket = Path(self._aside.name) / f"{number}.sock"
            command = [
                "nice", "-n", str(NICENESS), sys.executable, "-m", "truesitter.web.server.worker",
                str(folder), str(socket), *shares,
            ]  # fmt: skip
            self.all.append(Worker(command, socket))

    def start(self) -> None:
        """Start all of them, without waiting until they can be asked."""
        for worker in self.all:
            worker.start()

    def of(self, sitter_id: str) -> Worker:
        """The process that has a sitter, or the one to give it to."""
        held = Counter(self._sitters.values())
        least = min(self.all, key=lambda w: (w.queue.crowd("heavy"), held[w]))
        worker = self._sitters.pop(sitter_id, least)
        if worker.others(sitter_id) >= least.queue.crowd("heavy") + MOVES_AFTER:
            worker = least
        self._sitters[sitter_id] = worker
        while len(self._sitters) > _SITTERS:
            self._sitters.popitem(last=False)
        return worker

    def stop(self) -> None:
        """End all of them."""
        for worker in self.all:
            worker.stop()
        self._aside.cleanup()


async def _ask(worker: Worker, request: Request, body: IO[bytes], painter: str) -> Response:
    headers = {name: request.headers[name] for name in _PASSED_ON if name in request.headers}
    if painter:
        headers["x-painter"] = painter.encode().hex()
    for last in (False, True):
        await worker.ready()
        asked = worker.pid
        body.seek(0)
        try:
            answer = await worker.client.request(
                request.method, request.url.path, params=request.url.query, headers=headers,
                content=_pieces(body),
            )  # fmt: skip
        except httpx.TransportError:
            # It died with the question on its desk. What changes nothing is asked once more.
            await asyncio.to_thread(worker.lost, asked)
            if last or request.method != "GET":
                raise Unavailable(
                    "the part of the program that computes broke off at this: it was started again"
                ) from None
            continue
        break
    kept = {name: answer.headers[name] for name in _RETURNED if name in answer.headers}
    return Response(answer.content, answer.status_code, kept)


async def _pieces(body: IO[bytes]) -> AsyncIterator[bytes]:
    while piece := body.read(1 << 18):
        yield piece
