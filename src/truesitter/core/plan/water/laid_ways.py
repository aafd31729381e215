"""In what way each wash of a plan is laid, and how wet the paper is for it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from truesitter.core.brushes.laying import goes_needed
from truesitter.core.plan.hand.brush_goes import goes_of
from truesitter.core.plan.laying import FLESH_AND_FEATURES, Scene
from truesitter.core.plan.pass_plan import Pass
from truesitter.core.plan.water.tuning import LINKED_SHARE, PAPER_OPEN
from truesitter.core.plan.water.ways import Way
from truesitter.core.school.school_document import Band, KindName, PaperState, PassTemplate
from truesitter.core.sitter.region_names import Region

_WASHES: frozenset[KindName] = frozenset({"water", "accent", "washed hair"})
"""Kinds that lay washes of watercolour; a wash of oil is drawn thin and stays where it is."""

_ONE_PLACE = (FLESH_AND_FEATURES, {Region.HAIR, Region.FACIAL_HAIR})
"""Regions that are one place for a wash: it links only what would be painted apart."""


def with_way(one: Pass, template: PassTemplate, scene: Scene) -> Pass:
    """A wash with its way and its paper; what is no wash stays as it is.

    Parameters
    ----------
    one
        The pass, with its brush.
    template
        Of its school.
    scene
        What it is painted from.

    Returns
    -------
    Pass
        Into paper that was wetted paint can be dropped for longer: its goes are those of that time.
    """
    if template.kind not in _WASHES or one.does != "wash" or not one.thinned:
        return one
    way, paper = _way(one, template, scene), _paper(one, template)
    if paper == "dry" or one.lines:
        return replace(one, way=way, paper=paper)
    shortest, longest = (minutes * PAPER_OPEN[paper] for minutes in one.open_minutes)
    goes = one.goes
    if goes:
        mask = scene.patchwork.mask(one.pieces)
        alone = goes_needed(one.area_cm2, one.brush_mm, longest) == 1
        goes = () if alone else goes_of(mask, scene.subject.mm_per_px, one.brush_mm, longest)
    return replace(one, way=way, paper=paper, open_minutes=(shortest, longest), goes=goes)


def _way(one: Pass, template: PassTemplate, scene: Scene) -> Way:
    if one.charges:
        return "graded" if all(charge.same for charge in one.charges) else "charged"
    # What is full at one end and gone at the other is drawn out from there.
    if one.lines or template.band in (Band.PIECES, Band.RECESSES, Band.RECESS_DARKS):
        return "pulled out"
    return "linked" if _links(one, scene) else "flat"


def _links(one: Pass, scene: Scene) -> bool:
    """Whether a wash lies over places that would be painted apart."""
    sizes = scene.patchwork.sizes[one.pieces]
    by_region = np.bincount(scene.regions[one.pieces], weights=sizes, minlength=len(Region))
    places = [by_region[[int(r) for r in place]].sum() for place in _ONE_PLACE]
    apart = [r for r in Region if not any(r in place for place in _ONE_PLACE)]
    places += [by_region[int(r)] for r in apart]
    return int(np.count_nonzero(np.array(places) >= LINKED_SHARE * sizes.sum())) > 1


def _paper(one: Pass, template: PassTemplate) -> PaperState:
    """As the school says; else wet where something is dropped into what cannot be laid while it is open."""
    if template.paper is not None:
        return template.paper
    if one.into_wet:
        return "damp"
    return "wet" if one.charges and one.goes else "dry"
