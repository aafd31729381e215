"""What a worker of a cluster does: it answers a remote task's question with this application."""

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
from truesitter.store.settings.sitters import Repository
from truesitter.web.queue.remote_tasks import Brought, RemoteTask
from truesitter.web.server.app import create_app

_RETURNED = ("content-type", "etag", "cache-control")
_task: ContextVar[RemoteTask] = ContextVar("remote_task")
_app: list[FastAPI] = []
_making = threading.Lock()


def _photograph(sha256: str) -> bytes:
    try:
        return cast(bytes, _task.get().photographs[sha256])
    except KeyError:
        raise MissingFile("the photograph's file is missing: put the photograph in again") from None


def _borrowed() -> Repository:
    """A shelf with one sitter on it: that of the remote task."""
    repository = SimpleNamespace(
        folder=Path(),
        get=lambda _: _task.get().sitter,
        photograph=_photograph,
        paintings=SimpleNamespace(get=_photograph),
        log=SimpleNamespace(pace_at=lambda _: _task.get().pace),
    )
    return cast(Repository, repository)


def do(task: RemoteTask, *photographs: bytes) -> Brought:
    """Answer a question, in a worker of the cluster; results are remembered there from one to the next."""
    with _making:
        if not _app:
            _app.append(create_app(_borrowed(), within=True))
    told = dict(zip(task.photographs, photographs, strict=True))
    _task.set(replace(task, photographs=told))
    return asyncio.run(_answered(task))


async def _answered(task: RemoteTask) -> Brought:
    transport = httpx.ASGITransport(_app[0], raise_app_exceptions=False)
    async with httpx.AsyncClient(transport=transport, base_url="http://127.0.0.1") as client:
        answer = await client.get(task.path, params=task.query)
    headers = {name: answer.headers[name] for name in _RETURNED if name in answer.headers}
    return Brought(answer.status_code, headers, answer.content)
