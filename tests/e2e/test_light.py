"""The light on screen: drag the ball, choose places, add and move peaks, draw a limit and a line."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from tests.conftest import small_photo
from tests.e2e.test_bench import wall


@pytest.fixture(scope="module")
def sitter(page: Page, base: str) -> str:
    photo = {"name": "maren.jpg", "mimeType": "image/jpeg", "buffer": small_photo("maren")}
    kept = page.request.post(f"{base}/api/sitters", multipart={"photo": photo}).json()
    return f"{base}/sitters/{kept['id']}"


def test_the_light_is_dragged_on_the_ball_and_put_back(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/light/light")
    expect(page.get_by_text("From the upper left, from the front")).to_be_visible()
    ball = page.get_by_role("slider", name="Key light")
    box = ball.bounding_box()
    assert box is not None
    middle = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(*middle)
    page.mouse.down()
    page.mouse.move(middle[0] + 60, middle[1] + 40, steps=4)
    page.mouse.up()
    expect(page.get_by_text("lower right, from the front, as you set it")).to_be_visible()
    ball.focus()
    for _ in range(12):
        page.keyboard.press("ArrowRight")
    expect(page.get_by_text("from behind, as you set it")).to_be_visible()
    page.get_by_role("button", name="As found in the photograph").click()
    expect(page.get_by_text("From the upper left, from the front")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("as you set it")).to_be_visible()
    page.get_by_role("button", name="Redo").click()
    expect(page.get_by_text("as you set it")).to_have_count(0)


def test_peaks_are_added_moved_and_removed(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/light/peaks")
    rows = page.locator("aside li")
    expect(page.get_by_role("button", name="left side of the forehead")).to_be_visible()
    count = page.get_by_role("button", name=re.compile(r"^\d+ ")).count()
    page.get_by_role("button", name="add a peak").click()
    left, top, width, height = (wall(page)[k] for k in ("x", "y", "width", "height"))
    page.mouse.click(left + width * 0.5, top + height * 0.85)
    expect(page.get_by_role("button", name=re.compile(r"^\d+ "))).to_have_count(count + 1)
    page.get_by_role("button", name="choose", exact=True).click()
    page.get_by_role("button", name=re.compile(f"^{count + 1} ")).click()
    expect(page.get_by_text("steps above the way to the next")).to_be_visible()
    page.get_by_role("button", name="Remove it").click()
    expect(page.get_by_role("button", name=re.compile(r"^\d+ "))).to_have_count(count)
    page.get_by_role("button", name="As found in the photograph").click()
    page.get_by_role("button", name="draw a limit").click()
    x, y = left + width * 0.45, top + height * 0.3
    page.mouse.move(x, y)
    page.mouse.down()
    for dx, dy in ((60, 0), (60, 60), (0, 60), (0, 5)):
        page.mouse.move(x + dx, y + dy, steps=6)
    page.mouse.up()
    expect(page.get_by_text("Limit 1")).to_be_visible()
    page.get_by_role("button", name="Remove limit 1").click()
    expect(page.get_by_text("Limit 1")).to_have_count(0)
    assert rows.count() > 0


def test_every_list_shows_its_places(page: Page, sitter: str) -> None:
    for job, line in (("recesses", "mouth line"), ("highlights", "lower lip"), ("colour", "nose tip")):
        page.goto(f"{sitter}/light/{job}")
        row = page.get_by_role("button", name=line).first
        row.click()
        expect(row).to_have_attribute("aria-pressed", "true")
    page.goto(f"{sitter}/light/form")
    expect(page.get_by_test_id("mixture")).to_have_count(6)
    expect(page.get_by_text("steps down")).to_be_visible()
    page.get_by_role("button", name="in grey").click()
    page.goto(f"{sitter}/light/eyes")
    page.get_by_role("button", name="right eye").click()
    expect(page.get_by_text("catchlight", exact=False).first).to_be_visible()


def test_a_line_is_drawn_and_told_in_mixtures(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/light/colour")
    expect(page.get_by_text("Draw over a cheek")).to_be_visible()
    left, top, width, height = (wall(page)[k] for k in ("x", "y", "width", "height"))
    page.mouse.move(left + width * 0.46, top + height * 0.45)
    page.mouse.down()
    page.mouse.move(left + width * 0.6, top + height * 0.5, steps=12)
    page.mouse.up()
    expect(page.get_by_test_id("mixture").first).to_be_visible()
    assert page.get_by_test_id("mixture").count() >= 2
    page.get_by_role("button", name="Clear the line").click()
    expect(page.get_by_test_id("mixture")).to_have_count(0)
