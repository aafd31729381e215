"""The studio's door: who is let in from other machines, and under which name."""

from __future__ import annotations

import secrets
import socket
import threading
import time
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass
from ipaddress import ip_address, ip_network
from urllib.parse import urlsplit

from itsdangerous import BadData, URLSafeTimedSerializer

from truesitter.core.refusal import Refusal
from truesitter.store.access.passphrase import Passphrase

COOKIE = "sitter_session"
STAYS = 12 * 3600
"""Seconds for which a session lasts [try]."""
FREE_ATTEMPTS, LONGEST_WAIT = 5, 300.0
"""Wrong passphrases from one machine under one name before it has to wait, and the longest wait in seconds
[try]."""
FREE_FROM_ONE = 20
"""Wrong passphrases from one machine under any names before it has to wait [try]."""
_MACHINES = 1024
THIS_MACHINE = frozenset({"127.0.0.1", "localhost", "[::1]"})
"""Names under which this machine calls itself; a name pointed at it from outside is none of them."""


class TooMany(Refusal):
    """Too many wrong passphrases; `wait` says for how many seconds nothing is looked at."""

    def __init__(self, wait: float) -> None:
        super().__init__(f"too many wrong passphrases: wait {max(1, round(wait))} seconds, then try again")
        self.wait = wait


class Throttle:
    """Makes who guesses wait, each time twice as long: a machine, and a name on it; never anybody else."""

    def __init__(self, clock: Callable[[], float] = time.monotonic) -> None:
        self._clock = clock
        self._lock = threading.Lock()
        self._wrong: OrderedDict[tuple[str, str | None], tuple[int, float]] = OrderedDict()

    def check(self, machine: str, painter: str) -> None:
        """Refuse an attempt that comes too early.

        Raises
        ------
        TooMany
            Saying how long to wait.
        """
        with self._lock:
            until = max(self._wrong.get(who, (0, 0.0))[1] for who in _guessers(machine, painter))
            if until > self._clock():
                raise TooMany(until - self._clock())

    def wrong(self, machine: str, painter: str) -> None:
        """Count a wrong passphrase."""
        with self._lock:
            for who, free in zip(_guessers(machine, painter), (FREE_ATTEMPTS, FREE_FROM_ONE), strict=True):
                count = self._wrong.pop(who, (0, 0.0))[0] + 1
                self._wrong[who] = (count, self._until(count - free))
            while len(self._wrong) > _MACHINES:
                self._wrong.popitem(last=False)

    def right(self, machine: str, painter: str) -> None:
        """Forget what was got wrong under a name; what else came from its machine stays counted."""
        with self._lock:
            self._wrong.pop((_network(machine), painter), None)

    def _until(self, over: int) -> float:
        return self._clock() + min(LONGEST_WAIT, 2.0 ** min(over, 20)) if over >= 0 else 0.0


def _guessers(machine: str, painter: str) -> tuple[tuple[str, str | None], tuple[str, str | None]]:
    """Who is held to account for a wrong passphrase."""
    return (_network(machine), painter), (_network(machine), None)


def _network(machine: str) -> str:
    """The machine, or in version 6 its network: there each has more addresses than could be counted."""
    try:
        address = ip_address(machine)
    except ValueError:
        return machine
    if address.version == 4:
        return machine
    return str(ip_network((address, 64), strict=False))


@dataclass(frozen=True)
class Opening:
    """How the studio is open to other machines.

    Attributes
    ----------
    port
        Where it listens.
    names
        Further names under which it may be called, as a local name server gives them.
    secret
        True when what goes over the network is encrypted.
    """

    port: int
    names: tuple[str, ...] = ()
    secret: bool = False

    @property
    def address(self) -> str:
        """Where another machine finds it."""
        name = next(iter(self.names), None) or own_address() or "127.0.0.1"
        return f"{'https' if self.secret else 'http'}://{name}:{self.port}"

    def hosts(self) -> frozenset[str]:
        """Names that are answered to."""
        host = socket.gethostname().lower()
        own = {own_address() or "127.0.0.1", host, f"{host}.local", *(n.lower() for n in self.names)}
        return THIS_MACHINE | own


def own_address() -> str | None:
    """The address of this machine in the local network; None without one. Nothing is sent to find it."""
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe:
        try:
            # Only asks the routing table; the address is one that leads nowhere (RFC 5737).
            probe.connect(("192.0.2.1", 9))
            return str(probe.getsockname()[0])
        except OSError:
            return None


class SessionAuth:
    """Lets painters in who know the passphrase, and knows them again.

    Parameters
    ----------
    passphrase
        Of the studio; must be set.
    opening
        How it is open.
    """

    def __init__(self, passphrase: Passphrase, opening: Opening, throttle: Throttle | None = None) -> None:
        self.opening = opening
        self.hosts = opening.hosts()
        self._passphrase = passphrase
        self._throttle = throttle or Throttle()
        self._key = passphrase.signing_key
        self._left = passphrase.ended(STAYS)

    def enter(self, machine: str, words: str, painter: str) -> str:
        """The session of a painter who knows the passphrase.

        Raises
        ------
        Refusal
            For a wrong passphrase, or no name.
        TooMany
            When too many were wrong.
        """
        name = " ".join("".join(c for c in painter if c.isprintable()).split())[:40]
        if not name:
            raise Refusal("say who you are: the history of changes names whoever made them")
        self._throttle.check(machine, name)
        if not self._passphrase.fits(words):
            self._throttle.wrong(machine, name)
            raise Refusal("this is not the passphrase of this studio")
        self._throttle.right(machine, name)
        return self._sessions().dumps([name, secrets.token_hex(8)])

    def who(self, session: str | None) -> str | None:
        """The painter of a session; None for one that is forged, over, too old, or of another passphrase."""
        read = self._read(session)
        return None if read is None or self._left.has(read[1]) else read[0]

    def leave(self, session: str | None) -> None:
        """End a session: whoever has a copy of it cannot come in with it either."""
        read = self._read(session)
        if read is not None:
            self._left.add(read[1])

    def _read(self, session: str | None) -> tuple[str, str] | None:
        """Painter and number of a session."""
        if not session or len(session) > 500:
            return None
        try:
            name, number = self._sessions().loads(session, max_age=STAYS)
        except (BadData, TypeError, ValueError):
            return None
        return str(name), str(number)

    def _sessions(self) -> URLSafeTimedSerializer:
        return URLSafeTimedSerializer(self._key, salt="session")


def name_of(host: str) -> str:
    """A host without its port."""
    return (host.rsplit(":", 1)[0] if not host.endswith("]") else host).lower()


def from_here(origin: str, host: str) -> bool:
    """Whether a page's origin is the address it speaks to."""
    parts = urlsplit(origin)
    return parts.scheme in ("http", "https") and parts.netloc == host
