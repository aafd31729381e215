"""The study as a whole."""

from __future__ import annotations

import hashlib
from collections.abc import Callable

from truesitter.core.graph.memo import Memo
from truesitter.core.graph.results import Declaration, Source, Watch
from truesitter.core.pace.own_pace import OwnPace
from truesitter.core.settings import StudySettings
from truesitter.core.stages.accents_stage import AccentStage
from truesitter.core.stages.brush_stage import BrushStage
from truesitter.core.stages.drilling_stage import DrillStage
from truesitter.core.stages.easel_stage import EaselStage
from truesitter.core.stages.finishing_stage import FinishStage
from truesitter.core.stages.flesh_stage import FleshStage
from truesitter.core.stages.hair_layers_stage import HairLayerStage
from truesitter.core.stages.hair_stage import HairStage
from truesitter.core.stages.light_stage import LightStage
from truesitter.core.stages.line_stage import LineStage
from truesitter.core.stages.passes_stage import PassStage
from truesitter.core.stages.picture_stage import PictureStage
from truesitter.core.stages.sitter_stage import SitterStage
from truesitter.core.stages.subject_stage import SubjectStage
from truesitter.core.stages.surround_stage import SurroundStage
from truesitter.core.stages.values_stage import LookingStage, ValueStage


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
    watch
        Notes what is really read; for tests of the declarations.
    paintings
        Gives the bytes of a photograph of the painting by their hash.
    pace
        What was learned of the painter's pace; None for nothing.
    """

    def __init__(
        self, sha256: str, load: Callable[[], bytes], settings: StudySettings, memo: Memo,
        watch: Watch | None = None, paintings: Callable[[str], bytes] | None = None,
        pace: OwnPace | None = None,
    ) -> None:  # fmt: skip
        source = Source(sha256, load, settings, memo, watch, paintings, pace)
        self.source, self.sha256 = source, sha256
        self.settings: StudySettings = source.all_settings()
        self.picture = PictureStage(source)
        self.sitter = SitterStage(source, self.picture)
        self.values = ValueStage(source, self.picture, self.sitter)
        self.looking = LookingStage(source, self.picture, self.values)
        self.light = LightStage(source, self.picture, self.sitter)
        self.flesh = FleshStage(source, self.picture, self.sitter, self.values, self.light)
        self.accents = AccentStage(source, self.picture, self.sitter, self.values, self.light, self.flesh)
        self.hair = HairStage(source, self.picture, self.sitter, self.light)
        self.brush = BrushStage(source, self.picture, self.sitter, self.light)
        self.hair_layers = HairLayerStage(source, self.picture, self.sitter, self.hair)
        self.surround = SurroundStage(source, self.picture, self.sitter, self.values, self.flesh)
        self.finish = FinishStage(source, self.picture, self.sitter, self.light, self.surround)
        self.drills = DrillStage(source, self.picture, self.sitter, self.light, self.hair, self.flesh)
        self.lines = LineStage(source, self.picture, self.sitter, self.light, self.hair)
        self.subject = SubjectStage(
            source, self.picture, self.sitter, self.flesh, self.light, self.surround, self.hair_layers,
            self.finish, self.lines,
        )  # fmt: skip
        self.passes = PassStage(
            source, self.picture, self.sitter, self.values, self.flesh, self.hair, self.finish, self.subject
        )
        self.easel = EaselStage(
            source,
            self.picture,
            self.sitter,
            self.flesh,
            self.accents,
            self.surround,
            self.passes,
            self.values,
        )

    @classmethod
    def of_bytes(
        cls, data: bytes, settings: StudySettings, memo: Memo | None = None,
        paintings: Callable[[str], bytes] | None = None,
    ) -> Study:  # fmt: skip
        """A study of a photograph held in memory.

        Parameters
        ----------
        data
            The photograph as it was uploaded.
        settings
            Of all stages.
        memo
            Keeps answers; None for one of its own.
        paintings
            Photographs of paintings by their SHA-256; None without any.

        Returns
        -------
        Study
            Nothing is computed yet.
        """
        own = hashlib.sha256(data).hexdigest()
        return cls(own, lambda: data, settings, memo or Memo(), paintings=paintings)

    def key(self, declaration: Declaration) -> str:
        """Key of anything declared under these settings: equal keys mean equal results."""
        return self.source.key_of(declaration)
