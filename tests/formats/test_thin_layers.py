"""What every plan says of thin layers and small piles: only what a hand can do."""

from __future__ import annotations

import io

import pypdf
import pytest

from tests.conftest import study_of, truth
from truesitter.core.paint.recipes.piles import SMALLEST_PILE_ML, measured
from truesitter.core.settings import StudySettings
from truesitter.core.study import Study
from truesitter.core.study.batch import batch_of
from truesitter.formats.mixing_sheet import mixing_pdf
from truesitter.formats.pdf import plan_pdf
from truesitter.formats.plan import plan_of
from truesitter.formats.wording import Counting


@pytest.mark.parametrize("name", ["maren", "tobias", "ines"])
def test_no_sheet_tells_a_thin_layer_by_its_dry_film(name: str) -> None:
    """Nor asks for more than 60 parts of water, nor for a pile that nobody can measure."""
    usual = study_of(name).settings.model_dump()
    three = {"tubes": ["arylide-yellow", "quinacridone-rose", "ultramarine-blue"], "medium": "watercolour"}
    washed = {**usual["flesh"], **three, "palette": "watercolour-three", "transparent": True}
    for chosen in (usual, {**usual, "flesh": washed}):
        study = Study.of_bytes(truth(name).data, StudySettings.model_validate(chosen))
        plan = plan_of(study, {})
        told = [m.dilution for m in plan.flesh.mixtures if m.dilution]
        told += [t.dilution for one in plan.passes for t in one.thinned]
        assert told
        assert all(0 <= d.thinner <= 60 * d.paint for d in told)
        sheets = (plan_pdf(study, plan, name, "A4", Counting()), mixing_pdf(study, name, "A4", Counting()))
        for sheet in sheets:
            text = " ".join(page.extract_text() for page in pypdf.PdfReader(io.BytesIO(sheet)).pages)
            assert "µm" not in text
            assert "dry film" not in text
        assert "µm" not in plan.model_dump_json()
    for line in batch_of(study_of(name)).lines:
        piles = measured(line.parts, line.ml if line.made_ml else 0).piles_ml
        assert all(pile >= SMALLEST_PILE_ML * (1 - 1e-9) for pile in piles)
