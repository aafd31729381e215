"""The command line, as a machine uses it."""

from __future__ import annotations

import json
import subprocess
import sys
from pathlib import Path

import numpy as np
import pytest
from typer.testing import CliRunner

from tests.conftest import small_photo
from truesitter.cli.main import app
from truesitter.core.colour.difference import delta_e_2000
from truesitter.core.paint.tubes.rack import OwnTube, Stock
from truesitter.core.paint.tubes.swatches import Swatches
from truesitter.formats.documents.rack_files import rack_json

MIX = ["mix", "--target-lab"]


def run(*arguments: str) -> tuple[int, str, str]:
    result = CliRunner().invoke(app, list(arguments))
    return result.exit_code, result.stdout, result.stderr


def test_value_of_a_screen_colour() -> None:
    """Middle grey: sRGB 119 is L* 50 (by IEC 61966-2-1 and CIE 15), Munsell value 4.95 (ASTM D1535)."""
    code, out, _ = run("value", "#777777", "--json")
    assert code == 0
    found = json.loads(out)
    assert found["lab"][0] == pytest.approx(50.0, abs=0.1)
    assert found["value"] == pytest.approx(4.95, abs=0.05)
    assert run("value", "777777")[1].startswith("value 4.9")


def test_parts_and_target_are_two_ways_of_one_thing() -> None:
    parts = "yellow-ochre=2,vermilion=1,titanium-white=1"
    code, out, _ = run("mix", "--parts", parts, "--json")
    assert code == 0
    made = json.loads(out)
    assert set(made) >= {"predicted_lab", "value", "hex"}
    lab = ",".join(str(v) for v in made["predicted_lab"])
    code, out, _ = run(
        "mix", f"--target-lab={lab}", "--palette", "yellow-ochre,vermilion,titanium-white", "--json"
    )
    assert code == 0
    recipe = json.loads(out)
    assert recipe["parts"] == {"yellow-ochre": 2, "vermilion": 1, "titanium-white": 1}
    assert recipe["delta_e"] == pytest.approx(0, abs=1e-6)
    assert float(delta_e_2000(np.array(recipe["predicted_lab"]), np.array(made["predicted_lab"]))) < 1e-6


def test_fewer_tubes_are_kept_to() -> None:
    recipe = json.loads(run(*MIX, "60,20,25", "--max", "2", "--json")[1])
    assert len(recipe["parts"]) <= 2
    assert "value error" in run(*MIX, "60,20,25")[1]


@pytest.mark.parametrize(
    ("arguments", "sentence"),
    [
        (["value", "pink"], "#b58a6c"),
        ([*MIX, "60,20"], "L,a,b"),
        ([*MIX, "600,20,1"], "L*"),
        ([*MIX, "60,nan,1"], "L*"),
        ([*MIX, "60,20,1", "--max", "0"], "1 to 6 tubes"),
        ([*MIX, "60,20,1", "--palette", "moonlight"], "moonlight"),
        (["mix"], "either"),
        (["mix", "--parts", "vermilion=lots"], "vermilion=lots"),
        (["mix", "--parts", "vermilion=-1"], "negative"),
        (["mix", "--parts", "vermilion=0"], "at least one"),
        (["plan", "nowhere.jpg", "--out", "x"], "nowhere.jpg"),
        (["plan", "{words}", "--out", "x"], "not a photograph"),
        (["plan", "{photo}", "--out", "x", "--canvas", "wide"], "300x400"),
        (["plan", "{photo}", "--out", "x", "--canvas", "0x400"], "canvas_width_mm"),
        (["plan", "{photo}", "--out", "x", "--groups", "99"], "groups"),
        (["plan", "{photo}", "--out", "x", "--cuts", "4,2"], "cuts"),
        (["plan", "{photo}", "--out", "x", "--cuts", "some"], "fit, even"),
        (["plan", "{photo}", "--out", "x", "--school", "none"], "school"),
        (["plan", "{photo}", "--out", "x", "--brushes", "10filbert,3fan"], "3fan"),
        (["plan", "{photo}", "--out", "x", "--brushes", "13flat"], "no flat no. 13"),
        (["serve", "--data", "{folder}", "--port", "70000"], "65535"),
    ],
)
def test_wrong_input_ends_with_two_and_one_sentence(
    arguments: list[str], sentence: str, tmp_path: Path, made_photo: bytes, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.chdir(tmp_path)
    (tmp_path / "words.jpg").write_bytes(b"only words")
    (tmp_path / "photo.jpg").write_bytes(made_photo)
    names = {"words": "words.jpg", "photo": "photo.jpg", "folder": str(tmp_path / "data")}
    code, out, err = run(*[a.format(**names) for a in arguments])
    assert code == 2
    assert out == ""
    assert sentence in err
    assert len(err.strip().splitlines()) == 1
    assert "Traceback" not in err
    assert not (tmp_path / "x").exists()


def test_a_whole_plan_from_another_process(tmp_path: Path) -> None:
    (tmp_path / "t.jpg").write_bytes(small_photo("tobias"))
    done = subprocess.run(
        [sys.executable, "-m", "truesitter.cli", "plan", "t.jpg", "--out", "plan", "--canvas", "240x300",
         "--cuts", "2,4,6.5", "--palette", "warm-cool-six",
         "--brushes", "24flat,10filbert,4filbert,1round,00liner"],
        cwd=tmp_path, capture_output=True, text=True, timeout=300, check=False,
    )  # fmt: skip
    assert done.returncode == 0, done.stderr
    plan = json.loads((tmp_path / "plan/plan.json").read_text(encoding="utf-8"))
    assert plan["values"]["cuts"] == [2, 4, 6.5]
    assert plan["reference"]["canvas_mm"] == [240, 300]
    assert plan["face_found"]
    assert len(plan["passes"]) > 10
    brushes = {b["id"]: b["passes"] for b in plan["brushes"]}
    assert set(brushes) <= {"24flat", "10filbert", "4filbert", "1round", "00liner"}
    for number, one in enumerate(plan["passes"], 1):
        assert number in brushes[one["brush"]]
    assert (tmp_path / "plan/plan.pdf").read_bytes().startswith(b"%PDF")


def test_own_tubes_come_from_a_file_of_the_rack(tmp_path: Path) -> None:
    """Read as much redder than the library's, the tube makes another colour and other parts."""
    red = Swatches((45.0, 35.0, 30.0), (75.0, 18.0, 12.0))
    rack = tmp_path / "rack.json"
    rack.write_text(rack_json([Stock(OwnTube("old-ochre", "Old ochre", "yellow-ochre", red))]))
    code, out, _ = run("mix", "--parts", "old-ochre=1,titanium-white=1", "--rack", str(rack), "--json")
    usual = json.loads(run("mix", "--parts", "yellow-ochre=1,titanium-white=1", "--json")[1])
    assert code == 0
    assert json.loads(out)["predicted_lab"][1] > usual["predicted_lab"][1] + 8
    code, out, _ = run(
        "mix", "--target-lab", "70,12,12", "--palette", "titanium-white,old-ochre", "--rack", str(rack)
    )
    assert (code, "Old ochre" in out) == (0, True)
    rack.write_text("{}")
    code, _, error = run("mix", "--parts", "old-ochre=1", "--rack", str(rack))
    assert (code, "ubes" in error) == (2, True)
    code, _, error = run("mix", "--parts", "old-ochre=1", "--rack", str(tmp_path / "none.json"))
    assert code == 2
