"""Where work is done that one process would take long over: processes of this machine, or a cluster.

Either way the results are the same, they come in order, and a worker that is lost on the way costs
only time: what it had on its desk is given to another one.
"""

from __future__ import annotations

import os
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from multiprocessing import get_context
from typing import Any, Protocol, TypeVar, cast

from truesitter.core.refusal import Refusal

TRIES = 3
"""A job that takes three workers with it is given up [try]."""
_ANSWERS_WITHIN = "10s"
_J = TypeVar("_J")
_R = TypeVar("_R")


class LostWorker(Refusal):
    """Those who were to do something were lost again and again."""

    def __init__(self) -> None:
        super().__init__("whoever computed this was lost three times: is there too little memory?")


class Pool(Protocol):
    """Does jobs elsewhere."""

    def run(self, work: Callable[[_J], _R], jobs: Sequence[_J]) -> Iterator[_R]:
        """Results in the order of the jobs; `work` and everything it takes and gives can be pickled."""
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

    def run(self, work: Callable[[_J], _R], jobs: Sequence[_J]) -> Iterator[_R]:
        """Results in the order of the jobs.

        Raises
        ------
        LostWorker
            When a job could not be done in several tries.
        """
        tries = [0] * len(jobs)
        number = 0
        while number < len(jobs):
            # Started anew after a loss: what is done already is not done again.
            self._pool = ProcessPoolExecutor(self._count, mp_context=get_context("spawn"))
            futures = {n: self._pool.submit(work, jobs[n]) for n in range(number, len(jobs))}
            try:
                while number < len(jobs):
                    yield futures[number].result()
                    number += 1
            except BrokenProcessPool:
                tries[number] += 1
                if tries[number] >= TRIES:
                    raise LostWorker from None
            finally:
                self.close()

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

    def run(self, work: Callable[[_J], _R], jobs: Sequence[_J]) -> Iterator[_R]:
        """Results in the order of the jobs; see `Pool`.

        Raises
        ------
        LostWorker
            When a job could not be done in several tries.
        """
        futures = [self._submit(work, job) for job in jobs]
        for future in futures:
            yield self._result(future)

    def do_with(self, work: Callable[..., _R], job: object, shared: Sequence[Any]) -> _R:
        """One result; `work` takes the job and what was shared."""
        future = self._client.submit(work, job, *shared, retries=TRIES - 1, pure=False)
        result: _R = self._result(future)
        return result

    def share(self, data: bytes) -> Any:
        """Put bytes where every worker finds them; the same bytes are put there once."""
        return self._client.scatter(data, hash=True, broadcast=False)

    @property
    def places(self) -> int:
        """How many jobs are done at a time."""
        return max(1, int(sum(self._client.ncores().values())))

    def _submit(self, work: Callable[[_J], _R], job: _J) -> Any:
        return self._client.submit(work, job, retries=TRIES - 1, pure=False)

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
