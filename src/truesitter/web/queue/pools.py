"""Where work is done that one process would take long over: processes of this machine, or a cluster.

Either way the results are the same, they come in order, and a worker that is lost on the way costs
only time: what it had on its desk is given to another one.
"""

from __future__ import annotations

import os
import socket
from collections import deque
from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import CancelledError, Future, ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from contextlib import suppress
from dataclasses import dataclass
from itertools import islice
from multiprocessing import get_context
from pathlib import Path
from typing import Any, Protocol, TypeVar, cast
from urllib.parse import urlsplit

from truesitter.core.refusal import Refusal, Unavailable

TRIES = 3
"""A job that takes three workers with it is given up [try]."""
_AHEAD = 2
"""So many times the places are jobs taken in: nobody waits for one, and not all are held at once [try]."""
_ANSWERS_WITHIN = "10s"
_JOINS_WITHIN, _GIVES_WITHIN, _KNOCK = 10.0, 5.0, 3.0
"""Seconds: until a worker has joined, between looks whether one is still there, for a first word [try]."""
_J = TypeVar("_J")
_R = TypeVar("_R")


class LostWorker(Unavailable):
    """Those who were to do something were lost again and again."""

    def __init__(self) -> None:
        super().__init__("whoever computed this was lost three times: is there too little memory?")


class LostCluster(Unavailable):
    """A cluster does not answer, or nobody works in it."""

    def __init__(self, why: str) -> None:
        super().__init__(f"the cluster cannot compute this now: {why}")


@dataclass(frozen=True)
class Scheduler:
    """Where a Dask scheduler is, and how its traffic is kept to those who may join.

    Attributes
    ----------
    address
        As ``tls://host:8786``, or ``tcp://127.0.0.1:8786`` on this machine.
    authority, certificate, key
        Files in PEM form: who signs the certificates of a cluster, and one's own.
    """

    address: str
    authority: Path | None = None
    certificate: Path | None = None
    key: Path | None = None

    def __post_init__(self) -> None:
        """Refuse what would let anybody in.

        Raises
        ------
        Refusal
            For an address that is none, one elsewhere without TLS, or files that are missing.
        """
        parts = urlsplit(self.address)
        try:
            port = parts.port
        except ValueError:
            port = None
        if parts.scheme not in ("tcp", "tls") or not parts.hostname or port is None:
            raise Refusal(f"a scheduler is given as tls://host:8786, not as {self.address[:80]}")
        given = [f for f in (self.authority, self.certificate, self.key) if f is not None]
        if parts.scheme == "tcp" and parts.hostname not in ("127.0.0.1", "localhost", "::1"):
            raise Refusal(
                "whoever reaches a scheduler without TLS can run programs as you: outside this machine use "
                "tls://… with --cluster-ca, --cluster-cert and --cluster-key, made for this cluster alone"
            )
        if parts.scheme == "tls" and len(given) < 3:
            raise Refusal("tls://… needs --cluster-ca, --cluster-cert and --cluster-key")
        for file in given:
            if not file.is_file():
                raise Refusal(f"there is no file {file}")

    @property
    def place(self) -> tuple[str, int]:
        """Host and port."""
        parts = urlsplit(self.address)
        return str(parts.hostname), int(parts.port or 0)


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
    scheduler
        Where its scheduler is.

    Raises
    ------
    Refusal
        When Dask is not installed.
    LostCluster
        When the scheduler does not answer.
    """

    def __init__(self, scheduler: Scheduler) -> None:
        try:
            from distributed import Client
            from distributed.security import Security
        except ImportError:
            raise Refusal("a scheduler needs Dask: pip install truesitter[cluster]") from None
        self._where = scheduler
        address = scheduler.address
        self._knock()
        security = None
        if scheduler.authority:
            security = cast(Any, Security)(
                tls_ca_file=str(scheduler.authority), tls_client_cert=str(scheduler.certificate),
                tls_client_key=str(scheduler.key), require_encryption=True,
            )  # fmt: skip
        try:
            self._client: Any = cast(Any, Client)(
                address, timeout=_ANSWERS_WITHIN, set_as_default=False, security=security
            )
        except (OSError, ValueError, TimeoutError) as error:
            raise LostCluster(f"no scheduler answers at {address} ({type(error).__name__})") from None

    def _knock(self) -> None:
        """See in seconds whether anything listens there: Dask would go on trying for a minute."""
        try:
            socket.create_connection(self._where.place, _KNOCK).close()
        except OSError as error:
            why = error.strerror or type(error).__name__
            raise LostCluster(f"no scheduler answers at {self._where.address} ({why})") from None

    def wait_for_someone(self) -> None:
        """Wait until somebody works in the cluster.

        Raises
        ------
        LostCluster
            When nobody does in time.
        """
        try:
            self._client.wait_for_workers(1, timeout=_JOINS_WITHIN)
        except (OSError, TimeoutError):
            raise LostCluster(f"no worker has joined {self._where.address}") from None

    def run(self, work: Callable[[_J], _R], jobs: Iterable[_J]) -> Iterator[_R]:
        """Results in the order of the jobs; see `Pool`.

        Raises
        ------
        LostWorker
            When a job could not be done in several tries.
        """
        coming, waiting = iter(jobs), deque[Any]()
        self.wait_for_someone()
        while True:
            # Places may have become fewer since, with a worker that was lost.
            more = max(0, _AHEAD * self.places - len(waiting))
            waiting.extend(self._submit(work, job) for job in islice(coming, more))
            if not waiting:
                return
            yield self._result(waiting.popleft())

    def do(self, work: Callable[..., _R], *arguments: Any) -> _R:
        """One result; what was shared is among the arguments as it was got.

        Raises
        ------
        LostCluster
            When the scheduler is gone, nobody works there, or what was shared was lost with a worker.
        """
        if not self.workers:
            raise LostCluster("nobody works there")
        result: _R = self._result(self._submit(work, *arguments))
        return result

    def share(self, data: bytes) -> Any:
        """Put bytes where every worker finds them; the same bytes are put there once."""
        try:
            return self._client.scatter(data, hash=True, broadcast=False, timeout=_GIVES_WITHIN)
        except _gone() as error:
            raise LostCluster(type(error).__name__) from None

    @property
    def workers(self) -> int:
        """How many work there now; 0 also when the scheduler is gone."""
        try:
            self._knock()
            return len(self._client.ncores())
        except LostCluster:
            return 0
        except _gone():
            return 0

    @property
    def places(self) -> int:
        """How many jobs are done at a time."""
        try:
            return max(1, int(sum(self._client.ncores().values())))
        except _gone():
            return 1

    def again(self) -> Cluster:
        """The same cluster reached anew, when its scheduler was started again."""
        fresh = Cluster(self._where)
        # Only now: where nobody answers, this one may still come to itself.
        self.close()
        return fresh

    def _submit(self, work: Callable[..., Any], *arguments: Any) -> Any:
        return self._client.submit(work, *arguments, retries=TRIES - 1, pure=False)

    def _result(self, future: Any) -> Any:
        from distributed import KilledWorker

        while True:
            try:
                return future.result(timeout=_GIVES_WITHIN)
            except KilledWorker:
                raise LostWorker from None
            except TimeoutError:
                # What takes long takes long, as long as there is somebody to do it.
                if not self.workers:
                    raise LostCluster("nobody works there any more") from None
            except _gone() as error:
                raise LostCluster(type(error).__name__) from None

    def close(self) -> None:
        """Let go of the cluster; it goes on."""
        with suppress(*_gone()):
            self._client.close(timeout=2)


def _gone() -> tuple[type[BaseException], ...]:
    """What is raised when a scheduler or what lay in a cluster is gone."""
    from distributed.client import ClosedClientError
    from distributed.comm.core import CommClosedError

    return (OSError, CommClosedError, ClosedClientError, CancelledError, TimeoutError)


def pool_for(scheduler: Scheduler | None, processes: int | None) -> EmbeddedPool | Cluster:
    """The cluster of a scheduler, or without one processes of this machine."""
    return Cluster(scheduler) if scheduler else EmbeddedPool(processes)
