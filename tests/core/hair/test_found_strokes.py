"""Strokes found on a made photograph of paper: tapered, unevenly lit, with pale printed lines and grain."""

from __future__ import annotations

import cv2
import numpy as np
import pytest
from scipy.spatial import cKDTree

from tests.core.hair.test_hair_strokes import MM, SHAPE, flowing
from truesitter.core.canvas.drawn.painted_lines import line_cover
from truesitter.core.hair.checks.found_strokes import FoundStroke, find_strokes
from truesitter.core.hair.checks.practice import Practised, check_strokes
from truesitter.core.hair.strokes.hair_strokes import StrokeGround, Wish, lay_strokes
from truesitter.core.hair.strokes.stroke_types import SHORT
from truesitter.core.imaging.line import Line
from truesitter.core.refusal import Refusal

FINE = 4


def apart(lines: tuple[Line, ...], mm: float) -> tuple[Line, ...]:
    """Strokes that do not touch one another."""
    kept: list[Line] = []
    for line in lines:
        at = line.points * (SHAPE[1], SHAPE[0]) * MM
        if all(cKDTree(k.points * (SHAPE[1], SHAPE[0]) * MM).query(at)[0].min() > mm for k in kept):
            kept.append(line)
    return tuple(kept)


def paper(lines: tuple[Line, ...]) -> np.ndarray:
    """A photograph of paper with strokes: light from one side, a pale printed grid, grain."""
    shape = (SHAPE[0] * FINE, SHAPE[1] * FINE)
    rows, columns, levels = line_cover(lines, shape, MM / FINE)
    ink = np.zeros(shape)
    ink[rows, columns] = levels / levels.max()
    y, x = np.mgrid[0 : shape[0], 0 : shape[1]]
    light = 0.5 + 0.4 * x / shape[1] - 0.1 * y / shape[0]
    light *= np.where((x % 80 < 2) | (y % 80 < 2), 0.9, 1.0)
    light = light * (1 - 0.85 * ink) + np.random.default_rng(1).normal(0, 0.01, shape)
    grey = cv2.GaussianBlur(np.clip(light, 0, 1), (0, 0), 0.8)
    return np.repeat((255 * grey[..., None] ** (1 / 2.2)).astype(np.uint8), 3, axis=2)


@pytest.fixture(scope="module")
def drawn() -> tuple[Line, ...]:
    mask = np.zeros(SHAPE, bool)
    mask[30:270, 30:210] = True
    return apart(lay_strokes(flowing(), mask, Wish(SHORT, 1.5, 0.4, 3)), 4.0)


def test_every_stroke_is_found_from_its_root(drawn: tuple[Line, ...]) -> None:
    assert len(drawn) > 25
    found = find_strokes(paper(drawn), flowing().directed)
    assert abs(len(found) - len(drawn)) <= 2
    size = np.array((SHAPE[1], SHAPE[0])) * MM
    roots = cKDTree(np.array([line.points[0] for line in drawn]) * size)
    away, _ = roots.query(np.array([stroke.points[0] for stroke in found]) * size)
    assert np.quantile(away, 0.95) < 3.5, "the blunt end is cut off"
    tips = cKDTree(np.array([line.points[-1] for line in drawn]) * size)
    ends, _ = tips.query(np.array([stroke.points[0] for stroke in found]) * size)
    assert (away < ends).mean() > 0.9, "the fuller end is the root"


def asked(found: tuple[FoundStroke, ...]) -> list[Practised]:
    return [Practised(one.points, SHORT) for one in found]


def test_the_width_of_a_stroke_is_read_from_the_photograph(drawn: tuple[Line, ...]) -> None:
    """Where they are fullest, within a quarter of a millimetre; tips are narrower than roots."""
    found = find_strokes(paper(drawn), flowing().directed)
    across = SHAPE[1] * MM
    roots = cKDTree(np.array([line.points[0] for line in drawn]))
    _, which = roots.query(np.array([one.points[0] for one in found]))
    off = [
        float(one.widths.max() * across - drawn[n].widths_mm.max())
        for one, n in zip(found, which, strict=True)
    ]
    assert abs(np.median(off)) < 0.25
    assert np.mean([one.widths[-1] < one.widths.max() for one in found]) > 0.9


def test_what_is_found_passes_the_check_and_turned_strokes_do_not(drawn: tuple[Line, ...]) -> None:
    ground = flowing()
    right = check_strokes(asked(find_strokes(paper(drawn), ground.directed)), ground)
    assert right.right > 0.85 * right.strokes
    across = np.dstack([-ground.directed[..., 1], ground.directed[..., 0]])
    other = StrokeGround(across, MM, ground.lock_length, ground.lock_width, ground.face_mm)
    turned = check_strokes(asked(find_strokes(paper(drawn), across)), other)
    assert turned.right < 0.1 * turned.strokes


def test_crossing_strokes_are_cut_not_joined() -> None:
    def straight(x0: float, y0: float, x1: float, y1: float) -> Line:
        t = np.linspace(0, 1, 14)
        points = np.column_stack([x0 + (x1 - x0) * t, y0 + (y1 - y0) * t])
        return Line(points, np.interp(t, (0, 0.2, 1), (1.4, 1.6, 0.4)))

    both = (straight(0.3, 0.3, 0.7, 0.7), straight(0.7, 0.3, 0.3, 0.7))
    assert len(find_strokes(paper(both), flowing().directed)) == 4


def test_blank_paper_and_a_scribble_are_refused_in_words() -> None:
    with pytest.raises(Refusal, match="no strokes"):
        find_strokes(
            paper((Line(np.array([(0.5, 0.5), (0.501, 0.501)]), np.array([0.2, 0.2])),)), flowing().directed
        )
    draw = np.random.default_rng(2)
    blobs = np.full((900, 720, 3), 230, np.uint8)
    for x, y in draw.uniform(0, 1, (900, 2)) * (720, 900):
        cv2.line(blobs, (int(x), int(y)), (int(x) + 16, int(y) + 3), (20, 20, 20), 2)
    with pytest.raises(Refusal, match="fewer strokes"):
        find_strokes(blobs, flowing().directed)
