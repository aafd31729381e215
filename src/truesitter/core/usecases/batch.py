"""The batch for a sitting: how much of every mixture of the board, and of every tube."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from truesitter.core.pace.own_pace import Learned, Level
from truesitter.core.paint.board.piles import measured
from truesitter.core.paint.media.quantity import paint_ml, tube_amounts, tube_cm
from truesitter.core.paint.media.tuning import DEFAULT_LOSS
from truesitter.core.stages.picture_stage import CANVAS
from truesitter.core.stages.study import Study
from truesitter.core.types import Doubles, Mask
from truesitter.core.usecases.tuning import WORTH_MIXING_ML

BATCH = (*CANVAS, "flesh.transparent", "flesh.film_mm", "flesh.coats", "flesh.loss")
"""Settings that amounts follow from, beside those of the mixtures."""


@dataclass(frozen=True)
class BatchLine:
    """How much of one mixture.

    Attributes
    ----------
    family, name
        As on the palette board.
    parts
        Its recipe.
    area_cm2, ml
        What it covers on the canvas, and how much that takes.
    made_ml
        How much is made of it, so that every pile can be measured: of a wash the whole puddle.
    tubes_ml
        Millilitres of each tube for what is made.
    thinner_ml
        Millilitres of what thins it; 0 for paint as it comes.
    """

    family: str
    name: str
    parts: dict[str, int]
    area_cm2: float
    ml: float
    made_ml: float
    tubes_ml: dict[str, float]
    thinner_ml: float = 0.0


@dataclass(frozen=True)
class Batch:
    """All mixtures, and of each tube the millilitres and the cm of strand from a usual tube.

    Attributes
    ----------
    paint
        What was learned of the painter's own use of paint and went into the amounts; None for nothing.
    """

    lines: tuple[BatchLine, ...]
    tubes_ml: dict[str, float]
    paint: tuple[Level, Learned] | None = None

    def tubes_cm(self) -> dict[str, float]:
        """Strand of each tube in cm."""
        return {key: tube_cm(ml) for key, ml in self.tubes_ml.items()}


def batch_of(study: Study) -> Batch:
    """Mixtures of the skin by value group, and the strings of what is not skin.

    The area of a group or tone is what the picture shows of it; film, coats and loss are
    the painter's, and what was learned of their use of paint is allowed for. Washes are reckoned as
    puddles of one wet film, paint and water.
    """
    settings = study.settings.flesh
    reference = study.settings.reference
    canvas_cm2 = reference.canvas_width_mm * reference.canvas_height_mm / 100
    skin = study.sitter.regions().shares()["skin"] * canvas_cm2
    names = study.settings.values.group_names()
    wanted = [("skin", names[m.group], m.recipe, m.share * skin) for m in study.flesh.mixed().mixtures]
    for family in (name for name in study.flesh.families() if not name.startswith("skin")):
        tones = study.flesh.string(family)
        areas = _areas(study, study.flesh.family_mask(family), np.array([t.seen_lab[0] for t in tones]))
        wanted += [
            (family, f"tone {i}", tone.recipe, float(area) * canvas_cm2)
            for i, (tone, area) in enumerate(zip(tones, areas, strict=True), start=1)
        ]
    # A loss that the painter set stands over what was learned.
    paint = study.source.own_pace().paint_for(Level("mass")) if settings.loss == DEFAULT_LOSS else None
    more = paint[1].bounded() if paint else 1.0
    lines = []
    totals: dict[str, float] = {}
    wet = study.flesh.palette().thinning.film
    for family, name, recipe, area in wanted:
        parts, thinned = recipe.parts, recipe.dilution
        ml = paint_ml(area, wet if thinned else settings.film_mm, settings.coats, settings.loss) * more
        worth = ml >= WORTH_MIXING_ML
        if thinned and worth:
            # A puddle is made drop by drop until it is right: nothing of it is measured out.
            tubes_ml = ml / (1 + thinned.ratio)
            line = BatchLine(family, name, parts, area, ml, ml, tube_amounts(parts, tubes_ml), ml - tubes_ml)
        else:
            made = measured(parts, ml if worth else 0.0)
            line = BatchLine(family, name, parts, area, ml, made.ml, made.tubes_ml)
        lines.append(line)
        for key, amount in line.tubes_ml.items():
            totals[key] = totals.get(key, 0.0) + amount
    return Batch(tuple(lines), dict(sorted(totals.items(), key=lambda item: -item[1])), paint)


def _areas(study: Study, mask: Mask, lightness: Doubles) -> Doubles:
    """Share of the picture (n,) that is nearest in lightness to each tone."""
    if not len(lightness):
        return np.zeros(0)
    between = (lightness[1:] + lightness[:-1]) / 2
    nearest = np.digitize(study.picture.lab()[..., 0][mask], between)
    return np.asarray(np.bincount(nearest, minlength=len(lightness)) / mask.size)
