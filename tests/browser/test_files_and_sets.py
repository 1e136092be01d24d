"""Finishes, the library, cut-outs, swaps, word lists, bundles: what goes in and out."""

import io
import json
import re
import zipfile

import cv2
import numpy as np
from playwright.sync_api import Page, Route, expect

from tests.browser.looking import api_title, choose, document, proof_pixels, settled

DROP = """([name, text]) => {
    const data = new DataTransfer();
    data.items.add(new File([Uint8Array.from(text, (c) => c.charCodeAt(0))], name));
    window.dispatchEvent(new DragEvent('drop', {dataTransfer: data, bubbles: true}));
}"""


def two_colours() -> bytes:
    """A red disc on blue."""
    picture = np.full((120, 160, 3), (160, 40, 20), np.uint8)
    cv2.circle(picture, (80, 60), 40, (30, 30, 220), -1)
    return cv2.imencode(".png", picture)[1].tobytes()


def drop(page: Page, name: str, content: bytes) -> None:
    page.evaluate(DROP, [name, content.decode("latin-1")])


def last_layer(page: Page, title: str) -> dict:
    return document(page, title)["layers"][-1]


def test_a_finish_is_put_on_found_kept_renamed_deleted_and_undone(page: Page) -> None:
    title = api_title(page, "ROPE")
    before = proof_pixels(page)
    page.keyboard.press("f")
    drawer = page.get_by_role("complementary", name="Finishes")
    expect(drawer.get_by_alt_text("Ship brass")).to_be_visible()
    drawer.get_by_label("Find a finish").fill("enam")
    expect(drawer.locator("li")).to_have_count(2)  # the galley scene is enamel too
    drawer.get_by_role("button", name="Enamel").first.click()
    settled(page)
    assert np.abs(proof_pixels(page) - before).mean() > 1
    assert last_layer(page, title)["build"][0]["step"] == "surface.gradient"

    drawer.get_by_label("Find a finish").fill("")
    drawer.get_by_role("button", name="Save as finish").click()
    page.get_by_role("dialog").get_by_label("Name").fill("Deck enamel")
    page.get_by_role("dialog").get_by_role("button", name="Save").click()
    expect(drawer.locator("li").first).to_contain_text("Deck enamel")
    drawer.get_by_role("button", name="More for Deck enamel").click()
    with page.expect_download() as download:
        page.get_by_text("Export as a file").click()
    exported = download.value.path().read_bytes()
    assert json.loads(exported)["label"] == "Deck enamel"
    drawer.get_by_role("button", name="More for Deck enamel").click()
    page.get_by_text("Delete", exact=True).click()
    expect(drawer.locator("li").first).not_to_contain_text("Deck enamel")
    page.get_by_role("status").get_by_role("button", name="Undo").click()
    expect(drawer.locator("li").first).to_contain_text("Deck enamel")

    page.get_by_role("button", name="Undo").first.click()
    settled(page)
    assert np.array_equal(proof_pixels(page), before)
    page.request.delete("/api/finishes/deck-enamel")


def test_a_broken_finish_is_refused_with_its_name(page: Page) -> None:
    api_title(page, "ROPE")
    page.keyboard.press("f")
    chooser = page.locator("input[type=file][accept*=json]")
    chooser.set_input_files({"name": "odd.json", "mimeType": "text/plain", "buffer": b"no"})
    expect(page.get_by_text("odd.json is no finish")).to_be_visible()


def test_a_finish_goes_on_several_titles_and_is_taken_back(page: Page) -> None:
    ids = [api_title(page, word) for word in ("PORT", "BOW")]
    before = [last_layer(page, title)["build"] for title in ids]
    page.goto("/")
    for name in ("Port", "Bow"):
        page.get_by_label(f"Choose {name}", exact=True).check()
    page.get_by_role("button", name="Use a finish").click()
    page.get_by_role("option", name="Enamel").or_(
        page.locator(".v-list-item").filter(has_text="Enamel")
    ).first.click()
    expect(page.get_by_text("Enamel is on 2 titles now.")).to_be_visible()
    assert all(
        last_layer(page, title)["build"] != build for title, build in zip(ids, before, strict=True)
    )
    page.get_by_role("status").get_by_role("button", name="Undo").click()
    page.wait_for_function(
        """([ids, steps]) => Promise.all(ids.map((id) => fetch(`/api/titles/${id}`)
            .then((answer) => answer.json()))).then((titles) => titles.every(
                ({document}) => document.layers.at(-1).build[0].step === steps))""",
        arg=[ids, before[0][0]["step"]],
    )
    assert [last_layer(page, title)["build"] for title in ids] == before


def test_titles_stand_in_series_and_travel_as_files(page: Page) -> None:
    api_title(page, "WINCH")
    page.goto("/")
    page.get_by_label("Choose Winch", exact=True).check()
    page.get_by_role("button", name="Put in a series").click()
    page.get_by_role("dialog").get_by_role("textbox").fill("Deck cards")
    page.get_by_role("button", name="Done").click()
    expect(page.get_by_role("heading", name="Deck cards 1")).to_be_visible()
    page.get_by_role("button", name="Choose none").click()
    page.get_by_role("button", name="More for Winch").click()
    with page.expect_download() as download:
        page.locator(".v-list-item").filter(has_text="Export as .mabrel").click()
    content = download.value.path().read_bytes()
    assert download.value.suggested_filename == "Winch.mabrel"
    page.get_by_test_id("import").set_input_files(
        {"name": "Winch.mabrel", "mimeType": "application/zip", "buffer": content}
    )
    expect(page.get_by_text("Winch is on the shelf now.")).to_be_visible()
    expect(page.get_by_role("link", name="Open Winch", exact=True)).to_have_count(2)
    choose(page, page.locator(".order .v-select"), "name")
    names = page.locator(".strips").first.locator("strong").all_inner_texts()
    assert names == sorted(names, key=str.lower)


def test_a_logo_is_dropped_on_the_shelf_and_made_in_a_finish(page: Page) -> None:
    page.goto("/")
    expect(page.get_by_alt_text("HARBOUR, Ship brass")).to_be_visible()
    drop(page, "pennant.png", two_colours())
    expect(page.get_by_alt_text("pennant, Ship brass")).to_be_visible()
    page.get_by_role("button", name="Make “pennant” in Enamel").click()
    expect(page).to_have_url(re.compile("/bench/"))
    settled(page)
    made = last_layer(page, page.url.rsplit("/", 1)[1])
    assert made["source"]["picture"] == "pennant.png"
    assert made["build"]


def test_files_are_uploaded_used_replaced_and_guarded(page: Page) -> None:
    page.goto("/library")
    page.get_by_test_id("upload").set_input_files(
        [
            {"name": "buoy.png", "mimeType": "image/png", "buffer": two_colours()},
            {"name": "spare.png", "mimeType": "image/png", "buffer": two_colours()[:-1] + b"\0"},
            {"name": "broken.png", "mimeType": "image/png", "buffer": b"Dear diary"},
        ]
    )
    expect(page.get_by_text("is no PNG")).to_be_visible()
    expect(page.get_by_alt_text("buoy.png")).to_be_visible()
    body = {"text": "X", "picture": "buoy.png", "width": 640, "height": 360}
    title = page.request.post("/api/titles", data=body).json()["id"]
    page.reload()
    expect(page.get_by_role("article").filter(has_text="buoy.png")).to_contain_text("Used by Buoy")
    page.get_by_role("button", name="More for buoy.png").click()
    expect(page.get_by_text("In use: replace it first")).to_be_visible()
    page.get_by_text("Replace everywhere").click()
    dialog = page.get_by_role("dialog")
    choose(page, dialog.locator(".v-select"), "spare.png")
    dialog.get_by_role("button", name="Replace everywhere").click()
    expect(page.get_by_text("in the place of buoy.png in 1 title")).to_be_visible()
    assert last_layer(page, title)["source"]["picture"] == "spare.png"
    page.get_by_role("status").get_by_role("button", name="Undo").click()
    expect(page.get_by_role("article").filter(has_text="buoy.png")).to_contain_text("Used by")
    page.get_by_role("button", name="More for spare.png").click()
    page.get_by_text("Delete", exact=True).click()
    expect(page.get_by_alt_text("spare.png")).not_to_be_visible()


def test_letters_are_cut_out_by_a_click_and_undone(page: Page) -> None:
    title = api_title(page, "ROPE")
    drop(page, "sign.png", two_colours())
    expect(page.get_by_text("sign.png is a layer now.")).to_be_visible()
    settled(page)
    page.get_by_role("button", name="Cut out…").click()
    dialog = page.get_by_role("dialog")
    choose(page, dialog.locator(".v-select").first, "By colours")
    picture = dialog.get_by_alt_text("sign.png")
    expect(picture).to_have_js_property("complete", True)
    box = picture.bounding_box()
    page.mouse.click(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    expect(dialog.get_by_role("button", name="Take pick 1 away")).to_be_visible()
    dialog.get_by_role("button", name="Done").click()
    settled(page)
    cut = last_layer(page, title)["source"]["cut"]
    assert cut["kind"] == "colours"
    assert abs(cut["picks"][0]["x"] - 0.5) < 0.02
    page.get_by_role("button", name="Undo").first.click()
    settled(page)
    assert last_layer(page, title)["source"]["cut"] is None


def test_a_word_is_swapped_for_a_picture_and_back(page: Page) -> None:
    title = api_title(page, "ROPE")
    kinds = [step["step"] for step in last_layer(page, title)["build"]]
    page.get_by_role("button", name="Lettering", exact=True).first.click()
    page.get_by_role("button", name="For a picture").click()
    page.locator(".v-list-item").filter(has_text="gull.svg").click()
    expect(page.get_by_role("heading", name="Picture", exact=True)).to_be_visible()
    settled(page)
    swapped = last_layer(page, title)
    assert (swapped["kind"], [step["step"] for step in swapped["build"]]) == ("picture", kinds)
    page.get_by_label("A word in its place").fill("SALT")
    page.get_by_role("button", name="Swap").click()
    expect(page.get_by_role("heading", name="Lettering")).to_be_visible()
    settled(page)
    assert last_layer(page, title)["source"]["text"] == "SALT"
    page.keyboard.press("Control+z")
    page.keyboard.press("Control+z")
    settled(page)
    assert last_layer(page, title)["source"]["text"] == "ROPE"


def test_a_list_of_words_becomes_a_set_that_is_exported_and_put_on_the_shelf(page: Page) -> None:
    title = api_title(page, "ROPE")
    page.goto(f"/words?title={title}")
    page.get_by_test_id("words-file").set_input_files(
        {"name": "cards.csv", "mimeType": "text/csv", "buffer": b"Name;Word\nFirst;KNOT\n;HITCH"}
    )
    results = page.get_by_role("region", name="Results")
    expect(results.get_by_alt_text("First")).to_be_visible()
    expect(results.get_by_alt_text("Hitch")).to_be_visible()
    page.get_by_role("checkbox", name="One size for all").click()
    results.get_by_role("button", name="Export", exact=True).click()
    dialog = page.get_by_role("dialog", name="Export 2 titles")
    dialog.get_by_role("button", name="For print").click()
    choose(page, dialog.locator(".choice", has_text="Format").locator(".v-select"), "WebP")
    choose(page, dialog.locator(".choice", has_text="Size").locator(".v-select"), "50 %")
    dialog.get_by_role("checkbox", name="With a sheet of all").click()
    with page.expect_download(timeout=120_000) as download:
        dialog.get_by_test_id("export-set").click()
    with zipfile.ZipFile(io.BytesIO(download.value.path().read_bytes())) as archive:
        assert archive.namelist() == ["First.webp", "Hitch.webp", "sheet.png"]
        picture = cv2.imdecode(np.frombuffer(archive.read("First.webp"), np.uint8), -1)
    assert picture.shape[:2] == (270, 480)
    dialog.get_by_role("button", name="Close").click()
    results.get_by_label("Series").fill("Knots")
    results.get_by_role("button", name="Put on the shelf").click()
    expect(page.get_by_role("heading", name="Knots 2")).to_be_visible()


def test_a_file_is_sent_in_pieces_and_goes_on_where_the_connection_broke(page: Page) -> None:
    noise = np.random.default_rng(1).integers(0, 256, (2000, 2000, 3), np.uint8)
    content = cv2.imencode(".png", noise)[1].tobytes()
    sent: list[int] = []

    def breaks(route: Route) -> None:
        if route.request.method == "PATCH":
            sent.append(int(route.request.headers["upload-offset"]))
            if len(sent) == 2:
                route.abort("connectionreset")
                return
        route.continue_()

    page.route("**/api/library/arriving/*", breaks)
    page.goto("/library")
    page.get_by_test_id("upload").set_input_files(
        {"name": "noise.png", "mimeType": "image/png", "buffer": content}
    )
    card = page.locator("article", has_text="noise.png")
    expect(card.get_by_text("2000 × 2000")).to_be_visible(timeout=60_000)
    assert sent == [0, 8 * 2**20, 8 * 2**20]
    kept = page.request.get("/api/library").json()
    assert next(each["bytes"] for each in kept if each["name"] == "noise.png") == len(content)


def test_sending_a_file_can_be_stopped(page: Page) -> None:
    page.goto("/library")
    page.route(
        "**/api/library/arriving/*",
        lambda route: (
            route.abort("connectionreset") if route.request.method == "PATCH" else route.continue_()
        ),
    )
    page.get_by_test_id("upload").set_input_files(
        {"name": "never.png", "mimeType": "image/png", "buffer": two_colours()}
    )
    expect(page.get_by_text("Waiting for the connection")).to_be_visible()
    page.get_by_role("button", name="Stop sending never.png").click()
    expect(page.get_by_text("Waiting for the connection")).to_have_count(0)
    assert "never.png" not in [each["name"] for each in page.request.get("/api/library").json()]


def test_a_clip_of_the_library_runs_along_under_the_pointer(page: Page) -> None:
    page.goto("/library")
    card = page.locator("article", has_text="walking-by.webm")
    expect(card.get_by_text("3.0 s, 25 frames a second")).to_be_visible()
    shown = card.get_by_role("img")
    shown.hover(position={"x": 5, "y": 50})
    expect(shown).to_have_css("background-size", "1600% 100%")
    first = shown.screenshot()
    shown.hover(position={"x": 100, "y": 50})
    expect(shown).to_have_attribute("data-frame", re.compile(r"[5-9]"))
    assert shown.screenshot() != first


def test_numbered_pictures_become_one_clip(page: Page) -> None:
    page.goto("/library")
    frames = [
        {
            "name": f"tide.{number:04d}.png",
            "mimeType": "image/png",
            "buffer": cv2.imencode(".png", np.full((90, 160, 3), 40 * number, np.uint8))[
                1
            ].tobytes(),
        }
        for number in range(1, 5)
    ]
    page.get_by_test_id("upload").set_input_files(frames)
    card = page.locator("article", has_text="tide.####.png")
    expect(card.get_by_text("4 numbered pictures")).to_be_visible(timeout=60_000)
    expect(page.get_by_text("tide.0002.png")).to_have_count(0)
    card.get_by_role("button", name="one by one").click()
    expect(page.get_by_text("tide.0002.png")).to_have_count(1)
    card.get_by_role("button", name="together").click()
    card.get_by_role("button", name="More for tide.####.png").click()
    page.get_by_text("Delete", exact=True).click()
    expect(card).to_have_count(0)
    names = [each["name"] for each in page.request.get("/api/library").json()]
    assert not [name for name in names if name.startswith("tide")]
