"""Where work is done that one process would take long over: processes of this machine, or a cluster.

Either way the results are the same, they come in order, and a worker that is lost on the way costs
only time: what it had on its desk is given to another one.
"""

from __future__ import annotations

import os
from collections import deque
from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import Future, ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from itertools import islice
from multiprocessing import get_context
from typing import Any, Protocol, TypeVar, cast

from truesitter.core.refusal import Refusal

TRIES = 3
"""A job that takes three workers with it is given up [try]."""
_AHEAD = 2
"""So many times the places are jobs taken in: nobody waits for one, and not all are held at once [try]."""
_ANSWERS_WITHIN = "10s"
_J = TypeVar("_J")
_R = TypeVar("_R")


class LostWorker(Refusal):
    """Those who were to do something were lost again and again."""

    def __init__(self) -> None:
        super().__init__("whoever computed this was lost three times: is there too little memory?")


class Pool(Protocol):
    """Does jobs elsewhere."""

    def run(self, work: Callable[[_J], _R], jobs: Iterable[_J]) -> Iterator[_R]:
        """Results in the order of the jobs, which are taken as they can be done.

        `work` and everything it takes and gives can be pickled.
        """
        ...

    def close(self) -> None:
        """Let go of everything."""
        ...


class EmbeddedPool:
    """Processes of this machine.

    Parameters
    ----------
    processes
        How many; by default one a core.
    """

    def __init__(self, processes: int | None = None) -> None:
        self._count = processes or os.cpu_count() or 1
        self._pool: ProcessPoolExecutor | None = None

    def run(self, work: Callable[[_J], _R], jobs: Iterable[_J]) -> Iterator[_R]:
        """Results in the order of the jobs.

        Raises
        ------
        LostWorker
            When a job could not be done in several tries.
        """
        coming, waiting, tries = iter(jobs), deque[tuple[_J, Future[_R]]](), 0
        while True:
            for job in islice(coming, max(0, _AHEAD * self._count - len(waiting))):
                waiting.append((job, self._submit(work, job)))
            if not waiting:
                return
            try:
                result = waiting[0][1].result()
            except BrokenProcessPool:
                tries += 1
                if tries >= TRIES:
                    raise LostWorker from None
                self.close()
                waiting = deque((job, self._submit(work, job)) for job, _ in waiting)
                continue
            tries = 0
            waiting.popleft()
            yield result

    def _submit(self, work: Callable[[_J], _R], job: _J) -> Future[_R]:
        if self._pool is None:
            self._pool = ProcessPoolExecutor(self._count, mp_context=get_context("spawn"))
        try:
            return self._pool.submit(work, job)
        except BrokenProcessPool as error:
            # Noticed when its turn comes, with those that were lost as it was.
            lost: Future[_R] = Future()
            lost.set_exception(error)
            return lost

    def close(self) -> None:
        """End the processes; what has not begun is dropped."""
        if self._pool is not None:
            self._pool.shutdown(cancel_futures=True)
            self._pool = None


class Cluster:
    """A Dask cluster (optional: ``pip install truesitter[cluster]``), each worker with this program.

    Parameters
    ----------
    address
        Of its scheduler, as ``tcp://host:8786``.

    Raises
    ------
    Refusal
        When Dask is not installed, or the scheduler does not answer.
    """

    def __init__(self, address: str) -> None:
        try:
            from distributed import Client
        except ImportError:
            raise Refusal("a scheduler needs Dask: pip install truesitter[cluster]") from None
        try:
            self._client: Any = cast(Any, Client)(address, timeout=_ANSWERS_WITHIN, set_as_default=False)
        except (OSError, ValueError, TimeoutError) as error:
            raise Refusal(f"no scheduler answers at {address}: {type(error).__name__}") from None

    def run(self, work: Callable[[_J], _R], jobs: Iterable[_J]) -> Iterator[_R]:
        """Results in the order of the jobs; see `Pool`.

        Raises
        ------
        LostWorker
            When a job could not be done in several tries.
        """
        coming, waiting = iter(jobs), deque[Any]()
        while True:
            # Places may have become fewer since, with a worker that was lost.
            more = max(0, _AHEAD * self.places - len(waiting))
            waiting.extend(self._submit(work, job) for job in islice(coming, more))
            if not waiting:
                return
            yield self._result(waiting.popleft())

    def do(self, work: Callable[..., _R], *arguments: Any) -> _R:
        """One result; what was shared is among the arguments as it was got."""
        result: _R = self._result(self._submit(work, *arguments))
        return result

    def share(self, data: bytes) -> Any:
        """Put bytes where every worker finds them; the same bytes are put there once."""
        return self._client.scatter(data, hash=True, broadcast=False)

    @property
    def places(self) -> int:
        """How many jobs are done at a time."""
        return max(1, int(sum(self._client.ncores().values())))

    def _submit(self, work: Callable[..., Any], *arguments: Any) -> Any:
        return self._client.submit(work, *arguments, retries=TRIES - 1, pure=False)

    def _result(self, future: Any) -> Any:
        from distributed import KilledWorker

        try:
            return future.result()
        except KilledWorker:
            raise LostWorker from None

    def close(self) -> None:
        """Let go of the cluster; it goes on."""
        self._client.close()


def pool_for(scheduler: str | None, processes: int | None) -> EmbeddedPool | Cluster:
    """The cluster of a scheduler, or without one processes of this machine."""
    return Cluster(scheduler) if scheduler else EmbeddedPool(processes)
