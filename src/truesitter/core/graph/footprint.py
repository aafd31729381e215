"""What a result holds in memory: each array once, however many of its parts share it."""

from __future__ import annotations

import sys
from collections.abc import Mapping
from dataclasses import fields, is_dataclass
from types import BuiltinFunctionType, FunctionType, MethodType, ModuleType

import numpy as np

from truesitter.core.graph.tuning import LEAST_SHARED

_CODE = (FunctionType, BuiltinFunctionType, MethodType, ModuleType, type)
_PLAIN = (int, float, complex, str, bytes, bool, type(None), np.generic)


_FIELDS: dict[type, tuple[str, ...]] = {}


def _names(kind: type) -> tuple[str, ...]:
    """Fields of a dataclass; none of anything else."""
    if kind not in _FIELDS:
        _FIELDS[kind] = tuple(f.name for f in fields(kind)) if is_dataclass(kind) else ()
    return _FIELDS[kind]


def _parts(one: object) -> list[object]:
    """What an object is made of."""
    if isinstance(one, (tuple, list, set, frozenset)):
        return list(one)
    if isinstance(one, Mapping):
        return [*one.keys(), *one.values()]
    held = getattr(one, "__dict__", None)
    if held is not None:
        # What a cached property has put there is held too.
        return list(held.values())
    return [getattr(one, name) for name in _names(type(one))]


class Footprint:
    """Bytes of a result, told apart by who else may hold them.

    Parameters
    ----------
    result
        Anything; containers, mappings, dataclasses and plain objects are looked into, cycles included.

    Attributes
    ----------
    own
        Bytes of everything small.
    shared
        Bytes of each larger array by the identity of the buffer that it is a view of; valid as long as the
        result lives.
    arrays
        All arrays that were met.
    """

    def __init__(self, result: object) -> None:
        self.own = 0
        self.shared: dict[int, int] = {}
        self.arrays: list[np.ndarray[tuple[int, ...], np.dtype[np.generic]]] = []
        seen: set[int] = set()
        left = [result]
        while left:
            one = left.pop()
            if isinstance(one, _CODE) or id(one) in seen:
                continue
            seen.add(id(one))
            if isinstance(one, np.ndarray):
                self._array(one, seen)
            else:
                self.own += sys.getsizeof(one, 64)
                if not isinstance(one, _PLAIN):
                    left += _parts(one)

    @property
    def total(self) -> int:
        """All of it, in bytes."""
        return self.own + sum(self.shared.values())

    def _array(self, array: np.ndarray[tuple[int, ...], np.dtype[np.generic]], seen: set[int]) -> None:
        self.arrays.append(array)
        owner = array
        while isinstance(owner.base, np.ndarray):
            # A view keeps all of what it was cut from.
            owner = owner.base
            self.arrays.append(owner)
        if owner.nbytes >= LEAST_SHARED:
            self.shared[id(owner)] = owner.nbytes
        elif owner is array or id(owner) not in seen:
            seen.add(id(owner))
            self.own += owner.nbytes

    def freeze(self) -> None:
        """Make every array read-only: who asks for a result later must get the one that was computed."""
        for array in self.arrays:
            array.flags.writeable = False
