"""Mixtures as ingredients: mixed from others by volume, or changed with a tube by so many value steps.

A name with `@` before it is a mixture; one part of it is one volume of it, whatever it is mixed from.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction
from math import lcm

from truesitter.core.paint.recipes.mixing import Colour, mix
from truesitter.core.paint.recipes.tuning import ALIKE, COUNTED, MOST_PARTS
from truesitter.core.paint.tubes.palettes import Palette
from truesitter.core.refusal import Refusal

MARK = "@"

FIXED: dict[str, dict[str, int]] = {
    "light-skin": {"titanium-white": 11, "burnt-sienna": 1},
    "dark-skin": {"titanium-white": 3, "burnt-umber": 2, "burnt-sienna": 1},
    "green-ground": {"green-earth": 2, "raw-umber": 1},
    "warm-black": {"ivory-black": 6, "burnt-sienna": 1, "perm-crimson": 1},
    "neutral-dark": {"burnt-sienna": 1, "ultramarine-blue": 1},
    "blue-grey": {"ultramarine-blue": 2, "ivory-black": 1},
    "sepia": {"burnt-umber": 3, "ivory-black": 1},
}
"""Mixtures to begin with, found by computation and named by what they are.

The two skins are the nearest of few earths and few parts to the published patches of a colour chart (ΔE00 2.6
and 0.6); green ground lies half way between its tubes in L*; warm black is black of chroma 6 at hue 25;
neutral dark is the least coloured of whole parts of its two tubes. Blue grey and sepia are the usual darks of
watercolour, their parts from memory.
"""


def expand(parts: Mapping[str, int], known: Mapping[str, Mapping[str, int]]) -> dict[str, int]:
    """Parts straight from the tubes, largest first, of a mixture that may name others.

    Parameters
    ----------
    parts
        Whole parts by tube key, or by `@` and a name in `known`.
    known
        Mixtures by name, in parts that may name others again.

    Raises
    ------
    Refusal
        For a mixture nobody knows, one that holds itself, no parts, or more than can be counted.

    Examples
    --------
    >>> expand({"ivory-black": 1, "@green-ground": 1}, FIXED)
    {'ivory-black': 3, 'green-earth': 2, 'raw-umber': 1}
    """
    shares = _shares(parts, known, ())
    if not shares:
        raise Refusal("a mixture needs at least one part of something")
    whole = lcm(*(s.denominator for s in shares.values()))
    counted = {key: int(share * whole) for key, share in shares.items()}
    if sum(counted.values()) > MOST_PARTS:
        raise Refusal("that many mixtures in one another cannot be counted out; keep one and begin with it")
    return dict(sorted(counted.items(), key=lambda item: -item[1]))


def straight(parts: Mapping[str, int], known: Mapping[str, Mapping[str, int]]) -> dict[str, int]:
    """As `expand`, for reckoning with and not for counting out: rounded where it would be too many parts.

    Parameters
    ----------
    parts, known
        As for `expand`.

    Returns
    -------
    dict[str, int]
        Parts by tube, largest first, at most about `MOST_PARTS` together; none of them is rounded to nothing.
    """
    shares = _shares(parts, known, ())
    whole = min(lcm(*(s.denominator for s in shares.values())), MOST_PARTS)
    counted = {key: max(1, round(share * whole)) for key, share in shares.items()}
    return dict(sorted(counted.items(), key=lambda item: -item[1]))


def _shares(
    parts: Mapping[str, int], known: Mapping[str, Mapping[str, int]], inside: tuple[str, ...]
) -> dict[str, Fraction]:
    """Share of every tube in the whole."""
    if any(count < 0 for count in parts.values()):
        raise Refusal("parts of paint cannot be negative")
    total = sum(parts.values())
    shares: dict[str, Fraction] = {}
    for key, count in parts.items():
        if not count:
            continue
        part = Fraction(count, total)
        if not key.startswith(MARK):
            shares[key] = shares.get(key, Fraction(0)) + part
            continue
        name = key[len(MARK) :]
        if name in inside:
            raise Refusal(f"“{name}” is mixed from itself")
        if name not in known:
            raise Refusal(f"there is no mixture called “{name}”")
        for tube, share in _shares(known[name], known, (*inside, name)).items():
            shares[tube] = shares.get(tube, Fraction(0)) + part * share
    return shares


@dataclass(frozen=True)
class Changed:
    """A mixture and what was added to it.

    Attributes
    ----------
    base, added
        Whole parts of the mixture, and of the tube added to them.
    before, after
        Colour of the mixture, and with the addition.
    """

    base: int
    added: int
    before: Colour
    after: Colour


def until(parts: Mapping[str, int], tube: str, steps: float, palette: Palette) -> Changed:
    """So much of a tube into a mixture that its value changes by so many steps.

    Parameters
    ----------
    parts
        The mixture, straight from the tubes.
    tube
        What is added.
    steps
        Value steps, negative for darker; not 0.
    palette
        Opaque; says where the tubes are.

    Returns
    -------
    Changed
        With the fewest parts that come within 0.05 step, or the nearest that can be counted.

    Raises
    ------
    Refusal
        When no amount of the tube does it.
    """
    total = sum(parts.values())
    before = mix({k: float(n) for k, n in parts.items()}, palette)

    def with_share(added: float) -> Colour:
        amounts = {k: n / total * (1 - added) for k, n in parts.items()}
        amounts[tube] = amounts.get(tube, 0.0) + added
        return mix(amounts, palette)

    wanted = before.value + steps
    sign = 1 if steps > 0 else -1
    if sign * (with_share(1.0).value - wanted) < 0:
        way = "lighter" if steps > 0 else "darker"
        name = palette.pigment(tube).name
        raise Refusal(f"no amount of {name} makes this {abs(steps):g} steps {way}")
    low, high = 0.0, 1.0
    for _ in range(40):
        middle = (low + high) / 2
        low, high = (middle, high) if sign * (with_share(middle).value - wanted) < 0 else (low, middle)
    ratio = high / max(1 - high, 1e-9)
    # Less than three quarters of one part in the largest heap: one part would miss by a quarter of a step.
    if ratio < 0.75 / COUNTED or ratio > 2 * COUNTED:
        raise Refusal(
            f"{palette.pigment(tube).name} cannot be counted out here: let it down, or begin with it"
        )
    near = [(base, max(1, round(base * ratio))) for base in range(1, COUNTED + 1)]
    made = [Changed(base, added, before, with_share(added / (base + added))) for base, added in near]
    right = [c for c in made if abs(c.after.value - wanted) <= ALIKE]
    return right[0] if right else min(made, key=lambda c: abs(c.after.value - wanted))
