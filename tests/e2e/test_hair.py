"""The hair on screen: handles, locks, layers, edges and practice."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from tests.conftest import small_photo
from tests.e2e.test_bench import wall


@pytest.fixture(scope="module")
def sitter(page: Page, base: str) -> str:
    photo = {"name": "selda.jpg", "mimeType": "image/jpeg", "buffer": small_photo("selda")}
    kept = page.request.post(f"{base}/api/sitters", multipart={"photo": photo}).json()
    return f"{base}/sitters/{kept['id']}"


MARGIN, ASPECT = 20, 0.75
"""Round the picture that hangs in the middle of the wall, and its width to its height."""


def on_wall(page: Page, x: float, y: float) -> tuple[float, float]:
    """Where a place of the picture, in fractions, is on the screen."""
    box = wall(page, in_use=True)
    height = box["height"] - 2 * MARGIN
    left = box["x"] + (box["width"] - ASPECT * height) / 2
    return left + ASPECT * height * x, box["y"] + MARGIN + height * y


def drag(page: Page, start: tuple[float, float], end: tuple[float, float]) -> None:
    page.mouse.move(*on_wall(page, *start))
    page.mouse.down()
    page.mouse.move(*on_wall(page, *end), steps=10)
    page.mouse.up()


def test_handles_are_drawn_bent_and_rubbed_out(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/hair/growth")
    expect(page.get_by_text("gathered into a knot")).to_be_visible()
    drag(page, (0.42, 0.13), (0.58, 0.13))
    expect(page.get_by_text("Guide 1")).to_be_visible()
    expect(page.get_by_text("gathered into a knot")).to_have_count(0)
    page.get_by_role("button", name="bend").click()
    drag(page, (0.5, 0.13), (0.5, 0.17))
    page.get_by_role("button", name="Undo").click()
    page.get_by_role("button", name="Redo").click()
    page.get_by_role("button", name="parting").click()
    drag(page, (0.5, 0.2), (0.5, 0.28))
    expect(page.get_by_text("Parting 1")).to_be_visible()
    page.get_by_role("button", name="whorl").click()
    page.get_by_label("It turns").click()
    page.get_by_role("option", name="anticlockwise").click()
    expect(page.locator(".MuiBackdrop-root")).to_have_count(0)
    page.mouse.click(*on_wall(page, 0.5, 0.24))
    expect(page.get_by_text("Whorl 1")).to_be_visible()
    page.get_by_role("button", name="erase").click()
    drag(page, (0.4, 0.24), (0.6, 0.24))
    expect(page.get_by_text("Parting 1")).to_have_count(0)
    expect(page.get_by_text("Whorl 1")).to_have_count(0)
    expect(page.get_by_text("Guide 1")).to_be_visible()
    page.get_by_role("button", name="Remove guide 1").click()
    expect(page.get_by_text("gathered into a knot")).to_be_visible()
    page.reload()
    expect(page.get_by_text("Nothing yet.")).to_be_visible()


def test_locks_are_looked_at_joined_and_put_back(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/hair/locks")
    rows = page.get_by_role("button", name=re.compile(r"^lock \d+"))
    expect(rows.first).to_be_visible()
    count = rows.count()
    page.get_by_role("button", name="skull", exact=True).click()
    expect(page.get_by_text("The round of the head alone")).to_be_visible()
    rows.first.click()
    expect(page.get_by_text("steps from dark to light")).to_be_visible()
    page.get_by_role("button", name="join").click()
    drag(page, (0.4, 0.22), (0.6, 0.22))
    expect(rows).not_to_have_count(count)
    page.get_by_role("button", name="As found in the photograph").click()
    expect(rows).to_have_count(count)


def test_the_hair_is_painted_layer_by_layer(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/hair/layers")
    expect(page.get_by_text(re.compile("Hair, ")).first).to_be_visible()
    page.get_by_label("Hours for the hair").fill("80")
    page.get_by_label("Hours for the hair").press("Enter")
    expect(page.get_by_text("80 h are enough for strands.")).to_be_visible()
    page.get_by_role("button", name="Layer before").click()
    slider = page.get_by_role("slider", name="After layer")
    before = slider.get_attribute("aria-valuenow")
    slider.focus()
    page.keyboard.press("ArrowLeft")
    expect(slider).not_to_have_attribute("aria-valuenow", before or "")
    page.get_by_role("button", name=re.compile("^masses")).click()
    expect(page.get_by_text("As you chose.")).to_be_visible()
    page.get_by_role("button", name="By the hours").click()
    expect(page.get_by_text("80 h are enough for strands.")).to_be_visible()


def test_the_hairline_is_told(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/hair/edges")
    expect(page.get_by_text("From skin to hair it takes")).to_be_visible()
    expect(page.get_by_role("img", name=re.compile("^Widths"))).to_be_visible()


def test_light_forms_of_a_grey_beard_are_sized_and_moved(page: Page, base: str) -> None:
    photo = {"name": "tobias.jpg", "mimeType": "image/jpeg", "buffer": small_photo("tobias")}
    kept = page.request.post(f"{base}/api/sitters", multipart={"photo": photo}).json()
    page.goto(f"{base}/sitters/{kept['id']}/hair/edges")
    forms = page.request.get(f"{base}/api/sitters/{kept['id']}/hair/edges").json()["forms"]["forms"]
    expect(page.get_by_text(f"{len(forms)} separate light-forms")).to_be_visible()
    expect(page.get_by_text("Light of the beard")).to_be_visible()
    page.get_by_label("Move them: pull one to where it is wanted").check()
    first = forms[0]
    drag(page, (first["x"], first["y"]), (first["x"], first["y"] + 0.05))
    expect(page.get_by_text(", moved")).to_be_visible()
    page.get_by_role("button", name="All as found").click()
    expect(page.get_by_text(", moved")).to_have_count(0)
    slider = page.get_by_role("slider", name="Size of a form")
    slider.press("End")
    expect(page.get_by_text(f"{len(forms)} separate light-forms")).to_have_count(0)
    expect(page.get_by_text("separate light-forms")).to_be_visible()


def test_practice_is_checked_at_once(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/hair/practice")
    drag(page, (0.48, 0.22), (0.4, 0.22))
    expect(page.get_by_text("0 of 1")).to_be_visible()
    page.get_by_role("button", name=re.compile("^stroke 1")).first.click()
    expect(
        page.get_by_text(
            re.compile("off its growth line|from tip to root|leaves its line|runs across the growth")
        )
    ).to_be_visible()
    page.get_by_role("button", name="Wipe all").click()
    expect(page.get_by_text("0 of 1")).to_have_count(0)
    page.get_by_role("button", name="round it").click()
    with page.expect_download() as download:
        page.get_by_role("link", name="Round, SVG").click()
    assert download.value.suggested_filename == "brush.svg"
