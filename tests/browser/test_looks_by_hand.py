"""Whole looks made by hand in the page, from a title in which nothing is built yet."""

import re

import numpy as np
from playwright.sync_api import Page, expect

from tests.browser.in_time import number
from tests.browser.looking import proof_pixels, settled


def empty_title(page: Page, text: str, font: str) -> str:
    """A word in its font on a plain ground; its id."""
    made = page.request.post("/api/titles", data={"text": text, "font": font}).json()
    document = made["document"]
    for layer in document["layers"]:
        layer["build"] = []
    body = {"version": made["version"], "document": document}
    assert page.request.put(f"/api/titles/{made['id']}", data=body).ok
    page.goto(f"/bench/{made['id']}")
    settled(page)
    return made["id"]


def add_step(page: Page, wanted: str, label: str) -> None:
    page.get_by_role("button", name=re.compile("^Add a step")).last.click()
    page.get_by_label("Find a step by name or by need").fill(wanted)
    page.locator(".v-menu li").get_by_text(label, exact=True).first.click()
    settled(page)


def add_shapes(page: Page, form: str) -> None:
    """A layer of one shape."""
    page.get_by_role("button", name="Add a layer").click()
    page.get_by_role("listitem").filter(has_text=re.compile("^Shapes$")).click()
    settled(page)
    page.get_by_role("button", name="Shapes", exact=True).first.click()
    page.get_by_role("button", name="Add a shape").click()
    page.get_by_text(form, exact=True).last.click()
    page.get_by_role("button", name="Remove the Gear").click()
    settled(page)


def saved(page: Page, title: str) -> dict:
    settled(page)
    return page.request.get(f"/api/titles/{title}").json()["document"]


def test_a_glossy_word_on_a_splash_before_a_twisted_swirl(page: Page) -> None:
    title = empty_title(page, "SQUALL", "Fredoka")
    bare = proof_pixels(page)
    for wanted, label in (("flat", "Flat colour"), ("puffy", "Inflate"), ("shade", "Shade")):
        add_step(page, wanted, label)
    for form, build in (
        ("Splash", ("Flat colour", "Bevel", "Shade", "Drop shadow")),
        ("Swirl", ("Flat colour", "Bevel", "Shade")),
    ):
        add_shapes(page, form)
        number(page, "Width", 1500 if form == "Splash" else 900)
        number(page, "Height", 900)
        number(page, "Arms", 15 if form == "Splash" else 9)
        number(page, "Twist", 10 if form == "Splash" else 140)
        for label in build:
            add_step(page, label, label)
        layer = page.get_by_role("region", name="Layers").get_by_role("button", name="Shapes").first
        for _ in range(1 if form == "Splash" else 2):  # behind the word, and behind the splash
            layer.press("Alt+ArrowDown")
            settled(page)
    document = saved(page, title)
    kinds = [each["kind"] for each in document["layers"]]
    assert kinds == ["backdrop", "shapes", "shapes", "lettering"]
    forms = [layer["source"]["shapes"][0]["form"] for layer in document["layers"][1:3]]
    assert forms == ["swirl", "splash"]
    assert document["layers"][1]["source"]["shapes"][0]["twist"] == 140
    assert [step["step"] for step in document["layers"][3]["build"]] == [
        "surface.flat", "relief.inflate", "light.shade",
    ]  # fmt: skip
    seen = proof_pixels(page)
    assert np.abs(seen - bare).max(axis=-1).mean() > 20


def test_block_letters_with_painted_cells_and_one_outline(page: Page) -> None:
    title = empty_title(page, "ROCK", "Press Start 2P")
    for wanted, label in (
        ("flat", "Flat colour"),
        ("pixel", "Cells"),
        ("3d", "Extrude"),
        ("comic", "Outline"),
    ):
        add_step(page, wanted, label)
    page.get_by_role("button", name="Cells", exact=True).click()
    hand = page.get_by_role("group", name="By hand")
    hand.get_by_role("button", name="Fill cells that hang together").click()
    board = page.get_by_role("application", name="Cells.")
    board.focus()
    for _ in range(2):
        page.keyboard.press("Space")
        settled(page)
        page.keyboard.press("ArrowRight")
        for _ in range(8):
            page.keyboard.press("ArrowRight")
    build = next(e for e in saved(page, title)["layers"] if e["kind"] == "lettering")["build"]
    assert [step["step"] for step in build] == [
        "surface.flat", "surface.cells", "depth.extrude", "depth.outline",
    ]  # fmt: skip
    painted = build[1]["settings"]["painted"]
    assert painted["words"] == "ROCK"
    assert len(painted["letters"]) == 2
    page.get_by_role("button", name="Undo").click()
    build = next(e for e in saved(page, title)["layers"] if e["kind"] == "lettering")["build"]
    assert len(build[1]["settings"]["painted"]["letters"]) == 1


def test_a_bevelled_extrusion_broken_apart_and_filled_by_hand(page: Page) -> None:
    title = empty_title(page, "BEACON", "Archivo Black")
    for wanted, label in (
        ("flat", "Flat colour"), ("bevel", "Bevel"), ("shade", "Shade"), ("extrude", "Extrude"),
        ("stained glass", "Painted parts"),
    ):  # fmt: skip
        add_step(page, wanted, label)
    panel = page.get_by_role("group", name="By hand")
    expect(panel).to_contain_text(re.compile(r"\d\d parts"))
    bare = proof_pixels(page)
    board = page.get_by_role("application", name="Parts.")
    colours = ["#E2662F", "#2B7F8C", "#F4B942", "#7C2232", "#FFE6A3", "#155063"]
    board.focus()
    for at in range(12):
        for _ in range(5):
            page.keyboard.press("PageDown")
        page.keyboard.press("Enter")
        field = panel.get_by_role("textbox", name=re.compile("^Colour")).first
        field.fill(colours[at % 6])
        field.press("Enter")
        board.focus()
    paints = saved(page, title)["layers"][-1]["build"][-1]["settings"]["paints"]["parts"]
    assert len(paints) == 12
    assert {each["colour"].upper() for each in paints} == set(colours)
    assert len({each["letter"] for each in paints}) >= 3
    seen = proof_pixels(page)
    assert (np.abs(seen - bare).max(axis=-1) > 20).mean() > 0.01
