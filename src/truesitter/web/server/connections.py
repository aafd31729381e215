"""Connections: whoever says nothing makes room for whoever does.

A connection may be silent only so long; and when there are too many, of one machine or in all, the one goes
that has been silent longest. So no number of silent peers keeps others out.
"""

from __future__ import annotations

import asyncio
from collections.abc import Iterable
from typing import cast

from uvicorn.protocols.http.h11_impl import H11Protocol

MOST, MOST_OF_ONE = 400, 120
"""Connections in all, and of one machine: a browser opens six [try]."""
SPEAKS_WITHIN = 10.0
"""Seconds in which a request's head has to be there, from the connection or from its first letter [try]."""


class PatientProtocol(H11Protocol):
    """HTTP/1.1 whose patience has an end."""

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        """Take a connection in, and make room for it where there is none."""
        others = cast("set[PatientProtocol]", self.connections)
        super().connection_made(transport)
        self._peer = self.client[0] if self.client else ""
        self._silent_since = self.loop.time()
        self._timer: asyncio.TimerHandle | None = None
        self._expect()
        mine = [c for c in others if isinstance(c, PatientProtocol) and c._peer == self._peer]
        if len(mine) > MOST_OF_ONE:
            self._make_room(mine)
        elif len(others) > MOST:
            self._make_room(c for c in others if isinstance(c, PatientProtocol))

    @property
    def silent(self) -> bool:
        """Whether nothing that was asked is unanswered."""
        return self.cycle is None or self.cycle.response_complete

    def _make_room(self, among: Iterable[PatientProtocol]) -> None:
        """Close the one that has been silent longest; this one when all are being answered."""
        silent = [c for c in among if c.silent and c is not self]
        longest = min(silent, key=lambda c: c._silent_since, default=self)
        longest.transport.abort()

    def _expect(self) -> None:
        """Something has to be asked soon."""
        if self._timer is None:
            self._timer = self.loop.call_later(SPEAKS_WITHIN, self._give_up)

    def _relax(self) -> None:
        if self._timer is not None:
            self._timer.cancel()
            self._timer = None

    def _give_up(self) -> None:
        self._timer = None
        if self.silent:
            self.transport.abort()

    def data_received(self, data: bytes) -> None:
        """Take in what comes; the head of a request has to end in time."""
        super().data_received(data)
        if self.silent:
            self._expect()
        else:
            self._relax()

    def on_response_complete(self) -> None:
        """From here on it is silent again."""
        self._silent_since = self.loop.time()
        super().on_response_complete()

    def connection_lost(self, exc: Exception | None) -> None:
        """Let go of a connection."""
        self._relax()
        super().connection_lost(exc)
