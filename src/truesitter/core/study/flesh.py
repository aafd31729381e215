"""Mixtures for the flesh, and for any spot."""

from __future__ import annotations

from collections.abc import Hashable

from truesitter.core.flesh import Flesh, mix_flesh
from truesitter.core.paint.palettes import Palette
from truesitter.core.sitter.region_names import Region
from truesitter.core.study.part import Source
from truesitter.core.study.picture import PictureStage
from truesitter.core.study.sitter import SitterStage
from truesitter.core.study.values import ValueStage


class FleshStage:
    """The tubes set out and what they make for the skin."""

    def __init__(
        self, source: Source, picture: PictureStage, sitter: SitterStage, values: ValueStage
    ) -> None:
        self._source, self._picture, self._sitter, self._values = source, picture, sitter, values
        self.settings = source.settings.flesh

    @property
    def key(self) -> Hashable:
        """Changes when a mixture may."""
        return (self._values.key, self._sitter.key, self.settings)

    def palette(self) -> Palette:
        """The tubes set out."""
        return self.settings.as_palette()

    def mixed(self) -> Flesh:
        """A mixture for every value group of the skin."""
        return self._source.remember(
            "flesh",
            self.key,
            lambda: mix_flesh(
                self._picture.lab(),
                self._values.plan().labels,
                self._sitter.regions().mask(Region.SKIN),
                self.palette(),
                self.settings.most_tubes,
                self.settings.clip,
            ),
        )
