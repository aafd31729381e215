"""`truesitter photograph` and `truesitter compare`, as a machine uses them."""

from __future__ import annotations

import json
from pathlib import Path

import cv2
import numpy as np
import pytest

from tests.cli.test_cli import run
from tests.conftest import truth
from tests.easel import painter
from truesitter.core.colour.spaces import picture_to_lab
from truesitter.core.colour.value import lightness_map_to_value
from truesitter.core.easel.compare.drawing_offsets import features_of
from truesitter.devices.camera import Studio
from truesitter.devices.faults import Fault, plant
from truesitter.formats.documents.plan import plan_of


@pytest.fixture(scope="module")
def folder(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A plan, its photograph and its finished canvas."""
    where = tmp_path_factory.mktemp("easel")
    study = painter("maren")
    (where / "maren.jpg").write_bytes(truth("maren").data)
    (where / "plan.json").write_text(plan_of(study, {}).model_dump_json(by_alias=True))
    canvas = study.passes.painted().picture(study.easel.pass_count())
    cv2.imwrite(str(where / "canvas.png"), canvas[..., ::-1])
    return where


def really_planted(folder: Path, fault: str) -> float:
    """Mean steps by which a fault makes the canvas lighter: no colour goes beyond what a screen shows."""
    study = painter("maren")
    canvas = cv2.imread(str(folder / "canvas.png"))[..., ::-1]
    mm = study.passes.subject().mm_per_px
    faulty = plant(canvas, (Fault.read(fault),), study.sitter.areas(), (), mm)
    before, after = (lightness_map_to_value(picture_to_lab(p)[..., 0]) for p in (canvas, faulty))
    lighter = after - before
    return float(lighter[lighter > 0.05].mean())


def test_a_planted_fault_is_photographed_and_found(folder: Path) -> None:
    seed = next(n for n in range(50, 99) if not Studio.by_lot(n).glare)
    code, out, err = run(
        "photograph", str(folder / "canvas.png"), "--out", str(folder / "shot.jpg"), "--seed", str(seed),
        "--fault", "left cheek=+1.5", "--width-mm", "320", "--json",
    )  # fmt: skip
    assert code == 0, err
    known = json.loads(out)
    assert np.array(known["corners"]).shape == (4, 2)
    corners = ",".join(str(v) for corner in known["corners"] for v in corner)
    for more in ([], ["--corners", corners]):
        code, out, err = run(
            "compare", str(folder / "maren.jpg"), str(folder / "shot.jpg"),
            "--plan", str(folder / "plan.json"),
            "--out", str(folder / "found"), *more,
        )  # fmt: skip
        assert code == 0, err
        found = json.loads((folder / "found" / "compare.json").read_text())
        assert np.abs(np.array(found["registration"]["corners"]) - known["corners"]).max() < 0.003
        assert found["registration"]["found"] == ("hand" if more else "paint")
        first = found["findings"][0]
        assert "left cheek" in first["place"]
        assert first["value_steps"] == pytest.approx(really_planted(folder, "left cheek=+1.5"), abs=0.3)
        assert set(first["remedy"]) >= {"kind", "parts", "dilution", "film_mm", "predicted_lab"}
        assert found["holds"]
        assert {"contrast", "shift"} <= set(found["range"])
    difference = cv2.imread(str(folder / "found" / "difference.png"))
    rectified = cv2.imread(str(folder / "found" / "rectified.jpg"))
    assert difference.shape == rectified.shape == (1000, 800, 3)


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (["--corners", "0,0,1"], "eight numbers"),
        (["--corners", "0.1,0.1,0.9,0.9,0.9,0.1,0.1,0.9"], "corners"),
        (["--canvas", "big"], "width x height"),
        (["--pass", "99"], "passes"),
    ],
)
def test_what_cannot_be_is_refused_in_a_sentence(folder: Path, arguments: list[str], words: str) -> None:
    photo, painting = str(folder / "maren.jpg"), str(folder / "canvas.png")
    code, _, err = run("compare", photo, painting, "--plan", str(folder / "plan.json"), "--out",
                       str(folder / "no"), *arguments)  # fmt: skip
    assert code == 2
    assert words in err
    assert err.count("\n") == 1
    assert not (folder / "no").exists()


def test_a_plan_of_another_photograph_or_none_at_all_is_refused(folder: Path) -> None:
    (folder / "tobias.jpg").write_bytes(truth("tobias").data)
    (folder / "broken.json").write_text("{")
    painting = str(folder / "canvas.png")
    code, _, err = run("compare", str(folder / "tobias.jpg"), painting, "--plan", str(folder / "plan.json"),
                       "--out", str(folder / "no"))  # fmt: skip
    assert (code, "another photograph" in err) == (2, True)
    code, _, err = run("compare", str(folder / "maren.jpg"), painting, "--plan", str(folder / "broken.json"),
                       "--out", str(folder / "no"))  # fmt: skip
    assert (code, "no plan that can be read" in err) == (2, True)
    code, _, err = run("photograph", painting, "--out", str(folder / "x.jpg"), "--fault", "moon=+1")
    assert (code, "No place is called" in err) == (2, True)


def test_a_bare_drawing_is_compared_before_any_paint(folder: Path) -> None:
    study = painter("maren")
    drawn = study.easel.template(None, "drawing")
    features = features_of(study.sitter.face, drawn.shape[:2])
    low = (Fault("mouth", "shift", 0, 4),)
    drawn = plant(drawn, low, study.sitter.areas(), features, 320 / drawn.shape[1])
    cv2.imwrite(str(folder / "drawing.png"), drawn[..., ::-1])
    seed = next(n for n in range(50, 99) if not Studio.by_lot(n).glare)
    code, _, err = run("photograph", str(folder / "drawing.png"), "--out", str(folder / "sheet.jpg"),
                       "--seed", str(seed), "--width-mm", "320")  # fmt: skip
    assert code == 0, err
    code, out, err = run("compare", str(folder / "maren.jpg"), str(folder / "sheet.jpg"), "--drawing",
                         "--plan", str(folder / "plan.json"), "--out", str(folder / "drawn"))  # fmt: skip
    assert code == 0, err
    assert "Mouth: 4 mm too low." in out
    found = json.loads((folder / "drawn" / "compare.json").read_text())
    assert [f["what"] for f in found["findings"]] == ["drawing"]
    assert found["registration"]["how"] == "drawing"
