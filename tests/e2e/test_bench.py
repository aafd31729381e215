"""The measuring bench through the real interface."""

from __future__ import annotations

from pathlib import Path

import pypdf
import pytest
from playwright.sync_api import Locator, Page, Route, expect

from tests.conftest import small_photo


@pytest.fixture(scope="module")
def sitter(page: Page, base: str) -> str:
    """Address of a sitter put in through the interface's own route."""
    photo = {"name": "maren.jpg", "mimeType": "image/jpeg", "buffer": small_photo("maren")}
    kept = page.request.post(f"{base}/api/sitters", multipart={"photo": photo}).json()
    return f"{base}/sitters/{kept['id']}"


def wall(page: Page, in_use: bool = False) -> dict[str, float]:
    """Where the picture hangs, once it is there; in use once the open job picks or draws on it."""
    stage = page.get_by_role("application")
    if in_use:
        expect(stage).not_to_have_attribute("data-tool", "pan")
    expect(stage).to_have_attribute("aria-busy", "false")
    box = stage.bounding_box()
    assert box is not None
    return dict(box)


def job(page: Page, name: str) -> Locator:
    return page.get_by_role("navigation", name="Jobs").get_by_role("link", name=name, exact=True)


def drag(page: Page, start: tuple[float, float], end: tuple[float, float]) -> None:
    """From one spot of the wall to another, in fractions of it."""
    box = wall(page, in_use=True)
    points = [(box["x"] + box["width"] * x, box["y"] + box["height"] * y) for x, y in (start, end)]
    page.mouse.move(*points[0])
    page.mouse.down()
    page.mouse.move(*points[1], steps=6)
    page.mouse.up()


def press(page: Page, x: float, y: float) -> None:
    box = wall(page, in_use=True)
    page.mouse.click(box["x"] + box["width"] * x, box["y"] + box["height"] * y)


def test_measure_level_and_print(page: Page, sitter: str, tmp_path: Path) -> None:
    page.goto(f"{sitter}/reference")
    job(page, "measure").click()
    drag(page, (0.5, 0.2), (0.5, 0.7))
    page.get_by_label("Name").fill("head height")
    page.get_by_role("button", name="Keep").click()
    expect(page.get_by_label("head height is the unit")).to_be_checked()
    drag(page, (0.4, 0.4), (0.6, 0.4))
    expect(page.get_by_text("units;")).to_be_visible()
    expect(page.get_by_text("width of the face over the width of an eye")).to_be_visible()
    page.reload()
    job(page, "measure").click()
    expect(page.get_by_label("head height is the unit")).to_be_checked()

    job(page, "frame").click()
    page.get_by_role("button", name="Straighten", exact=True).click()
    drag(page, (0.4, 0.42), (0.6, 0.40))
    expect(page.get_by_role("slider", name="Turned by")).not_to_have_value("0")
    page.keyboard.press("Control+z")
    expect(page.get_by_role("slider", name="Turned by")).to_have_value("0")

    job(page, "colour").click()
    page.get_by_role("button", name="Pick a grey").click()
    press(page, 0.45, 0.1)
    expect(page.get_by_text("Light changed by")).to_be_visible()
    page.get_by_role("button", name="Back to the photograph").click()
    expect(page.get_by_text("Not balanced yet.")).to_be_visible()

    job(page, "grid").click()
    with page.expect_download() as download:
        page.get_by_role("link", name="PDF, A4").click()
    download.value.save_as(tmp_path / "transfer.pdf")
    assert len(pypdf.PdfReader(tmp_path / "transfer.pdf").pages) == 4


def test_a_scribble_changes_the_regions_and_can_be_taken_back(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/reference")
    job(page, "regions").click()
    table = page.get_by_role("table", name="Regions")
    expect(table).to_contain_text("garment")
    before = table.inner_text()
    drag(page, (0.45, 0.9), (0.6, 0.95))
    expect(page.get_by_role("button", name="Remove 1 stroke")).to_be_visible()
    expect(table).not_to_have_text(before)
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("button", name="Remove 1 stroke")).to_have_count(0)


def test_groups_are_renamed_locked_split_and_merged(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/values")
    groups = page.get_by_test_id("group")
    expect(groups).to_have_count(5)
    page.get_by_label("Name of the group halftone").fill("half light")
    page.get_by_label("Name of the group halftone").press("Enter")
    expect(page.get_by_label("Name of the group half light")).to_be_visible()
    page.get_by_role("button", name="lock").first.click()
    expect(page.get_by_role("button", name="locked")).to_have_count(1)
    page.get_by_role("button", name="Split group 3").click()
    expect(groups).to_have_count(6)
    page.get_by_role("button", name="Merge groups").first.click()
    expect(groups).to_have_count(5)


def test_the_picture_under_a_dragged_cut_is_that_of_the_last_position(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/values")
    rung = page.locator("[data-cut='1'][role=slider]")
    expect(rung).to_be_visible()
    wall(page)
    box = rung.bounding_box()
    assert box is not None
    asked: list[str] = []
    page.on("request", lambda r: asked.append(r.url) if "/values/preview" in r.url else None)
    x, y = box["x"] + 30, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    for step in range(25):
        page.mouse.move(x, y - 2 * step)
    value = rung.get_attribute("aria-valuenow")
    page.wait_for_timeout(1500)
    assert asked[-1].split("cuts=")[1].split(",")[1] == value
    assert len(asked) < 26
    assert page.evaluate("String(getSelection())") == "", "the drag marked the ladder's words"
    page.mouse.up()
    expect(rung).to_have_attribute("aria-valuenow", str(value))
    page.get_by_role("button", name="Undo").click()


def test_a_shape_is_read_and_joined_an_edge_listed_two_spots_compared(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/values")
    job(page, "shapes").click()
    press(page, 0.45, 0.5)
    expect(page.get_by_text("the largest brush that fits is")).to_be_visible()
    page.get_by_label("Give it to the group of a neighbour").click()
    page.get_by_role("option").first.click()
    expect(page.get_by_role("button", name="Undo the join")).to_be_visible()
    page.get_by_role("button", name="Undo the join").click()
    expect(page.get_by_role("button", name="Undo the join")).to_have_count(0)

    job(page, "edges").click()
    expect(page.get_by_text("hard ")).to_be_visible()
    page.get_by_label("Hatch these places").click()

    job(page, "compare").click()
    press(page, 0.45, 0.5)
    expect(page.get_by_text("Now press on the second spot.")).to_be_visible()
    press(page, 0.4, 0.1)
    expect(page.get_by_text("steps lighter than the second")).to_be_visible()

    job(page, "sketches").click()
    page.get_by_role("button", name="warm light, cool shadow").click()
    expect(page.get_by_role("button", name="warm light, cool shadow")).to_have_attribute(
        "aria-pressed", "true"
    )
    page.get_by_alt_text("The picture in 2 values").click()
    job(page, "groups").click()
    expect(page.get_by_test_id("group")).to_have_count(2)


def test_by_keyboard_alone(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/reference")
    wall(page)
    page.keyboard.press("2")
    page.wait_for_url("**/values")
    cut = page.locator("[data-cut='0'][role=slider]")
    expect(cut).to_be_visible()
    before = float(cut.get_attribute("aria-valuenow") or 0)
    cut.focus()
    page.keyboard.press("ArrowUp")
    expect(cut).to_have_attribute("aria-valuenow", str(round(before + 0.1, 2)))
    page.keyboard.press("Control+z")
    expect(cut).not_to_have_attribute("aria-valuenow", str(round(before + 0.1, 2)))
    for key, word in (("g", "grey"), ("q", "masses"), ("d", "edges"), ("b", "beside")):
        page.keyboard.press(key)
        toolbar = page.get_by_role("toolbar")
        radio = toolbar.get_by_role("radio", name=word)
        shown = radio if radio.count() else toolbar.get_by_role("button", name=word)
        expect(shown).to_have_attribute("aria-checked" if radio.count() else "aria-pressed", "true")
    for key in ("d", "b", "c"):
        page.keyboard.press(key)


def test_a_frame_round_the_head_is_pressed(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/reference/frame")
    frames = page.get_by_role("group", name="Frames")
    head = frames.get_by_role("button", name="head face")
    whole = frames.get_by_role("button", name="as photographed")
    expect(whole).to_have_attribute("aria-pressed", "true")
    expect(page.get_by_label("Width, mm")).to_have_value("320")
    head.click()
    expect(head).to_have_attribute("aria-pressed", "true")
    expect(whole).to_have_attribute("aria-pressed", "false")
    expect(page.get_by_role("slider", name="Zoom in")).not_to_have_value("1")
    page.get_by_title("Undo: Frame head").click()
    expect(whole).to_have_attribute("aria-pressed", "true")


def test_leaving_while_a_change_is_not_kept_yet_is_asked_about(page: Page, sitter: str) -> None:
    """Once it is kept, the page is left without a word."""
    held: list[Route] = []

    def hold(route: Route) -> None:
        held.append(route)

    def asks() -> bool:
        return bool(page.evaluate("!dispatchEvent(new Event('beforeunload', {cancelable: true}))"))

    page.goto(f"{sitter}/reference/frame")
    turned = page.get_by_role("slider", name="Turned by")
    expect(turned).to_have_value("0")
    assert not asks()
    page.route("**/settings/reference", hold)
    with page.expect_request(lambda r: r.method == "PATCH"):
        turned.press("ArrowRight")
    assert asks()
    with page.expect_response(lambda a: a.request.method == "PATCH"):
        held[0].continue_()
    page.unroute_all()
    page.wait_for_function("dispatchEvent(new Event('beforeunload', {cancelable: true}))")
    page.reload()
    expect(turned).not_to_have_value("0")
    page.get_by_role("button", name="Undo").click()
    expect(turned).to_have_value("0")
