"""Flesh through the real interface: a spot, another recipe, a pin, the board, the sheet."""

from __future__ import annotations

from pathlib import Path

import pypdf
from playwright.sync_api import Page, expect

from tests.conftest import small_photo


def test_from_a_spot_to_the_mixing_sheet(page: Page, base: str, tmp_path: Path) -> None:
    photo = {"name": "maren.jpg", "mimeType": "image/jpeg", "buffer": small_photo("maren")}
    kept = page.request.post(f"{base}/api/sitters", multipart={"photo": photo}).json()
    page.goto(f"{base}/sitters/{kept['id']}/flesh")
    job = page.get_by_role("navigation", name="Jobs")
    job.get_by_role("link", name="spot").click()
    # The wall picks for the job once that has come.
    expect(page.get_by_role("button", name="value group", exact=True)).to_be_visible()
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
    expect(page.get_by_label("Underpainting, value")).to_be_visible()
    page.mouse.click(box["x"] + box["width"] * 0.45, box["y"] + box["height"] * 0.5)
    expect(page.get_by_test_id("glaze").first).to_contain_text("of medium")

    job.get_by_role("link", name="board").click()
    expect(page.get_by_label("Name of pin cool cheek")).to_be_visible()
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


def test_from_a_heap_to_a_mixture_of_mixtures(page: Page, base: str) -> None:
    """Near mixtures of a shape, the medium with own times and strength, a mixture mixed and darkened."""
    photo = {"name": "maren.jpg", "mimeType": "image/jpeg", "buffer": small_photo("maren")}
    kept = page.request.post(f"{base}/api/sitters", multipart={"photo": photo}).json()
    page.goto(f"{base}/sitters/{kept['id']}/flesh/spot")
    wall = page.get_by_role("application")
    expect(wall).to_have_attribute("aria-busy", "false")
    box = wall.bounding_box()
    assert box is not None
    page.get_by_role("button", name="shape", exact=True).click()
    page.mouse.click(box["x"] + box["width"] * 0.45, box["y"] + box["height"] * 0.5)
    expect(page.get_by_test_id("near")).to_have_count(4)
    expect(page.get_by_test_id("near").first).to_contain_text("of the heap and")

    page.get_by_role("navigation", name="Jobs").get_by_role("link", name="tubes").click()
    page.get_by_label("Medium", exact=True).click()
    page.get_by_role("option", name="gouache").click()
    expect(page.get_by_text("Thinned with water.")).to_be_visible()
    wait = page.get_by_label("Wait, min")
    expect(wait).to_have_value("15")
    wait.fill("40")
    wait.press("Enter")
    page.get_by_role("button", name="Times as usual").click()
    expect(wait).to_have_value("15")
    page.get_by_label("Tube", exact=True).click()
    page.get_by_role("option", name="Light red earth").click()
    page.get_by_label("Dry value").first.fill("9.9")
    page.get_by_role("button", name="Take the swatch").click()
    expect(page.get_by_text("darker than the bare paper")).to_be_visible()
    page.get_by_label("Dry value").first.fill("6.5")
    page.get_by_role("button", name="Take the swatch").click()
    expect(page.get_by_text("times as strong as usual, by your swatch")).to_be_visible()

    page.get_by_role("navigation", name="Jobs").get_by_role("link", name="board").click()
    page.get_by_role("button", name="Add an ingredient").click()
    page.get_by_role("button", name="Add an ingredient").click()
    made = page.get_by_test_id("combined")
    expect(made).to_contain_text("Burnt umber")
    page.get_by_label("Then add").click()
    page.get_by_role("option", name="Ivory black").click()
    expect(made).to_contain_text("of Ivory black to")
    made.get_by_role("button", name="Keep as a pin").click()
    expect(page.get_by_label("Name of pin light skin and dark skin")).to_be_visible()


def test_a_plan_in_one_sitting_and_a_trial_of_taking_paint_off(page: Page, base: str) -> None:
    """Another school and support, the wiped lights, and a refusal where paint does not come off."""
    photo = {"name": "maren.jpg", "mimeType": "image/jpeg", "buffer": small_photo("maren")}
    kept = page.request.post(f"{base}/api/sitters", multipart={"photo": photo}).json()
    page.goto(f"{base}/sitters/{kept['id']}/passes/plan")
    page.get_by_label("School", exact=True).click()
    page.get_by_role("option", name="Oil in one sitting").click()
    row = page.get_by_role("button", name="4 Lights wiped out")
    row.click()
    expect(page.get_by_text("It goes into the wet paint below")).to_be_visible()
    expect(page.get_by_label("Borders").get_by_role("listitem").first).to_contain_text("towards")
    page.get_by_role("navigation", name="Jobs").get_by_role("link", name="take off").click()
    expect(page.get_by_label("Pressure")).to_be_visible()
    wall = page.get_by_role("application")
    expect(wall).to_have_attribute("aria-busy", "false")
    box = wall.bounding_box()
    assert box is not None
    page.mouse.click(box["x"] + box["width"] * 0.47, box["y"] + box["height"] * 0.5)
    expect(page.get_by_test_id("taken")).to_contain_text("Wiped out: leave")
    page.get_by_role("button", name="once it is dry").click()
    expect(page.get_by_text("takes off only wet paint")).to_be_visible()

    page.goto(f"{base}/sitters/{kept['id']}/flesh/glaze")
    page.get_by_role("button", name="in coats").click()
    for label, name in (("First", "light skin"), ("Over it", "warm black")):
        page.get_by_label(label).click()
        page.get_by_role("option", name=name).click()
    expect(page.get_by_test_id("coats")).to_contain_text("coats, then")
