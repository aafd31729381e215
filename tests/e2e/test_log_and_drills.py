"""A sitting with a break and a reload, and one round of every drill, as a painter has them."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from tests.conftest import small_photo
from truesitter.core.drills.drill_kinds import DRILLS

ABOUT = re.compile("5[0-3] min")
"""The past sitting, and the minute or so of the one that was timed."""


@pytest.fixture(scope="module")
def sitter(page: Page, base: str) -> str:
    """A sitter on the shelf, and a tube on the rack."""
    photo = {"name": "tobias.jpg", "mimeType": "image/jpeg", "buffer": small_photo("tobias")}
    put = page.request.post(f"{base}/api/sitters", multipart={"photo": photo})
    tube = {"name": "Ochre", "pigment": "yellow-ochre", "amount_ml": 37}
    assert page.request.post(f"{base}/api/tubes", data=tube).ok
    return str(put.json()["id"])


def test_a_sitting_with_a_break_and_a_reload(page: Page, base: str, sitter: str) -> None:
    page.goto(f"{base}/sitters/{sitter}/log")
    expect(page.get_by_text("Now:")).to_be_visible(timeout=180_000)
    page.get_by_role("button", name="Begin the sitting").click()
    clock = page.get_by_role("timer")
    expect(clock).to_be_visible()
    page.get_by_role("button", name="Break").click()
    expect(page.get_by_text("Paused.")).to_be_visible()
    page.reload()
    expect(page.get_by_text("Paused.")).to_be_visible()
    stands = clock.inner_text()
    page.wait_for_timeout(2500)
    assert clock.inner_text() == stands
    page.locator("body").press(" ")
    expect(page.get_by_role("button", name="Break")).to_be_visible()
    page.get_by_label("Note", exact=True).fill("cold light")
    page.get_by_role("button", name="Note it").click()
    expect(page.get_by_role("paragraph").filter(has_text="cold light")).to_be_visible()
    page.get_by_label("Note", exact=True).fill("warm the ear")
    page.get_by_role("button", name="For next time").click()
    expect(page.get_by_label("Done: warm the ear")).to_be_visible()
    page.get_by_label("Paint from").click()
    page.get_by_role("option", name="Ochre").click()
    page.get_by_role("button", name="Write", exact=True).click()
    expect(page.get_by_role("paragraph").filter(has_text="Ochre: 2 ml")).to_be_visible()
    page.get_by_role("button", name="Read the air").click()
    expect(page.get_by_text("% of humidity")).to_be_visible()
    page.get_by_role("button", name="Get up").click()
    expect(page.get_by_role("button", name="Begin the sitting")).to_be_visible()
    tubes = page.request.get(f"{base}/api/tubes").json()
    assert tubes[0]["amount_ml"] == 35


def test_the_record_and_striking_out(page: Page, sitter: str) -> None:
    page.get_by_role("navigation", name="Jobs").get_by_role("link", name="record", exact=True).click()
    sittings = page.get_by_role("list", name="Sittings")
    expect(sittings.get_by_role("listitem")).to_have_count(1)
    entries = page.get_by_role("list", name="Entries")
    page.get_by_role("button", name="Strike out: cold light").click()
    expect(entries.get_by_text("cold light")).to_have_count(0)
    page.get_by_label("Also what was struck out").click()
    expect(entries.locator("del", has_text="cold light")).to_be_visible()
    page.get_by_role("button", name="Write a past sitting down").click()
    page.get_by_label("Worked, min").fill("50")
    page.get_by_role("button", name="Write it down").click()
    expect(sittings.get_by_role("listitem")).to_have_count(2)
    expect(sittings.get_by_text("50 min", exact=True).first).to_be_visible()
    page.get_by_role("button", name="4 of 5").click()
    page.get_by_label("Why").fill("the beard")
    page.get_by_role("button", name="Write", exact=True).click()
    expect(entries.get_by_text("Liked 4 of 5: the beard")).to_be_visible()


def test_the_book_across_pictures(page: Page, base: str, sitter: str) -> None:
    page.goto(base)
    page.get_by_role("link", name=ABOUT).click()
    expect(page).to_have_url(f"{base}/sitters/{sitter}/log")
    page.goto(f"{base}/log/entries")
    page.get_by_label("Words").fill("BEARD the")
    expect(page.get_by_role("status")).to_have_text("1 entry")
    parts = page.get_by_role("navigation", name="Parts of the log")
    parts.get_by_role("link", name="Month").click()
    # Soon after midnight the fifty minutes are shared between two days, or two months.
    month = page.get_by_role("table", name="Month")
    expect(month.get_by_text(re.compile(r"^\d+ min$")).first).to_be_visible()
    parts.get_by_role("link", name="Paintings").click()
    expect(page.get_by_role("row", name="tobias").get_by_text("4.0 of 5")).to_be_visible()
    parts.get_by_role("link", name="Trials").click()
    page.get_by_label("What was tried").last.fill("Rough")
    page.get_by_role("button", name="lifts, 4 of 5").click()
    page.get_by_role("button", name="Write the trial down").click()
    expect(page.get_by_role("row", name="Rough")).to_be_visible()
    parts.get_by_role("link", name="Own pace").click()
    expect(page.get_by_text("It takes 3 sittings")).to_be_visible()


def draw(page: Page, points: list[tuple[float, float]]) -> None:
    box = page.get_by_label("Draw here").bounding_box()
    assert box is not None
    at = [(box["x"] + box["width"] * x, box["y"] + box["height"] * y) for x, y in points]
    page.mouse.move(*at[0])
    page.mouse.down()
    for one in at[1:]:
        page.mouse.move(*one, steps=6)
    page.mouse.up()


def answer(page: Page, drill: str) -> None:
    """Answer one round, by keyboard where that can be."""
    how = DRILLS[drill].answered  # type: ignore[index]
    if how == "number":
        expect(page.locator("[data-colour]").first).to_be_visible(timeout=180_000)
        page.locator("body").press("ArrowUp")
        page.locator("body").press("Enter")
    elif how == "choice":
        expect(page.get_by_role("button", name="Colour 1")).to_be_visible()
        page.locator("body").press("2")
    elif how == "parts":
        expect(page.locator("[data-colour]").first).to_be_visible()
        page.locator("body").press("1")
        page.get_by_role("button", name="More").nth(1).click()
        page.get_by_role("button", name="Mix it").click()
    elif how == "points":
        expect(page.get_by_label("Mark places here")).to_be_visible()
        page.locator("body").press("ArrowLeft")
        for _ in range(5):
            page.locator("body").press(" ")
        page.get_by_role("button", name="That is it").click()
    elif how == "stroke":
        expect(page.get_by_label("Draw here")).to_be_visible()
        # The pen goes down at the mark, where the cross is at first.
        for key in (" ", *["ArrowDown"] * 8, *["ArrowRight"] * 4, " "):
            page.locator("body").press(key)
        page.get_by_role("button", name="That is it").click()
    else:
        expect(page.get_by_label("Draw here")).to_be_visible()
        draw(page, [(0.5, 0.3), (0.55, 0.45), (0.45, 0.6), (0.3, 0.5)])
        page.get_by_role("button", name="That is it").click()


@pytest.mark.parametrize("drill", list(DRILLS))
def test_one_round_of_every_drill(page: Page, base: str, sitter: str, drill: str) -> None:
    page.goto(f"{base}/drills/{drill}/{sitter}")
    answer(page, drill)
    following = page.get_by_role("button", name="Next")
    expect(following).to_be_visible()
    kept = next(d for d in page.request.get(f"{base}/api/drills").json()["drills"] if d["name"] == drill)
    assert kept["rounds"] == 1
    page.locator("body").press("Enter")
    expect(page.get_by_label("Round")).to_have_text("2 of 10")


def test_a_line_is_drawn_by_keyboard(page: Page, base: str, sitter: str) -> None:
    page.goto(f"{base}/drills/masses/{sitter}")
    expect(page.get_by_label("Draw here")).to_be_visible()
    body = page.locator("body")
    body.press(" ")
    for key in ("ArrowLeft", "ArrowDown", "ArrowRight"):
        for _ in range(6):
            body.press(key)
    body.press(" ")
    body.press("ArrowUp")
    body.press("Enter")
    expect(page.get_by_text("lie in each other")).to_be_visible()


def test_a_whole_go_and_when_it_is_due_again(page: Page, base: str, sitter: str) -> None:
    page.goto(f"{base}/drills")
    page.get_by_role("link", name="Lighter or darker").click()
    for n in range(1, 11):
        expect(page.get_by_label("Round")).to_have_text(f"{n} of 10")
        expect(page.get_by_role("button", name="Colour 1")).to_be_enabled()
        page.locator("body").press("ArrowLeft")
        expect(page.get_by_role("button", name="Next" if n < 10 else "To the end")).to_be_visible()
        page.locator("body").press("Enter")
    expect(page.get_by_text("of 10 right")).to_be_visible()
    expect(page.get_by_text("Due again on")).to_be_visible()
    page.get_by_role("main").get_by_role("link", name="All drills").click()
    expect(page.get_by_role("img", name="Goes, oldest first").first).to_be_visible()
