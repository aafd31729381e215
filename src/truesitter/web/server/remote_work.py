"""What a worker of a cluster does: it answers an errand's question with this application."""

from __future__ import annotations

import asyncio
import threading
from contextvars import ContextVar
from dataclasses import replace
from pathlib import Path
from types import SimpleNamespace
from typing import cast

import httpx
from fastapi import FastAPI

from truesitter.store.files.blobs import MissingFile
from truesitter.store.settings.sitters import Shelf
from truesitter.web.queue.remote_tasks import Brought, Errand
from truesitter.web.server.app import create_app

_RETURNED = ("content-type", "etag", "cache-control")
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
        log=SimpleNamespace(pace_at=lambda _: _errand.get().pace),
    )
    return cast(Shelf, shelf)


def do(errand: Errand, *photographs: bytes) -> Brought:
    """Answer a question, in a worker of the cluster; results are remembered there from one to the next."""
    with _making:
        if not _app:
            _app.append(create_app(_borrowed(), within=True))
    told = dict(zip(errand.photographs, photographs, strict=True))
    _errand.set(replace(errand, photographs=told))
    return asyncio.run(_answered(errand))


async def _answered(errand: Errand) -> Brought:
    transport = httpx.ASGITransport(_app[0], raise_app_exceptions=False)
    async with httpx.AsyncClient(transport=transport, base_url="http://127.0.0.1") as client:
        answer = await client.get(errand.path, params=errand.query)
    headers = {name: answer.headers[name] for name in _RETURNED if name in answer.headers}
    return Brought(answer.status_code, headers, answer.content)
