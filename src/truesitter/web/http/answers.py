"""What the browser may keep: each answer declares once what it depends on, and its ETag follows from that."""

from __future__ import annotations

import tempfile
from collections.abc import Callable, Coroutine
from dataclasses import dataclass
from typing import Any, ClassVar

from fastapi import Depends, Request, Response
from fastapi.concurrency import run_in_threadpool
from fastapi.routing import APIRoute

from truesitter.core.graph.results import Needs
from truesitter.web.http.declared import answers, asks_for, declare
from truesitter.web.http.dependencies import CurrentStudy, Workbench, painter_of
from truesitter.web.queue.lanes import Lane

CACHING = "private, max-age=0, must-revalidate"


class NotModified(Exception):
    """The browser has this answer already."""

    def __init__(self, etag: str) -> None:
        super().__init__(etag)
        self.etag = etag


def answered(
    path: str, settings: tuple[str, ...] = (), needs: Needs = (), version: int = 1
) -> Any:  # fmt: skip
    """Declare what the answer at a path below a sitter depends on; a dependency of its route."""
    declaration = declare(path, settings, needs, version)

    def fresh(request: Request, response: Response, study: CurrentStudy) -> None:
        etag = f'"{study.key(declaration)}"'
        if request.headers.get("if-none-match") == etag:
            raise NotModified(etag)
        response.headers["ETag"] = etag
        response.headers["Cache-Control"] = CACHING

    return Depends(fresh)


def picture_response(request: Request, key: str, make: Callable[[], tuple[bytes, str]]) -> Response:
    """Answer with a picture, or with 304 when the browser has it already.

    Parameters
    ----------
    key
        ETag text: changes whenever the picture does.
    make
        Called for ``(bytes, media type)`` only when the picture is needed.
    """
    etag = f'"{key}"'
    if request.headers.get("if-none-match") == etag:
        raise NotModified(etag)
    data, media = make()
    return Response(data, media_type=media, headers={"ETag": etag, "Cache-Control": CACHING})


class BenchRoute(APIRoute):
    """A route whose work is heavy: it waits in line, unless the answer is there already."""

    LANE: ClassVar[Lane] = "heavy"
    HERE: ClassVar[bool] = False
    """True for work that the process does which answers, also when there are others that compute."""

    def get_route_handler(self) -> Callable[[Request], Coroutine[Any, Any, Response]]:
        """Look first whether the answer is there, then wait for a place."""
        original = super().get_route_handler()

        async def handler(request: Request) -> Response:
            bench: Workbench = request.app.state.workbench
            key, known = await run_in_threadpool(_known, request, bench)
            if known is not None:
                return known
            answer = await self._computed(bench, request, original, declared=key is not None)
            if key is not None and answer.status_code == 200 and answer.headers.get("etag") == f'"{key[1]}"':
                bench.memo.keep(key, Kept(bytes(answer.body), answer.media_type or ""))
            return answer

        return handler

    async def _computed(
        self,
        bench: Workbench,
        request: Request,
        original: Callable[[Request], Coroutine[Any, Any, Response]],
        declared: bool,
    ) -> Response:
        """Have it computed: by the cluster, by a process of this machine, or by this one."""
        if declared and bench.remote_tasks is not None:
            brought = await bench.remote_tasks.run(self.LANE, request)
            if brought is not None:
                return brought
        if bench.workers is not None and not self.HERE:
            worker = bench.workers.of(request.path_params.get("sitter_id", ""))
            # One that is still starting is waited for by those who would have to wait in line here, and by
            # what needs the models: to load them twice takes longer, and what follows would begin anew.
            line = bench.queue.crowd(self.LANE) >= bench.queue.at_once
            if worker.here or line or await run_in_threadpool(_needs_models, request, bench):
                with tempfile.SpooledTemporaryFile(max_size=_IN_MEMORY) as body:
                    async for piece in request.stream():
                        body.write(piece)
                    return await worker.answer(self.LANE, request, body, painter_of(request) or "")
        await _read_whole(request)
        return await bench.queue.run(self.LANE, request, lambda: original(request))


class QuickRoute(BenchRoute):
    """A route that follows the painter's hand: it has places that heavy work does not take."""

    LANE = "quick"


class HereRoute(BenchRoute):
    """A route whose work is mostly that of the disk."""

    HERE = True


class WritingRoute(APIRoute):
    """A route that writes: only so many at a time wait for the database, the others wait in line for them.

    Those who wait for the database each take a thread; if all did, nobody who only reads would get one.
    """

    def get_route_handler(self) -> Callable[[Request], Coroutine[Any, Any, Response]]:
        """Read what is sent, then wait for a turn."""
        original = super().get_route_handler()
        if not (self.methods or set()) - {"GET", "HEAD"}:
            return original

        async def handler(request: Request) -> Response:
            # First: whoever sends slowly must not keep a place meanwhile.
            await request.body()
            async with request.app.state.workbench.writers:
                return await original(request)

        return handler


_IN_MEMORY = 1 << 20
"""Bytes of what a client sends that are held in memory while it waits for a place."""


@dataclass(frozen=True)
class Kept:
    """An answer that was given before: its bytes and their media type."""

    body: bytes
    media: str


def _known(request: Request, bench: Workbench) -> tuple[tuple[str, str, str] | None, Response | None]:
    """The key of an answer, None when it has none; and the answer, when there is one already."""
    if request.method != "GET":
        return None, None
    path = _below(request)
    if path not in answers():
        return None, None
    key = bench.keys(bench.repository.get(request.path_params["sitter_id"]))[path]
    etag = f'"{key}"'
    if request.headers.get("if-none-match") == etag:
        raise NotModified(etag)
    whole = (path, key, request.url.query)
    kept = bench.memo.peek(whole)
    if kept is None:
        return whole, None
    headers = {"ETag": etag, "Cache-Control": CACHING}
    return whole, Response(kept.body, media_type=kept.media, headers=headers)


def _needs_models(request: Request, bench: Workbench) -> bool:
    """Whether an answer rests on what is found in the photograph by the models."""
    sitter_id = request.path_params.get("sitter_id")
    declaration = answers().get(_below(request))
    if sitter_id is None or declaration is None:
        return sitter_id is not None
    return asks_for(declaration, bench.repository.get(sitter_id).settings, "detection")


def _below(request: Request) -> str:
    """The path below the sitter."""
    return request.url.path.partition(f"/{request.path_params.get('sitter_id')}/")[2]


async def _read_whole(request: Request) -> None:
    """Read what a client sends before it gets a place: slow ones take none."""
    if request.headers.get("content-type", "").startswith("multipart/form-data"):
        await request.form()
    elif request.method not in ("GET", "HEAD"):
        await request.body()
