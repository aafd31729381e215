"""How much a client may send: what is more is refused while it comes in, not after."""

from __future__ import annotations

import re

from starlette.datastructures import Headers
from starlette.exceptions import HTTPException
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from truesitter.core.reference.tuning import LARGEST_FILE
from truesitter.formats.documents.log_files import LARGEST_LOG
from truesitter.store.files.sitter_files import MOST_BYTES
from truesitter.web.http.problems import problem

LARGEST_BODY = 8 << 20
"""Bytes of settings, strokes and everything else that is no file [try]."""
_AROUND = 1 << 20
"""What a form adds to its file."""
_LIMITS = (
    (re.compile(r"/api/sitter-files"), MOST_BYTES + _AROUND),
    (re.compile(r"/api/(sitters|swatches/photo)"), LARGEST_FILE + _AROUND),
    (re.compile(r"/api/sitters/[^/]+/(easel/paintings|hair/practice/photograph)"), LARGEST_FILE + _AROUND),
    (re.compile(r"/api/sitters/[^/]+/log/file"), LARGEST_LOG + _AROUND),
)


def most_for(path: str) -> int:
    """Bytes that may be sent to an address."""
    return next((most for pattern, most in _LIMITS if pattern.fullmatch(path)), LARGEST_BODY)


class BodyLimit:
    """Refuses bodies that are too large, by what they say or as soon as they are."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass a request on, counting what comes in."""
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        most, came = most_for(scope["path"]), 0
        words = f"This is more than can be taken in here: up to {most >> 20} MB."
        said = Headers(scope=scope).get("content-length", "")
        if said.isdecimal() and int(said[:20]) > most:
            await problem(413, words)(scope, receive, send)
            return

        async def counted() -> Message:
            nonlocal came
            message = await receive()
            came += len(message.get("body", b""))
            if came > most:
                raise HTTPException(413, words)
            return message

        await self._app(scope, counted, send)
