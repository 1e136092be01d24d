"""No view has a serious fault that axe-core finds, by day and with the lamp off."""

from collections.abc import Callable

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Page, expect

from tests.browser.looking import api_title, open_title, settled

SERIOUS = ("serious", "critical")
# As another window would: the lamp is switched where the view stands, without loading it anew.
LAMP = """(newValue) => {
    const key = 'mabrel.lamp';
    localStorage.setItem(key, newValue);
    dispatchEvent(new StorageEvent('storage', {key, newValue, storageArea: localStorage}));
}"""
TAGS = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "best-practice"]


def faults(page: Page) -> list[str]:
    """The serious faults on the page: rule, and the first element of each."""
    found = Axe().run(page, options={"runOnly": {"type": "tag", "values": TAGS}}).response
    return [
        f"{each['id']}: {each['nodes'][0]['html'][:160]} ({each['nodes'][0]['failureSummary']})"
        for each in found["violations"]
        if each["impact"] in SERIOUS
    ]


def shelf(page: Page) -> None:
    page.goto("/")
    expect(page.get_by_alt_text("HARBOUR, Ship brass")).to_be_visible()


def library(page: Page) -> None:
    page.goto("/library")
    expect(page.get_by_alt_text("chart.png")).to_be_visible()


def words(page: Page) -> None:
    page.goto("/words")
    page.get_by_label("Words, one a line").fill("KNOT")
    expect(page.get_by_alt_text("Knot")).to_be_visible()


def bench(page: Page) -> None:
    api_title(page, "ROPE")


def tone_step(page: Page) -> None:
    page.get_by_role("button", name="Gradient map", exact=True).click()
    expect(page.locator(".histogram rect")).to_have_count(64)


def split_and_loupe(page: Page) -> None:
    page.keyboard.press("s")
    page.keyboard.press("l")
    settled(page)


def source_and_finishes(page: Page) -> None:
    page.get_by_role("button", name="Lettering", exact=True).first.click()
    page.keyboard.press("f")
    expect(page.get_by_role("complementary").get_by_alt_text("Ship brass")).to_be_visible()


def light(page: Page) -> None:
    page.keyboard.press("f")
    page.get_by_role("region", name="Light").get_by_role("button", name="Key").first.click()


def sheet(page: Page) -> None:
    page.keyboard.press("?")
    expect(page.get_by_role("dialog")).to_be_visible()


def marks(page: Page) -> None:
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).not_to_be_visible()
    page.keyboard.press("m")
    page.keyboard.press("Shift+M")
    expect(page.get_by_role("dialog").get_by_text("Mark 1", exact=True)).to_be_visible()


def timing(page: Page) -> None:
    page.keyboard.press("Escape")
    open_title(page, "Foghorn")
    page.keyboard.press("y")
    region = page.get_by_role("region", name="Timing")
    expect(region.locator(".lane").first).to_be_visible()
    region.locator(".peg").first.click()


def arrivals(page: Page) -> None:
    page.keyboard.press("r")
    drawer = page.get_by_role("complementary", name="Arrivals")
    expect(drawer.locator(".frames").first).to_be_visible()


def exporting(page: Page) -> None:
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Export", exact=True).click()
    dialog = page.get_by_role("dialog", name="Export")
    dialog.get_by_role("button", name="For compositing").click()
    expect(dialog.get_by_test_id("frames")).to_be_visible()


def plate(page: Page) -> None:
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Add a layer").click()
    page.get_by_text("Plate (the shot)").click()
    heading = page.locator(".settings").get_by_role("heading", name="Light of the shot")
    expect(heading).to_be_visible()
    settled(page)


def export_of_a_set(page: Page) -> None:
    page.get_by_role("button", name="Export", exact=True).click()
    expect(page.get_by_role("dialog", name="Export 1 title")).to_be_visible()
    expect(page.get_by_role("dialog").get_by_text("Over a shot")).to_be_visible()


def found_in(page: Page, lamp: str) -> list[str]:
    page.evaluate(LAMP, lamp)
    page.wait_for_timeout(400)  # fading in is not low contrast
    assert page.locator(f".v-theme--{lamp}").count()
    return faults(page)


@pytest.mark.parametrize("view", [shelf, library, words], ids=lambda view: view.__name__)
def test_a_view_has_no_serious_fault(page: Page, view: Callable[[Page], None]) -> None:
    view(page)
    assert found_in(page, "day") == []
    assert found_in(page, "lampOff") == []


def test_the_bench_has_no_serious_fault_whatever_is_open(page: Page) -> None:
    for state in (bench, tone_step, split_and_loupe, source_and_finishes, light, sheet, marks):
        state(page)
        for lamp in ("day", "lampOff"):
            assert found_in(page, lamp) == [], (state.__name__, lamp)


def test_time_on_the_bench_has_no_serious_fault(page: Page) -> None:
    for state in (timing, arrivals, exporting, plate):
        state(page)
        for lamp in ("day", "lampOff"):
            assert found_in(page, lamp) == [], (state.__name__, lamp)


def cells(page: Page) -> None:
    open_title(page, "Depth 40")
    page.get_by_role("button", name="Cells", exact=True).last.click()
    page.get_by_role("button", name="Paint cells in the proof").click()
    expect(page.get_by_role("application", name="Cells.")).to_be_visible()


def shapes(page: Page) -> None:
    open_title(page, "Squall")
    page.get_by_role("region", name="Layers").get_by_role("button", name="Splash 4").click()
    page.get_by_role("button", name="Shapes", exact=True).first.click()
    expect(page.get_by_role("list", name="Shapes")).to_be_visible()


def along(page: Page) -> None:
    page.get_by_role("region", name="Layers").get_by_role("button", name="SQUALL 7").click()
    page.get_by_role("button", name="Lettering", exact=True).first.click()
    page.get_by_role("checkbox", name="Along a line").check()
    page.get_by_role("radio", name="Line", exact=True).click()
    expect(page.get_by_role("button", name="Place 1 of the path")).to_be_visible()


def parts(page: Page) -> None:
    open_title(page, "Beacon")
    page.get_by_role("button", name="Painted parts", exact=True).click()
    board = page.get_by_role("application", name="Parts.")
    board.focus()
    page.keyboard.press("PageDown")
    panel = page.get_by_role("group", name="By hand")
    expect(panel.get_by_role("combobox", name="Holds for").last).to_be_visible()


def test_cells_shapes_and_parts_have_no_serious_fault(page: Page) -> None:
    for state in (cells, shapes, along, parts):
        state(page)
        for lamp in ("day", "lampOff"):
            assert found_in(page, lamp) == [], (state.__name__, lamp)


def test_the_export_of_a_set_has_no_serious_fault(page: Page) -> None:
    words(page)
    export_of_a_set(page)
    for lamp in ("day", "lampOff"):
        assert found_in(page, lamp) == [], lamp


def test_motion_is_reduced_where_that_is_asked_for(page: Page) -> None:
    page.emulate_media(reduced_motion="reduce")
    bench(page)
    longest = page.evaluate("""() => Math.max(...[...document.querySelectorAll('*')].map(
        (each) => parseFloat(getComputedStyle(each).transitionDuration) || 0))""")
    assert longest == 0


def test_the_bench_is_walked_by_tab_and_the_focus_is_seen(page: Page) -> None:
    bench(page)
    seen = set()
    for _ in range(25):
        page.keyboard.press("Tab")
        outline = page.evaluate("""() => {
            const style = getComputedStyle(document.activeElement);
            return [document.activeElement.ariaLabel ?? document.activeElement.innerText,
                    style.outlineStyle];
        }""")
        seen.add(outline[0])
    assert len(seen) > 15
    assert any("Inflate" in (name or "") for name in seen)
