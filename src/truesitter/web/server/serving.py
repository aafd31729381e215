"""Serving the application on this machine."""

from __future__ import annotations

import logging
import socket
import ssl
import sys
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path

import uvicorn

from truesitter.core.reference.decode import set_ceiling
from truesitter.core.refusal import Refusal
from truesitter.store.backup.copies import DailyCopies
from truesitter.store.backup.lock import Held, folder_lock
from truesitter.store.settings.sitters import Repository
from truesitter.store.trouble import DATABASE_ERRORS, disk_errors_as_refusals
from truesitter.web.access.sessions import Opening, SessionAuth
from truesitter.web.queue.pools import Cluster, Scheduler
from truesitter.web.queue.remote_tasks import RemoteTasks
from truesitter.web.queue.workers import WorkerLimits, Workers
from truesitter.web.server.app import create_app
from truesitter.web.server.connections import PatientProtocol
from truesitter.web.server.memory import keep_small
from truesitter.web.server.remote_work import do

WARM_UP_AFTER = 2.0
"""Seconds from the start; by then the first page is on the screen, which loading would have slowed [try]."""

ANSWERS = 64 << 20
"""Bytes of answers remembered where others compute them [try]."""
SWITCH = 0.0005
"""Seconds for which a thread that computes may keep others from answering [try]."""
UNPROTECTED = (
    "Nothing that goes over the network is encrypted: whoever shares it can see the pictures and the "
    "passphrase. Open the door only in a network of your own, or give --certificate and --key."
)
COPIES_EVERY = 60.0
"""Seconds between looks whether the copy of the day is due [try]."""

log = logging.getLogger("truesitter")


@dataclass(frozen=True)
class StudioMode:
    """A studio that other machines of the local network may come into.

    Attributes
    ----------
    names
        Further names it goes by.
    certificate, key
        Files of a certificate of one's own, to encrypt what goes over the network; None to do without.
    """

    names: tuple[str, ...] = ()
    certificate: Path | None = None
    key: Path | None = None

    def __post_init__(self) -> None:
        if (self.certificate is None) != (self.key is None):
            raise Refusal("a certificate and its key belong together: give both files")
        if self.certificate and self.key:
            try:
                ssl.create_default_context(ssl.Purpose.CLIENT_AUTH).load_cert_chain(
                    self.certificate, self.key
                )
            except OSError as error:
                raise Refusal(
                    f"this certificate and key cannot be used ({error.strerror or error})"
                ) from None


def listen(port: int, address: str = "127.0.0.1") -> socket.socket:
    """A socket on an address of this machine.

    Raises
    ------
    Refusal
        For a port outside 1–65535.
    Held
        For one that is taken.
    """
    if not 1 <= port <= 65535:
        raise Refusal(f"a port is a number from 1 to 65535, not {port}")
    listening = socket.socket()
    listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listening.bind((address, port))
        # From here on nobody else can have the port, and a browser that is quick waits in line.
        listening.listen()
    except OSError as error:
        listening.close()
        raise Held(
            f"port {port} cannot be used ({error.strerror}): is True Sitter running already? "
            f"Try --port {port + 1}"
        ) from None
    return listening


def run(
    folder: Path,
    port: int,
    prepare: Callable[[Repository], None] | None = None,
    count: int = 0,
    ceiling: WorkerLimits = WorkerLimits(),  # noqa: B008
    studio: StudioMode | None = None,
    scheduler: Scheduler | None = None,
) -> None:
    """Serve the sitters of a folder until stopped: on 127.0.0.1, or as a studio to the local network.

    Nothing in the folder is touched before both the port and the folder are this process's own.

    Parameters
    ----------
    prepare
        Done with the shelf before it is served.
    count
        Processes that compute; 0 to do so in this one.
    ceiling
        Memory they may take.
    studio
        None for this machine alone.
    scheduler
        Of a Dask cluster that computes what it can; None without one.

    Raises
    ------
    Held
        When the port or the folder is taken.
    UnusableFolder
        When the folder cannot be used; nothing in it was touched.
    """
    logging.basicConfig(level=logging.WARNING)
    sys.setswitchinterval(SWITCH)
    keep_small()
    began = time.time()
    # Before anything is made: a cluster that is not there leaves nothing behind.
    cluster = Cluster(scheduler) if scheduler else None
    address = "127.0.0.1" if studio is None else "0.0.0.0"
    with listen(port, address) as listening, folder_lock(folder, f"True Sitter at port {port}"):
        repository = Repository(folder)
        door = None
        if studio:
            door = SessionAuth(
                repository.passphrase, Opening(port, studio.names, studio.certificate is not None)
            )
        with disk_errors_as_refusals(folder):
            for sentence in repository.purge(began):
                print(sentence, flush=True)
        if prepare:
            prepare(repository)
        set_ceiling(ceiling.in_flight << 20)
        workers = Workers(folder, count, ceiling) if count else None
        if workers:
            workers.start()
        # The detector takes seconds to load: let it do so while the painter looks at the shelf.
        warm_up = threading.Timer(WARM_UP_AFTER, _warm_up)
        warm_up.daemon = True
        if not workers:
            warm_up.start()
        copies = Daily(repository.copies)
        copies.start()
        remote_tasks = RemoteTasks(cluster, repository, do) if cluster else None
        remembered = ANSWERS if workers else ceiling.remembered << 20
        app = create_app(
            repository, workers=workers, most_bytes=remembered, door=door, remote_tasks=remote_tasks
        )
        config = uvicorn.Config(
            app, log_level="warning", server_header=False, http=PatientProtocol,
            # Who asks is who is connected: nobody may say that somebody else does.
            proxy_headers=False,
            ssl_certfile=studio.certificate if studio else None, ssl_keyfile=studio.key if studio else None,
        )  # fmt: skip
        server = uvicorn.Server(config)
        here = f"http://127.0.0.1:{port}" if door is None else door.opening.address
        print(f"True Sitter is at {here}", flush=True)
        if door and not door.opening.secret:
            print(UNPROTECTED, flush=True)
        server.run(sockets=[listening])
        warm_up.cancel()
        copies.stop()
        if workers:
            workers.stop()
        repository.close()


class Daily(threading.Thread):
    """Makes the copy of the day when it is due: soon after the start, then after midnight."""

    def __init__(self, copies: DailyCopies, every: float = COPIES_EVERY) -> None:
        super().__init__(name="daily copies", daemon=True)
        self._copies, self._every, self._over = copies, every, threading.Event()

    def run(self) -> None:
        """Look every so often until stopped."""
        while not self._over.wait(self._every):
            today = datetime.now().astimezone().date()
            try:
                if self._copies.due(today):
                    self._copies.make(today)
            except (OSError, *DATABASE_ERRORS, Refusal):
                log.exception("today's copy could not be made; it is tried again later")

    def stop(self) -> None:
        """Look no more; a copy being made is finished first."""
        self._over.set()
        if self.is_alive():
            self.join(60)


def _warm_up() -> None:
    # Imported when it is needed: a start is quicker without.
    from truesitter.core.sitter.landmarks import warm_up

    warm_up()
