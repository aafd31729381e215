"""The studio's tube rack: the painter's own tubes and readings of their swatches."""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from datetime import datetime, timedelta

from sqlalchemy import select
from sqlalchemy.orm import Session

from truesitter.core.paint.tubes.pigments import pigment_library
from truesitter.core.paint.tubes.rack import OwnTube, Rack, Stock, own_curves, own_fit, own_strength
from truesitter.core.paint.tubes.swatches import Swatches, misses
from truesitter.core.refusal import Refusal
from truesitter.store.rows.clock import now
from truesitter.store.rows.database import Sessions
from truesitter.store.rows.models import ReadingRow, TubeRow

MOST_TUBES = 60
LARGEST_ML = 5000.0


class UnknownTube(LookupError):
    """There is no such tube, reading or palette."""


@dataclass(frozen=True)
class KeptReading:
    """Swatches as read at one time.

    Attributes
    ----------
    id, source, at, swatches
        Number, where it came from in words, when (UTC), and what was read.
    before, after
        ΔE2000 of each patch against what was predicted before it was taken in, and after.
    """

    id: int
    source: str
    at: datetime
    swatches: Swatches
    before: dict[str, float]
    after: dict[str, float]


@dataclass(frozen=True)
class KeptTube:
    """A tube on the rack.

    Attributes
    ----------
    tube
        With the swatches in force.
    amount_ml
        What is left; None when it is not counted.
    empty
        True when it is marked as used up.
    readings, reading
        Every reading, oldest first, and the number of the one in force.
    """

    tube: OwnTube
    amount_ml: float | None
    empty: bool
    readings: tuple[KeptReading, ...]
    reading: int | None


def free_key(name: str, taken: set[str]) -> str:
    """A key made of a name, unlike those taken."""
    plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode().lower()
    stem = re.sub(r"[^a-z0-9]+", "-", plain).strip("-")[:40] or "tube"
    number, key = 1, stem
    while key in taken:
        number += 1
        key = f"{stem}-{number}"
    return key


def check_amount(amount_ml: float | None) -> None:
    """Refuse an amount that no tube holds."""
    if amount_ml is not None and not 0 <= amount_ml <= LARGEST_ML:
        raise Refusal(f"a tube holds between 0 and {LARGEST_ML:g} ml")


class TubeRack:
    """The rack in the database."""

    def __init__(self, sessions: Sessions) -> None:
        self._sessions = sessions

    # -- tubes ----------------------------------------------------------------------------------

    def all(self) -> tuple[KeptTube, ...]:
        """Every tube on the rack, oldest first."""
        with self._sessions.reading() as session:
            rows = session.scalars(
                select(TubeRow).where(TubeRow.removed_at.is_(None)).order_by(TubeRow.created_at, TubeRow.key)
            )
            return tuple(_kept(row) for row in rows)

    def get(self, key: str) -> KeptTube:
        """One tube; UnknownTube when there is none."""
        with self._sessions.reading() as session:
            return _kept(_row(session, key))

    def rack(self) -> Rack:
        """All tubes, for the core."""
        return Rack(tuple(kept.tube for kept in self.all()))

    def add(self, name: str, pigment: str, amount_ml: float | None = None, key: str = "") -> KeptTube:
        """Put a tube on the rack.

        Raises
        ------
        Refusal
            For no name, an unknown pigment, an impossible amount, a key taken or a full rack.
        """
        check_amount(amount_ml)
        with self._sessions.writing.begin() as session:
            taken = set(session.scalars(select(TubeRow.key))) | set(pigment_library())
            held = session.scalars(select(TubeRow.key).where(TubeRow.removed_at.is_(None))).all()
            if len(held) >= MOST_TUBES:
                raise Refusal(f"the rack holds {MOST_TUBES} tubes: take one off first")
            if key and key in taken:
                raise Refusal(f"there is a tube with the key “{key}” already")
            own = OwnTube(key or free_key(name, taken), name.strip()[:60], pigment)
            session.add(
                TubeRow(
                    key=own.key, name=own.name, pigment=pigment, amount_ml=amount_ml, empty=False,
                    created_at=now(),
                )
            )  # fmt: skip
        return self.get(own.key)

    def change(self, key: str, name: str, amount_ml: float | None, empty: bool) -> KeptTube:
        """Rename a tube, set what is left in it, or mark it empty."""
        check_amount(amount_ml)
        with self._sessions.writing.begin() as session:
            row = _row(session, key)
            OwnTube(key, name.strip(), row.pigment)
            row.name, row.amount_ml, row.empty = name.strip()[:60], amount_ml, empty
        return self.get(key)

    def remove(self, key: str) -> None:
        """Take a tube off the rack; `restore` puts it back."""
        with self._sessions.writing.begin() as session:
            _row(session, key).removed_at = now()

    def restore(self, key: str) -> KeptTube:
        """Put a tube back that was taken off."""
        with self._sessions.writing.begin() as session:
            row = session.get(TubeRow, key)
            if row is None:
                raise UnknownTube("This tube is not on the rack.")
            row.removed_at = None
        return self.get(key)

    def take_in(self, stock: Sequence[Stock], source: str) -> tuple[KeptTube, ...]:
        """Add tubes of a file and change those with a known key; all of them or none.

        Raises
        ------
        Refusal
            Naming a tube that holds another pigment here, or swatches that cannot be fitted.
        """
        taken_in, fitted = now(), self._fitted_stock(stock)
        with self._sessions.writing.begin() as session:
            for number, entry in enumerate(stock):
                row = session.get(TubeRow, entry.tube.key)
                if row is None:
                    row = TubeRow(
                        key=entry.tube.key,
                        pigment=entry.tube.pigment,
                        created_at=taken_in + timedelta(microseconds=number),
                    )
                    session.add(row)
                else:
                    _check_same_pigment(row.key, row.pigment, entry)
                row.name, row.amount_ml, row.empty = entry.tube.name[:60], entry.amount_ml, entry.empty
                row.removed_at = None
                session.flush()
                if number in fitted:
                    _put_in_force(session, row, fitted[number], source)
            held = session.scalars(select(TubeRow.key).where(TubeRow.removed_at.is_(None))).all()
            if len(held) > MOST_TUBES:
                raise Refusal(f"the rack holds {MOST_TUBES} tubes; with the file there would be {len(held)}")
        keys = {entry.tube.key for entry in stock}
        kept = {one.tube.key: one for one in self.all() if one.tube.key in keys}
        return tuple(kept[entry.tube.key] for entry in stock)

    def _fitted_stock(self, stock: Sequence[Stock]) -> dict[int, _Fitted]:
        """Of a file's tubes those whose swatches are new here, fitted, by their place in the file."""
        with self._sessions.reading() as session:
            rows = session.scalars(select(TubeRow).where(TubeRow.key.in_([e.tube.key for e in stock])))
            here = {row.key: _kept(row).tube for row in rows}
        found = {}
        for number, entry in enumerate(stock):
            old = here.get(entry.tube.key)
            if old is not None:
                _check_same_pigment(old.key, old.pigment, entry)
            if entry.tube.swatches and (old is None or entry.tube.swatches != old.swatches):
                before = old.swatches if old else None
                plain = OwnTube(entry.tube.key, entry.tube.name[:60], entry.tube.pigment, before)
                found[number] = _fitted(plain, entry.tube.swatches)
                here[entry.tube.key] = entry.tube
        return found

    # -- readings -------------------------------------------------------------------------------

    def read(self, found: Mapping[str, Swatches], source: str) -> tuple[KeptTube, ...]:
        """Take in readings of one or more tubes: each is fitted anew; all are kept or none.

        Raises
        ------
        UnknownTube, ValueError
            Naming the tube that is not there or whose swatches cannot be fitted.
        """
        fitted = {key: _fitted(self.get(key).tube, swatches) for key, swatches in found.items()}
        with self._sessions.writing.begin() as session:
            for key, one in fitted.items():
                _put_in_force(session, _row(session, key), one, source)
        return tuple(self.get(key) for key in found)

    def use_reading(self, key: str, reading: int | None) -> KeptTube:
        """Go back to an earlier reading, or with None to the library's typical colour."""
        with self._sessions.writing.begin() as session:
            row = _row(session, key)
            if reading is not None and reading not in {r.id for r in row.readings}:
                raise UnknownTube("This tube was never read like that.")
            row.reading_id = reading
        return self.get(key)


def _check_same_pigment(key: str, pigment: str, entry: Stock) -> None:
    if pigment != entry.tube.pigment:
        raise Refusal(f"“{key}” holds {pigment} here, {entry.tube.pigment} in the file")


def _row(session: Session, key: str) -> TubeRow:
    row = session.get(TubeRow, key)
    if row is None or row.removed_at is not None:
        raise UnknownTube(f"There is no tube “{key}” on the rack.")
    return row


@dataclass(frozen=True)
class _Fitted:
    """Swatches and how far a tube was off them before and after it was fitted to them."""

    swatches: Swatches
    before: dict[str, float]
    after: dict[str, float]


def _fitted(tube: OwnTube, swatches: Swatches) -> _Fitted:
    """Fit a tube to swatches: seconds of work, so never done while others wait to write."""
    try:
        # The same tube is asked for its curves right after: the fit is remembered under it.
        own = OwnTube(tube.key, tube.name, tube.pigment, swatches)
        fit, strength = own_fit(own), own_strength(own)
    except Refusal as error:
        raise Refusal(f"{tube.name}: {error}") from error
    if fit is None:
        raise Refusal(f"{tube.name}: nothing was read")
    before = misses(swatches, own_curves(tube), fit.film_mm)
    return _Fitted(swatches, before, misses(swatches, fit.curves, fit.film_mm, strength))


def _put_in_force(session: Session, row: TubeRow, fitted: _Fitted, source: str) -> None:
    """Keep a reading, and use it from now on."""
    reading = ReadingRow(
        tube_key=row.key, source=source, swatches=asdict(fitted.swatches), before=fitted.before,
        after=fitted.after, at=now(),
    )  # fmt: skip
    row.readings.append(reading)
    session.flush()
    row.reading_id = reading.id


def _swatches(document: Mapping[str, list[float] | None]) -> Swatches:
    labs = {name: (lab[0], lab[1], lab[2]) if lab else None for name, lab in document.items()}
    masstone = labs.pop("masstone")
    if masstone is None:
        raise ValueError("a reading without a masstone was kept")
    return Swatches(masstone, **labs)


def _kept(row: TubeRow) -> KeptTube:
    readings = tuple(
        KeptReading(r.id, r.source, r.at, _swatches(r.swatches), r.before, r.after) for r in row.readings
    )
    current = next((r.swatches for r in readings if r.id == row.reading_id), None)
    return KeptTube(
        tube=OwnTube(row.key, row.name, row.pigment, current),
        amount_ml=row.amount_ml,
        empty=row.empty,
        readings=readings,
        reading=row.reading_id,
    )
