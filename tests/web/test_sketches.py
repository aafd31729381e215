"""Sketches in a few colours over the web."""

from __future__ import annotations

import io

import numpy as np
from fastapi.testclient import TestClient
from PIL import Image


def test_every_design_has_its_picture_and_its_mixtures(client: TestClient, maren: str) -> None:
    url = f"/api/sitters/{maren}/sketches"
    found = client.get(f"{url}?count=4").json()
    assert [f["design"] for f in found] == [
        "as photographed", "warm light, cool shadow", "cool light, warm shadow", "greys and one accent",
    ]  # fmt: skip
    for one in found:
        assert all(c["parts"] for c in one["colours"])
        got = client.get(f"{url}/picture", params={"design": one["design"], "count": 4})
        picture = np.asarray(Image.open(io.BytesIO(got.content)).convert("RGB"))
        assert len(np.unique(picture.reshape(-1, 3), axis=0)) == len(one["colours"]) <= 4
    assert client.get(f"{url}?count=1").status_code == 422
    assert client.get(f"{url}/picture?design=neon").status_code == 422
