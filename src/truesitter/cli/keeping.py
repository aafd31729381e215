"""`truesitter backup`, `restore` and `check`: a data folder kept safe."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import asdict
from pathlib import Path
from typing import Annotated

import typer

from truesitter.store.backup.backup import restore_backup, write_backup
from truesitter.store.backup.check import check_folder
from truesitter.store.where import data_folder

_Data = Annotated[Path | None, typer.Option(help="Folder of the sitters")]


def add_commands(
    app: typer.Typer, clear_errors: Callable[[Callable[..., None]], Callable[..., None]]
) -> None:
    """Put the commands of safekeeping into an application."""

    @app.command()
    @clear_errors
    def backup(file: Path, data: _Data = None) -> None:
        """Copy all sitters into one file, also while the application is running."""
        made = write_backup(data or data_folder(), file)
        for sentence in made.lost:
            print(sentence)
        print(
            f"{file}: {made.sitters} sitters, {made.photographs} photographs, {made.size / 1e6:.1f} MB, "
            "read back and sound."
        )
        if made.lost:
            raise typer.Exit(1)

    @app.command()
    @clear_errors
    def restore(
        source: Annotated[Path, typer.Argument(help="A backup, or the folder of a daily copy")],
        data: Annotated[Path, typer.Option(help="A new folder for the sitters")],
    ) -> None:
        """Make a folder of sitters from a backup."""
        held = restore_backup(source, data)
        print(f"{data}: {held} photographs are back. Start with: truesitter serve --data {data}")

    @app.command()
    @clear_errors
    def check(
        data: _Data = None,
        mend: Annotated[bool, typer.Option(help="Mend what copies and backups can mend")] = True,
        backups: Annotated[list[Path] | None, typer.Option("--from", help="A backup to mend from")] = None,
        as_json: Annotated[bool, typer.Option("--json")] = False,
    ) -> None:
        """Look whether all that was kept is there and sound; ends with 1 when something is not."""
        found = check_folder(data or data_folder(), backups or (), mend)
        if as_json:
            print(json.dumps(asdict(found), ensure_ascii=False, indent=1))
        else:
            for sentence in (*found.mended, *found.troubles):
                print(sentence)
            state = "there is trouble" if found.troubles else "all is sound"
            print(f"{found.sitters} sitters, {found.photographs} photographs: {state}.")
        if found.troubles:
            raise typer.Exit(1)
