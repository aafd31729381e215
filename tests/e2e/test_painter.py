"""A painter's whole way through the real interface, in headless Chromium."""

from __future__ import annotations

from pathlib import Path

import pypdf
from playwright.sync_api import Page, expect

from tests.conftest import bomb, truth


def test_bad_files_leave_the_shelf_unchanged(page: Page, base: str, made_photo: bytes) -> None:
    page.goto(base)
    expect(page.get_by_text("The shelf is empty.")).to_be_visible()
    for name, data, sentence in (
        ("half.jpg", made_photo[: len(made_photo) // 2], "damaged"),
        ("words.jpg", b"only words", "not a photograph"),
        ("nothing.jpg", b"", "The file is empty"),
        ("huge.png", bomb(), "megapixels"),
    ):
        page.get_by_label("Photograph of the sitter").set_input_files(
            {"name": name, "mimeType": "image/jpeg", "buffer": data}
        )
        expect(page.get_by_text(sentence)).to_be_visible()
    assert page.request.get(f"{base}/api/sitters").json() == []


def test_a_new_sitter_begins_on_the_usual_canvas(page: Page, base: str, made_photo: bytes) -> None:
    photo = {"name": "sitter.jpg", "mimeType": "image/jpeg", "buffer": made_photo}
    page.goto(base)
    page.get_by_label("Photograph of the sitter").set_input_files(photo)
    canvas = page.get_by_role("combobox", name="Canvas size")
    usual = page.get_by_label("This is my usual canvas")
    canvas.click()
    page.get_by_role("option", name="210 × 297 mm").click()
    expect(canvas).to_have_text("210 × 297 mm")
    usual.check()
    expect(page.get_by_text("New sitters begin on it")).to_be_visible()
    page.goto(base)
    page.get_by_label("Photograph of the sitter").set_input_files(photo)
    page.wait_for_url("**/reference")
    expect(canvas).to_have_text("210 × 297 mm")
    expect(usual).to_be_checked()
    framed = page.url
    # A sitter that could not be framed is there all the same, and the painter is told.
    page.route("**/reference/usual-canvas", lambda route: route.abort())
    page.goto(base)
    page.get_by_label("Photograph of the sitter").set_input_files(photo)
    page.wait_for_url("**/reference")
    expect(page.get_by_text("The application does not answer.")).to_be_visible()
    expect(canvas).not_to_have_text("210 × 297 mm")
    page.unroute("**/reference/usual-canvas")
    page.goto(framed)
    expect(canvas).to_have_text("210 × 297 mm")
    usual.uncheck()
    expect(page.get_by_text("New sitters begin on the proportions of their photographs.")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(canvas).not_to_have_text("210 × 297 mm")


def test_from_photograph_to_printed_plan(page: Page, base: str, tmp_path: Path) -> None:
    page.goto(base)
    page.get_by_label("Photograph of the sitter").set_input_files(
        {"name": "sitter.jpg", "mimeType": "image/jpeg", "buffer": truth("maren").data}
    )
    page.wait_for_url("**/reference")
    page.get_by_role("link", name="Values").click()
    rung = page.locator("[data-cut='1'][role=slider]")
    expect(rung).to_be_visible()
    box = rung.bounding_box()
    assert box is not None
    x, y = box["x"] + 30, box["y"] + box["height"] / 2
    before = float(rung.get_attribute("aria-valuenow") or 0)
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x, y - 20, steps=4)
    page.mouse.up()
    expect(rung).not_to_have_attribute("aria-valuenow", str(before))
    moved = rung.get_attribute("aria-valuenow")
    page.get_by_role("button", name="Undo").click()
    expect(rung).to_have_attribute("aria-valuenow", str(before))
    page.get_by_role("button", name="Redo").click()
    expect(rung).to_have_attribute("aria-valuenow", str(moved))

    page.get_by_role("link", name="Flesh").click()
    expect(page.get_by_test_id("mixture").first).to_contain_text("Titanium white")

    page.get_by_role("link", name="Hair").click()
    expect(page.get_by_text("lines from the root")).to_be_visible()
    wall = page.get_by_role("application").bounding_box()
    assert wall is not None
    start = (wall["x"] + wall["width"] * 0.4, wall["y"] + wall["height"] * 0.3)
    page.mouse.move(*start)
    page.mouse.down()
    page.mouse.move(start[0] - 30, start[1] + 120, steps=8)
    page.mouse.up()
    expect(page.get_by_text("Guide 1")).to_be_visible()

    page.get_by_role("link", name="Passes").click()
    following = page.get_by_role("button", name="Next pass")
    for _ in range(3):
        following.click()
    expect(page.locator("[aria-current=step]")).to_contain_text("4 ")
    with page.expect_download() as download:
        page.get_by_role("link", name="PDF, A4").click()
    target = tmp_path / "plan.pdf"
    download.value.save_as(target)
    assert len(pypdf.PdfReader(target).pages) >= 4

    page.reload()
    expect(page.locator("[aria-current=step]")).to_contain_text("4 ")
    page.get_by_role("link", name="Hair").click()
    expect(page.get_by_text("Guide 1")).to_be_visible()
    page.get_by_role("link", name="Values").click()
    expect(rung).to_have_attribute("aria-valuenow", str(moved))
