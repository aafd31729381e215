"""`truesitter serve` and `truesitter passphrase`: the application in a browser, here or in a studio."""

from __future__ import annotations

import os
import sys
from collections.abc import Callable
from pathlib import Path
from typing import Annotated

import typer

from truesitter.core.refusal import Refusal
from truesitter.store.where import data_folder

SchedulerOption = Annotated[
    str | None,
    typer.Option(
        help="Of a Dask cluster that computes: tls://host:8786, or tcp://127.0.0.1:8786 on this machine. "
        "Whoever reaches a scheduler without TLS can run programs as you"
    ),
]
AuthorityOption = Annotated[Path | None, typer.Option(help="Who signs the cluster's certificates (PEM)")]
CertificateOption = Annotated[Path | None, typer.Option(help="Your certificate for the cluster (PEM)")]
KeyOption = Annotated[Path | None, typer.Option(help="The key that belongs to it (PEM)")]
_Command = Callable[..., None]
_Data = Annotated[Path | None, typer.Option(help="Folder of the sitters")]


def add_commands(app: typer.Typer, clear_errors: Callable[[_Command], _Command]) -> None:
    """Put the commands of serving into an application."""

    @app.command()
    @clear_errors
    def serve(
        data: _Data = None,
        port: int = 8440,
        demo: Annotated[bool, typer.Option(help="Load the made-up sitters first")] = False,
        processes: Annotated[
            int | None, typer.Option(min=0, max=64, help="That compute; by default one a core, up to four")
        ] = None,
        in_flight: Annotated[
            int, typer.Option(min=256, max=1 << 20, help="MiB of pictures being unpacked at once")
        ] = 1024,
        remembered: Annotated[
            int, typer.Option(min=64, max=1 << 20, help="MiB of results kept in memory")
        ] = 400,
        studio: Annotated[bool, typer.Option(help="Open to the local network, with the passphrase")] = False,
        name: Annotated[list[str] | None, typer.Option(help="A further name of this machine")] = None,
        certificate: Annotated[Path | None, typer.Option(help="A certificate of your own")] = None,
        key: Annotated[Path | None, typer.Option(help="The key that belongs to it")] = None,
        scheduler: SchedulerOption = None,
        cluster_ca: AuthorityOption = None,
        cluster_cert: CertificateOption = None,
        cluster_key: KeyOption = None,
    ) -> None:
        """Serve the application on this machine; with --studio to the local network."""
        from truesitter.demo.seed import seed
        from truesitter.web.queue.pools import Scheduler
        from truesitter.web.queue.workers import WorkerLimits
        from truesitter.web.server.serving import StudioMode, run

        if not studio and (name or certificate or key):
            raise Refusal("names, a certificate and its key are for --studio")
        count = min(4, os.cpu_count() or 1) if processes is None else processes
        opened = StudioMode(tuple(name or ()), certificate, key) if studio else None
        ceiling = WorkerLimits(in_flight, remembered)
        where = Scheduler(scheduler, cluster_ca, cluster_cert, cluster_key) if scheduler else None
        run(data or data_folder(), port, seed if demo else None, count, ceiling, opened, where)

    @app.command()
    @clear_errors
    def passphrase(data: _Data = None) -> None:
        """Set the passphrase of the studio; from a pipe, the first line is taken."""
        from truesitter.store.backup.lock import folder_lock
        from truesitter.store.settings.sitters import Repository

        folder = data or data_folder()
        with folder_lock(folder, "the passphrase being set"):
            if sys.stdin.isatty():
                words = typer.prompt("Passphrase", hide_input=True, confirmation_prompt=True)
            else:
                words = sys.stdin.readline().rstrip("\n")
            repository = Repository(folder)
            repository.passphrase.set(words)
            repository.close()
        print("The passphrase is set. Open the studio with: truesitter serve --studio")
