"""The easel on screen: photographed by the simulated camera, compared, corrected, planned again, printed."""

from __future__ import annotations

import re

import numpy as np
import pytest
from playwright.sync_api import Locator, Page, expect

from tests.conftest import jpeg, small_photo

SLOW = 60_000


def stage(page: Page) -> Locator:
    """Where the picture hangs."""
    return page.get_by_role("application")


@pytest.fixture(scope="module")
def sitter(page: Page, base: str) -> str:
    photo = {"name": "maren.jpg", "mimeType": "image/jpeg", "buffer": small_photo("maren")}
    kept = page.request.post(f"{base}/api/sitters", multipart={"photo": photo}).json()
    url = f"{base}/api/sitters/{kept['id']}"
    passes = page.request.get(f"{url}/passes").json()["passes"]
    asked = {
        "after": len(passes) // 2,
        "seed": 25,
        "faults": ["left cheek=+1.2", "background, upper left=-1"],
    }
    assert page.request.post(f"{url}/easel/camera", data=asked).status == 201
    return f"{base}/sitters/{kept['id']}"


def test_a_photograph_is_taken_by_the_simulated_camera(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/easel/takein")
    expect(page.get_by_test_id("registered")).to_contain_text("Corners found, held to the plan", timeout=SLOW)
    page.get_by_role("button", name="Simulated camera").click()
    page.get_by_label("At", exact=True).click()
    page.get_by_role("option", name="chin", exact=True).click()
    page.get_by_role("button", name="Photograph the canvas").click()
    rows = page.get_by_role("list", name="Photographs").get_by_role("button")
    expect(rows).to_have_count(2, timeout=SLOW)
    page.get_by_role("button", name="Take this photograph away").click()
    expect(rows).to_have_count(1)
    page.get_by_role("button", name="Undo").click()
    expect(rows).to_have_count(2)
    page.get_by_role("button", name="Redo").click()
    expect(rows).to_have_count(1)


def test_a_bare_drawing_is_held_to_its_outlines(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/easel/takein")
    expect(page.get_by_test_id("registered")).to_be_visible(timeout=SLOW)
    page.get_by_label("It shows the painting").click()
    page.get_by_role("option", name="as a bare drawing, before any paint").click()
    expect(page.get_by_label("The paint was wet")).to_have_count(1)
    page.get_by_role("button", name="Simulated camera").click()
    page.get_by_label("At", exact=True).click()
    page.get_by_role("option", name="mouth", exact=True).click()
    page.get_by_role("button", name="Photograph the drawing").click()
    rows = page.get_by_role("list", name="Photographs").get_by_role("button")
    expect(rows.filter(has_text="bare drawing")).to_have_count(1, timeout=SLOW)
    page.goto(f"{sitter}/easel/compare")
    findings = page.get_by_role("list", name="Findings").get_by_role("button")
    expect(findings.filter(has_text=re.compile("Mouth: [345] mm too low"))).to_have_count(1, timeout=SLOW)
    page.goto(f"{sitter}/easel/takein")
    page.get_by_role("button", name="Take this photograph away").click()
    expect(rows.filter(has_text="bare drawing")).to_have_count(0)


def test_a_photograph_without_a_painting_is_refused_in_words(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/easel/takein")
    expect(page.get_by_test_id("registered")).to_be_visible(timeout=SLOW)
    grey = jpeg(np.full((700, 500, 3), 90, np.uint8))
    page.get_by_test_id("painting-file").set_input_files(
        {"name": "wall.jpg", "mimeType": "image/jpeg", "buffer": grey}
    )
    alert = page.get_by_role("alert").filter(has_text="painting")
    expect(alert).to_be_visible(timeout=SLOW)
    expect(alert.get_by_role("button", name=re.compile("corners by hand"))).to_be_visible()
    expect(page.get_by_role("list", name="Photographs").get_by_role("button")).to_have_count(1)


def test_findings_are_shown_with_what_to_do(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/easel/compare")
    findings = page.get_by_role("list", name="Findings").get_by_role("button")
    cheek = findings.filter(has_text=re.compile("Left cheek.*too light"))
    expect(cheek).to_have_count(1, timeout=SLOW)
    expect(findings.filter(has_text=re.compile("Background, upper left.*too dark"))).to_have_count(1)
    cheek.click()
    group = page.get_by_role("group", name=re.compile("What to do about finding"))
    expect(group).to_contain_text(re.compile("Glaze|Scumble|Paint it again"), timeout=SLOW)
    for way in ("plan", "steps", "blink", "beside", "split", "painting"):
        page.get_by_role("button", name=way, exact=True).click()
        expect(stage(page)).to_have_attribute("aria-busy", "false", timeout=SLOW)
    page.get_by_role("button", name="split", exact=True).click()
    border = page.get_by_role("slider", name="Border between painting and plan")
    border.focus()
    page.keyboard.press("ArrowRight")
    expect(border).to_have_value("0.51")
    page.get_by_role("button", name="painting", exact=True).click()


def test_how_it_stands_and_the_rest_planned_again(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/easel/stand")
    expect(page.get_by_test_id("stop")).to_have_text("Go on.", timeout=SLOW)
    page.goto(f"{sitter}/easel/again")
    left = page.get_by_role("list", name="Passes left").get_by_role("listitem")
    expect(left.first).to_be_visible(timeout=SLOW)
    assert left.count() > 5


def test_sections_are_ticked(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/easel/sections")
    crops = page.get_by_role("region", name=re.compile("reference and painting"))
    expect(crops.get_by_role("img")).to_have_count(2, timeout=SLOW)
    box = page.get_by_role("checkbox", name=re.compile("is done")).first
    box.check()
    page.reload()
    expect(page.get_by_role("checkbox", name=re.compile("is done")).first).to_be_checked(timeout=SLOW)


def test_a_reviewer_draws_and_writes(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/easel/notes")
    expect(stage(page)).to_have_attribute("aria-busy", "false", timeout=SLOW)
    box = stage(page).bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + box["width"] * 0.45, box["y"] + box["height"] * 0.4)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] * 0.55, box["y"] + box["height"] * 0.5, steps=5)
    page.mouse.up()
    page.get_by_label("In words").fill("Lose this edge")
    with page.expect_response(lambda a: a.request.method == "PATCH"):
        page.get_by_role("button", name="Keep the note").click()
    notes = page.get_by_role("list", name="Notes").get_by_role("listitem")
    expect(notes).to_have_count(1)
    page.reload()
    expect(notes).to_contain_text("Lose this edge", timeout=SLOW)


def test_the_printer_is_put_right(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/easel/print")
    page.get_by_role("button", name="Print and read it (simulated)").click()
    page.get_by_role("button", name="Check it through the curve (simulated)").click()
    expect(page.get_by_test_id("checked")).to_contain_text("the print is true", timeout=SLOW)
    with page.expect_download() as got:
        page.get_by_role("link", name="In grey").click()
    assert got.value.suggested_filename == "reference.pdf"


def test_the_stage_has_its_key(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/reference/frame")
    expect(stage(page)).to_have_attribute("aria-busy", "false", timeout=SLOW)
    page.keyboard.press("7")
    expect(page).to_have_url(re.compile("/easel"))
