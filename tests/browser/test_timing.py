"""Time on the bench, by hand: pegs, lanes, film, playing, arrivals, and what each looks like."""

import json

import numpy as np
import pytest
from playwright.sync_api import Locator, Page, expect

from tests.browser.looking import api_title, proof_pixels, settled

FILM = "document.querySelector('#app').__vue_app__.config.globalProperties.$pinia._s.get('film')"
"""The page's store of frames."""


@pytest.fixture
def bench(page: Page) -> Page:
    """A word in brass, with time in sight, at its beginning."""
    api_title(page, "ROPE")
    page.keyboard.press("y")
    expect(page.get_by_role("region", name="Timing")).to_be_visible()
    return page


def go_to(page: Page, seconds: float) -> None:
    field = page.get_by_role("textbox", name="Time", exact=True)
    field.fill(str(seconds))
    field.press("Enter")
    settled(page)


def number(page: Page, label: str, value: float) -> None:
    """Type a number into a field of the settings."""
    field = page.locator(".settings").get_by_role("textbox", name=f"{label}, ").first
    field.fill(str(value))
    field.press("Enter")
    settled(page)


def peg(page: Page, label: str) -> Locator:
    return (
        page.locator(".settings")
        .get_by_role("button", name=f"{label}", exact=False)
        .and_(page.locator(".peg"))
    )


def document(page: Page) -> dict:
    settled(page)
    address = page.url.rsplit("/", 1)[1]
    return page.request.get(f"/api/titles/{address}").json()["document"]


def word(page: Page) -> dict:
    layers = document(page)["layers"]
    return next(layer for layer in layers if layer["kind"] == "lettering")


def lane(page: Page, name: str) -> Locator:
    return page.get_by_role("button", name=f"{name}, ").and_(page.locator(".lane"))


def ink(page: Page, time: float) -> np.ndarray:
    """The proof at a time, brightness (H, W)."""
    go_to(page, time)
    return proof_pixels(page)[..., :3].mean(axis=2)


def differs(a: np.ndarray, b: np.ndarray) -> float:
    return float(np.abs(a - b).mean())


def test_a_word_swells_up_from_nothing_and_settles(bench: Page) -> None:
    page = bench
    page.get_by_role("button", name="Lettering", exact=True).click()
    number(page, "Scale", 0)
    peg(page, "Scale").click()
    go_to(page, 1.2)
    number(page, "Scale", 100)
    lane(page, "Scale").click()
    page.get_by_role("button", name="Scale at 0.00 s: 0 %").press("Tab")
    page.get_by_role("button", name="Scale at 0.00 s: 0 %").click()
    page.get_by_role("radio", name="Swing past").click()
    pegs = word(page)["placement"]["scale"]["pegs"]
    assert [(each["at"], each["value"]) for each in pegs] == [(0, 0), (1.2, 1)]
    assert pegs[0]["ease"] == [0.3, 0, 0.3, 1.55]
    nothing, over, settles = ink(page, 0), ink(page, 0.7), ink(page, 3)
    bare = nothing[nothing.shape[0] // 2]
    assert np.abs(np.diff(bare)).max() < 12  # the backdrop alone
    wide = [np.flatnonzero(np.abs(each - nothing).max(axis=0) > 25) for each in (over, settles)]
    assert np.ptp(wide[0]) > np.ptp(wide[1]) * 1.03


def test_a_word_rises_through_a_reflecting_floor_that_hides_it(bench: Page) -> None:
    page = bench
    page.get_by_role("button", name="Add a layer").click()
    page.get_by_text("Floor", exact=True).last.click()
    settled(page)
    page.get_by_label("Hides").check()
    page.get_by_role("button", name="ROPE 5").click()
    page.get_by_role("button", name="Add a step at Ground").click()
    page.get_by_label("Find a step by name or by need").fill("reflection")
    page.keyboard.press("Enter")
    settled(page)
    page.get_by_role("button", name="Lettering", exact=True).click()
    go_to(page, 0)
    number(page, "Down", 330)
    peg(page, "Down").click()
    go_to(page, 1.5)
    number(page, "Down", 0)
    assert next(each for each in document(page)["layers"] if each["kind"] == "floor")["hides"]
    beneath, half, stands = ink(page, 0), ink(page, 0.75), ink(page, 3)
    rows = beneath.shape[0]
    changed = np.abs(half - beneath).max(axis=1) > 25
    assert changed.any()
    assert not changed[: int(rows * 0.4)].any()  # its upper half is still to come
    assert differs(stands, beneath) > differs(half, beneath) > 0.3


def test_letters_fall_in_turn(bench: Page) -> None:
    page = bench
    page.get_by_role("button", name="Lettering", exact=True).click()
    page.get_by_label("Letters in turn").check()
    settled(page)
    down = page.locator(".settings").get_by_role("textbox", name="Down, ").first
    down.fill("-400")
    down.press("Enter")
    peg(page, "Down").first.click()
    go_to(page, 0.8)
    down.fill("0")
    down.press("Enter")
    settled(page)
    number(page, "Delay", 0.3)
    in_turn = word(page)["source"]["in_turn"]
    assert in_turn["delay"] == 0.3
    assert [each["value"] for each in in_turn["y"]["pegs"]] == [-400, 0]
    nothing, first, all_there = ink(page, 0), ink(page, 0.85), ink(page, 2.5)
    middle = nothing.shape[1] // 2
    came = np.abs(first - nothing).mean(axis=0)
    stands = np.abs(all_there - nothing).mean(axis=0)
    assert came[:middle].sum() > 2 * came[middle:].sum()
    assert stands[middle:].sum() > 2 * came[middle:].sum()


def test_two_lights_come_from_behind_while_stops_slide(bench: Page) -> None:
    page = bench
    page.get_by_role("button", name="Add a light").click()
    page.get_by_text("Parallel light").last.click()
    go_to(page, 0)
    number(page, "Raise", -140)
    peg(page, "Raise").click()
    go_to(page, 2)
    number(page, "Raise", 0)
    page.get_by_role("button", name="Gradient map", exact=True).click()
    go_to(page, 0)
    peg(page, "Slide").click()
    go_to(page, 2)
    number(page, "Slide", 100)
    assert len(document(page)["lights"]) == 2
    assert len(document(page)["rig"]["raised"]["pegs"]) == 2
    assert lane(page, "Raise").is_visible()
    assert lane(page, "Slide").is_visible()
    dark, light = ink(page, 0), ink(page, 2)
    assert differs(dark, light) > 2


def test_letter_spacing_opens(bench: Page) -> None:
    page = bench
    page.get_by_role("button", name="Lettering", exact=True).click()
    peg(page, "Letter spacing").click()
    go_to(page, 2)
    number(page, "Letter spacing", 60)
    nothing = ink(page, 4.9)
    assert differs(nothing, ink(page, 0)) > 2
    pegs = word(page)["source"]["letter_spacing"]["pegs"]
    assert [each["value"] for each in pegs] == [0, 60]


def test_a_backdrop_flickers_by_drift(bench: Page) -> None:
    page = bench
    page.get_by_role("button", name="Harbour dusk 1").click()
    page.get_by_role("button", name="Lettering", exact=True).or_(
        page.get_by_role("button", name="Backdrop", exact=True)
    ).first.click()
    peg(page, "Opacity").first.click()
    lane(page, "Opacity").click()
    page.get_by_role("button", name="Drift", exact=True).click()
    page.get_by_role("textbox", name="Drift by").fill("40")
    page.get_by_role("textbox", name="Drift by").press("Enter")
    page.get_by_role("textbox", name="a second").fill("4")
    page.get_by_role("textbox", name="a second").press("Enter")
    opacity = document(page)["layers"][0]["opacity"]
    assert opacity["drift"]["amount"] == pytest.approx(0.4)
    assert opacity["drift"]["rate"] == 4
    alphas = []
    for time in (0.3, 0.6, 1.1, 1.6):
        go_to(page, time)
        alphas.append(proof_pixels(page)[5, 5, 3])
    assert np.ptp(alphas) > 5


def test_a_gleam_passes(bench: Page) -> None:
    page = bench
    page.get_by_role("button", name="Add a step at Light").click()
    page.get_by_label("Find a step by name or by need").fill("gleam")
    page.keyboard.press("Enter")
    settled(page)
    go_to(page, 0)
    number(page, "Place", -40)
    peg(page, "Place").click()
    go_to(page, 1.5)
    number(page, "Place", 140)
    left, right = ink(page, 0.55), ink(page, 0.95)
    brighter = (left - right).mean(axis=0)
    middle = len(brighter) // 2
    assert brighter[:middle].sum() > 0 > brighter[middle:].sum()


def test_the_camera_swings_around_an_extruded_word(bench: Page) -> None:
    page = bench
    page.get_by_role("button", name="Camera", exact=True).click()
    number(page, "Swing", -50)
    peg(page, "Swing").click()
    go_to(page, 2)
    number(page, "Swing", 0)
    aside, before = ink(page, 0), ink(page, 3)
    background = ink(page, 0)[2, 2]
    wide = [
        np.ptp(np.flatnonzero((np.abs(each - background) > 40).any(axis=0)))
        for each in (aside, before)
    ]
    assert wide[0] < wide[1] * 0.9


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
    expect(dialog.get_by_role("combobox", name="As")).to_have_value("Clip")  # since it moves
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
