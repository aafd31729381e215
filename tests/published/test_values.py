"""Cuts, circles and paper against outside libraries and standards."""

from __future__ import annotations

import io
import itertools

import numpy as np
import pypdf
import pytest
import shapely
from skimage import data
from skimage.filters import threshold_multiotsu

from tests.conftest import study_of
from truesitter.core.values.cuts import best_fit_bins
from truesitter.core.values.outlines import trace_outlines
from truesitter.formats.documents.plan import plan_of
from truesitter.formats.print.pdf import plan_pdf
from truesitter.formats.words.wording import Counting


def within(histogram: np.ndarray, cuts: list[int]) -> float:
    """Squared error within groups, from its definition."""
    bins = np.arange(len(histogram))
    edges = [-1, *cuts, len(histogram) - 1]
    total = 0.0
    for low, high in itertools.pairwise(edges):
        part, weight = bins[low + 1 : high + 1], histogram[low + 1 : high + 1]
        if weight.sum():
            mean = (part * weight).sum() / weight.sum()
            total += float((weight * (part - mean) ** 2).sum())
    return total


@pytest.mark.parametrize("picture", ["camera", "coins", "moon", "page"])
@pytest.mark.parametrize("groups", [2, 3, 4, 5])
def test_best_fit_is_the_optimum_of_multi_level_otsu(picture: str, groups: int) -> None:
    """Source: Otsu (1979), Liao, Chen & Chung (2001), through scikit-image."""
    grey = getattr(data, picture)()
    if groups == 5:
        grey = grey // 4 * 4  # the exhaustive search takes minutes on 256 levels
    histogram = np.bincount(grey.ravel(), minlength=256).astype(float)
    ours = best_fit_bins(histogram, groups)
    if groups == 5:
        levels = np.flatnonzero(histogram)
        theirs = threshold_multiotsu(hist=(histogram[levels], levels), classes=groups)
    else:
        theirs = threshold_multiotsu(hist=(histogram, np.arange(256)), classes=groups)
    assert within(histogram, ours) <= within(histogram, [int(t) for t in theirs]) * (1 + 1e-9)


def test_numbers_stand_in_the_largest_circle_of_their_shape() -> None:
    """Source: shapely.maximum_inscribed_circle; within a pixel."""
    labels = np.zeros((120, 160), np.uint8)
    labels[20:90, 30:120] = 1
    labels[40:60, 100:150] = 2
    labels[70:80, 20:40] = 3
    for outline in trace_outlines(labels, tolerance=0):
        line = shapely.maximum_inscribed_circle(outline.polygon, tolerance=0.1)
        assert outline.radius == pytest.approx(line.length, abs=1.0)
        assert outline.polygon.contains(shapely.Point(outline.number_at))


@pytest.mark.parametrize(("paper", "width_mm", "height_mm"), [("A4", 210, 297), ("Letter", 215.9, 279.4)])
def test_sheets_have_the_size_of_their_paper(paper: str, width_mm: float, height_mm: float) -> None:
    """Source: ISO 216 and 72 pt = 1 inch = 25.4 mm; read back with pypdf."""
    study = study_of("maren")
    sheet = plan_pdf(study, plan_of(study, {}), "A test", paper, Counting())
    pages = pypdf.PdfReader(io.BytesIO(sheet)).pages
    for page in pages:
        assert float(page.mediabox.width) / 72 * 25.4 == pytest.approx(width_mm, abs=0.1)
        assert float(page.mediabox.height) / 72 * 25.4 == pytest.approx(height_mm, abs=0.1)
    text = "".join(page.extract_text() for page in pages)
    for words in ("Flesh mixtures", "Titanium white", "Underpainting", "Cautions", "100 mm"):
        assert words in text
