"""From a target colour to parts of paint.

For every set of tubes of the wanted size the best proportions are found at once,
by a damped Gauss–Newton iteration over all sets side by side; the best sets are
then rounded to whole parts for every total, their neighbours are tried too, and
the recipe with the least cost wins. *Value first*: a value error costs more than
a hue error.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations

import numpy as np

from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.colour.spectrum import reflectance_to_lab
from truesitter.core.paint.mixing import Colour, as_lab, lab_value, mixture_reflectance, tube_curves
from truesitter.core.paint.palettes import Palette
from truesitter.core.paint.pigments import Lab, pigment_library
from truesitter.core.paint.reach import THICKEST_WASH_MM
from truesitter.core.types import Doubles, Ints

VALUE_WEIGHT = 6.0
"""Cost of one value step, in ΔE2000."""

_TUBE_COST = 0.15
_PART_COST = 0.01
_KEEP = 4
_FIRST_WASH_MM = 0.0004
_FIRST_ITERATIONS = 4
_LAST_ITERATIONS = 8
_PROMISING = 40
_ROUNDING_LOSS = 1.0
_TOUCH = 5
"""When rounding costs more than a ΔE of `_ROUNDING_LOSS`, totals up to `_TOUCH` times
the largest are tried too: a strong tube may be needed by the touch."""

REACHED_DELTA_E = 3.0
REACHED_VALUE = 0.25


@dataclass(frozen=True)
class Recipe:
    """Parts of paint for one target.

    Attributes
    ----------
    parts
        Whole parts by volume, by pigment key, largest first.
    target_lab
        What was asked for.
    predicted
        What the parts make.
    delta_e, value_error
        CIEDE2000 to the target, and predicted minus target value in steps.
    film_mm
        For a wash, mm of dry paint on the paper; None for opaque paint.
    """

    parts: dict[str, int]
    target_lab: Lab
    predicted: Colour
    delta_e: float
    value_error: float
    film_mm: float | None = None

    @property
    def reached(self) -> bool:
        """True when the recipe is as near as an eye would ask."""
        return self.delta_e <= REACHED_DELTA_E and abs(self.value_error) <= REACHED_VALUE


@dataclass(frozen=True)
class Suggestion:
    """A tube that would bring a target nearer, and how near (ΔE2000)."""

    tube: str
    delta_e: float


def _weighted_residual(lab: Doubles, target: Doubles) -> Doubles:
    """Residuals whose squares add up to about the squared cost; (..., 3)."""
    chroma = float(np.hypot(target[1], target[2]))
    hue = np.arctan2(target[2], target[1]) if chroma > 1e-6 else 0.0
    along, across = np.array([np.cos(hue), np.sin(hue)]), np.array([-np.sin(hue), np.cos(hue)])
    delta = lab - target
    return np.stack(
        [
            (1.0 + VALUE_WEIGHT / 10) * delta[..., 0],
            delta[..., 1:] @ along / (1 + 0.045 * chroma),
            delta[..., 1:] @ across / (1 + 0.015 * chroma),
        ],
        axis=-1,
    )


def _cost(lab: Doubles, target: Doubles) -> Doubles:
    value_error = np.abs(lab_value(lab) - lab_value(target))
    return np.asarray(delta_e_2000(lab, target) + VALUE_WEIGHT * value_error)


class _Problem:
    """All tube sets of one size against one target."""

    def __init__(self, target: Doubles, palette: Palette, sets: Ints) -> None:
        self.target, self.palette, self.sets = target, palette, sets
        self.k, self.s = tube_curves(palette.tubes)

    def amounts(self, logs: Doubles) -> Doubles:
        if self.palette.transparent:
            return np.exp(logs)
        weights = np.exp(logs - logs.max(axis=-1, keepdims=True))
        return np.asarray(weights / weights.sum(axis=-1, keepdims=True))

    def lab(self, amounts: Doubles, rows: Ints) -> Doubles:
        """Colours of amounts (..., m, n) for the sets of those rows (m,)."""
        every = np.zeros((*amounts.shape[:-1], len(self.palette.tubes)))
        members = np.broadcast_to(self.sets[rows], amounts.shape)
        np.put_along_axis(every, members, amounts, axis=-1)
        return reflectance_to_lab(mixture_reflectance(every, self.k, self.s, self.palette))

    def start(self) -> Doubles:
        """First guess: every tube about as strong as every other, washes thin."""
        strength = self.k.mean(axis=1) + 0.05 * self.s.mean(axis=1)
        logs = -0.7 * np.log(strength)[self.sets]
        if self.palette.transparent:
            logs += np.log(_FIRST_WASH_MM) - np.log(np.exp(logs).sum(axis=1, keepdims=True))
        return np.asarray(logs)

    def improve(self, logs: Doubles, rows: Ints, iterations: int) -> tuple[Doubles, Doubles]:
        """Damped Gauss–Newton on log amounts (m, n) of those sets; better logs and costs (m,)."""
        n = self.sets.shape[1]
        limit = (np.log(1e-7), np.log(THICKEST_WASH_MM)) if self.palette.transparent else (-14, 14)
        damping = np.full(len(rows), 0.3)
        residual = _weighted_residual(self.lab(self.amounts(logs), rows), self.target)
        error = (residual**2).sum(axis=1)
        step = 1e-4
        for _ in range(iterations):
            shifted = logs[None] + step * np.eye(n)[:, None, :]
            moved = _weighted_residual(self.lab(self.amounts(shifted), rows), self.target)
            jacobian = np.moveaxis(moved - residual[None], 0, -1) / step
            transposed = np.swapaxes(jacobian, 1, 2)
            normal = transposed @ jacobian
            gradient = transposed @ residual[..., None]
            ridge = damping * (np.trace(normal, axis1=1, axis2=2) / n + 1e-6)
            normal += ridge[:, None, None] * np.eye(n)
            delta = -np.linalg.solve(normal, gradient)[..., 0]
            trial = np.clip(logs + np.clip(delta, -1.0, 1.0), *limit)
            trial_residual = _weighted_residual(self.lab(self.amounts(trial), rows), self.target)
            trial_error = (trial_residual**2).sum(axis=1)
            better = trial_error < error
            logs = np.where(better[:, None], trial, logs)
            residual = np.where(better[:, None], trial_residual, residual)
            error = np.where(better, trial_error, error)
            damping = np.where(better, damping * 0.25, damping * 6).clip(1e-6, 1e4)
        return logs, np.sqrt(error)

    def solve(self) -> tuple[Ints, Doubles, Doubles]:
        """The promising sets (m,), their best amounts (m, n) and costs (m,), best first."""
        every = np.arange(len(self.sets), dtype=np.int32)
        logs, costs = self.improve(self.start(), every, _FIRST_ITERATIONS)
        promising = np.argsort(costs, kind="stable")[:_PROMISING].astype(np.int32)
        logs, costs = self.improve(logs[promising], promising, _LAST_ITERATIONS)
        order = np.argsort(costs, kind="stable")
        return promising[order], self.amounts(logs[order]), costs[order]

    def round(self, amounts: Doubles, rows: Ints, totals: range) -> tuple[Doubles, Ints]:
        """Whole-part candidates (c, n) round the given amounts and the set of each (c,)."""
        share = amounts / amounts.sum(axis=1, keepdims=True)
        n = share.shape[1]
        sums = np.array(totals)[:, None, None]
        ideal = share[None] * sums
        floor = np.floor(ideal)
        missing = np.round(sums[..., 0] - floor.sum(axis=2)).astype(int)
        rank = np.argsort(np.argsort(-(ideal - floor), axis=2), axis=2)
        base = floor + (rank < missing[..., None])
        moves = [np.zeros(n)]
        for i in range(n):
            for j in range(n):
                if i != j:
                    move = np.zeros(n)
                    move[i], move[j] = 1, -1
                    moves.append(move)
        parts = (base[:, :, None, :] + np.array(moves)[None, None]).reshape(-1, n)
        owner = np.broadcast_to(rows[None, :, None], (*base.shape[:2], len(moves))).reshape(-1)
        good = (parts.min(axis=1) >= 0) & (parts.sum(axis=1) > 0)
        return parts[good], owner[good]


def _tube_sets(count: int, most: int, must_hold: int | None = None) -> Ints:
    size = min(most, count)
    sets = [c for c in combinations(range(count), size) if must_hold is None or must_hold in c]
    return np.array(sets, dtype=np.int32)


@dataclass(frozen=True)
class _Rounded:
    """The cheapest whole-part candidate of one search."""

    cost: float
    parts: Doubles
    row: int
    lab: Doubles
    film_mm: float | None


def _best_parts(problem: _Problem, sets: Ints, amounts: Doubles, totals: range) -> _Rounded:
    """The cheapest whole parts with one of `totals`, over all sets."""
    parts, owner = problem.round(amounts, sets, totals)
    scaled, film = parts, None
    if problem.palette.transparent:
        by_set = dict(zip(sets.tolist(), amounts.sum(axis=1), strict=True))
        film = np.array([by_set[int(row)] for row in owner])
        scaled = parts * (film / parts.sum(axis=1))[:, None]
    lab = problem.lab(scaled, owner)
    cost = _cost(lab, problem.target) + _TUBE_COST * (parts > 0).sum(axis=1)
    cost += _PART_COST * parts.sum(axis=1)
    winner = int(np.argmin(cost))
    return _Rounded(
        cost=float(cost[winner]),
        parts=parts[winner],
        row=int(owner[winner]),
        lab=lab[winner],
        film_mm=float(film[winner]) if film is not None else None,
    )


def solve_recipe(target_lab: Lab, palette: Palette, most_tubes: int = 4, largest_total: int = 24) -> Recipe:
    """Whole parts of at most `most_tubes` tubes that come nearest to a colour.

    Parameters
    ----------
    target_lab
        L*a*b* wanted; L* 0–100.
    palette
        The tubes to choose from.
    most_tubes
        1–6.
    largest_total
        Largest sum of parts, 1–60.

    Raises
    ------
    ValueError
        For a target or limits outside these ranges.
    """
    target = np.array(target_lab, dtype=np.float64)
    if not np.all(np.isfinite(target)) or not 0 <= target[0] <= 100 or np.abs(target[1:]).max() > 160:
        raise ValueError("a target colour needs L* from 0 to 100 and a*, b* from −160 to 160")
    if not 1 <= most_tubes <= 6 or not 1 <= largest_total <= 60:
        raise ValueError("a recipe has 1 to 6 tubes and 1 to 60 parts")
    problem = _Problem(target, palette, _tube_sets(len(palette.tubes), most_tubes))
    sets, amounts, costs = problem.solve()
    sets, amounts = sets[:_KEEP], amounts[:_KEEP]
    best = _best_parts(problem, sets, amounts, range(1, largest_total + 1))
    if best.cost - costs[0] > _ROUNDING_LOSS:
        more = range(largest_total + 1, _TOUCH * largest_total + 1)
        touched = _best_parts(problem, sets, amounts, more)
        best = min(best, touched, key=lambda found: found.cost)
    chosen = best.parts.astype(int)
    divisor = int(np.gcd.reduce(chosen[chosen > 0]))
    named = {
        palette.tubes[tube]: int(p // divisor)
        for tube, p in zip(problem.sets[best.row], chosen, strict=True)
        if p > 0
    }
    predicted = Colour.of(best.lab)
    return Recipe(
        parts=dict(sorted(named.items(), key=lambda item: -item[1])),
        target_lab=as_lab(target),
        predicted=predicted,
        delta_e=float(delta_e_2000(best.lab, target)),
        value_error=predicted.value - float(lab_value(target)),
        film_mm=best.film_mm,
    )


def suggest_tube(recipe: Recipe, palette: Palette, most_tubes: int = 4) -> Suggestion | None:
    """The single tube whose addition brings a target nearest, if it helps much.

    Tubes with a hazard that have a substitute are passed over. Returns None when the
    recipe already reaches its target or no tube takes away at least a third of the error.
    """
    if recipe.reached:
        return None
    target = np.array(recipe.target_lab)
    have = float(_cost(np.array(recipe.predicted.lab), target))
    spare = [p.key for p in pigment_library().values() if p.key not in palette.tubes and not p.substitute]
    if palette.transparent:
        spare = [k for k in spare if pigment_library()[k].family != "white"]
    count = len(palette.tubes)
    everything = palette.with_tubes(palette.tubes + tuple(spare))
    sets = np.concatenate(
        [
            np.where(s == count, count + i, s)
            for i in range(len(spare))
            for s in [_tube_sets(count + 1, most_tubes, must_hold=count)]
        ]
    )
    problem = _Problem(target, everything, sets)
    rows, amounts, _ = problem.solve()
    lab = problem.lab(amounts[:1], rows[:1])[0]
    if float(_cost(lab, target)) > have * 2 / 3:
        return None
    tube = everything.tubes[int(sets[rows[0]].max())]
    return Suggestion(tube=tube, delta_e=float(delta_e_2000(lab, target)))
