"""Hollows of different depth from one puddle: weak paint in all of them, stronger paint into deeper ones."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from truesitter.core.canvas.canvas_state import Canvas
from truesitter.core.canvas.layer import Layer
from truesitter.core.colour.value import lab_value
from truesitter.core.paint.media.dilution import Dilution
from truesitter.core.paint.media.thickness import DryMm, WetMm
from truesitter.core.paint.recipes.mixing import Colour
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.plan.laying import Scene
from truesitter.core.plan.pass_plan import Pass, Thinned
from truesitter.core.plan.size import Pruning
from truesitter.core.plan.tuning import HOLLOWS
from truesitter.core.plan.water.charges import mean_lab, of_a_drop
from truesitter.core.plan.water.tuning import DROP_WET, HOLLOW_RUNS_MM, HOLLOW_STEPS, HOLLOW_WEAKEST, WEAKEST
from truesitter.core.plan.water.ways import Charge
from truesitter.core.school.school_document import Band, PassTemplate
from truesitter.core.types import Mask


def with_strengths(
    passes: Sequence[Pass], templates: Sequence[PassTemplate], scene: Scene, pruning: Pruning
) -> list[Pass]:
    """Part the hollows of a pass by how dark they are wanted in the end, each as strong as that asks.

    Parameters
    ----------
    passes, templates
        In order, and the school's template of each.
    scene
        What they are painted from.
    pruning
        Says how a canvas looks after passes.

    Returns
    -------
    list[Pass]
        The same passes; those of hollows with charges, where one strength does not serve them all.
    """
    done = list(passes)
    for number, (one, template) in enumerate(zip(passes, templates, strict=True)):
        (first, *others) = one.operations
        if template.band not in HOLLOWS or others or not isinstance(first, Layer) or not first.fades:
            continue
        if one.coats == 1 and len(one.thinned) == 1:
            over = [p.pieces for p, t in zip(passes[number + 1 :], templates[number + 1 :], strict=True)
                    if t.band in HOLLOWS]  # fmt: skip
            most = HOLLOW_WEAKEST if template.band is Band.RECESSES else WEAKEST
            darkened = np.any([np.zeros_like(one.pieces), *over], axis=0)
            done[number] = _Hollows(done, number, first, scene, pruning).parted(darkened, most)
    return done


class _Hollows:
    """The hollows of one pass, among all passes of a plan."""

    def __init__(
        self, passes: Sequence[Pass], number: int, laid: Layer, scene: Scene, pruning: Pruning
    ) -> None:
        self.one, self.later, self.laid, self.scene, self.pruning = (
            passes[number], passes[number + 1 :], laid, scene, pruning,
        )  # fmt: skip
        on = pruning.of(passes).after(range(number), laid.pieces)
        self.on = on if self.one.into_wet else on.dried()
        self.thinning = replace(scene.medium.thinning, film=self.one.film)
        self.wanted = lab_value(scene.sums / scene.patchwork.sizes[:, None])

    def parted(self, darkened: Mask, most: float) -> Pass:
        """The pass in as many strengths as it needs.

        Parameters
        ----------
        darkened
            (n,) what a later coat of hollows brings to its value; the pass stays there as it is.
        most
            Parts of water to one of paint in the weakest, unless the pass has more by itself.
        """
        own, whole = self.one.thinned[0].dilution, self.laid.pieces
        most, darkened = max(most, min(own.ratio, WEAKEST)), whole & darkened
        lacking = self._end(self.laid).piece_values() - self.wanted
        right = darkened | (np.abs(lacking) <= HOLLOW_STEPS)
        parts = [whole & part for part in (right, ~right & (lacking < 0), ~right & (lacking > 0))]
        chosen = [
            (own if (part & darkened).any() else self._strength(part, own, most), part)
            for part in parts
            if part.any()
        ]
        base = max((dilution for dilution, _ in chosen), key=lambda dilution: dilution.ratio)
        stronger = sorted(
            ((dilution, part) for dilution, part in chosen if dilution.ratio < base.ratio),
            key=lambda one: -one[0].ratio,
        )
        if not stronger and base == own:
            return self.one
        rest = np.any([part for dilution, part in chosen if dilution.ratio == base.ratio], axis=0)
        found = self._based(base, rest)
        for dilution, part in stronger:
            found = self._with_drop(found, dilution, part)
        return found

    def _end(self, laid: Layer) -> Canvas:
        """The canvas at the end where a layer is laid instead of the pass, right on its pieces."""
        pieces = self.laid.pieces
        here = replace(self.one, operations=(laid,))
        return self.pruning.of([here, *self.later]).after(range(len(self.later) + 1), pieces, self.on)

    def _strength(self, part: Mask, own: Dilution, most: float) -> Dilution:
        """The dilution in which some hollows end nearest to their values; their own where that is near."""
        sizes = self.scene.patchwork.sizes[part]

        def off(dilution: Dilution) -> float:
            end = self._end(replace(self.laid, pieces=part, film_mm=self.thinning.dry(dilution)))
            return float(np.average((end.piece_values() - self.wanted)[part], weights=sizes))

        if own.ratio <= WEAKEST and abs(off(own)) <= HOLLOW_STEPS:
            return own
        # Stronger is never lighter: halving finds it.
        ways = [d for d in self.thinning.every() if not d.blotted and d.ratio <= most]
        low, high = 0, len(ways) - 1
        while high - low > 1:
            middle = (low + high) // 2
            low, high = (low, middle) if off(ways[middle]) > 0 else (middle, high)
        return min((ways[low], ways[high]), key=lambda dilution: abs(off(dilution)))

    def _based(self, dilution: Dilution, rest: Mask) -> Pass:
        """The pass in another strength; its colour is that of its pieces without a drop."""
        film, one = self.thinning.dry(dilution), self.one
        layer = replace(self.laid, film_mm=film)
        seen = mean_lab(self.on.do(layer), rest)
        # What it is to look like there by then, for the end to be right: other washes may go over it.
        missed = mean_lab(self._end(layer), rest) - self.scene.target(rest)
        return replace(
            one, operations=(layer,), thinned=(Thinned(dilution),), ml=one.ml * self._stronger(film),
            recipe=Recipe.held(one.recipe.parts, seen, seen - missed, film, dilution),
        )  # fmt: skip

    def _with_drop(self, found: Pass, dilution: Dilution, part: Mask) -> Pass:
        """With stronger paint of the same puddle in some of its pieces."""
        film = DryMm(self.thinning.dry(dilution) - self.thinning.dry(found.thinned[0].dilution))
        drop = replace(self.laid, pieces=part, film_mm=film, wet=found.pieces, runs_mm=HOLLOW_RUNS_MM)
        after = self.on.do(found.operations[0]).do(drop)
        drops = replace(self.scene.medium.thinning, film=WetMm(found.film * DROP_WET))
        charge = Charge(
            self.one.key, dict(self.one.mix), dict(drop.parts), dict(self.one.recipe.parts),
            of_a_drop(drops, film, found), part, self.one.ml * self._share(part) * self._stronger(film),
            Colour.of(mean_lab(after, part)), True,
        )  # fmt: skip
        return replace(
            found, operations=(*found.operations, drop), charges=(*found.charges, charge),
            ml=found.ml + charge.ml,
        )  # fmt: skip

    def _share(self, pieces: Mask) -> float:
        """Part of the pass's area."""
        sizes = self.scene.patchwork.sizes
        return float(sizes[pieces].sum() / sizes[self.laid.pieces].sum())

    def _stronger(self, film: DryMm) -> float:
        """A film beside that of the pass."""
        assert self.laid.film_mm is not None
        return float(film / self.laid.film_mm)
