"""Joining the pieces of a watershed into locks: the shallowest valley first.

The limits were chosen on eight drawn masses of bands with known numbers and hold on six others.
"""

from __future__ import annotations

import heapq
from dataclasses import dataclass

import numpy as np
from scipy import ndimage

from truesitter.core.hair.locks.tuning import CORNER, DEEP, DEEP_ENDS, LOCK_JOINING_WIDEST, SMALLEST
from truesitter.core.types import Floats, Ints


@dataclass(frozen=True)
class _Contact:
    """Where two pieces touch: pixels, mean height of the band there, share that is end to end."""

    pixels: float
    height: float
    ends: float

    def with_(self, other: _Contact) -> _Contact:
        """Both together."""
        pixels = self.pixels + other.pixels
        one, two = self.pixels / pixels, other.pixels / pixels
        return _Contact(pixels, one * self.height + two * other.height, one * self.ends + two * other.ends)


@dataclass(frozen=True)
class _Piece:
    """Area, length along the strands, height of the ridge."""

    area: float
    length: float
    ridge: float

    def joined_length(self, other: _Piece, ends: float) -> float:
        """Length of both together: more the more they meet end to end."""
        return max(self.length, other.length, ends * (self.length + other.length))

    def with_(self, other: _Piece, ends: float) -> _Piece:
        """Both together."""
        area = max(self.area + other.area, 1)
        ridge = (self.ridge * self.area + other.ridge * other.area) / area
        return _Piece(self.area + other.area, self.joined_length(other, ends), ridge)


def join_pieces(first: Ints, band: Floats, directed: Floats, width: float) -> Ints:
    """Join pieces whose valley is shallow.

    Parameters
    ----------
    first
        (h, w) numbers of the pieces from 1, 0 for none.
    band
        (h, w) bands across the strands, in local deviations.
    directed
        (h, w, 2) direction, y up.
    width
        Width of a lock, in pixels.

    Returns
    -------
    (h, w) numbers of the locks from 1, 0 for none.
    """
    joining = _Joining(_pieces(first, band, directed), _contacts(first, band, directed), width)
    table = joining.run()
    _, numbers = np.unique(table[first], return_inverse=True)
    numbers = numbers.reshape(first.shape)
    return np.asarray(numbers + (0 if (first == 0).any() else 1), np.int32)


class _Joining:
    """Pieces, their contacts, and which has become part of which."""

    def __init__(self, pieces: list[_Piece], contacts: dict[tuple[int, int], _Contact], width: float) -> None:
        self.pieces, self.width = pieces, width
        self.heir = list(range(len(pieces)))
        self.beside: dict[int, dict[int, _Contact]] = {}
        for (a, b), contact in contacts.items():
            self.beside.setdefault(a, {})[b] = contact
            self.beside.setdefault(b, {})[a] = contact

    def cost(self, a: int, b: int) -> float:
        """What speaks against joining; up to 1 they are joined, below 0 at once."""
        contact = self.beside[a][b]
        one, two = self.pieces[a], self.pieces[b]
        depth = max(min(one.ridge, two.ridge) - contact.height, 0)
        if min(one.area, two.area) < SMALLEST * self.width**2:
            # A scrap is no lock: it goes to the neighbour it is least parted from.
            return -1 / (1 + depth + (1 - contact.ends))
        if (one.area + two.area) / one.joined_length(two, contact.ends) > LOCK_JOINING_WIDEST * self.width:
            return np.inf
        limit = DEEP + (DEEP_ENDS - DEEP) * contact.ends
        touch = contact.pixels / min(max(one.length, 1), max(two.length, 1))
        return depth / limit / min(1.0, CORNER + touch * (1 + 3 * contact.ends))

    def run(self) -> np.ndarray[tuple[int], np.dtype[np.int64]]:
        """The number each piece ends up with."""
        queue = [(self.cost(a, b), a, b) for a in self.beside for b in self.beside[a] if a < b]
        heapq.heapify(queue)
        while queue and queue[0][0] <= 1:
            said, a, b = heapq.heappop(queue)
            if self.heir[a] != a or self.heir[b] != b or b not in self.beside[a]:
                continue
            now = self.cost(a, b)
            if now > said + 1e-9:
                heapq.heappush(queue, (now, a, b))
                continue
            self._join(a, b)
            for other in self.beside[a]:
                pair = (min(a, other), max(a, other))
                heapq.heappush(queue, (self.cost(*pair), *pair))
        return np.array([self._root(n) for n in range(len(self.pieces))])

    def _join(self, a: int, b: int) -> None:
        self.pieces[a] = self.pieces[a].with_(self.pieces[b], self.beside[a][b].ends)
        self.heir[b] = a
        for other, contact in self.beside.pop(b).items():
            self.beside[other].pop(b, None)
            if other == a:
                continue
            old = self.beside[a].get(other)
            both = contact if old is None else old.with_(contact)
            self.beside[a][other] = self.beside[other][a] = both

    def _root(self, n: int) -> int:
        while self.heir[n] != n:
            n = self.heir[n]
        return n


def _contacts(numbers: Ints, band: Floats, directed: Floats) -> dict[tuple[int, int], _Contact]:
    """Where each pair of pieces touches."""
    height, width = numbers.shape
    ones, twos, heights, ends = [], [], [], []
    for down, right in ((0, 1), (1, 0)):
        here, there = (
            (slice(0, height - down), slice(0, width - right)),
            (slice(down, None), slice(right, None)),
        )
        a, b = numbers[here], numbers[there]
        touch = (a != b) & (a > 0) & (b > 0)
        ones.append(np.minimum(a[touch], b[touch]))
        twos.append(np.maximum(a[touch], b[touch]))
        heights.append(np.minimum(band[here], band[there])[touch])
        # A border stepped over along the strands is met end to end.
        ends.append(directed[here][touch][:, 0 if right else 1] ** 2)
    size = int(numbers.max()) + 1
    key = np.concatenate(ones).astype(np.int64) * size + np.concatenate(twos)
    pairs, inverse, counts = np.unique(key, return_inverse=True, return_counts=True)
    mean_height, mean_ends = (np.bincount(inverse, np.concatenate(v)) / counts for v in (heights, ends))
    return {
        (int(k // size), int(k % size)): _Contact(float(n), float(h), float(e))
        for k, n, h, e in zip(pairs, counts, mean_height, mean_ends, strict=True)
    }


def _pieces(numbers: Ints, band: Floats, directed: Floats) -> list[_Piece]:
    """Each piece; the first stands for none."""
    pieces = [_Piece(0, 1, 0)]
    for number, box in enumerate(ndimage.find_objects(numbers), 1):
        if box is None:
            pieces.append(_Piece(0, 1, 0))
            continue
        rows, columns = np.nonzero(numbers[box] == number)
        flow = directed[box][rows, columns].astype(np.float64)
        angle = 0.5 * np.arctan2(
            (2 * flow[:, 0] * flow[:, 1]).mean(), (flow[:, 0] ** 2 - flow[:, 1] ** 2).mean()
        )
        run = columns * np.cos(angle) - rows * np.sin(angle)
        ridge = float(np.quantile(band[box][rows, columns], 0.8))
        pieces.append(_Piece(len(rows), float(np.ptp(run)) + 1, ridge))
    return pieces
