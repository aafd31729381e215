"""The tube rack through the real interface: a tube, its swatches, files, and its way onto a palette."""

from __future__ import annotations

from playwright.sync_api import Page, expect

from tests.conftest import small_photo

CGATS = """CGATS.17
NUMBER_OF_FIELDS 4
BEGIN_DATA_FORMAT
SAMPLE_NAME LAB_L LAB_A LAB_B
END_DATA_FORMAT
NUMBER_OF_SETS 2
BEGIN_DATA
"{key} masstone" 54.0 17.0 43.0
"{key} tint" 81.0 6.5 25.0
END_DATA
"""


def hand_in(page: Page, label: str, name: str, text: str) -> None:
    file = {"name": name, "mimeType": "text/plain", "buffer": text.encode()}
    page.get_by_label(label, exact=True).set_input_files(file)


def test_an_own_tube_from_its_swatches_to_a_mixture(page: Page, base: str) -> None:
    page.goto(f"{base}/")
    page.get_by_role("link", name="Tube rack").click()
    page.get_by_role("button", name="Add a tube").click()
    page.get_by_label("What is in it").fill("yellow och")
    page.get_by_role("option", name="Yellow ochre").click()
    page.get_by_label("What you call it").fill("Quarry ochre")
    page.get_by_label("Left in it, ml").fill("0.2")
    page.get_by_role("button", name="Add", exact=True).click()
    tubes = page.get_by_role("navigation", name="Tubes")
    expect(tubes.get_by_role("button", name="Quarry ochre")).to_contain_text("0.2 ml left, not read")

    page.get_by_role("button", name="With the colour meter (simulated)").click()
    page.get_by_role("button", name="Use this reading").click()
    reading = page.get_by_test_id("reading")
    expect(reading).to_have_count(1)
    expect(reading).to_contain_text("in use")
    expect(tubes.get_by_role("button", name="Quarry ochre")).to_contain_text("read")

    hand_in(page, "File of readings", "broken.txt", CGATS.format(key="quarry-ochre").replace("81.0", "light"))
    expect(page.get_by_text("Line 9: “light” is not a number.")).to_be_visible()
    expect(reading).to_have_count(1)
    hand_in(page, "File of readings", "meter.txt", CGATS.format(key="quarry-ochre"))
    expect(page.get_by_text("One tube was imported from meter.txt.")).to_be_visible()
    expect(reading).to_have_count(2)
    expect(reading.first).to_contain_text("file meter.txt")
    reading.last.get_by_role("button", name="use").click()
    expect(reading.last).to_contain_text("in use")

    page.get_by_role("button", name="Remove").click()
    expect(tubes.get_by_role("button", name="Quarry ochre")).to_have_count(0)
    page.get_by_role("button", name="Put back").click()
    expect(tubes.get_by_role("button", name="Quarry ochre")).to_be_visible()

    photo = {"name": "maren.jpg", "mimeType": "image/jpeg", "buffer": small_photo("maren")}
    sitter = page.request.post(f"{base}/api/sitters", multipart={"photo": photo}).json()
    page.goto(f"{base}/sitters/{sitter['id']}/flesh")
    job = page.get_by_role("navigation", name="Jobs")
    job.get_by_role("link", name="tubes").click()
    page.get_by_label("Tubes", exact=True).fill("quarry")
    page.get_by_role("option", name="Quarry ochre").click()
    page.get_by_label("Always include").fill("quarry")
    page.get_by_role("option", name="Quarry ochre").click()
    job.get_by_role("link", name="skin").click()
    expect(page.get_by_test_id("mixture").first).to_contain_text("Quarry ochre")
    job.get_by_role("link", name="amounts").click()
    expect(page.get_by_test_id("batch-tube").filter(has_text="Quarry ochre")).to_contain_text("short by")

    # Changed on the rack since: the sitter keeps what was set out until it is told otherwise.
    hand_in_address = f"{base}/api/readings"
    file = {"name": "m.txt", "mimeType": "text/plain", "buffer": CGATS.format(key="quarry-ochre").encode()}
    assert page.request.post(hand_in_address, multipart={"file": file}).ok
    page.reload()
    job.get_by_role("link", name="tubes").click()
    expect(page.get_by_text("Quarry ochre: changed on the rack since.")).to_be_visible()
    page.get_by_role("button", name="Use the newest readings").click()
    expect(page.get_by_text("changed on the rack since.")).to_have_count(0)


def test_a_mark_on_a_photograph_reads_a_swatch(page: Page, base: str) -> None:
    """Keys and pointer on the wall: white, then the masstone, then the numbers."""
    key = page.request.post(
        f"{base}/api/tubes", data={"name": "Wall white", "pigment": "titanium-white"}
    ).json()["key"]
    page.goto(f"{base}/tubes")
    page.get_by_role("button", name="Wall white").click()
    photo = {"name": "swatches.jpg", "mimeType": "image/jpeg", "buffer": small_photo("maren")}
    page.get_by_label("Photograph of swatches").set_input_files(photo)
    wall = page.get_by_role("application", name="Photograph of swatches")
    expect(wall).to_have_attribute("aria-busy", "false")
    box = wall.bounding_box()
    assert box is not None

    def drag(x: float, y: float) -> None:
        page.mouse.move(box["x"] + box["width"] * x, box["y"] + box["height"] * y)
        page.mouse.down()
        page.mouse.move(box["x"] + box["width"] * (x + 0.05), box["y"] + box["height"] * (y + 0.05), steps=3)
        page.mouse.up()

    drag(0.5, 0.36)  # the forehead stands in for a card
    page.get_by_label("The white reflects, %").fill("60")
    page.get_by_role("button", name="masstone").click()
    drag(0.55, 0.36)
    page.get_by_role("button", name="Read", exact=True).click()
    expect(page.get_by_role("button", name="Use this reading")).to_be_visible()
    page.get_by_role("button", name="Discard").click()
    tube = next(t for t in page.request.get(f"{base}/api/tubes").json() if t["key"] == key)
    assert tube["readings"] == []
