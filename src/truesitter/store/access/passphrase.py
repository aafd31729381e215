"""The passphrase of a studio: only its argon2 hash is kept in the database.

The key that signs sessions lies in a file of its own beside the database, for the owner's eyes only: no
backup and no copy holds it, and where it is missing it is made anew.
"""

from __future__ import annotations

import os
import secrets
import threading
import time
from pathlib import Path

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError

from truesitter.core.refusal import Refusal
from truesitter.store.access.studio import StudioDocuments

SHORTEST, LONGEST = 10, 200
"""Characters of a passphrase [try]."""
_KEY, _ENDED = "door", "ended sessions"
SIGNING = "session.key"
"""The file of the signing key in a data folder."""


class EndedSessions:
    """Numbers of sessions that were ended before their time, as long as they could still be shown."""

    def __init__(self, documents: StudioDocuments, stays: float) -> None:
        self._documents, self._stays = documents, stays
        self._lock = threading.Lock()
        self._ended: dict[str, float] = dict((documents.get(_ENDED) or {"sessions": {}})["sessions"])

    def has(self, number: str) -> bool:
        """Whether a session was ended."""
        return number in self._ended

    def add(self, number: str) -> None:
        """End a session; it stays ended after a restart."""
        with self._lock:
            moment = time.time()
            kept = {n: at for n, at in self._ended.items() if at > moment - self._stays}
            self._ended = {**kept, number: moment}
            self._documents.put(_ENDED, {"sessions": self._ended})


class Passphrase:
    """The passphrase in the database, and the key beside it."""

    def __init__(self, documents: StudioDocuments, folder: Path) -> None:
        self._documents = documents
        self._file = folder / SIGNING
        self._hasher = PasswordHasher()

    @property
    def is_set(self) -> bool:
        """Whether there is one."""
        return self._documents.get(_KEY) is not None

    def set(self, words: str) -> None:
        """Set it anew; everyone has to come in again.

        Raises
        ------
        Refusal
            For one that is too short or too long.
        """
        if not SHORTEST <= len(words) <= LONGEST:
            raise Refusal(f"a passphrase has {SHORTEST} to {LONGEST} characters: a few words will do")
        self._documents.put(_KEY, {"hash": self._hasher.hash(words)})
        self._new_key()

    def fits(self, words: str) -> bool:
        """Whether it is the right one; takes some tens of milliseconds, right or wrong."""
        kept = self._documents.get(_KEY)
        if kept is None or len(words) > LONGEST:
            return False
        try:
            return self._hasher.verify(kept["hash"], words)
        except (VerificationError, InvalidHashError):
            return False

    @property
    def signing_key(self) -> str:
        """Signs the sessions of those who came in with it; another one with every passphrase.

        Raises
        ------
        Refusal
            When there is no passphrase.
        """
        kept = self._documents.get(_KEY)
        if kept is None:
            raise Refusal("there is no passphrase yet: set one with truesitter passphrase")
        if "signing" in kept:
            # Versions before kept it in the database, and so in every backup: that one is worth nothing now.
            self._documents.put(_KEY, {"hash": kept["hash"]})
            return self._new_key()
        try:
            return self._file.read_text().strip() or self._new_key()
        except FileNotFoundError:
            return self._new_key()

    def ended(self, stays: float) -> EndedSessions:
        """Sessions that were ended; each could be shown for so many seconds otherwise."""
        return EndedSessions(self._documents, stays)

    def _new_key(self) -> str:
        """Another signing key, readable by nobody else."""
        key, part = secrets.token_hex(32), self._file.with_name(f".part-{SIGNING}")
        part.unlink(missing_ok=True)
        with os.fdopen(os.open(part, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "w") as file:
            file.write(key)
            file.flush()
            os.fsync(file.fileno())
        part.replace(self._file)
        return key
