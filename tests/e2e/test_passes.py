"""The passes on screen: every school, a switch, a pass moved, ground, background, sittings, kit, book."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from tests.conftest import small_photo
from tests.e2e.test_bench import wall
from truesitter.core.school.library import SCHOOLS


@pytest.fixture(scope="module")
def sitter(page: Page, base: str) -> str:
    photo = {"name": "maren.jpg", "mimeType": "image/jpeg", "buffer": small_photo("maren")}
    kept = page.request.post(f"{base}/api/sitters", multipart={"photo": photo}).json()
    return f"{base}/sitters/{kept['id']}"


def choose(page: Page, label: str, option: str) -> None:
    page.get_by_label(label, exact=True).click()
    page.get_by_role("option", name=option, exact=True).click()
    expect(page.locator(".MuiBackdrop-root")).to_have_count(0)


def test_each_school_can_be_chosen_and_scrubbed(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/passes/plan")
    expect(page.get_by_role("group", name="Canvas after each pass")).to_be_visible(timeout=30_000)
    for school in SCHOOLS.values():
        choose(page, "School", school.name)
        expect(page.get_by_role("heading", name=school.name)).to_be_visible(timeout=30_000)
    page.get_by_role("button", name="Canvas 5,", exact=False).click()
    expect(page.get_by_role("slider", name="Canvas after pass")).to_have_value("5")
    page.get_by_role("button", name="Next pass").click()
    expect(page.get_by_role("slider", name="Canvas after pass")).to_have_value("6")


def test_a_switch_moves_the_background(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/passes/school")
    choose(page, "School", "Oil in layers")
    choose(page, "Background", "last")
    page.goto(f"{sitter}/passes/plan")
    last = page.get_by_role("checkbox").last
    expect(last).to_have_accessible_name(re.compile("^Background"), timeout=30_000)
    page.get_by_role("button", name="Undo").click()
    expect(last).to_have_accessible_name(re.compile("^Last lights"), timeout=30_000)


def test_what_a_pass_is_for_and_loose_strokes_behind_the_head(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/passes/school")
    choose(page, "School", "Oil in layers")
    choose(page, "Strokes of the background", "loose and thick")
    page.goto(f"{sitter}/passes/plan")
    strokes = page.get_by_role("checkbox", name=re.compile("^Strokes of the background"))
    expect(strokes.first).to_be_visible(timeout=30_000)
    page.get_by_role("button", name="Next pass").click()
    expect(page.get_by_text("What it is for:")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(strokes).to_have_count(0, timeout=30_000)


def test_a_pass_of_ones_own_school_is_moved_and_changed(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/passes/school")
    page.get_by_role("button", name="Copy it to change it").click()
    table = page.get_by_role("region", name="Passes of the school")
    expect(table).to_be_visible()
    first = table.get_by_role("listitem").nth(2)
    expect(first).to_contain_text("3 Background")
    page.get_by_role("button", name=re.compile("^Move Background.* down")).click()
    expect(table.get_by_role("listitem").nth(3)).to_contain_text("4 Background")
    page.get_by_role("button", name="Change Underpainting").click()
    film = page.get_by_label("Film, mm")
    film.fill("0.03")
    film.press("Enter")
    page.get_by_role("button", name="Take out Glaze, a second coat").click()
    page.goto(f"{sitter}/passes/plan")
    expect(page.get_by_role("heading", name="Oil in layers, my way")).to_be_visible(timeout=30_000)
    page.goto(f"{sitter}/passes/school")
    page.get_by_role("button", name="Remove this school").click()
    expect(table).to_have_count(0)


def test_a_school_comes_from_a_file_and_a_bad_one_is_refused(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/passes/school")
    files = page.get_by_label("School file")
    files.set_input_files({"name": "bad.json", "mimeType": "application/json", "buffer": b'{\n"key": 3'})
    expect(page.get_by_text("is not JSON")).to_be_visible()
    good = SCHOOLS["tempera"].model_copy(update={"name": "From a friend"}).model_dump_json()
    files.set_input_files({"name": "a.json", "mimeType": "application/json", "buffer": good.encode()})
    expect(page.get_by_role("region", name="Passes of the school")).to_be_visible()
    expect(page.get_by_label("Name").first).to_have_value("From a friend")
    page.get_by_role("button", name="Remove this school").click()


def test_a_ground_is_laid(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/passes/ground")
    grounds = page.get_by_role("list", name="Grounds")
    expect(grounds.get_by_role("button").first).to_contain_text("cm²", timeout=30_000)
    grounds.get_by_role("button").first.click()
    page.get_by_role("button", name="Lay this ground").click()
    expect(grounds.get_by_role("button").first).to_contain_text("laid")
    page.get_by_role("button", name="As the school has it").click()
    expect(page.get_by_text("the school's own, laid")).to_be_visible()


def test_the_background_is_designed_and_an_edge_lost(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/passes/backdrop")
    page.get_by_role("button", name="counter").click()
    expect(page.get_by_text("Dark where the figure is light")).to_be_visible()
    page.get_by_label("Draw along them").check()
    box = wall(page)
    page.mouse.move(box["x"] + box["width"] * 0.55, box["y"] + box["height"] * 0.3)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] * 0.6, box["y"] + box["height"] * 0.5, steps=8)
    page.mouse.up()
    expect(page.get_by_text("Edge 1", exact=True)).to_be_visible()
    page.get_by_role("button", name="Find edge 1 again").click()
    expect(page.get_by_text("Edge 1", exact=True)).to_have_count(0)
    page.get_by_role("button", name="as it is").click()
    expect(page.get_by_text("As photographed.")).to_be_visible()


def test_sittings_kit_and_book(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/passes/sittings")
    sittings = page.get_by_role("list", name="Sittings").locator("> li")
    expect(sittings.first).to_be_visible(timeout=30_000)
    count = sittings.count()
    page.get_by_label("Longest sitting, h").fill("6")
    page.get_by_label("Longest sitting, h").press("Enter")
    expect(sittings).not_to_have_count(count)
    before = page.get_by_label("Studio, °C").input_value()
    page.get_by_role("button", name="Read the sensor on the wall").click()
    expect(page.get_by_label("Studio, °C")).not_to_have_value(before)
    with page.expect_download() as calendar:
        page.get_by_role("link", name="Calendar, iCalendar").click()
    assert calendar.value.path().read_bytes().startswith(b"BEGIN:VCALENDAR")
    page.goto(f"{sitter}/passes/kit")
    mine = page.get_by_role("button", name=re.compile("^Put the .* away$"))
    expect(mine.first).to_be_visible(timeout=30_000)
    count = mine.count()
    mine.first.click()
    expect(mine).to_have_count(count - 1)
    heap = page.get_by_label(re.compile("^Name of the heap")).first
    heap.fill("Warm one")
    heap.press("Enter")
    expect(page.get_by_label("Name of the heap Warm one")).to_be_visible()
    page.get_by_label("Own width, mm").fill("7.5")
    page.get_by_role("button", name="Add the brush").click()
    expect(page.get_by_role("button", name="Put the no. 4 round away")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(mine).to_have_count(count - 1)
    page.goto(f"{sitter}/passes/book")
    book = page.get_by_role("region", name="Book of passes")
    expect(book.get_by_role("heading", name="1 Ground")).to_be_visible(timeout=30_000)
    book.get_by_role("checkbox", name="Ground is done").click()
    expect(page.get_by_text(re.compile("1 of .* passes are done"))).to_be_visible()
    with page.expect_download() as printed:
        page.get_by_role("link", name="Book, A4").click()
    assert printed.value.path().read_bytes().startswith(b"%PDF")


def test_the_focus_is_set_on_the_picture(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/passes/focus")
    expect(page.get_by_text("The eyes, as long as you mark nothing")).to_be_visible(timeout=30_000)
    page.get_by_role("button", name="far", exact=True).click()
    box = wall(page)
    page.mouse.click(box["x"] + box["width"] * 0.5, box["y"] + box["height"] * 0.8)
    expect(page.get_by_text("Mark 1, far")).to_be_visible()
    expect(page.get_by_text("As you marked it:")).to_be_visible()
    page.get_by_role("button", name="Remove mark 1").click()
    page.get_by_label("Draw round a motif instead").click()
    page.mouse.move(box["x"] + box["width"] * 0.4, box["y"] + box["height"] * 0.4)
    page.mouse.down()
    for x, y in ((0.6, 0.4), (0.6, 0.6), (0.4, 0.6)):
        page.mouse.move(box["x"] + box["width"] * x, box["y"] + box["height"] * y, steps=4)
    page.mouse.up()
    expect(page.get_by_text("Mark 1, far, a motif")).to_be_visible()
    page.get_by_role("button", name="Remove mark 1").click()
    expect(page.get_by_text("The eyes, as long as you mark nothing")).to_be_visible()


def test_a_background_of_ones_own_and_a_frame(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/passes/backdrop")
    page.get_by_role("button", name="own", exact=True).click()
    ends = page.get_by_role("group", name="Ends in")
    expect(ends.get_by_role("button", name="light skin")).to_be_visible(timeout=30_000)
    ends.get_by_role("button", name="light skin").click()
    expect(ends.get_by_role("button", name="light skin")).to_have_attribute("aria-pressed", "true")
    page.get_by_role("group", name="Frame").get_by_role("button", name="white").click()
    expect(page.get_by_text(re.compile("white: .* steps lighter than the rim"))).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(ends.get_by_role("button", name="light skin")).to_have_attribute("aria-pressed", "false")


def test_the_end_is_shown_without_a_pass(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/passes/plan")
    toggle = page.get_by_label("The end without this pass")
    expect(toggle).to_be_visible(timeout=30_000)
    with page.expect_response(lambda r: "/passes/without/" in r.url) as answer:
        toggle.click()
    assert answer.value.ok
    page.get_by_role("button", name="Next pass").click()
    expect(toggle).not_to_be_checked()
