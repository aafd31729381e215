"""What every plan says of thin layers and small piles: only what a hand can do."""

from __future__ import annotations

import io
from typing import Any

import cv2
import numpy as np
import pypdf
import pytest

from tests.conftest import study_of, truth
from tests.restaged import restaged
from truesitter.core.graph.memo import Memo
from truesitter.core.paint.board.piles import measured
from truesitter.core.paint.board.tuning import SMALLEST_PILE_ML
from truesitter.core.settings import StudySettings
from truesitter.core.stages import Study
from truesitter.core.usecases.batch import batch_of
from truesitter.formats.documents.plan import plan_of
from truesitter.formats.print.mixing_sheet import mixing_pdf
from truesitter.formats.print.pdf import plan_pdf
from truesitter.formats.words.wording import Counting

THREE = {"tubes": ["arylide-yellow", "quinacridone-rose", "ultramarine-blue"], "medium": "watercolour"}


def check(data: bytes, usual: dict[str, Any], name: str) -> None:
    """No sheet tells a dry film, asks for more than 60 parts of water or for a pile nobody can measure."""
    washed = {**usual.get("flesh", {}), **THREE, "palette": "watercolour-three", "transparent": True}
    for chosen in (usual, {**usual, "flesh": washed}):
        study = Study.of_bytes(data, StudySettings.model_validate(chosen), Memo())
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
        if not study.settings.flesh.transparent:
            for line in batch_of(study).lines:
                piles = measured(line.parts, line.ml if line.made_ml else 0).piles_ml
                assert all(pile >= SMALLEST_PILE_ML * (1 - 1e-9) for pile in piles)


@pytest.mark.parametrize("name", ["maren", "tobias", "ines"])
def test_no_sheet_tells_a_thin_layer_by_its_dry_film(name: str) -> None:
    check(truth(name).data, study_of(name).settings.model_dump(), name)


@pytest.mark.parametrize(
    ("name", "seed", "grey", "school"),
    [("maren", 401, False, "layered-oil"), ("tobias", 402, True, "direct-oil")],
)
def test_nor_in_a_room_drawn_by_lot_in_colour_or_grey(name: str, seed: int, grey: bool, school: str) -> None:
    picture, _ = restaged(name, seed)
    if grey:
        picture = np.repeat(cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY)[..., None], 3, axis=2)
    _, png = cv2.imencode(".png", picture[..., ::-1])
    check(png.tobytes(), {"passes": {"school": school}}, name)
