"""Take the pictures in docs/screenshots from the demo data, at 1280×800; those named, or all."""

import re
import sys
import tempfile
from pathlib import Path

from playwright.sync_api import Page, expect, sync_playwright

from tests.browser.looking import choose, open_title, settled
from tools.running_studio import CHROMIUM, ROOT, RunningStudio

FOLDER = ROOT / "docs" / "screenshots"
COMPLETE = """() => {
    const cards = [...document.querySelectorAll('nav[aria-label="Build line"] .card')];
    return cards.every((each) => each.querySelector('img'))
        && !document.body.innerText.includes('Measuring');
}"""
"""The build line's pictures and the readings come last."""


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
            page.set_default_timeout(180_000)
            expect.set_options(timeout=60_000)
            for name in sys.argv[1:] or VIEWS:
                VIEWS[name](page)
                page.wait_for_function(COMPLETE)
                page.wait_for_timeout(1200)
                page.screenshot(path=FOLDER / f"{name}.png")
            browser.close()
        finally:
            studio.stop()


def shelf(page: Page) -> None:
    page.goto("/")
    page.get_by_role("textbox", name="Your word").fill("HARBOUR")
    page.get_by_alt_text("HARBOUR, Enamel").wait_for()
    page.wait_for_function(
        "() => [...document.querySelectorAll('.finishes .strip')]"
        ".every((each) => each.querySelector('img'))"
    )
    page.wait_for_function(
        "() => [...document.querySelectorAll('.strips img')].every((each) => each.naturalWidth)"
    )


def open_step(page: Page, title: str, step: str) -> None:
    open_title(page, title)
    page.get_by_role("button", name=step, exact=True).click()


def bench(page: Page) -> None:
    open_step(page, "Foghorn", "Gradient map")
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
    page.get_by_role("button", name="Font: the font that suits").click()
    page.get_by_role("option", name="Anton", exact=True).wait_for()


def stops(page: Page) -> None:
    open_step(page, "Salt", "Gradient map")
    page.locator(".histogram rect").first.wait_for()
    page.mouse.move(632, 430)


def scene(page: Page) -> None:
    open_step(page, "Tide table", "Reflection")
    settled(page)
    line = "() => document.querySelectorAll('nav[aria-label=\"Build line\"] img').length > 6"
    page.wait_for_function(line)
    page.mouse.move(1100, 770)


def curves(page: Page) -> None:
    open_step(page, "Gull", "Curves")
    page.locator(".curve .histogram rect").first.wait_for()
    page.mouse.move(486, 402)


def split(page: Page) -> None:
    open_step(page, "Buoy", "Inflate")
    page.keyboard.press("s")
    settled(page)


def finishes(page: Page) -> None:
    page.keyboard.press("s")
    page.keyboard.press("f")
    page.get_by_role("complementary").get_by_alt_text("Copper pipe").wait_for()
    settled(page)


def cut_out(page: Page) -> None:
    open_title(page, "Gull")
    page.get_by_role("button", name="Picture", exact=True).first.click()
    choose(page, page.locator(".settings .v-select").first, "badge.png")
    settled(page)
    page.get_by_role("button", name="Cut out…").click()
    dialog = page.get_by_role("dialog")
    choose(page, dialog.locator(".v-select").first, "By colours")
    page.wait_for_timeout(1000)  # the list has gone, the picture has come
    box = dialog.get_by_alt_text("badge.png").bounding_box()
    assert box
    page.mouse.click(box["x"] + box["width"] * 0.57, box["y"] + box["height"] * 0.38)
    dialog.get_by_label("Only what hangs together with a pick").uncheck()
    page.wait_for_timeout(1500)


def library(page: Page) -> None:
    page.goto("/library")
    page.get_by_alt_text("planks.jpg").wait_for()


def word_list(page: Page) -> None:
    page.goto("/words")
    words = "CAST OFF\nNIGHT WATCH\nTHE SOUND\nFOG BANK\nLAST PORT\nHARD\\nASTERN"
    page.get_by_label("Words, one a line").fill(words)
    page.get_by_alt_text("Hard astern").wait_for()


def shot(page: Page) -> None:
    """A title over the harbour wall, with somebody who walks before it."""
    making = {"text": "LANDFALL", "finish": "ship-brass", "width": 1920, "height": 1080}
    made = page.request.post("/api/titles", data=making).json()
    kept = page.request.get(f"/api/titles/{made['id']}").json()
    document = kept["document"]
    word = next(each for each in document["layers"] if each["kind"] == "lettering")
    word["placement"]["y"] = 240
    document["frame"]["duration"] = 3
    document["lights"][0] |= {"azimuth": 318, "elevation": 36}
    seen = {"azimuth": 318, "elevation": 36}
    shot = {"picture": "harbour-wall.webm", "light": seen}
    wall = {"kind": "plate", "name": "Harbour wall", "source": shot}
    screen = {"kind": "screen", "colour": "#0da83d"}
    source = {"picture": "walking-by.webm", "height": 1040, "cut": screen}
    shadow = {"step": "ground.drop_shadow", "settings": {"offset": 120, "blur": 22}}
    walker = {"kind": "picture", "name": "Walking by", "source": source, "build": [shadow]}
    document["layers"] = [wall, word, walker]
    body = {"version": kept["version"], "document": document}
    assert page.request.put(f"/api/titles/{made['id']}", data=body).ok
    page.goto(f"/bench/{made['id']}")
    settled(page)
    page.get_by_role("region", name="Layers").get_by_text("Walking by").click()
    page.get_by_role("button", name="Lettering", exact=True).or_(
        page.get_by_role("button", name="Picture", exact=True)
    ).first.click()
    foot = page.locator(".gnomon .foot").first
    box = foot.bounding_box()
    assert box
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.mouse.move(830, 400, steps=4)
    page.mouse.up()
    page.keyboard.press("y")
    settled(page)
    page.wait_for_function(
        "() => !document.querySelector('#app').__vue_app__.config.globalProperties"
        ".$pinia._s.get('film').strip.length"
    )


def export(page: Page) -> None:
    open_title(page, "Foghorn")
    page.get_by_role("button", name="Export", exact=True).click()
    dialog = page.get_by_role("dialog", name="Export")
    dialog.get_by_role("button", name="For the web").click()
    choose(page, dialog.locator(".choice", has_text="Size").locator(".v-select"), "25 %")
    dialog.get_by_test_id("export").click()
    dialog.get_by_role("button", name="Fetch Foghorn.webm").wait_for()
    dialog.get_by_role("button", name="For compositing").click()
    dialog.get_by_test_id("export").click()
    page.wait_for_function("() => / of 125, .* left/.test(document.body.innerText)")
    dialog.get_by_text("About", exact=False).last.wait_for()


def timing(page: Page) -> None:
    open_step(page, "Foghorn", "Gradient map")
    page.keyboard.press("y")
    page.get_by_role("button", name="Scale, FOGHORN").click()
    page.get_by_role("button", name="Scale at 0.00 s").click()
    field = page.get_by_role("textbox", name="Time", exact=True)
    field.fill("2.4")
    field.press("Enter")
    settled(page)
    page.wait_for_timeout(6000)  # frames come in
    settled(page)


def arrivals(page: Page) -> None:
    open_step(page, "Galley", "Shade")
    page.keyboard.press("r")
    drawer = page.get_by_role("complementary", name="Arrivals")
    page.wait_for_function("() => document.querySelectorAll('aside .frames').length > 5")
    drawer.hover()
    page.wait_for_timeout(2500)


def cells(page: Page) -> None:
    open_title(page, "Depth 40")
    page.get_by_role("button", name="Cells", exact=True).last.click()
    settled(page)
    page.get_by_role("button", name="Paint cells in the proof").click()
    choose(page, page.get_by_role("group", name="By hand").locator(".v-field"), "Quarters")
    board = page.get_by_role("application", name="Cells.")
    board.focus()
    page.keyboard.press("ArrowDown")
    box = board.bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + 150, box["y"] + 62)


def shapes(page: Page) -> None:
    open_title(page, "Squall")
    page.get_by_role("region", name="Layers").get_by_role("button", name="Splash 4").click()
    page.get_by_role("button", name="Shapes", exact=True).first.click()
    page.get_by_role("list", name="Shapes").get_by_role(
        "button", name="Splash", exact=False
    ).first.click()
    settled(page)


def parts(page: Page) -> None:
    open_title(page, "Beacon")
    page.get_by_role("button", name="Painted parts", exact=True).click()
    panel = page.get_by_role("group", name="By hand")
    spread = panel.get_by_role("textbox", name="Spread")
    spread.fill("55")
    spread.press("Enter")
    front = page.locator("[data-part='A1-front-1']")
    expect(front).to_have_attribute("style", re.compile("fill"))
    front.dispatch_event("pointerdown", {"button": 0})
    settled(page)


VIEWS = {
    "shelf": shelf,
    "bench": bench,
    "timing": timing,
    "export": export,
    "shot": shot,
    "arrivals": arrivals,
    "bench-lamp-off": bench_lamp_off,
    "fonts": fonts,
    "stops": stops,
    "scene": scene,
    "curves": curves,
    "split": split,
    "finishes": finishes,
    "cut-out": cut_out,
    "library": library,
    "word-list": word_list,
    "cells": cells,
    "shapes": shapes,
    "parts": parts,
}


if __name__ == "__main__":
    main()
