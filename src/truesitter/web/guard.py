"""Only this machine's own pages may talk to the application: checks of Host and Origin, and headers."""

from __future__ import annotations

from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from truesitter.web.problems import problem

HOSTS = frozenset({"127.0.0.1", "localhost", "[::1]"})
"""Names under which this machine calls itself; a name pointed at it from outside is none of them."""

_READING = frozenset({"GET", "HEAD", "OPTIONS"})
_HEADERS = {
    "Content-Security-Policy": (
        "default-src 'none'; script-src 'self'; style-src 'self' 'unsafe-inline'; "
        "img-src 'self' blob: data:; font-src 'self' data:; connect-src 'self'; base-uri 'none'; "
        "form-action 'self'; frame-ancestors 'none'"
    ),
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "no-referrer",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
}


def _name(host: str) -> str:
    """A host without its port."""
    return host.rsplit(":", 1)[0] if not host.endswith("]") else host


def _foreign(method: str, headers: Headers) -> str | None:
    """Why a request comes from somewhere else; None when it does not."""
    host = headers.get("host", "")
    if _name(host) not in HOSTS:
        return "This application answers only under 127.0.0.1 or localhost."
    if method in _READING:
        return None
    origin = headers.get("origin")
    if origin is not None and urlsplit(origin).netloc != host:
        return "A page from somewhere else tried to change something here."
    if origin is None and headers.get("sec-fetch-site") in ("cross-site", "same-site"):
        return "A page from somewhere else tried to change something here."
    return None


class Guard:
    """Refuses what comes from elsewhere, and says on every answer what pages may do with it."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass a request on, or refuse it."""
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return

        async def with_headers(message: Message) -> None:
            if message["type"] == "http.response.start":
                MutableHeaders(scope=message).update(_HEADERS)
            await send(message)

        foreign = _foreign(scope["method"], Headers(scope=scope))
        answer = self._app if foreign is None else problem(403, foreign)
        await answer(scope, receive, with_headers)
