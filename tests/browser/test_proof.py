"""The proof: panes, wipe, loupe, guides, a plate behind, and handles."""

import re

import numpy as np
from playwright.sync_api import Page, expect

from tests.browser.looking import api_title, choose, document, drag, proof_pixels, settled


def card(page: Page, label: str):
    return page.get_by_role("button", name=label, exact=True)


def word(page: Page, title: str) -> dict:
    return document(page, title)["layers"][-1]


def middle(page: Page) -> tuple[float, float]:
    box = page.locator("canvas.picture").first.bounding_box()
    return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2


def test_two_panes_have_a_tap_each_and_one_zoom(page: Page) -> None:
    api_title(page, "ROPE")
    page.keyboard.press("s")
    expect(page.locator("canvas.picture")).to_have_count(2)
    choose(page, page.locator(".v-select.tap").nth(1), "Matte")
    settled(page)
    page.wait_for_function("() => !document.querySelector('[data-lane=proof-2][data-coarse=true]')")
    page.keyboard.press("+")
    boxes = [page.locator("canvas.picture").nth(i).bounding_box() for i in (0, 1)]
    assert abs(boxes[0]["width"] - boxes[1]["width"]) < 0.01
    assert abs(boxes[0]["y"] - boxes[1]["y"]) < 0.01
    grey = page.evaluate("""() => {
        const c = document.querySelector('[data-lane=proof-2]');
        const p = c.getContext('2d').getImageData(0, 0, c.width, c.height).data;
        return p.every((value, i) => i % 4 === 3 || value === p[i - i % 4]);
    }""")
    assert grey


def test_marks_are_wiped_against_and_gone_back_to(page: Page) -> None:
    api_title(page, "ROPE")
    before = proof_pixels(page)
    page.keyboard.press("m")
    expect(page.get_by_text("Mark 1 is set.")).to_be_visible()
    card(page, "Gradient map").click()
    page.keyboard.press("o")
    settled(page)
    changed = proof_pixels(page)
    page.get_by_role("button", name="Marks", exact=True).click()
    page.get_by_role("button", name="Compare").click()
    wipe = page.get_by_role("slider", name="Wipe between the two states")
    expect(wipe).to_be_visible()
    expect(page.locator("canvas.picture")).to_have_count(2)
    was = page.locator("[data-lane=compared]").get_attribute("style")
    wipe.press("Shift+ArrowLeft")
    expect(page.locator("[data-lane=compared]")).not_to_have_attribute("style", was)
    page.get_by_role("button", name="End the comparison").click()
    expect(page.locator("canvas.picture")).to_have_count(1)

    page.keyboard.press("Shift+M")
    page.get_by_role("button", name="Go back to it").click()
    settled(page)
    assert np.array_equal(proof_pixels(page), before)
    page.get_by_role("button", name="Undo").first.click()
    settled(page)
    assert np.array_equal(proof_pixels(page), changed)


def test_marks_are_renamed_and_deleted_and_earlier_saves_restored(page: Page) -> None:
    api_title(page, "ROPE")
    card(page, "Inflate").click()
    page.get_by_label("Height, ").fill("0.3")
    page.get_by_label("Height, ").press("Enter")
    settled(page)
    page.keyboard.press("Shift+M")
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Name of the mark").fill("Flat")
    dialog.get_by_role("button", name="Set mark").click()
    dialog.get_by_role("button", name="Rename: Flat").click()
    dialog.get_by_label("Rename", exact=True).fill("Flatter")
    dialog.get_by_label("Rename", exact=True).press("Enter")
    dialog.get_by_role("button", name="Delete: Flatter").click()
    expect(dialog.get_by_text("No marks yet")).to_be_visible()
    dialog.get_by_role("tab", name="Earlier saves").click()
    first = dialog.get_by_role("listitem").filter(has_text="Save 1")
    first.get_by_role("button", name="Go back to it").click()
    settled(page)
    expect(page.get_by_label("Height, ")).not_to_have_value("0.3")


def test_the_loupe_tells_colour_height_and_brightness(page: Page) -> None:
    api_title(page, "HHHH")
    page.keyboard.press("l")
    x, y = middle(page)
    page.mouse.move(x, y - 2)
    ink = proof_pixels(page)[..., 0] > 120
    row, column = (int(axis[len(axis) // 2]) for axis in np.nonzero(ink))
    canvas = page.locator("canvas.picture").bounding_box()
    page.mouse.move(canvas["x"] + column + 0.5, canvas["y"] + row + 0.5)
    loupe = page.get_by_role("complementary", name="Loupe")
    expect(loupe).to_contain_text(re.compile(r"\d+\.\d px"))
    expect(loupe).to_contain_text(re.compile(r"\d+ %"))
    shown = loupe.get_by_test_id("loupe-code").inner_text().strip().lower()
    red, green, blue = (int(value) for value in proof_pixels(page)[row, column, :3])
    assert shown == f"#{red:02x}{green:02x}{blue:02x}"


def test_guides_and_a_plate_lie_under_and_over(page: Page) -> None:
    api_title(page, "ROPE")
    assert proof_pixels(page)[2, 2, 3] == 255
    page.keyboard.press("g")
    expect(page.locator(".guides rect")).to_have_count(4)
    page.get_by_role("button", name="Over a picture of your own").click()
    page.get_by_text("planks.jpg").click()
    expect(page.locator(".plate")).to_be_visible()
    settled(page)
    assert proof_pixels(page)[2, 2, 3] == 0  # the backdrop is away


def test_the_lettering_is_moved_scaled_and_turned_on_the_proof(page: Page) -> None:
    title = api_title(page, "ROPE")
    card(page, "Lettering").first.click()
    body = page.get_by_role("button", name="Move ROPE")
    expect(body).to_be_visible()
    drag(page, body, 60, -20)
    settled(page)
    placed = word(page, title)["placement"]
    assert placed["x"] > 50
    assert placed["y"] < -10
    drag(page, page.get_by_role("button", name="Scale ROPE").last, 30, -8)
    drag(page, page.get_by_role("button", name="Turn ROPE"), 60, 10)
    settled(page)
    placed = word(page, title)["placement"]
    assert placed["scale"] < 0.99
    assert placed["turn_z"] > 3
    for _ in range(3):
        page.keyboard.press("Control+z")
    settled(page)
    assert word(page, title)["placement"] == placed | {"x": 0, "y": 0, "scale": 1, "turn_z": 0}


def test_every_directed_light_has_a_gnomon_and_placed_ones_a_handle(page: Page) -> None:
    title = api_title(page, "ROPE")
    page.get_by_role("button", name="Add a light").click()
    page.get_by_text("Parallel light").click()
    expect(page.get_by_role("slider", name="Fill light: drag")).to_be_visible()
    drag(page, page.get_by_role("slider", name="Fill light: drag"), -40, -30)
    page.get_by_role("button", name="Add a light").click()
    page.get_by_text("Light at a place").click()
    drag(page, page.get_by_role("button", name="Place of Fill"), -50, 20)
    settled(page)
    key, fill, point = document(page, title)["lights"]
    assert fill["azimuth"] != 20
    assert 0 < point["x"] < 250
    assert key["azimuth"] == 235


def test_the_tip_of_a_low_light_stays_within_the_proof(page: Page) -> None:
    title = api_title(page, "ROPE")
    page.get_by_role("button", name="Key 235°").click()
    azimuth, elevation = (
        page.locator(".settings").get_by_role("textbox", name=f"{each}, ").first
        for each in ("Azimuth", "Elevation")
    )
    tip = page.get_by_role("slider", name="Key light: drag")
    pane = page.get_by_role("application", name="Proof").bounding_box()
    assert pane
    for around in (0, 90, 180, 270):
        for field, value in ((azimuth, around), (elevation, 3)):
            field.fill(str(value))
            field.press("Enter")
        settled(page)
        box = tip.bounding_box()
        assert box
        assert pane["x"] <= box["x"] <= pane["x"] + pane["width"] - box["width"]
        assert pane["y"] <= box["y"] <= pane["y"] + pane["height"] - box["height"]
    drag(page, tip, 60, 0)
    settled(page)
    assert document(page, title)["lights"][0]["elevation"] > 4  # it could be taken


def test_the_side_view_moves_lights_and_cards_in_depth(page: Page) -> None:
    title = api_title(page, "ROPE")
    lamp = page.get_by_role("slider", name="From the side: Key")
    drag(page, lamp, 90, 0)
    side = page.get_by_role("region", name="Side view").get_by_role("status")
    expect(side).to_contain_text("Key: Stands behind the lettering")
    readings = page.get_by_role("region", name="Readings")
    expect(readings.get_by_role("button", name="Key stands behind")).to_be_visible()
    page.keyboard.press("Control+z")
    page.get_by_role("slider", name="Depth of ROPE").press("Shift+ArrowLeft")
    settled(page)
    saved = document(page, title)
    assert saved["layers"][-1]["placement"]["z"] == 10
    assert saved["lights"][0]["elevation"] > 0


def test_points_and_arms_of_a_gradient_are_dragged(page: Page) -> None:
    title = api_title(page, "ROPE")
    page.get_by_role("button", name="Add a step at Relief").click()
    page.get_by_label("Find a step by name or by need").fill("gradient")
    page.get_by_text("Gradient", exact=True).click()
    drag(page, page.get_by_role("button", name="Centre", exact=True), 40, 0)
    drag(page, page.get_by_role("button", name="Direction and length", exact=True), 50, 0)
    settled(page)
    added = next(s for s in word(page, title)["build"] if s["step"] == "surface.gradient")
    assert added["settings"]["centre"][0] > 20
    assert added["settings"]["angle"] != 90


def test_bends_corners_and_spots_have_handles(page: Page) -> None:
    title = api_title(page, "ROPE")

    def add(words: str, label: str) -> None:
        page.get_by_role("button", name="Add a step at Surface").first.click()
        page.get_by_label("Find a step by name or by need").fill(words)
        page.locator(".v-menu li").get_by_text(label, exact=True).first.click()

    add("bend", "Bend")
    drag(page, page.get_by_role("button", name="Amount", exact=True), 0, -25)
    add("corners", "Corners")
    drag(page, page.get_by_role("button", name="Top left", exact=True), -20, -20)
    add("spots", "Colour spots")
    drag(page, page.get_by_role("button", name="Spot 1", exact=True).first, 30, 5)
    settled(page)
    settings = {step["step"]: step["settings"] for step in word(page, title)["build"]}
    assert settings["shape.bend"]["amount"] > 50
    assert settings["shape.corners"]["top_left"][0] < 0
    assert settings["tone.colour_spots"]["spots"]


def test_readings_lead_to_what_they_speak_of(page: Page) -> None:
    api_title(page, "ROPE")
    page.get_by_role("button", name="Add a step at Relief").click()
    page.get_by_label("Find a step by name or by need").fill("bevel")
    page.keyboard.press("Enter")
    field = page.get_by_label("Width, ")
    field.fill("400")
    field.press("Enter")
    card(page, "Shade").click()
    readings = page.get_by_role("region", name="Readings")
    readings.get_by_role("button", name="too thin for bevel").click()
    expect(page.get_by_role("heading", name="Bevel")).to_be_visible()


def test_the_profile_is_dragged_in_the_section(page: Page) -> None:
    title = api_title(page, "HHHH")
    page.get_by_role("button", name="Add a step at Relief").click()
    page.get_by_label("Find a step by name or by need").fill("bevel")
    page.keyboard.press("Enter")
    points = page.get_by_role("slider", name=re.compile("Point . of the profile"))
    expect(points).to_have_count(5)
    points.nth(2).press("Shift+ArrowDown")
    settled(page)
    bevel = next(s for s in word(page, title)["build"] if s["step"] == "relief.bevel")
    assert bevel["settings"]["profile"][2][1] < 0.75
