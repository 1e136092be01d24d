"""The timing view by hand: pegs, lanes, film, playing, arrivals, clips and keys."""

import json

import pytest
from playwright.sync_api import Page, Request, expect

from tests.browser.in_time import FILM, FRAMES, go_to, lane, number, peg, word
from tests.browser.looking import choose, settled


def test_a_moving_setting_that_is_changed_gets_its_peg_and_is_stopped(bench: Page) -> None:
    page = bench
    peg(page, "Height").click()
    go_to(page, 1)
    number(page, "Height", 0.4)
    go_to(page, 0.48)
    expect(peg(page, "Height")).to_have_attribute("aria-pressed", "false")
    page.locator(".settings").get_by_role("slider", name="Height").press("ArrowRight")
    expect(peg(page, "Height")).to_have_attribute("aria-pressed", "true")
    height = word(page)["build"][0]["settings"]["height"]
    assert [each["at"] for each in height["pegs"]] == [0, 0.48, 1]
    peg(page, "Height").click(button="right")
    assert isinstance(word(page)["build"][0]["settings"]["height"], float)
    page.get_by_role("button", name="Undo").click()
    expect(lane(page, "Height")).to_be_visible()


def test_pegs_are_dragged_framed_copied_and_come_back_by_one_undo_each(bench: Page) -> None:
    page = bench
    page.context.grant_permissions(["clipboard-read", "clipboard-write"])
    peg(page, "Height").click()
    go_to(page, 2)
    number(page, "Height", 0.4)
    lane(page, "Height").click()
    last = page.get_by_role("button", name="Height at 2.00 s")
    box = last.locator("circle").last.bounding_box()
    assert box
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    for step in range(1, 9):
        page.mouse.move(x + 10 * step, y - 2 * step)
    page.mouse.up()

    def pegs() -> list[tuple[float, float]]:
        found = word(page)["build"][0]["settings"]["height"]
        return [(each["at"], each["value"]) for each in found["pegs"]]

    moved = pegs()
    assert moved[1][0] > 2.3
    assert moved[1][1] > 0.4
    assert (moved[1][0] * 25) % 1 == pytest.approx(0, abs=1e-3)  # on a frame
    page.get_by_role("button", name="Undo").click()
    assert pegs()[1] == (2, 0.4)

    track = page.locator(".track").first.bounding_box()
    assert track
    page.mouse.move(track["x"] + 2, track["y"] + track["height"] - 3)
    page.mouse.down()
    page.mouse.move(track["x"] + 200, track["y"] + 40)
    page.mouse.move(track["x"] + track["width"] - 4, track["y"] + 4)
    page.mouse.up()
    expect(page.get_by_text("2 pegs")).to_be_visible()
    page.keyboard.press("Control+c")
    expect(page.get_by_text("2 pegs are on the clipboard.")).to_be_visible()
    go_to(page, 2.4)
    lane(page, "Height").click()
    page.keyboard.press("Control+v")
    expect(page.get_by_role("button", name="Height at 4.40 s")).to_be_visible()
    assert [at for at, _ in pegs()] == [0, 2, 2.4, 4.4]
    page.get_by_role("button", name="Height at 2.40 s").click()
    page.keyboard.press("Delete")
    assert [at for at, _ in pegs()] == [0, 2, 4.4]


def test_a_double_click_adds_a_peg_and_the_line_is_shaped_by_hand(bench: Page) -> None:
    page = bench
    peg(page, "Height").click()
    go_to(page, 4)
    number(page, "Height", 0.2)
    lane(page, "Height").click()
    piece = page.locator(".piece").first.bounding_box()
    assert piece
    x, y = piece["x"] + piece["width"] / 2, piece["y"] + piece["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x, y + 6)
    page.mouse.move(x, y + 16)
    page.mouse.up()
    first = word(page)["build"][0]["settings"]["height"]["pegs"][0]
    assert first["ease"] != [0.42, 0, 0.58, 1]
    typed = page.get_by_role("textbox", name="Easing as four numbers 1")
    typed.fill("0.1")
    typed.press("Enter")
    assert word(page)["build"][0]["settings"]["height"]["pegs"][0]["ease"][0] == 0.1
    track = page.locator(".track").first.bounding_box()
    assert track
    page.mouse.dblclick(track["x"] + track["width"] * 0.4, track["y"] + 6)
    assert len(word(page)["build"][0]["settings"]["height"]["pegs"]) == 3


def test_it_plays_what_is_ready_round_and_round_and_pauses_where_it_is(bench: Page) -> None:
    page = bench
    peg(page, "Height").click()
    go_to(page, 0.4)
    number(page, "Height", 0.2)
    page.get_by_role("button", name="5.00 s · 25 fps").or_(
        page.get_by_role("button", name="Frame rate and length")
    ).first.click()
    length = page.get_by_role("textbox", name="Length")
    length.fill("0.6")
    length.press("Enter")
    page.keyboard.press("Escape")
    go_to(page, 0)
    page.get_by_role("button", name="Play", exact=True).click()
    page.wait_for_function(f"() => {FILM}.report.shown > 20", timeout=120_000)
    page.keyboard.press("Space")
    expect(page.get_by_role("button", name="Play", exact=True)).to_be_visible()
    report = json.loads(page.evaluate(f"() => JSON.stringify({FILM}.report)"))
    assert report["shown"] > 20  # more than once round
    assert page.evaluate(f"() => {FILM}.cache.taken") > 0
    settled(page)


def test_changing_one_peg_keeps_the_frames_that_it_does_not_touch(bench: Page) -> None:
    page = bench
    peg(page, "Height").click()
    go_to(page, 0.2)
    number(page, "Height", 0.2)
    go_to(page, 2)
    number(page, "Height", 0.2)
    go_to(page, 2.4)
    number(page, "Height", 0.9)
    page.wait_for_function(f"() => {FILM}.left === 0", timeout=120_000)
    go_to(page, 2.4)
    number(page, "Height", 0.6)
    page.wait_for_function(f"() => {FILM}.left < 80", timeout=5_000)


def test_an_arrival_plays_on_the_title_and_is_laid_as_pegs(bench: Page) -> None:
    page = bench
    page.keyboard.press("r")
    drawer = page.get_by_role("complementary", name="Arrivals")
    expect(drawer.locator(".frames").first).to_be_visible()
    drawer.get_by_role("button", name="Swells up").first.click()
    settled(page)
    assert word(page)["placement"]["scale"]["pegs"][0]["value"] == 0
    drawer.get_by_role("tab", name="Departures").click()
    drawer.get_by_role("button", name="Fades", exact=True).click()
    settled(page)
    opacity = word(page)["opacity"]["pegs"]
    assert opacity[-1]["at"] == 5
    assert opacity[-1]["value"] == 0
    page.get_by_role("button", name="Undo").first.click()
    settled(page)
    assert word(page)["opacity"]["pegs"][-1]["value"] == 1


def test_own_arrivals_are_kept_renamed_and_deleted(bench: Page) -> None:
    page = bench
    page.get_by_role("button", name="Lettering", exact=True).click()
    peg(page, "Turn").last.click()
    go_to(page, 1)
    number(page, "Turn", 20)
    page.keyboard.press("r")
    drawer = page.get_by_role("complementary", name="Arrivals")
    drawer.get_by_role("button", name="Keep this motion").click()
    dialog = page.get_by_role("dialog", name="Keep how the layer moves")
    dialog.get_by_role("textbox", name="Name").fill("Tips over")
    dialog.get_by_role("button", name="Save", exact=True).click()
    expect(drawer.get_by_role("button", name="Tips over", exact=True).first).to_be_visible()
    drawer.get_by_role("button", name="More for Tips over").click()
    page.get_by_text("Rename").click()
    page.get_by_role("textbox", name="Rename").last.fill("Tilts")
    page.get_by_role("textbox", name="Rename").last.press("Enter")
    drawer.get_by_role("button", name="More for Tilts").click()
    page.get_by_text("Delete").last.click()
    expect(drawer.get_by_role("button", name="Tilts", exact=True)).to_have_count(0)


def test_selecting_something_shows_its_settings_whatever_drawer_is_open(bench: Page) -> None:
    page = bench
    for key, name in (("f", "Finishes"), ("r", "Arrivals")):
        page.keyboard.press(key)
        expect(page.get_by_role("complementary", name=name)).to_be_visible()
        page.get_by_role("button", name="Shade", exact=True).click()
        expect(page.get_by_role("heading", name="Shade", exact=True)).to_be_visible()
        expect(page.get_by_role("complementary", name=name)).to_have_count(0)
    page.keyboard.press("f")
    page.get_by_role("button", name="Key 235°").click()
    expect(page.get_by_role("region", name="Light").last).to_be_visible()


def test_a_clip_is_rendered_with_progress(bench: Page) -> None:
    page = bench
    peg(page, "Height").click()
    go_to(page, 0.2)
    number(page, "Height", 0.2)
    page.get_by_role("slider", name="Where the loop ends").press("ArrowLeft")
    settled(page)
    page.get_by_role("button", name="5.00 s · 25 fps").or_(
        page.get_by_role("button", name="Frame rate and length")
    ).first.click()
    page.get_by_role("textbox", name="Length").fill("0.2")
    page.get_by_role("textbox", name="Length").press("Enter")
    page.keyboard.press("Escape")
    page.keyboard.press("e")
    dialog = page.get_by_role("dialog", name="Export")
    dialog.get_by_role("button", name="For the web").click()
    expect(dialog.get_by_test_id("frames")).to_have_text("5 frames")
    with page.expect_download(timeout=120_000) as download:
        dialog.get_by_test_id("export").click()
    assert download.value.suggested_filename.endswith(".webm")


def test_keys_walk_through_time(bench: Page) -> None:
    page = bench
    time = page.get_by_role("textbox", name="Time", exact=True)
    peg(page, "Height").click()
    go_to(page, 1)
    number(page, "Height", 0.2)
    page.locator("h2").first.click()
    page.keyboard.press("b")
    expect(time).to_have_value("0.00")
    page.keyboard.press(".")
    expect(time).to_have_value("0.04")
    page.keyboard.press(">")
    expect(time).to_have_value("0.44")
    page.keyboard.press("n")
    expect(time).to_have_value("1.00")
    page.keyboard.press("End")
    expect(time).to_have_value("4.96")
    page.keyboard.press("Home")
    expect(time).to_have_value("0.00")
    page.keyboard.press("y")
    expect(page.get_by_role("region", name="Section")).to_be_visible()


def test_what_moves_has_pictures_ahead_while_its_timing_view_is_closed(bench: Page) -> None:
    page = bench
    peg(page, "Height").click()
    go_to(page, 2)
    number(page, "Height", 0.4)
    page.keyboard.press("y")
    expect(page.get_by_role("region", name="Section")).to_be_visible()
    page.evaluate(f"() => {FILM}.cache.clear()")
    number(page, "Height", 0.5)
    assert page.evaluate(f"() => {FILM}.strip.length") == 0, "no strip asks for them"
    near = f"{FILM}.ahead.length && {FILM}.ahead.every((wish) => {FRAMES}.frame(wish))"
    page.wait_for_function(f"() => {near}", timeout=20_000)
    assert page.evaluate(f"() => [0, 30, 60, 90, 124].every((at) => {FRAMES}.nearest(at))")


def test_a_peg_that_is_no_number_gets_its_value_in_the_lane(bench: Page) -> None:
    page = bench
    page.get_by_role("button", name="Lettering", exact=True).click()
    go_to(page, 1)
    peg(page, "Blend").click()
    page.get_by_role("button", name="Blend at 1.00 s").click()
    page.get_by_role("button", name="Value…").click()
    board = page.locator(".board")
    choose(page, board.locator(".v-select"), "Multiply")
    page.keyboard.press("Escape")
    settled(page)
    assert [each["value"] for each in word(page)["blend"]["pegs"]] == ["multiply"]
    page.get_by_role("button", name="Undo").click()
    settled(page)
    assert [each["value"] for each in word(page)["blend"]["pegs"]] == ["normal"]

    peg(page, "Text").click()
    page.get_by_role("button", name="Text at 1.00 s").click()
    page.get_by_role("button", name="Value…").click()
    board.get_by_role("textbox").first.fill("TWO")
    page.keyboard.press("Escape")
    settled(page)
    assert [each["value"] for each in word(page)["source"]["text"]["pegs"]] == ["TWO"]


def test_a_hand_that_comes_near_the_ruler_finds_the_picture_there(bench: Page) -> None:
    page = bench
    peg(page, "Height").click()
    go_to(page, 1)
    number(page, "Height", 0.4)
    settled(page)
    ruler = page.locator(".timing .ruler")
    box = ruler.bounding_box()
    assert box
    page.evaluate(f"() => {{ {FILM}.wanted = false; {FILM}.strip = []; {FILM}.cache.clear(); }}")

    def is_for_hand(request: Request) -> bool:
        return request.url.endswith("/api/preview") and '"lane":"film near"' in (
            request.post_data or ""
        )

    with page.expect_response(lambda answer: is_for_hand(answer.request)) as foreseen:
        page.mouse.move(box["x"] + 200, box["y"] + 8)
        page.mouse.move(box["x"] + 220, box["y"] + 8)
    assert foreseen.value.status == 200
    page.wait_for_function(f"() => {FILM}.cache.taken > 0")
    page.mouse.down()
    expect(page.locator("canvas.film")).to_be_visible()  # before the picture itself is there
    page.mouse.up()
    settled(page)
    expect(page.locator("canvas.film")).to_be_hidden()


def test_zero_fits_what_the_hand_has_just_zoomed(bench: Page) -> None:
    page = bench
    box = page.locator(".timing .ruler").bounding_box()
    assert box
    edge = page.get_by_role("slider", name="Where the loop ends")
    whole = edge.bounding_box()
    peg(page, "Height").click()  # the keys are elsewhere
    page.mouse.move(box["x"] + 300, box["y"] + 8)
    page.mouse.wheel(0, -900)
    expect(edge).not_to_be_in_viewport()
    page.keyboard.press("0")
    expect(edge).to_be_in_viewport()
    assert edge.bounding_box() == whole
