"""Two windows, a stopped server, a lost connection: nothing acknowledged is lost."""

import re

from playwright.sync_api import Browser, Page, expect

from tests.browser.looking import api_title, settled
from tools.running_studio import RunningStudio


def set_height(page: Page, value: str) -> None:
    page.get_by_role("button", name="Inflate", exact=True).click()
    field = page.get_by_label("Height, ")
    field.fill(value)
    field.press("Enter")


def height(page: Page) -> str:
    page.get_by_role("button", name="Inflate", exact=True).click()
    return page.get_by_label("Height, ").input_value()


def test_two_windows_on_one_title_offer_both_states(
    page: Page, browser: Browser, studio: RunningStudio
) -> None:
    api_title(page, "TWIN")
    second = browser.new_page(viewport={"width": 1280, "height": 800})
    second.goto(page.url)
    settled(second)
    set_height(page, "0.2")
    settled(page)
    set_height(second, "1.7")
    dialog = second.get_by_role("dialog")
    expect(dialog).to_contain_text("changed in another window")
    expect(dialog.locator("canvas")).to_have_count(2)
    dialog.get_by_role("button", name="Take the other's").click()
    settled(second)
    assert height(second) == "0.2"

    set_height(page, "0.4")
    settled(page)
    set_height(second, "1.9")
    second.get_by_role("dialog").get_by_role("button", name="Keep this window's").click()
    settled(second)
    page.reload()
    settled(page)
    assert height(page) == "1.9"

    set_height(page, "0.6")
    settled(page)
    set_height(second, "1.1")
    second.get_by_role("dialog").get_by_role("button", name="Keep both").click()
    expect(second.get_by_label("Rename")).to_have_value(re.compile("copy"))
    settled(second)
    assert height(second) == "1.1"
    page.reload()
    settled(page)
    assert height(page) == "0.6"
    second.close()


def test_a_server_that_stops_and_comes_back_loses_nothing(
    page: Page, studio: RunningStudio
) -> None:
    api_title(page, "STORM")
    studio.stop()
    try:
        set_height(page, "1.3")
        expect(page.get_by_test_id("saved")).to_contain_text("no connection")
    finally:
        studio.start()
    settled(page)
    page.reload()
    settled(page)
    assert height(page) == "1.3"


def test_what_was_not_saved_survives_a_reload(page: Page, studio: RunningStudio) -> None:
    api_title(page, "SQUALL")
    page.route(
        "**/api/titles/*",
        lambda route: route.abort() if route.request.method == "PUT" else route.continue_(),
    )
    set_height(page, "1.6")
    expect(page.get_by_test_id("saved")).to_contain_text("no connection")
    page.unroute("**/api/titles/*")
    page.reload()
    settled(page)
    assert height(page) == "1.6"


def test_a_title_that_is_not_there_is_told(page: Page) -> None:
    page.goto("/bench/00000000-0000-0000-0000-000000000000")
    expect(page.get_by_role("alert")).to_contain_text("not on the shelf")


def test_a_fault_of_the_document_is_told_in_the_proof(page: Page) -> None:
    api_title(page, "REEF")
    page.route(
        "**/api/preview",
        lambda route: route.fulfill(
            status=422, json={"message": "frame: too large", "place": "frame", "rule": "too large"}
        ),
    )
    set_height(page, "1.2")
    expect(page.get_by_role("alert")).to_contain_text("frame: too large")


def test_a_server_that_stops_in_the_middle_of_a_drag_loses_nothing(
    page: Page, studio: RunningStudio
) -> None:
    api_title(page, "GALE")
    page.get_by_role("button", name="Inflate", exact=True).click()
    label = page.locator(".number .label").filter(has_text="Height").bounding_box()
    x, y = label["x"] + 10, label["y"] + label["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 20, y, steps=4)
    studio.stop()
    try:
        page.mouse.move(x + 50, y, steps=6)
        page.mouse.up()
        expect(page.get_by_test_id("saved")).to_contain_text("no connection")
        wanted = height(page)
    finally:
        studio.start()
    settled(page)
    page.reload()
    settled(page)
    assert height(page) == wanted


def test_a_full_disk_is_told_and_saved_once_there_is_room(page: Page) -> None:
    api_title(page, "HOLD")
    said = "The studio could not read or write: database or disk is full."
    page.route(
        "**/api/titles/*",
        lambda route: (
            route.fulfill(status=503, json={"message": said, "place": "", "rule": said})
            if route.request.method == "PUT"
            else route.continue_()
        ),
    )
    set_height(page, "1.4")
    expect(page.get_by_test_id("saved")).to_contain_text("disk is full")
    page.unroute("**/api/titles/*")
    settled(page)
    page.reload()
    settled(page)
    assert height(page) == "1.4"


def test_undo_survives_a_reload(page: Page) -> None:
    api_title(page, "WAKE")
    was = height(page)
    set_height(page, "0.3")
    set_height(page, "0.5")
    settled(page)
    page.wait_for_timeout(700)  # a moment after the last change it is kept
    page.reload()
    settled(page)
    assert height(page) == "0.5"
    page.get_by_role("button", name="Undo").click()
    assert height(page) == "0.3"
    page.get_by_role("button", name="Undo").click()
    assert height(page) == was
    page.get_by_role("button", name="Redo").click()
    assert height(page) == "0.3"


def test_undo_takes_back_delete_reorder_swap_and_finish(page: Page) -> None:
    api_title(page, "KEEL")
    line = page.get_by_role("navigation", name="Build line").locator(".card .name")
    before = line.all_inner_texts()
    page.get_by_role("button", name="Shade", exact=True).press("Delete")
    page.get_by_role("button", name="Extrude", exact=True).press("Alt+ArrowLeft")
    page.get_by_role("button", name="Lettering", exact=True).first.click()
    page.get_by_label("Words").fill("KEELS")
    page.get_by_label("Words").press("Tab")
    page.keyboard.press("f")
    drawer = page.get_by_role("complementary", name="Finishes")
    drawer.get_by_role("button", name="Enamel").first.click()
    expect(line.first).to_have_text("Gradient")
    page.keyboard.press("f")
    for _ in range(4):
        page.get_by_role("button", name="Undo").click()
    assert line.all_inner_texts() == before
    page.get_by_role("button", name="Lettering", exact=True).first.click()
    expect(page.get_by_label("Words")).to_have_value("KEEL")
