"""Who may talk to the application, and what pages may do with its answers.

Alone, only this machine's own pages. As a studio, also others of the local network, with a session.
"""

from __future__ import annotations

from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import Response
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from truesitter.web.access.sessions import COOKIE, THIS_MACHINE, SessionAuth, from_here, name_of
from truesitter.web.http.problems import problem

_READING = frozenset({"GET", "HEAD", "OPTIONS"})
_OPEN = frozenset({"/api/door"})
"""What is answered to whoever has not come in yet; the pages themselves tell nothing."""
_OWNERS = frozenset({"/api/keeping/backup"})
"""What holds everything of everybody."""
_ELSEWHERE = "A page from somewhere else tried to reach something here."
_UNKEPT = "private, no-cache"
"""Answers that say nothing of how long they hold are asked for anew each time."""
_HEADERS = {
    "Content-Security-Policy": (
        "default-src 'none'; script-src 'self'; style-src 'self' 'unsafe-inline'; "
        "img-src 'self' blob: data:; font-src 'self' data:; connect-src 'self'; base-uri 'none'; "
        "form-action 'self'; frame-ancestors 'none'"
    ),
    "X-Content-Type-Options": "nosniff",
    "X-Frame-Options": "DENY",
    "Referrer-Policy": "no-referrer",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
}


def _foreign(method: str, headers: Headers, hosts: frozenset[str], below_api: bool) -> str | None:
    """Why a request comes from somewhere else; None when it does not."""
    host = headers.get("host", "")
    if name_of(host) not in hosts:
        return f"This application does not go by the name “{host[:60]}”."
    site = headers.get("sec-fetch-site")
    if method in _READING:
        # A picture or a link on another page must not set work going here.
        return _ELSEWHERE if below_api and site in ("cross-site", "same-site") else None
    origin = headers.get("origin")
    if origin is not None and not from_here(origin, host):
        return _ELSEWHERE
    if site in ("cross-site", "same-site"):
        return _ELSEWHERE
    return None


def session_of(headers: Headers) -> str | None:
    """The session that a browser shows; cookies of others beside it may look however they like (RFC 6265)."""
    for each in headers.get("cookie", "").split(";"):
        name, _, value = each.strip().partition("=")
        if name == COOKIE:
            return value.strip('"')
    return None


class OriginCheck:
    """Refuses what comes from elsewhere, and says on every answer what pages may do with it.

    Parameters
    ----------
    door
        Of a studio that is open to other machines; None for one machine alone.
    """

    def __init__(self, app: ASGIApp, door: SessionAuth | None = None) -> None:
        self._app, self._door = app, door
        self._hosts = door.hosts if door else THIS_MACHINE

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass a request on, or refuse it."""
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return

        async def with_headers(message: Message) -> None:
            if message["type"] == "http.response.start":
                MutableHeaders(scope=message).update(_HEADERS)
                if scope["path"].startswith("/api/"):
                    MutableHeaders(scope=message).setdefault("Cache-Control", _UNKEPT)
            await send(message)

        refused = self._refused(scope)
        await (refused or self._app)(scope, receive, with_headers)

    def _refused(self, scope: Scope) -> Response | None:
        headers = Headers(scope=scope)
        path: str = scope["path"]
        below_api = path.startswith("/api/") or path == "/openapi.json"
        foreign = _foreign(scope["method"], headers, self._hosts, below_api)
        if foreign is not None:
            return problem(403, foreign)
        painter = self._door.who(session_of(headers)) if self._door else ""
        scope.setdefault("state", {})["painter"] = painter
        if painter is None and below_api and path not in _OPEN:
            return problem(401, "Come in first: this studio has a passphrase.")
        if self._door is not None and path in _OWNERS and not at_the_machine(scope):
            return problem(403, "Only whoever sits at the machine that keeps the sitters can take a backup.")
        return None


def at_the_machine(scope: Scope) -> bool:
    """Whether a request comes from the machine that serves: from whoever owns what is kept there."""
    client = scope.get("client")
    return client is not None and client[0] in ("127.0.0.1", "::1")


class InnerAuth:
    """Takes the painter's name from the process that asks: nobody else can."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass a request on under its painter's name."""
        if scope["type"] == "http":
            name = bytes.fromhex(Headers(scope=scope).get("x-painter", "")).decode()
            scope.setdefault("state", {})["painter"] = name
        await self._app(scope, receive, send)
