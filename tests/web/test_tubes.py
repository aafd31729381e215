"""The routes of the rack: tubes, readings by meter, photograph and file, palettes, batch."""

from __future__ import annotations

import io
import json
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np
import pypdf
import pytest
from fastapi.testclient import TestClient
from PIL import Image

from tests.conftest import small_photo
from truesitter.store.settings.sitters import Repository
from truesitter.web.server.app import create_app


@pytest.fixture
def client(tmp_path: Path) -> Iterator[TestClient]:
    repository = Repository(tmp_path / "data")
    with TestClient(create_app(repository, tmp_path), base_url="http://127.0.0.1") as client:
        yield client
    repository.close()


@pytest.fixture
def ochre(client: TestClient) -> str:
    tube = {"name": "Jar ochre", "pigment": "yellow-ochre", "amount_ml": 37}
    return str(client.post("/api/tubes", json=tube).json()["key"])


def send_file(client: TestClient, address: str, text: str) -> Any:
    return client.post(address, files={"file": ("readings.txt", text.encode(), "text/plain")})


def test_a_tube_is_added_changed_taken_off_and_put_back(client: TestClient, ochre: str) -> None:
    changed = client.patch(f"/api/tubes/{ochre}", json={"name": "Ochre", "amount_ml": 5, "empty": True})
    assert changed.json()["empty"] is True
    assert next(t for t in client.get("/api/library").json()["tubes"] if t["key"] == ochre)["own"] is True
    assert client.delete(f"/api/tubes/{ochre}").status_code == 204
    assert client.get("/api/tubes").json() == []
    assert client.patch(f"/api/tubes/{ochre}", json={"name": "x"}).status_code == 404
    assert client.post(f"/api/tubes/{ochre}/restore").json()["name"] == "Ochre"


@pytest.mark.parametrize(
    ("tube", "sentence"),
    [
        ({"name": "", "pigment": "viridian"}, "name"),
        ({"name": "x", "pigment": "mud"}, "no pigment called “mud”"),
        ({"name": "x", "pigment": "viridian", "amount_ml": -1}, "A tube holds between"),
    ],
)
def test_impossible_tubes_are_refused(client: TestClient, tube: dict[str, Any], sentence: str) -> None:
    answer = client.post("/api/tubes", json=tube)
    assert answer.status_code == 422
    assert sentence in answer.json()["detail"]
    assert client.get("/api/tubes").json() == []


def test_the_meter_reads_and_the_fit_betters_the_library(client: TestClient, ochre: str) -> None:
    read = client.post(f"/api/tubes/{ochre}/meter").json()
    assert set(read) == {"masstone", "tint", "over_black", "over_white", "wash"}
    swatches = {name: patch["lab"] for name, patch in read.items()}
    kept = client.post(
        f"/api/tubes/{ochre}/readings", json={"source": "colour meter", "swatches": swatches}
    ).json()
    (reading,) = kept["readings"]
    assert sum(reading["after"].values()) < sum(reading["before"].values()) / 2
    assert kept["reading"] == reading["id"]
    assert client.put(f"/api/tubes/{ochre}/reading").json()["swatches"] is None
    again = client.put(f"/api/tubes/{ochre}/reading?reading={reading['id']}").json()
    assert again["swatches"]["masstone"] == swatches["masstone"]
    assert client.put(f"/api/tubes/{ochre}/reading?reading=77").status_code == 404


def test_whites_are_read_by_their_masstone_alone(client: TestClient) -> None:
    key = client.post("/api/tubes", json={"name": "White", "pigment": "titanium-white"}).json()["key"]
    assert set(client.post(f"/api/tubes/{key}/meter").json()) == {"masstone"}


def test_a_photograph_of_swatches_is_read(client: TestClient) -> None:
    picture = np.full((400, 600, 3), 200, np.uint8)
    picture[100:300, 100:300] = (150, 90, 40)
    buffer = io.BytesIO()
    Image.fromarray(picture).save(buffer, "PNG")
    photo = client.post(
        "/api/swatches/photo", files={"photo": ("s.png", buffer.getvalue(), "image/png")}
    ).json()
    assert (photo["width"], photo["height"]) == (600, 400)
    address = f"/api/swatches/photo/{photo['sha256']}"
    assert client.get(address).headers["content-type"] == "image/jpeg"
    box = {"x1": 0.2, "y1": 0.3, "x2": 0.45, "y2": 0.7}
    white = {"x1": 0.7, "y1": 0.2, "x2": 0.9, "y2": 0.8}
    read = client.post(
        f"{address}/read", json={"whites": [white], "white": 0.6, "patches": {"masstone": box}}
    )
    assert read.json()["masstone"]["uneven"] is False
    assert 40 < read.json()["masstone"]["lab"][0] < 55
    refused = client.post(f"{address}/read", json={"whites": [], "patches": {"masstone": box}})
    assert (refused.status_code, "white" in refused.json()["detail"]) == (422, True)
    assert client.get(f"/api/swatches/photo/{'0' * 64}").status_code == 404
    assert client.get("/api/swatches/photo/..%2F..%2Fetc").status_code in (404, 422)
    bad = client.post("/api/swatches/photo", files={"photo": ("x.png", b"not a picture", "image/png")})
    assert bad.status_code == 422


def test_a_file_of_readings_is_taken_whole_or_not_at_all(client: TestClient, ochre: str) -> None:
    good = f"tube,patch,L,a,b\n{ochre},masstone,56,14,41\n{ochre},tint,82,5,22\n"
    (kept,) = send_file(client, "/api/readings", good).json()
    assert kept["swatches"]["tint"] == [82, 5, 22]
    assert kept["readings"][0]["source"] == "file readings.txt"
    # A tint alone joins the masstone read before.
    (again,) = send_file(client, "/api/readings", f"tube,patch,L,a,b\n{ochre},tint,80,6,25\n").json()
    assert again["swatches"]["masstone"] == [56, 14, 41]
    for text, sentence in (
        (good + "gone,tint,50,1,1\n", "Line 4: there is no tube “gone” on the rack."),
        (good + f"{ochre},over_black,20,1,1\n", "Line 2: a thin film is read over black and over white"),
        (good.replace("82", "dark"), "Line 3: “dark” is not a number."),
    ):
        answer = send_file(client, "/api/readings", text)
        assert answer.status_code == 422
        assert answer.json()["detail"].startswith(sentence)
    assert len(client.get("/api/tubes").json()[0]["readings"]) == 2
    for name in ("readings.csv", "readings.txt"):
        (back,) = send_file(client, "/api/readings", client.get(f"/api/files/{name}").text).json()
        assert back["swatches"]["tint"] == [80, 6, 25]


def test_a_first_tint_without_a_masstone_is_refused(client: TestClient, ochre: str) -> None:
    answer = send_file(client, "/api/readings", f"tube,patch,L,a,b\n{ochre},tint,80,6,25\n")
    assert answer.json()["detail"] == f"Line 2: {ochre} has no masstone, neither here nor from before."


def test_the_rack_as_files(client: TestClient, ochre: str) -> None:
    as_json, as_csv = client.get("/api/files/rack.json").text, client.get("/api/files/rack.csv").text
    assert json.loads(as_json)["tubes"][0]["name"] == "Jar ochre"
    for text in (as_json, as_csv.replace("Jar ochre", "Tin ochre")):
        assert send_file(client, "/api/rack", text).status_code == 200
    assert client.get("/api/tubes").json()[0]["name"] == "Tin ochre"
    refused = send_file(client, "/api/rack", as_csv.replace(",37,", ",lots,"))
    assert refused.json()["detail"].startswith("Line 2: ")


def test_the_blank_sheet_names_the_tubes(client: TestClient, ochre: str) -> None:
    pdf = pypdf.PdfReader(io.BytesIO(client.get("/api/swatches/sheet.pdf?paper=Letter").content))
    assert "Jar ochre" in pdf.pages[0].extract_text()
    assert [round(float(v)) for v in pdf.pages[0].mediabox[2:]] == [612, 792]


def test_palettes_of_the_studio(client: TestClient, ochre: str) -> None:
    palette = {"name": "Window", "tubes": [ochre, "titanium-white"]}
    key = client.post("/api/palettes", json=palette).json()["key"]
    first = client.get("/api/library").json()["palettes"][0]
    assert (first["key"], first["tubes"], first["own"]) == (key, [ochre, "titanium-white"], True)
    assert client.post("/api/palettes", json={"name": "x", "tubes": ["gone"]}).status_code == 422
    assert client.delete(f"/api/palettes/{key}").status_code == 204
    assert client.delete(f"/api/palettes/{key}").status_code == 404


def test_own_tubes_on_a_sitters_palette(client: TestClient, ochre: str) -> None:
    """Set out with its readings; the mixtures name it, the batch says what the rack lacks."""
    maren = client.post("/api/sitters", files={"photo": ("m.jpg", small_photo("maren"), "image/jpeg")}).json()
    own = [{"key": ochre, "name": "Jar ochre", "pigment": "yellow-ochre", "swatches": None}]
    tubes = ["titanium-white", ochre, "light-red", "ivory-black"]
    flesh = {**maren["settings"]["flesh"], "tubes": tubes, "own": own, "medium": "acrylic"}
    base = f"/api/sitters/{maren['id']}"
    assert client.patch(f"{base}/settings/flesh", json={"set": flesh}).status_code == 200
    mixtures = client.get(f"{base}/flesh").json()["mixtures"]
    assert any(ochre in m["parts"] for m in mixtures)
    middle = next(m for m in mixtures if 3 < m["target_value"] < 7)
    assert middle["wet"]["shift"] == pytest.approx(-0.3, abs=0.1)
    client.patch(f"/api/tubes/{ochre}", json={"name": "Jar ochre", "amount_ml": 0.5})
    batch = client.get(f"{base}/flesh/batch").json()
    needed = next(t for t in batch["tubes"] if t["tube"] == ochre)
    shown = next(t for t in client.get("/api/library").json()["tubes"] if t["key"] == ochre)
    assert shown["left_ml"] == 0.5 < needed["ml"]
    assert needed["cm"] > 0
    csv = client.get(f"{base}/files/mixtures.csv").text
    assert f"{ochre}=" in csv
    pdf = pypdf.PdfReader(io.BytesIO(client.get(f"{base}/files/mixtures.pdf").content))
    text = "".join(p.extract_text() for p in pdf.pages)
    assert "Jar ochre" in text
    assert f"Jar ochre: {needed['ml']:.1f} ml" in text
    missing = client.patch(f"{base}/settings/flesh", json={"set": {**flesh, "own": []}})
    assert (missing.status_code, "no tube called" in missing.json()["detail"]) == (422, True)
    for what in ("shape", "group"):
        spot = client.get(f"{base}/flesh/spot?x=0.5&y=0.5&what={what}").json()
        assert {"shape": "shape ", "group": "everywhere"}[what] in spot["place"]
        assert spot["mixture"]["delta_e"] < 5
        lab = spot["made"]["lab"]
        assert spot["made"]["chroma"] == pytest.approx((lab[1] ** 2 + lab[2] ** 2) ** 0.5)
        assert 0.5 < spot["made"]["hiding"] <= 1
