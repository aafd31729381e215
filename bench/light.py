"""How long the light takes: the whole stage, and a peak or a limit under the painter's hand."""

from __future__ import annotations

import time
from itertools import count

import numpy as np

from bench.inputs import demo_bytes, study
from bench.timing import Figure, figure, repeats, times
from truesitter.core.graph.memo import Memo
from truesitter.core.settings import StudySettings
from truesitter.core.stages import Study

_REPEATS = 7


def _opened() -> Study:
    """A sitter whose reference, values and flesh are there already, as when the stage is first opened."""
    fresh = Study.of_bytes(demo_bytes("maren"), StudySettings(), Memo())
    fresh.values.plan()
    fresh.flesh.mixed()
    fresh.picture.value()
    return fresh


def _whole(opened: Study) -> None:
    """Everything that is reckoned of the light; mixtures are the flesh stage's and are timed there."""
    light, accents = opened.light, opened.accents
    light.form(), light.zones(), light.recesses()
    accents.highlights(), accents.ceilings(), accents.colour(), accents.borrowed(), accents.eyes()


def light() -> list[Figure]:
    _whole(study())
    whole = []
    for _ in range(repeats(_REPEATS)):
        opened = _opened()
        start = time.perf_counter()
        _whole(opened)
        whole.append((time.perf_counter() - start) * 1000)
    there = study()
    turn = count()

    def moved(**fields: object) -> None:
        chosen = there.settings.light.model_copy(update=fields)
        settings = there.settings.model_copy(update={"light": chosen})
        again = Study.of_bytes(demo_bytes("maren"), settings, there.source.memo)
        again.light.zones(), again.accents.ceilings()

    def peak() -> None:
        moved(peaks=((0.4 + 0.001 * next(turn), 0.4), (0.5, 0.5), (0.45, 0.6)))

    return [
        figure("the whole stage of the light at 1 600 × 2 000", np.array(whole), "< 600"),
        figure("a light peak moved", times(peak, 15), "< 150"),
    ]
