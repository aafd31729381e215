"""The mixing sheet: swatches, parts and errors of the whole palette board."""

from __future__ import annotations

from reportlab.lib.units import mm

from truesitter.core.paint.recipes.mixing import Colour
from truesitter.core.paint.recipes.rounding import Recipe
from truesitter.core.paint.tubes.cautions import cautions_for
from truesitter.core.stages import Study
from truesitter.core.usecases.batch import batch_of
from truesitter.formats.documents.tables import board_rows
from truesitter.formats.print.sheet import BOLD, Sheet, Words, swatches
from truesitter.formats.words.wording import Counting, dilution_words, error_sentence, parts_sentence

_SWATCH_W, _SWATCH_H = 24 * mm, 12 * mm


def mixing_pdf(study: Study, title: str, paper: str, counting: Counting) -> bytes:
    """All mixtures by family, wanted beside predicted, with parts in words.

    Raises
    ------
    Refusal
        For a paper other than A4 or Letter.
    """
    sheet = Sheet(paper, title)
    rows, rack = board_rows(study), study.flesh.palette().rack
    sheet.start("Mixtures")
    sheet.text("Left half of each swatch: wanted. Right half: predicted. Parts are by volume.", 9, gap=4)
    family = ""
    for group, name, recipe, added in rows:
        if group != family:
            family = group
            sheet.section(group.capitalize(), _SWATCH_H)
        _entry(sheet, name, recipe, added, study, counting)
    _batch(sheet, study)
    used = {key: None for _, _, recipe, _ in rows for key in recipe.parts}
    sheet.section("Cautions", 40 * mm)
    for caution in cautions_for(used, rack):
        sheet.text(caution, 8)
    return sheet.done()


def _batch(sheet: Sheet, study: Study) -> None:
    """How much of every tube a sitting takes."""
    settings, batch, rack = study.settings.flesh, batch_of(study), study.flesh.palette().rack
    sheet.section("Paint for a sitting", 20 * mm)
    thinning = study.flesh.palette().thinning
    film = thinning.film if settings.transparent else settings.film_mm
    sheet.text(
        f"All of the above laid once over what the picture shows: wet film {film:g} mm, "
        f"{settings.coats} coat{'s' if settings.coats > 1 else ''}, {settings.loss:.0%} left in the brush.",
        8,
    )
    strands = batch.tubes_cm()
    for key, ml in batch.tubes_ml.items():
        sheet.text(f"{rack.pigment(key).name}: {ml:.1f} ml, a strand of {strands[key]:.1f} cm", 9, gap=1)
    thinned = sum(line.thinner_ml for line in batch.lines)
    if thinned:
        sheet.text(f"{thinning.thinner.capitalize()} in the puddles: {thinned:.0f} ml", 9, gap=1)


def _entry(sheet: Sheet, name: str, recipe: Recipe, added: str, study: Study, counting: Counting) -> None:
    rack, thinner = study.flesh.palette().rack, study.flesh.palette().thinning.thinner
    thinned = dilution_words(recipe.dilution, thinner) if recipe.dilution else None
    words = [
        Words(f"{name}: {parts_sentence(recipe.parts, rack, thinned)}", 9, BOLD),
        Words(error_sentence(recipe, counting), 8, grey=True),
    ]
    if added:
        words.append(Words(f"Or: {added}", 8, grey=True))
    hexes = (Colour.of_lab(recipe.target_lab).hex, recipe.predicted.hex)
    sheet.entry(swatches(hexes, _SWATCH_W, _SWATCH_H), words)
