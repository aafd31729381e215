"""Answers computed by a cluster: a question goes there with all it needs, and the answer comes back.

Only what is declared goes: it depends on nothing but the sitter's settings and photographs, which go
with it, so it is the same wherever it is computed.
"""

from __future__ import annotations

import asyncio
import threading
from collections import OrderedDict
from contextvars import ContextVar
from dataclasses import dataclass
from pathlib import Path
from types import SimpleNamespace
from typing import Any, cast

import anyio
import httpx
from fastapi import FastAPI, Request, Response

from truesitter.pools import Cluster
from truesitter.store.blobs import MissingFile
from truesitter.store.sitters import Shelf, Sitter
from truesitter.web.queue import Lane, Queue

_SHARED = 64
"""Photographs of so many sitters are kept where the cluster finds them [try]."""
_RETURNED = ("content-type", "etag", "cache-control")


@dataclass(frozen=True)
class Errand:
    """A question, and the sitter it is about."""

    path: str
    query: str
    sitter: Sitter
    photographs: dict[str, Any]
    """Bytes by their hash, or what stands for them on the way."""


@dataclass(frozen=True)
class Brought:
    """An answer that was brought back."""

    status: int
    headers: dict[str, str]
    body: bytes


_errand: ContextVar[Errand] = ContextVar("errand")
_app: list[FastAPI] = []
_making = threading.Lock()


def _photograph(sha256: str) -> bytes:
    try:
        return cast(bytes, _errand.get().photographs[sha256])
    except KeyError:
        raise MissingFile("the photograph's file is missing: put the photograph in again") from None


def _borrowed() -> Shelf:
    """A shelf with one sitter on it: that of the errand."""
    shelf = SimpleNamespace(
        folder=Path(),
        get=lambda _: _errand.get().sitter,
        photograph=_photograph,
        paintings=SimpleNamespace(get=_photograph),
    )
    return cast(Shelf, shelf)


def do(errand: Errand, *photographs: bytes) -> Brought:
    """Answer a question, in a worker of the cluster; results are remembered there from one to the next."""
    with _making:
        if not _app:
            # The application is made of routes that know this module.
            from truesitter.web.app import create_app

            _app.append(create_app(_borrowed(), within=True))
    told = dict(zip(errand.photographs, photographs, strict=True))
    _errand.set(Errand(errand.path, errand.query, errand.sitter, told))
    return asyncio.run(_answered(errand))


async def _answered(errand: Errand) -> Brought:
    transport = httpx.ASGITransport(_app[0], raise_app_exceptions=False)
    async with httpx.AsyncClient(transport=transport, base_url="http://127.0.0.1") as client:
        answer = await client.get(errand.path, params=errand.query)
    headers = {name: answer.headers[name] for name in _RETURNED if name in answer.headers}
    return Brought(answer.status_code, headers, answer.content)


class Errands:
    """Sends questions to a cluster.

    Parameters
    ----------
    cluster
        Where they are answered.
    shelf
        Where the photographs are.
    """

    def __init__(self, cluster: Cluster, shelf: Shelf) -> None:
        self._cluster, self._shelf = cluster, shelf
        self.queue = Queue(cluster.places)
        self._limit = anyio.CapacityLimiter(2 * cluster.places)
        self._shared: OrderedDict[str, Any] = OrderedDict()
        self._lock = threading.Lock()

    async def run(self, lane: Lane, request: Request) -> Response:
        """Have a question answered."""
        return await self.queue.run(lane, request, lambda: self._send(request))

    async def _send(self, request: Request) -> Response:
        brought = await anyio.to_thread.run_sync(
            self._bring, request.url.path, request.url.query, request.path_params["sitter_id"],
            limiter=self._limit,
        )  # fmt: skip
        return Response(brought.body, brought.status, brought.headers)

    def _bring(self, path: str, query: str, sitter_id: str) -> Brought:
        sitter = self._shelf.get(sitter_id)
        hashes = [sitter.sha256]
        if "/easel/" in path:
            hashes += [p.sha256 for p in sitter.settings.easel.paintings]
        errand = Errand(path, query, sitter, dict.fromkeys(hashes))
        return self._cluster.do_with(do, errand, [self._place(sha, sitter.sha256) for sha in hashes])

    def _place(self, sha256: str, reference: str) -> Any:
        """A photograph where the cluster finds it: it goes there once."""
        with self._lock:
            if sha256 not in self._shared:
                kept = self._shelf.photograph if sha256 == reference else self._shelf.paintings.get
                self._shared[sha256] = self._cluster.share(kept(sha256))
            self._shared.move_to_end(sha256)
            while len(self._shared) > _SHARED:
                self._shared.popitem(last=False)
            return self._shared[sha256]
