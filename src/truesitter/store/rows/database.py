"""Opening the database: SQLite with a write-ahead log and foreign keys, migrated to the newest form."""

from __future__ import annotations

import os
import sqlite3
from contextlib import closing
from pathlib import Path
from typing import Any
from urllib.parse import quote

from sqlalchemy import URL, Connection, Engine, create_engine, event, inspect, text
from sqlalchemy.orm import Session, sessionmaker

from truesitter.store.trouble import UnusableFolder

_MIGRATIONS = Path(__file__).parents[1] / "migrations"
_WRITING = "writing"
NEWEST = "0008"
"""Number of the newest migration."""
DATABASE = "sitters.sqlite"
"""Name of the database in a data folder."""


def open_database(path: Path, revision: str = "head") -> Engine:
    """Engine on a database file, made or migrated when needed.

    Before a migration the database is copied aside, to ``sitters.before-0005.sqlite`` beside it.

    Raises
    ------
    UnusableFolder
        For a database of a newer version, which is left as it is.
    sqlalchemy.exc.DatabaseError
        For a file that is no database, or cannot be written to.
    """
    path.parent.mkdir(parents=True, exist_ok=True)
    stands = form_of(path)
    if stands is not None and stands > NEWEST:
        raise UnusableFolder(
            f"the folder {path.parent} was written by a newer True Sitter (form {stands}, this one knows "
            f"{NEWEST}): start the newer one"
        )
    if stands is not None and stands != NEWEST and revision == "head":
        copy_database(path, path.with_suffix(f".before-{NEWEST}.sqlite"))
    engine = create_engine(URL.create("sqlite", database=str(path)))

    @event.listens_for(engine, "connect")
    def _settings(connection: Any, _record: Any) -> None:
        # Transactions are begun below, not by the driver.
        connection.isolation_level = None
        cursor = connection.cursor()
        cursor.execute("PRAGMA journal_mode=WAL")
        cursor.execute("PRAGMA foreign_keys=ON")
        cursor.execute("PRAGMA busy_timeout=10000")
        cursor.close()

    @event.listens_for(engine, "begin")
    def _begin(connection: Connection) -> None:
        # A writer takes the lock before it reads: what it builds on cannot change under it.
        writing = connection.get_execution_options().get(_WRITING)
        connection.exec_driver_sql("BEGIN IMMEDIATE" if writing else "BEGIN")

    with engine.execution_options(**{_WRITING: True}).begin() as connection:
        if revision != "head" or _stands_at(connection) != NEWEST:
            _migrate(connection, revision)
    return engine


def copy_database(source: Path, target: Path) -> None:
    """A copy of a database as it is at one moment, also while others write to it."""
    temporary = target.with_name(f".part-{target.name}")
    temporary.unlink(missing_ok=True)
    try:
        with _source(source) as old, closing(sqlite3.connect(temporary)) as new:
            old.backup(new)
            # A copy is one file: it needs no log beside it.
            new.execute("PRAGMA journal_mode=DELETE")
        temporary.replace(target)
    except BaseException:
        temporary.unlink(missing_ok=True)
        raise


def _source(path: Path) -> closing[sqlite3.Connection]:
    """A database to be copied; one on a disk that can only be read is opened as it lies there."""
    if os.access(path, os.W_OK) and os.access(path.parent, os.W_OK):
        return closing(sqlite3.connect(path, timeout=30))
    if path.with_name(f"{path.name}-wal").exists():
        raise UnusableFolder(
            f"the database in {path.parent} was not closed and cannot be opened where nothing can be "
            "written: copy the folder elsewhere first"
        )
    return closing(sqlite3.connect(f"file:{quote(str(path))}?mode=ro&immutable=1", uri=True))


def only_read(path: Path) -> closing[sqlite3.Connection]:
    """A connection that changes nothing in a database file; closed at the end of its `with`."""
    return closing(sqlite3.connect(f"file:{quote(str(path))}?mode=ro", uri=True, timeout=30))


def form_of(path: Path) -> str | None:
    """The newest migration a database file has been through; None for none, read without changing it."""
    if not path.exists() or not path.stat().st_size:
        return None
    with only_read(path) as connection:
        if not connection.execute("SELECT 1 FROM sqlite_master WHERE name = 'alembic_version'").fetchone():
            return None
        return str(connection.execute("SELECT version_num FROM alembic_version").fetchone()[0])


def _stands_at(connection: Connection) -> str | None:
    """The newest migration a database has been through."""
    if not inspect(connection).has_table("alembic_version"):
        return None
    stands: str | None = connection.scalar(text("SELECT version_num FROM alembic_version"))
    return stands


def _migrate(connection: Connection, revision: str) -> None:
    # Loaded only when there is something to migrate: every other start is quicker without.
    from alembic import command
    from alembic.config import Config

    config = Config()
    config.set_main_option("script_location", str(_MIGRATIONS))
    config.attributes["connection"] = connection
    command.upgrade(config, revision)


class Sessions:
    """Sessions to read in, and sessions to write in, which come one after the other."""

    def __init__(self, engine: Engine) -> None:
        self.reading: sessionmaker[Session] = sessionmaker(engine, expire_on_commit=False)
        self.writing: sessionmaker[Session] = sessionmaker(
            engine.execution_options(**{_WRITING: True}), expire_on_commit=False
        )
