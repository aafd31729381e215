"""`truesitter log` and `truesitter rates`: the record of the work without a browser."""

from __future__ import annotations

import json
import sys
from collections.abc import Callable
from dataclasses import asdict
from datetime import datetime
from pathlib import Path
from typing import Annotated

import typer

from truesitter.core.log.drying_clocks import clocks_of
from truesitter.core.log.entry import Entry
from truesitter.core.log.sittings import Sitting, sittings_of
from truesitter.core.refusal import Refusal
from truesitter.formats.documents.log_files import log_csv, log_ics, log_json, read_log
from truesitter.formats.words.pace_words import level_words, times
from truesitter.formats.words.wording import many, worked
from truesitter.store.rows.clock import now
from truesitter.store.settings.sitter import Sitter
from truesitter.store.settings.sitters import Repository
from truesitter.store.where import data_folder

_Data = Annotated[Path | None, typer.Option(help="Folder of the sitters")]


def add_commands(
    app: typer.Typer, clear_errors: Callable[[Callable[..., None]], Callable[..., None]]
) -> None:
    """Put the commands of the log into an application."""

    @app.command()
    @clear_errors
    def log(
        sitter: Annotated[str, typer.Argument(help="Name or key of a sitter; or import, to take a file in")],
        file: Annotated[Path | None, typer.Argument(help="With import: a log as JSON or CSV")] = None,
        to: Annotated[str | None, typer.Option(help="With import: whose log it goes into")] = None,
        as_csv: Annotated[bool, typer.Option("--csv", help="As a table")] = False,
        as_json: Annotated[bool, typer.Option("--json", help="With everything in it")] = False,
        as_ics: Annotated[bool, typer.Option("--ics", help="As a calendar")] = False,
        data: _Data = None,
    ) -> None:
        """Print what was written down of a sitter's painting, or take a log in."""
        if as_csv + as_json + as_ics > 1:
            raise Refusal("a log is printed in one form at a time")
        repository = _shelf(data)
        try:
            if sitter == "import" and file is not None:
                whose = None if to is None else _sitter(repository, to).id
                new = repository.log.take_in(read_log(file.read_bytes()), whose)
                print(f"{new} new {'entry' if new == 1 else 'entries'}.")
                return
            if file is not None or to is not None:
                raise Refusal("a file and --to belong to import: truesitter log import FILE --to SITTER")
            one = _sitter(repository, sitter)
            entries = repository.log.of(one.id)
            if as_csv or as_json or as_ics:
                _write(entries, one, as_csv, as_json)
            else:
                _say(sittings_of(entries, now()))
        finally:
            repository.close()

    @app.command()
    @clear_errors
    def rates(
        painter: Annotated[str | None, typer.Option(help="Everybody without it")] = None,
        as_json: Annotated[bool, typer.Option("--json")] = False,
        data: _Data = None,
    ) -> None:
        """Print own pace: what was learned, and from how much."""
        repository = _shelf(data)
        pace = repository.log.pace(painter)
        repository.close()
        known = [("time", pace.time), ("paint", pace.paint), ("film", pace.film)]
        if as_json:
            listed = [
                {"what": what, **level._asdict(), **asdict(learned)}
                for what, rates in known
                for level, learned in rates.items()
            ]
            loss = dict(zip(("part", "spread", "sittings"), pace.loss, strict=True)) if pace.loss else None
            print(json.dumps({"rates": listed, "loss": loss}, ensure_ascii=False, indent=1))
            return
        for what, rates in known:
            for level, learned in rates.items():
                much = learned.per_cm2 * (10 if what == "film" else 1)
                unit = {"time": "min/cm²", "paint": "ml/cm²", "film": "mm"}[what]
                print(
                    f"{what}, {level_words(level)}: {times(learned.factor)} the usual, {much:.2g} "
                    f"{unit}, spread {learned.spread:.2f}, {learned.sittings} sittings"
                )
        if not pace:
            print("Nothing is learned yet: it takes three sittings of a kind, each told how much got done.")


def _shelf(data: Path | None) -> Repository:
    folder = data or data_folder()
    if not folder.is_dir():
        raise Refusal(f"there are no sitters in {folder}")
    return Repository(folder)


def _sitter(repository: Repository, asked: str) -> Sitter:
    """A sitter by key or by name."""
    found = [s for s in repository.all() if asked in (s.id, s.name)]
    if not found:
        raise Refusal(f"there is no sitter “{asked}” on the shelf")
    if len(found) > 1:
        keys = ", ".join(s.id for s in found)
        raise Refusal(f"there are several sitters called “{asked}”: say which by key, {keys}")
    return found[0]


def _write(entries: tuple[Entry, ...], one: Sitter, as_csv: bool, as_json: bool) -> None:
    """Print a log as a file."""
    if as_csv or as_json:
        # A table has line ends of its own.
        sys.stdout.write(log_csv(entries) if as_csv else log_json(entries) + "\n")
        return
    moment: datetime = now()
    sittings = sittings_of(entries, moment)
    sys.stdout.write(log_ics(sittings, clocks_of(sittings), {one.id: one.name}, moment).decode())


def _say(sittings: tuple[Sitting, ...]) -> None:
    for sitting in sittings:
        going = "" if sitting.ended else ", goes on"
        who = f", {sitting.painter}" if sitting.painter else ""
        print(f"{sitting.began:%Y-%m-%d %H:%M} UTC, {worked(sitting.minutes)}{going}{who}")
        for interval in sitting.intervals:
            if interval.work is not None:
                done = f", {interval.done:.0%} done" if interval.done is not None else ""
                print(f"  {interval.work.name}: {worked(interval.minutes)}{done}")
        for note in sitting.notes:
            print(f"  {note}")
    print(f"{worked(sum(s.minutes for s in sittings))} in {many(len(sittings), 'sitting')}.")
