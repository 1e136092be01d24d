"""The shelf: titles kept, renamed, duplicated and deleted."""

import re

from playwright.sync_api import Page, expect

from tests.browser.looking import make_title


def strips(page: Page, name: str):
    return page.get_by_role("link", name=f"Open {name}", exact=True)


def test_titles_are_duplicated_renamed_and_deleted_with_undo(page: Page) -> None:
    make_title(page, "Sextant")
    page.goto("/")
    more = page.get_by_role("button", name="More for Sextant", exact=True)
    more.click()
    page.get_by_text("Duplicate").last.click()
    expect(strips(page, "Sextant copy")).to_be_visible()

    more.click()
    page.get_by_text("Rename").last.click()
    field = page.get_by_label("Rename")
    field.fill("Compass")
    field.press("Enter")
    expect(strips(page, "Compass")).to_be_visible()

    page.get_by_role("button", name="More for Compass").click()
    page.get_by_text("Delete", exact=True).last.click()
    expect(strips(page, "Compass")).not_to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(strips(page, "Compass")).to_be_visible()


def test_titles_are_found_by_name(page: Page) -> None:
    page.goto("/")
    expect(strips(page, "Foghorn")).to_be_visible()
    page.get_by_label("Find a title").fill("gall")
    expect(strips(page, "Galley")).to_be_visible()
    expect(strips(page, "Foghorn")).not_to_be_visible()


def test_font_and_frame_are_chosen_beside_the_word(page: Page) -> None:
    page.goto("/")
    page.get_by_role("textbox", name="Your word").fill("ANCHOR")
    page.get_by_role("button", name="Font: the font that suits").click()
    page.get_by_role("option", name="Chango", exact=True).click()
    page.get_by_role("button", name="Frame: 1920 × 1080").click()
    page.get_by_role("button", name=re.compile("Portrait")).click()
    page.get_by_role("button", name="Make “ANCHOR” in Enamel").click()
    expect(page).to_have_url(re.compile("/bench/"))
    expect(page.get_by_role("button", name="Frame: 1080 × 1350")).to_be_visible()


def test_a_frame_is_typed_and_one_too_large_is_refused(page: Page) -> None:
    page.goto("/")
    page.get_by_role("button", name="Frame: 1920 × 1080").click()
    page.get_by_label("Width").fill("100000")
    page.get_by_label("Height").fill("100000")
    expect(page.get_by_role("alert")).to_contain_text("At most 16384 a side")
    expect(page.get_by_role("button", name="Use")).to_be_disabled()
    page.get_by_label("Width").fill("1000")
    page.get_by_label("Height").fill("400")
    page.get_by_role("button", name="Use").click()
    expect(page.get_by_role("button", name="Frame: 1000 × 400")).to_be_visible()


def test_every_strip_has_its_picture(page: Page) -> None:
    page.goto("/")
    page.get_by_label("Find a title").fill("Foghorn")
    # The finishes come first, all of them, on a server that has rendered nothing yet; what lies
    # beneath them is asked for when one looks at it.
    strips(page, "Foghorn").scroll_into_view_if_needed()
    expect(strips(page, "Foghorn").locator("img")).to_be_visible(timeout=90_000)
    page.wait_for_function(
        "() => [...document.querySelectorAll('.strips img')].slice(0, 2)"
        ".every((img) => img.complete && img.naturalWidth === 800)"
    )
