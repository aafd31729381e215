"""The rack: tubes of the library, and the painter's own with the swatches they were read from."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from truesitter.core.paint.tubes.fit import Fit
from truesitter.core.paint.tubes.pigments import Curves, Pigment, pigment_curves, pigment_library
from truesitter.core.paint.tubes.swatches import Swatches, fit_swatches
from truesitter.core.paint.tubes.tuning import FITS
from truesitter.core.paint.tubes.wash import wash_strength
from truesitter.core.refusal import Refusal
from truesitter.core.types import Doubles

KEY_PATTERN = r"^[a-z0-9][a-z0-9-]{0,59}$"
"""With both ends, for whoever searches instead of matching whole."""


@dataclass(frozen=True)
class OwnTube:
    """A tube of the painter's own.

    Attributes
    ----------
    key, name
        Key, unlike any of the library's, and what the painter calls it.
    pigment
        Key of the library's pigment that is in it: family, opacity, drying and hazards are its.
    swatches
        What was read off its swatches; None while the library's typical colour is used.
    """

    key: str
    name: str
    pigment: str
    swatches: Swatches | None = None

    def __post_init__(self) -> None:
        """Refuse what cannot be told from a tube of the library, or is none."""
        if not re.fullmatch(KEY_PATTERN, self.key) or self.key in pigment_library():
            raise Refusal(f"“{self.key}” cannot be the key of a tube of your own")
        if not self.name.strip():
            raise Refusal("a tube needs a name")
        if self.pigment not in pigment_library():
            raise Refusal(f"there is no pigment called “{self.pigment}” in the library")

    def facts(self) -> Pigment:
        """The pigment's facts under the tube's own key and name."""
        return replace(pigment_library()[self.pigment], key=self.key, name=self.name)


@lru_cache(FITS)
def own_fit(tube: OwnTube) -> Fit | None:
    """The fit to a tube's swatches; None when they were not read."""
    return None if tube.swatches is None else fit_swatches(tube.swatches, pigment_library()[tube.pigment])


def own_curves(tube: OwnTube) -> Curves:
    """Curves of a tube of the painter's own: fitted to its swatches, else the library's."""
    fit = own_fit(tube)
    return pigment_curves()[tube.pigment] if fit is None else fit.curves


@lru_cache(FITS)
def own_strength(tube: OwnTube) -> float:
    """How many times as strong as usual a tube's washes are, by its swatch; 1 where none was read."""
    if tube.swatches is None or tube.swatches.wash is None:
        return 1.0
    return wash_strength(own_curves(tube), tube.swatches.wash)


@dataclass(frozen=True)
class Rack:
    """All tubes that a palette may draw on.

    Attributes
    ----------
    own
        The painter's own; the library's are always there.
    washes
        True when films are thinned with water: then a tube counts for as much as its wash says.
    """

    own: tuple[OwnTube, ...] = ()
    washes: bool = False

    def __post_init__(self) -> None:
        """Refuse two tubes of one key."""
        keys = [tube.key for tube in self.own]
        if len(set(keys)) < len(keys):
            raise Refusal("two tubes of your own have the same key")

    def pigment(self, key: str) -> Pigment:
        """What is in a tube.

        Raises
        ------
        Refusal
            With a sentence naming a tube that is not there.
        """
        tube = self._own(key)
        if tube is not None:
            return tube.facts()
        if key not in pigment_library():
            raise Refusal(f"there is no tube called “{key}” on the rack")
        return pigment_library()[key]

    def base(self, key: str) -> str:
        """Key of the library's pigment that a tube holds."""
        tube = self._own(key)
        return tube.pigment if tube is not None else self.pigment(key).key

    def pigments(self) -> tuple[Pigment, ...]:
        """The painter's own tubes, then the library's."""
        return (*(tube.facts() for tube in self.own), *pigment_library().values())

    def tube(self, key: str) -> Curves:
        """Curves of one tube."""
        tube = self._own(key)
        if tube is None:
            return pigment_curves()[self.pigment(key).key]
        curves = own_curves(tube)
        if not self.washes:
            return curves
        strength = own_strength(tube)
        return Curves(curves.absorption * strength, curves.scattering * strength)

    def for_washes(self) -> Rack:
        """The same tubes, each as strong as its washes are."""
        return replace(self, washes=True)

    def curves(self, keys: tuple[str, ...]) -> tuple[Doubles, Doubles]:
        """K and S of tubes, each (n, 31) per mm."""
        return _stacked(self, keys)

    def mixture(self, parts: Mapping[str, float]) -> tuple[Doubles, Doubles]:
        """K and S (31,) per mm of parts by volume, which add up by volume.

        Raises
        ------
        Refusal
            For negative parts or none at all.
        """
        share = np.array(list(parts.values()), dtype=np.float64)
        if share.size == 0 or (share < 0).any() or not np.isfinite(share).all() or share.sum() <= 0:
            raise Refusal("a mixture needs parts of paint, none of them below nothing")
        share /= share.sum()
        absorption, scattering = self.curves(tuple(parts))
        return share @ absorption, share @ scattering

    def check(self, keys: tuple[str, ...]) -> None:
        """Refuse tubes that are not there, or are named twice, or none at all.

        Raises
        ------
        Refusal
            With a sentence naming the tube.
        """
        if not keys:
            raise Refusal("the palette is empty: choose at least one tube")
        for key in keys:
            self.pigment(key)
            if keys.count(key) > 1:
                raise Refusal(f"the tube “{key}” is named twice")

    def _own(self, key: str) -> OwnTube | None:
        return next((tube for tube in self.own if tube.key == key), None)


@dataclass(frozen=True)
class Stock:
    """A tube and what is left in it: ml, or None when it is not counted; and whether it is used up."""

    tube: OwnTube
    amount_ml: float | None = None
    empty: bool = False


LIBRARY = Rack()
"""The library's tubes alone."""


@lru_cache(FITS)
def _stacked(rack: Rack, keys: tuple[str, ...]) -> tuple[Doubles, Doubles]:
    curves = [rack.tube(key) for key in keys]
    return np.stack([c.absorption for c in curves]), np.stack([c.scattering for c in curves])
