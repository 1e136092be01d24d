"""Take the pictures in docs/screenshots from the demo data, at 1280×800."""

import tempfile
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from tests.browser.looking import open_title, settled
from tools.running_studio import CHROMIUM, ROOT, RunningStudio

FOLDER = ROOT / "docs" / "screenshots"


def main() -> None:
    FOLDER.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as state, sync_playwright() as playwright:
        studio = RunningStudio(Path(state))
        studio.prepare()
        studio.start()
        try:
            browser = playwright.chromium.launch(**CHROMIUM)
            size = {"width": 1280, "height": 800}
            page = browser.new_page(viewport=size, base_url=studio.url)
            for name, show in VIEWS.items():
                show(page)
                page.wait_for_timeout(1200)  # the build line's pictures come last
                page.screenshot(path=FOLDER / f"{name}.png")
            browser.close()
        finally:
            studio.stop()


def shelf(page: Page) -> None:
    page.goto("/")
    page.get_by_role("textbox", name="Your word").fill("HARBOUR")
    page.get_by_alt_text("HARBOUR, Enamel").wait_for()
    page.wait_for_function(
        "() => [...document.querySelectorAll('.strips img')].every((each) => each.naturalWidth)"
    )


def bench(page: Page) -> None:
    open_title(page, "Foghorn")
    page.get_by_role("button", name="Gradient map", exact=True).click()
    settled(page)
    page.mouse.move(566, 410)


def bench_lamp_off(page: Page) -> None:
    page.get_by_role("button", name="Lamp off").click()
    page.get_by_role("button", name="Shade", exact=True).click()
    page.get_by_role("button", name="1:1").click()
    settled(page)


def fonts(page: Page) -> None:
    page.get_by_role("button", name="Lamp on").click()
    page.get_by_role("button", name="Fit").click()
    page.get_by_role("button", name="Lettering", exact=True).first.click()
    page.get_by_role("button", name="Font: Titan One").click()


VIEWS = {"shelf": shelf, "bench": bench, "bench-lamp-off": bench_lamp_off, "fonts": fonts}


if __name__ == "__main__":
    main()
