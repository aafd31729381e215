"""The study as a whole."""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Hashable

from truesitter.core.memo import Memo
from truesitter.core.settings import StudySettings
from truesitter.core.study.flesh import FleshStage
from truesitter.core.study.hair import HairStage
from truesitter.core.study.light import LightStage
from truesitter.core.study.looking import LookingStage
from truesitter.core.study.part import VERSION, Source
from truesitter.core.study.passes import PassStage
from truesitter.core.study.picture import PictureStage
from truesitter.core.study.sitter import SitterStage
from truesitter.core.study.values import ValueStage


class Study:
    """Everything that can be computed for one photograph and one set of settings.

    Parameters
    ----------
    sha256
        Hash of the photograph's bytes.
    load
        Gives the bytes when they are needed.
    settings
        What the painter set.
    memo
        Shared memory of results.
    """

    def __init__(self, sha256: str, load: Callable[[], bytes], settings: StudySettings, memo: Memo) -> None:
        source = Source(sha256, load, settings, memo)
        self.sha256, self.settings = sha256, settings
        self.picture = PictureStage(source)
        self.sitter = SitterStage(source, self.picture)
        self.values = ValueStage(source, self.picture, self.sitter)
        self.looking = LookingStage(source, self.picture, self.values)
        self.light = LightStage(source, self.picture, self.sitter)
        self.flesh = FleshStage(source, self.picture, self.sitter, self.values, self.light)
        self.hair = HairStage(source, self.picture, self.sitter)
        self.passes = PassStage(source, self.picture, self.sitter, self.values, self.flesh, self.light)

    @classmethod
    def of_bytes(cls, data: bytes, settings: StudySettings, memo: Memo | None = None) -> Study:
        """A study of a photograph held in memory."""
        return cls(hashlib.sha256(data).hexdigest(), lambda: data, settings, memo or Memo())

    def keys(self) -> dict[str, str]:
        """Short text key of each kind of result, changed only when that result may change."""
        flesh = self.settings.flesh
        drying = (flesh.medium, flesh.drying)
        parts: dict[str, Hashable] = {
            "photograph": self.sha256,
            "reference": (self.sha256, self.settings.reference),
            "frame": self.picture.key,
            "squint": (self.picture.key, self.settings.reference.squint),
            "regions": self.sitter.key,
            "values": self.values.key,
            "looking": (self.values.key, self.settings.reference.squint),
            "uncorrected": self.picture.frame_key,
            "flesh": (self.flesh.key, drying),
            "spot": (self.flesh.key, drying, flesh.film_mm),
            "board": (self.flesh.key, self.light.key, self.settings.flesh.pins, drying),
            "batch": (self.flesh.key, self.light.key, flesh.film_mm, flesh.coats, flesh.loss),
            "light": self.light.key,
            "hair": self.hair.key,
            "passes": self.passes.key,
        }
        return {
            name: hashlib.sha256(repr((name, VERSION, part)).encode()).hexdigest()[:20]
            for name, part in parts.items()
        }
