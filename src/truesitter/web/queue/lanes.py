"""The line of those who wait for something to be computed.

Heavy work is done by as many at a time as there are cores, first come first served. What follows
the painter's hand has places of its own, so has everything that computes nothing. Whoever leaves
is struck off the line; what is being computed for nobody stops at its next step.
"""

from __future__ import annotations

import threading
from collections.abc import Awaitable, Callable
from typing import Literal

import anyio
from fastapi import Request, Response

from truesitter.core.graph.memo import Abandoned, wanted_while

Lane = Literal["heavy", "quick"]
GONE = 499
"""Answered to nobody: the client has left."""


class Queue:
    """Places at work, by lane.

    Parameters
    ----------
    at_once
        Places in each lane, ≥ 1.
    """

    def __init__(self, at_once: int) -> None:
        self.at_once = at_once
        self._lanes: dict[Lane, anyio.CapacityLimiter] = {}

    def _lane(self, lane: Lane) -> anyio.CapacityLimiter:
        # Made when it is first needed: a limiter belongs to the loop that serves.
        if lane not in self._lanes:
            self._lanes[lane] = anyio.CapacityLimiter(self.at_once)
        return self._lanes[lane]

    def crowd(self, lane: Lane) -> int:
        """How many are at work or wait in a lane."""
        if lane not in self._lanes:
            return 0
        now = self._lanes[lane].statistics()
        return now.tasks_waiting + now.borrowed_tokens

    async def run(self, lane: Lane, request: Request, work: Callable[[], Awaitable[Response]]) -> Response:
        """Wait for a place and work there; whoever leaves meanwhile is answered nothing.

        Parameters
        ----------
        request
            With its body read: what comes after it is only that the client leaves.
        """
        left = threading.Event()
        answer: Response | None = None
        failed: BaseException | None = None
        places, me = self._lane(lane), object()

        async def watch(waiting: anyio.CancelScope) -> None:
            while (await request.receive())["type"] != "http.disconnect":
                pass
            left.set()
            waiting.cancel()

        async with anyio.create_task_group() as group:
            with anyio.CancelScope() as waiting:
                group.start_soon(watch, waiting)
                await places.acquire_on_behalf_of(me)
            if not left.is_set():
                try:
                    with wanted_while(lambda: not left.is_set()):
                        answer = await work()
                except Abandoned:
                    pass
                except Exception as error:
                    # Raised again outside: a group of tasks would wrap it.
                    failed = error
            if not waiting.cancelled_caught:
                places.release_on_behalf_of(me)
            group.cancel_scope.cancel()
        if failed is not None:
            raise failed
        return answer or Response(status_code=GONE)
