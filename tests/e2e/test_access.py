"""Every screen and job, day and dim, against axe-core's rules (from WCAG 2.2), and by keys alone."""

from __future__ import annotations

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect

from bench.screens import Asked, go, jobs
from tests.conftest import small_photo
from tests.e2e.test_bench import wall

STILL = """() => document.getAnimations().every(
  a => a.playState !== "running" || a.effect?.getTiming().iterations === Infinity)"""


@pytest.fixture(scope="module")
def sitter(page: Page, base: str) -> str:
    photo = {"name": "maren.jpg", "mimeType": "image/jpeg", "buffer": small_photo("maren")}
    kept = page.request.post(f"{base}/api/sitters", multipart={"photo": photo}).json()
    return f"{base}/sitters/{kept['id']}"


def settled(page: Page) -> None:
    """Nothing is being fetched, mixed or unfolded any more."""
    page.wait_for_load_state("networkidle")
    expect(page.get_by_role("progressbar")).to_have_count(0)
    page.wait_for_function(STILL)


def findings(page: Page, rules: str | None = None) -> list[str]:
    """What axe holds against the screen, minor things left out; by all rules or one alone."""
    options: dict[str, object] = {"resultTypes": ["violations"]}
    if rules:
        options["runOnly"] = {"type": "rule", "values": [rules]}
    response = Axe().run(page, options=options).response
    return [
        f"{page.url}: {v['id']} ({v['impact']}): {v['nodes'][0]['html'][:160]}"
        for v in response["violations"]
        if v["impact"] in ("critical", "serious", "moderate")
    ]


BESIDE = (
    "/tubes", "/keeping", "/drills", "/log/now", "/log/month", "/log/entries", "/log/paintings",
    "/log/trials", "/log/pace",
)  # fmt: skip
"""Screens of the whole shelf."""


@pytest.mark.parametrize(
    ("light", "rules", "every"),
    [
        ("day", None, False),
        pytest.param("day", None, True, marks=pytest.mark.long),
        pytest.param("dim", "color-contrast", True, marks=pytest.mark.long),
    ],
)
def test_no_screen_shuts_anybody_out(
    page: Page, base: str, sitter: str, light: str, rules: str | None, every: bool
) -> None:
    """By day by every rule; dim differs in its greys alone. Every screen, or the first of each stage."""
    page.goto(f"{sitter}/reference")
    page.get_by_role("switch", name="Dim studio").set_checked(light == "dim")
    settled(page)
    asked, shown = Asked(page), set[str]()
    found, addresses = [], [f"{sitter.removeprefix(base)}/{job}" for job in jobs()]
    assert len(addresses) >= 40
    if not every:
        addresses = list({address.split("/")[-2]: address for address in reversed(addresses)}.values())
    for address in ("/", *(BESIDE if every else BESIDE[::4]), *addresses):
        # As by a press on its name: to load the pages anew takes most of the time.
        asked.settled(go(page, address))
        settled(page)
        shown.add(page.locator("body").inner_text())
        expect(page.get_by_role("main")).to_have_count(1)
        found += findings(page, rules)
    page.get_by_role("button", name="Words").click()
    expect(page.get_by_role("dialog")).to_be_visible()
    page.wait_for_function(STILL)
    found += findings(page, rules)
    page.keyboard.press("Escape")
    assert found == []
    assert len(shown) > 0.9 * len(addresses), "they are different screens"


def walk(page: Page, keys: str) -> None:
    """Keys pressed on the picture, which is reached with Tab like anything else."""
    picture = page.get_by_role("application")
    expect(picture).not_to_have_attribute("data-tool", "pan")
    wall(page)
    picture.focus()
    for key in keys.split():
        page.keyboard.press(key)


PICK = "ArrowLeft ArrowLeft Enter"
DRAW = "ArrowLeft Enter " + "ArrowDown " * 8 + "Enter"


@pytest.mark.parametrize(
    ("job", "keys", "words"),
    [
        ("values/compare", PICK + " ArrowDown" * 12 + " Enter", "The first spot is"),
        ("values/shapes", PICK, "the largest brush that fits is"),
        ("flesh/spot", PICK, "Yellow ochre"),
        ("flesh/glaze", PICK, "of medium"),
        ("hair/growth", DRAW, "Guide 1"),
    ],
)
def test_picking_and_drawing_need_no_pointer(
    page: Page, sitter: str, job: str, keys: str, words: str
) -> None:
    page.goto(f"{sitter}/{job}")
    walk(page, keys)
    expect(page.get_by_text(words).first).to_be_visible()


def test_what_was_measured_by_keys_is_kept_by_keys(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/reference/measure")
    walk(page, DRAW)
    page.get_by_label("Name").focus()
    page.keyboard.type("a head")
    page.keyboard.press("Tab")
    expect(page.get_by_role("button", name="Keep")).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.get_by_label("a head is the unit")).to_be_checked()
    page.keyboard.press("Control+z")
    expect(page.get_by_label("a head is the unit")).to_have_count(0)


def test_a_region_is_drawn_by_keys_alone_and_taken_back(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/reference/regions")
    kept = page.get_by_role("button", name="Remove 1 stroke")
    walk(page, "ArrowRight Enter " + "ArrowRight " * 8 + "Enter")
    expect(kept).to_be_visible()
    page.keyboard.press("Control+z")
    expect(kept).to_have_count(0)


def test_a_job_stays_open_when_the_page_is_loaded_again(page: Page, sitter: str) -> None:
    page.goto(f"{sitter}/values")
    page.get_by_role("navigation", name="Jobs").get_by_role("link", name="edges").click()
    page.wait_for_url("**/values/edges")
    page.reload()
    current = page.get_by_role("navigation", name="Jobs").locator("[aria-current=page]")
    expect(current).to_have_text("edges")
    page.get_by_role("navigation", name="Jobs").get_by_role("link", name="shapes").click()
    page.go_back()
    expect(current).to_have_text("edges")


def test_no_change_is_lost_however_fast_they_come(page: Page, sitter: str) -> None:
    """Ten presses while the first is still on its way to the server: all ten are kept."""
    page.goto(f"{sitter}/values")
    cut = page.locator("[data-cut='0'][role=slider]")
    expect(cut).to_be_visible()
    before = float(cut.get_attribute("aria-valuenow") or 0)
    page.route("**/settings/**", lambda route: (page.wait_for_timeout(120), route.continue_()))
    cut.focus()
    for _ in range(10):
        page.keyboard.press("ArrowUp")
    expect(cut).to_have_attribute("aria-valuenow", str(round(before + 1.0, 2)))
    settled(page)
    page.unroute("**/settings/**")
    page.reload()
    expect(cut).to_have_attribute("aria-valuenow", str(round(before + 1.0, 2)))
