"""Palettes: the tubes a painter sets out, and what they are laid on."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Protocol

from truesitter.core.paint.media.dilution import Thinning
from truesitter.core.paint.media.media_table import MEDIA
from truesitter.core.paint.media.supports import WHITE_PAPER
from truesitter.core.paint.tubes.pigments import Pigment
from truesitter.core.paint.tubes.rack import LIBRARY, Rack
from truesitter.core.refusal import Refusal
from truesitter.core.types import Doubles


class Under(Protocol):
    """What washes lie on."""

    def internal(self) -> Doubles:
        """Internal reflectance (31,)."""

    def seen(self) -> Doubles:
        """Reflectance (31,) as the eye sees it."""


@dataclass(frozen=True)
class Palette:
    """Tubes and the way they are used.

    Attributes
    ----------
    key, name
        Key and the painter's name for it.
    tubes
        Keys of tubes on the rack.
    washes_on
        For washes what they lie on: thinning with water lightens, no white tube is
        needed. None for opaque mixtures laid thick enough to hide.
    rack
        Where the tubes are taken from.
    thinning
        How its paint is thinned: the films a wash can have.
    """

    key: str
    name: str
    tubes: tuple[str, ...]
    washes_on: Under | None = None
    rack: Rack = LIBRARY
    thinning: Thinning = MEDIA["watercolour"].thinning

    def __post_init__(self) -> None:
        """Refuse unknown and repeated tubes."""
        self.rack.check(self.tubes)

    def with_tubes(self, tubes: tuple[str, ...]) -> Palette:
        """The same palette with other tubes."""
        return replace(self, tubes=tubes)

    def pigment(self, key: str) -> Pigment:
        """What is in a tube."""
        return self.rack.pigment(key)

    @property
    def transparent(self) -> bool:
        """True for washes."""
        return self.washes_on is not None

    def opaque(self) -> Palette:
        """The same tubes laid thick enough to hide."""
        return replace(self, washes_on=None)

    def without_whites(self) -> Palette:
        """The same tubes but the whites."""
        return self.with_tubes(tuple(k for k in self.tubes if self.pigment(k).family != "white"))

    def below(self) -> Doubles:
        """Internal reflectance (31,) of what washes lie on.

        Raises
        ------
        ValueError
            For opaque paint, under which nothing shows.
        """
        if self.washes_on is None:
            raise ValueError("nothing shows under opaque paint")
        return self.washes_on.internal()


STARTERS: tuple[Palette, ...] = (
    Palette(
        "earth-four",
        "Earth four",
        ("titanium-white", "yellow-ochre", "light-red", "ivory-black"),
    ),
    Palette(
        "warm-cool-six",
        "Warm and cool six",
        (
            "titanium-white", "yellow-ochre", "arylide-yellow", "pyrrole-red", "perm-crimson",
            "ultramarine-blue", "phthalo-blue",
        ),
    ),
    Palette(
        "three-primaries",
        "Three primaries and white",
        ("titanium-white", "arylide-yellow", "quinacridone-rose", "phthalo-blue"),
    ),
    Palette(
        "black-and-white",
        "Black and white",
        ("titanium-white", "ivory-black"),
    ),
    Palette(
        "watercolour-three",
        "Three on paper",
        ("arylide-yellow", "quinacridone-rose", "ultramarine-blue"),
        washes_on=WHITE_PAPER,
    ),
)  # fmt: skip
"""Sensible beginnings (common practice); every one can be changed tube by tube."""


def starter(key: str, rack: Rack = LIBRARY) -> Palette:
    """A starter palette by its key, or ad-hoc opaque tubes from a comma-separated list.

    Raises
    ------
    Refusal
        With a sentence naming what is not known.
    """
    for palette in STARTERS:
        if palette.key == key:
            return palette
    tubes = tuple(part.strip() for part in key.split(",") if part.strip())
    if len(tubes) == 1:
        known = ", ".join(p.key for p in STARTERS)
        raise Refusal(f"there is no palette called “{key}”; there are {known}, or name tubes")
    return Palette("own", "Own tubes", tubes, rack=rack)
