"""Two windows, a stopped server, a lost connection: nothing acknowledged is lost."""

import re

from playwright.sync_api import Browser, Page, expect

from tests.browser.looking import make_title, settled
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
    make_title(page, "TWIN")
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
    make_title(page, "STORM")
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
    make_title(page, "SQUALL")
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
    make_title(page, "REEF")
    page.route(
        "**/api/preview",
        lambda route: route.fulfill(
            status=422, json={"message": "frame: too large", "place": "frame", "rule": "too large"}
        ),
    )
    set_height(page, "1.2")
    expect(page.get_by_role("alert")).to_contain_text("frame: too large")
