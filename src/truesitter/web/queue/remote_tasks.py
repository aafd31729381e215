"""Answers computed by a cluster: a question goes there with all it needs, and the answer comes back.

Only what is declared goes: it depends on nothing but the sitter's settings and photographs, which go
with it, so it is the same wherever it is computed.
"""

from __future__ import annotations

import logging
import threading
import time
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import anyio
from fastapi import Request, Response

from truesitter.core.pace.own_pace import OwnPace
from truesitter.core.refusal import Unavailable
from truesitter.store.settings.sitter import Sitter
from truesitter.store.settings.sitters import Repository
from truesitter.web.queue.lanes import Lane, Queue
from truesitter.web.queue.pools import Cluster, LostCluster, LostWorker

_SHARED = 64
"""Photographs of so many sitters are kept where the cluster finds them [try]."""


ASKED_AGAIN = 30.0
"""Seconds for which a cluster that was lost is left alone [try]."""
log = logging.getLogger("truesitter")

_PAINTED = ("/easel/", "/log/figures")
"""Questions that photographs of the painting have to go along with."""


@dataclass(frozen=True)
class RemoteTask:
    """A question, and the sitter it is about."""

    path: str
    query: str
    sitter: Sitter
    pace: OwnPace
    """The painter's own, for this sitter."""
    photographs: dict[str, Any]
    """Bytes by their hash, or what stands for them on the way."""


@dataclass(frozen=True)
class Brought:
    """An answer that was brought back."""

    status: int
    headers: dict[str, str]
    body: bytes


class RemoteTasks:
    """Sends questions to a cluster.

    Parameters
    ----------
    cluster
        Where they are answered.
    repository
        Where the photographs are.
    do
        What a worker there does with a remote task and the bytes of its photographs.
    """

    def __init__(self, cluster: Cluster, repository: Repository, do: Callable[..., Brought]) -> None:
        self._cluster, self._repository, self._do = cluster, repository, do
        self.queue = Queue(cluster.places)
        self._limit = anyio.CapacityLimiter(2 * cluster.places)
        self._shared: OrderedDict[str, Any] = OrderedDict()
        self._lock = threading.Lock()
        self._lost_until = 0.0

    async def run(self, lane: Lane, request: Request) -> Response | None:
        """Have a question answered; None when the cluster cannot, and it has to be answered here.

        A cluster that was lost is asked again only after a while.
        """
        if time.monotonic() < self._lost_until:
            return None
        try:
            answer = await self.queue.run(lane, request, lambda: self._send(request))
        except (LostCluster, LostWorker) as lost:
            self._lose(lost)
            return None
        if self._lost_until:
            self._lost_until = 0.0
            log.warning("the cluster computes again")
        return answer

    def _lose(self, lost: Unavailable) -> None:
        """Compute here for a while; what was shared is shared anew afterwards."""
        log.warning("%s What is asked for is computed here meanwhile.", lost.sentence)
        with self._lock:
            self._shared.clear()
        self._lost_until = time.monotonic() + ASKED_AGAIN

    async def _send(self, request: Request) -> Response:
        brought = await anyio.to_thread.run_sync(
            self._bring, request.url.path, request.url.query, request.path_params["sitter_id"],
            limiter=self._limit,
        )  # fmt: skip
        return Response(brought.body, brought.status, brought.headers)

    def _bring(self, path: str, query: str, sitter_id: str) -> Brought:
        sitter = self._repository.get(sitter_id)
        hashes = [sitter.sha256]
        if any(part in path for part in _PAINTED):
            hashes += [p.sha256 for p in sitter.settings.easel.paintings]
        task = RemoteTask(path, query, sitter, self._repository.log.pace_at(sitter.id), dict.fromkeys(hashes))

        def ask() -> Brought:
            places = [self._place(sha, sitter.sha256) for sha in hashes]
            return self._cluster.do(self._do, task, *places)

        try:
            return ask()
        except LostCluster:
            # What was shared may have gone with a worker, or the scheduler was started anew.
            self._reach_again()
            return ask()

    def _reach_again(self) -> None:
        with self._lock:
            self._shared.clear()
            if not self._cluster.workers:
                self._cluster = self._cluster.again()

    def _place(self, sha256: str, reference: str) -> Any:
        """A photograph where the cluster finds it: it goes there once."""
        with self._lock:
            if sha256 not in self._shared:
                kept = self._repository.photograph if sha256 == reference else self._repository.paintings.get
                self._shared[sha256] = self._cluster.share(kept(sha256))
            self._shared.move_to_end(sha256)
            while len(self._shared) > _SHARED:
                self._shared.popitem(last=False)
            return self._shared[sha256]
