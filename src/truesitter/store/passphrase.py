"""The passphrase of a studio: only its argon2 hash is kept, beside the key that signs sessions."""

from __future__ import annotations

import secrets

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError

from truesitter.core.refusal import Refusal
from truesitter.store.studio import StudioDocuments

SHORTEST, LONGEST = 10, 200
"""Characters of a passphrase [try]."""
_KEY = "door"


class Passphrase:
    """The passphrase in the database."""

    def __init__(self, documents: StudioDocuments) -> None:
        self._documents = documents
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
        self._documents.put(_KEY, {"hash": self._hasher.hash(words), "signing": secrets.token_hex(32)})

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
        return str(kept["signing"])
