"""Shapes of one's own and words along lines, made in the page."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.looking import api_title, choose, settled


@pytest.fixture
def bench(page: Page) -> Page:
    page.title_id = api_title(page, "ROPE")  # type: ignore[attr-defined]
    return page


def layers(page: Page) -> list[dict]:
    settled(page)
    saved = page.request.get(f"/api/titles/{page.title_id}").json()  # type: ignore[attr-defined]
    return saved["document"]["layers"]


def add_shapes(page: Page) -> None:
    page.get_by_role("button", name="Add a layer").click()
    page.get_by_role("listitem").filter(has_text=re.compile("^Shapes$")).click()
    settled(page)
    page.get_by_role("button", name="Shapes", exact=True).first.click()
    expect(page.get_by_role("button", name="Add a shape")).to_be_visible()


def test_shapes_are_added_joined_cut_and_dragged(bench: Page) -> None:
    page = bench
    add_shapes(page)
    page.get_by_role("button", name="Add a shape").click()
    page.get_by_text("Ellipse", exact=True).click()
    settings = page.get_by_role("region", name="Shapes", exact=True).first
    settings.get_by_role("radio", name="Cut").click()
    own = layers(page)[-1]
    assert [(each["form"], each["combine"]) for each in own["source"]["shapes"]] == [
        ("gear", "join"),
        ("ellipse", "cut"),
    ]
    handle = page.get_by_role("button", name="Middle of the shape")
    handle.focus()
    for _ in range(3):
        page.keyboard.press("Shift+ArrowRight")
    assert layers(page)[-1]["source"]["shapes"][1]["x"] == pytest.approx(30, abs=0.5)
    side = page.get_by_role("button", name="Width and turn of the shape")
    box = side.bounding_box()
    assert box is not None
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] / 2 + 40, box["y"] + box["height"] / 2, steps=4)
    page.mouse.up()
    assert layers(page)[-1]["source"]["shapes"][1]["width"] > 420
    page.get_by_role("button", name="Move the Ellipse up the list").click()
    assert layers(page)[-1]["source"]["shapes"][0]["form"] == "ellipse"
    page.get_by_role("button", name="Remove the Ellipse").click()
    assert [each["form"] for each in layers(page)[-1]["source"]["shapes"]] == ["gear"]
    page.get_by_role("button", name="Undo").click()
    assert len(layers(page)[-1]["source"]["shapes"]) == 2


def test_a_path_is_drawn_with_the_pen_and_changed_with_the_keys(bench: Page) -> None:
    page = bench
    add_shapes(page)
    page.get_by_role("button", name="Add a shape").click()
    page.get_by_text("Drawn path", exact=True).click()
    page.get_by_role("button", name="Draw in the proof").click()
    expect(page.get_by_role("status").filter(has_text="Escape ends")).to_be_visible()
    for index, (x, y) in enumerate([(320, 300), (440, 260), (560, 360), (400, 430)]):
        page.mouse.move(x, y)
        page.mouse.down()
        if index == 1:
            page.mouse.move(x + 40, y + 10, steps=3)
        page.mouse.up()
    page.keyboard.press("Escape")
    nodes = layers(page)[-1]["source"]["shapes"][1]["nodes"]
    assert len(nodes) == 4
    assert nodes[0][2:] == [0, 0, 0, 0]
    assert nodes[1][4] > 0
    assert nodes[1][2] == pytest.approx(-nodes[1][4])
    page.get_by_role("button", name="Place 3 of the path").focus()
    page.keyboard.press("Shift+ArrowDown")
    moved = layers(page)[-1]["source"]["shapes"][1]["nodes"]
    assert moved[2][1] == pytest.approx(nodes[2][1] + 10, abs=0.2)
    page.get_by_role("button", name="Add a place after place 1").focus()
    page.keyboard.press("Enter")
    assert len(layers(page)[-1]["source"]["shapes"][1]["nodes"]) == 5
    page.get_by_role("button", name="Place 2 of the path").focus()
    page.keyboard.press("Delete")
    assert len(layers(page)[-1]["source"]["shapes"][1]["nodes"]) == 4
    for _ in range(3):
        page.get_by_role("button", name="Undo").click()
    assert layers(page)[-1]["source"]["shapes"][1]["nodes"] == nodes


def test_a_frame_goes_around_the_word_and_words_go_along_a_circle(bench: Page) -> None:
    page = bench
    add_shapes(page)
    settings = page.get_by_role("region", name="Shapes", exact=True).first
    page.get_by_role("button", name="Add a shape").click()
    page.get_by_text("Frame", exact=True).click()
    around = settings.locator(".choice").filter(has_text="Around").locator(".v-field")
    choose(page, around, "ROPE")
    frame = layers(page)[-1]["source"]["shapes"][1]
    word = next(each for each in layers(page) if each["kind"] == "lettering")
    assert (frame["form"], frame["around"]) == ("frame", word["id"])
    page.get_by_role("button", name=re.compile("^ROPE")).first.click()
    page.get_by_role("button", name="Lettering", exact=True).first.click()
    page.get_by_role("checkbox", name="Along a line").click()
    assert (
        next(each for each in layers(page) if each["kind"] == "lettering")["source"]["along"]["on"]
        == "circle"
    )
    page.get_by_role("radio", name="Line", exact=True).click()
    page.get_by_role("button", name="Place 1 of the path").focus()
    page.keyboard.press("ArrowDown")
    along = next(each for each in layers(page) if each["kind"] == "lettering")["source"]["along"]
    assert along["on"] == "line"
    assert along["nodes"][0][1] == pytest.approx(61, abs=0.2)
