"""Flesh through the real interface: a spot, another recipe, a pin, the board, the sheet."""

from __future__ import annotations

from pathlib import Path

import pypdf
from playwright.sync_api import Page, expect

from tests.conftest import truth


def test_from_a_spot_to_the_mixing_sheet(page: Page, base: str, tmp_path: Path) -> None:
    photo = {"name": "maren.jpg", "mimeType": "image/jpeg", "buffer": truth("maren").data}
    kept = page.request.post(f"{base}/api/sitters", multipart={"photo": photo}).json()
    page.goto(f"{base}/sitters/{kept['id']}/flesh")
    job = page.get_by_role("navigation", name="Jobs")
    job.get_by_role("link", name="spot").click()
    wall = page.get_by_role("application")
    expect(wall).to_have_attribute("aria-busy", "false")
    box = wall.bounding_box()
    assert box is not None
    page.mouse.click(box["x"] + box["width"] * 0.45, box["y"] + box["height"] * 0.5)
    best = page.get_by_test_id("mixture").first
    expect(best).to_contain_text("Yellow ochre")
    expect(best).to_contain_text("value")
    best.get_by_role("button", name="without Yellow ochre").click()
    expect(best).not_to_contain_text("ochre")
    expect(page.get_by_role("button", name="Allow again: Yellow ochre")).to_be_visible()
    page.get_by_label("Name to pin it by").fill("cool cheek")
    best.get_by_role("button", name="Pin").click()

    job.get_by_role("link", name="glaze").click()
    expect(page.get_by_role("heading", name="Glaze over grey")).to_be_visible()
    page.mouse.click(box["x"] + box["width"] * 0.45, box["y"] + box["height"] * 0.5)
    expect(page.get_by_test_id("glaze").first).to_contain_text("of medium")

    job.get_by_role("link", name="board").click()
    expect(page.get_by_label("Name of pin cool cheek")).to_be_visible()
    expect(page.get_by_text("skin in the shadow")).to_be_visible()
    with page.expect_download() as download:
        page.get_by_role("link", name="Sheet, A4").click()
    download.value.save_as(tmp_path / "mixtures.pdf")
    text = " ".join(p.extract_text() for p in pypdf.PdfReader(tmp_path / "mixtures.pdf").pages)
    assert "cool cheek" in text
    assert "ochre" not in text.lower().split("cautions")[0]

    job.get_by_role("link", name="spot").click()
    expect(page.get_by_test_id("mixture").first).to_be_visible()
    page.get_by_role("button", name="value group", exact=True).click()
    page.mouse.click(box["x"] + box["width"] * 0.45, box["y"] + box["height"] * 0.5)
    expect(page.get_by_role("heading", name="everywhere")).to_be_visible()
    page.get_by_label("or a place of the face").click()
    page.get_by_role("option", name="nose tip").click()
    expect(page.get_by_role("heading", name="nose tip")).to_be_visible()
    page.get_by_role("button", name="rectangle", exact=True).click()
    page.mouse.move(box["x"] + box["width"] * 0.4, box["y"] + box["height"] * 0.4)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] * 0.5, box["y"] + box["height"] * 0.5, steps=4)
    page.mouse.up()
    expect(page.get_by_text("Adjust it")).to_be_visible()
    page.reload()
    job.get_by_role("link", name="board").click()
    expect(page.get_by_label("Name of pin cool cheek")).to_be_visible()
    page.get_by_role("button", name="Unpin cool cheek").click()
    expect(page.get_by_label("Name of pin cool cheek")).to_have_count(0)
