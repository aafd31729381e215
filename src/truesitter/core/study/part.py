"""What every part of a study shares: the photograph, the settings and the memory of results."""

from __future__ import annotations

from collections.abc import Callable, Hashable
from dataclasses import dataclass
from typing import TypeVar

import cv2
import numpy as np

from truesitter.core.memo import Memo
from truesitter.core.settings import StudySettings
from truesitter.core.types import Floats, Labels

T = TypeVar("T")

VERSION = 6
"""Part of every key: raise it when a computation changes."""


@dataclass(frozen=True)
class Source:
    """What a study is made from.

    Attributes
    ----------
    sha256
        Hash of the photograph's bytes; the name under which results are remembered.
    load
        Gives the bytes when they are needed.
    settings
        What the painter set.
    memo
        Shared memory of results.
    """

    sha256: str
    load: Callable[[], bytes]
    settings: StudySettings
    memo: Memo

    def remember(self, name: str, key: Hashable, compute: Callable[[], T]) -> T:
        """A result under its name and key, computed once."""
        return self.memo.get((name, VERSION, key), compute)


def reduced_size(shape: tuple[int, ...], long_side: int) -> tuple[int, int]:
    """(width, height) of a map shrunk to a long side, never enlarged."""
    scale = min(1.0, long_side / max(shape[:2]))
    return max(1, round(shape[1] * scale)), max(1, round(shape[0] * scale))


def reduced(map_: Floats, long_side: int) -> Floats:
    """A map of measures shrunk by averaging."""
    return np.asarray(cv2.resize(map_, reduced_size(map_.shape, long_side), interpolation=cv2.INTER_AREA))


def reduced_labels(labels: Labels, long_side: int) -> Labels:
    """A map of labels shrunk by picking."""
    size = reduced_size(labels.shape, long_side)
    return np.asarray(cv2.resize(labels, size, interpolation=cv2.INTER_NEAREST))
