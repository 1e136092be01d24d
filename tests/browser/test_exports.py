"""Exporting by hand: for a purpose, with progress, stopped, taken up again, fetched."""

import re
import zipfile
from pathlib import Path

import av
import cv2
import numpy as np
import OpenEXR
import pytest
from playwright.sync_api import Locator, Page, expect

from tests.browser.in_time import differs, ink, number
from tests.browser.looking import choose, open_title, proof_pixels, settled

SLOW = 180_000


@pytest.fixture
def dialog(page: Page) -> Locator:
    """The export view of FOGHORN, which moves."""
    open_title(page, "Foghorn")
    page.keyboard.press("e")
    found = page.get_by_role("dialog", name="Export")
    expect(found.get_by_role("button", name="Over a shot")).to_be_visible()
    return found


def entry(dialog: Locator, name: str) -> Locator:
    return dialog.get_by_role("listitem").filter(has=dialog.page.get_by_role("button", name=name))


def field(dialog: Locator, label: str) -> Locator:
    return dialog.locator(".choice", has_text=label).locator(".v-select")


def small(dialog: Locator) -> None:
    choose(dialog.page, field(dialog, "Size"), "25 %")


def test_a_clip_is_stopped_taken_up_again_and_fetched(dialog: Locator, tmp_path: Path) -> None:
    page = dialog.page
    dialog.get_by_role("button", name="Over a shot").click()
    small(dialog)
    expect(dialog.get_by_text("480 × 270 pixels")).to_be_visible()
    expect(dialog.get_by_test_id("frames")).to_have_text("125 frames")
    dialog.get_by_test_id("export").click()
    made = entry(dialog, "Foghorn.mkv").first
    expect(made.get_by_text(re.compile(r"^[1-9]\d* of 125"))).to_be_visible(timeout=SLOW)
    expect(made.get_by_role("progressbar")).to_be_visible()
    made.get_by_role("button", name="Stop Foghorn.mkv").click()
    expect(made.get_by_text(re.compile(r"^Stopped at \d+ of 125"))).to_be_visible(timeout=SLOW)
    with page.expect_download(timeout=SLOW) as download:
        made.get_by_role("button", name="Take Foghorn.mkv up again").click()
    path = tmp_path / "clip.mkv"
    download.value.save_as(path)
    with av.open(str(path)) as file:
        frames = [frame.format.name for frame in file.decode(video=0)]
    assert frames == ["gbrap16le"] * 125
    with page.expect_download() as again:
        made.get_by_role("button", name="Fetch Foghorn.mkv").click()
    assert again.value.suggested_filename == "Foghorn.mkv"
    page.reload()  # the list outlives the page
    page.get_by_role("button", name="Export", exact=True).click()
    expect(entry(dialog, "Fetch Foghorn.mkv").first).to_be_visible()
    entry(dialog, "Fetch Foghorn.mkv").first.get_by_role("button", name="Delete").click()
    expect(dialog.get_by_text("What you export is listed here")).to_be_visible()


def test_frames_for_compositing_hold_every_pass(dialog: Locator, tmp_path: Path) -> None:
    page = dialog.page
    dialog.get_by_role("button", name="For compositing").click()
    small(dialog)
    to = dialog.get_by_role("textbox", name="To, ")
    to.fill("0.08")
    to.press("Enter")
    expect(dialog.get_by_test_id("frames")).to_have_text("2 frames")
    with page.expect_download(timeout=SLOW) as download:
        dialog.get_by_test_id("export").click()
    path = tmp_path / "frames.zip"
    download.value.save_as(path)
    with zipfile.ZipFile(path) as archive:
        assert archive.namelist() == ["frame-0000.exr", "frame-0001.exr"]
        archive.extract("frame-0001.exr", tmp_path)
    file = OpenEXR.File(str(tmp_path / "frame-0001.exr"), separate_channels=True)
    assert {"R", "A", "Z", "shadow.R", "normals.X", "letter.Y"} <= set(file.channels())


def test_a_picture_says_what_it_will_take_and_comes_as_that(
    dialog: Locator, tmp_path: Path
) -> None:
    page = dialog.page
    choose(page, field(dialog, "What"), "Picture")
    choose(page, field(dialog, "Format"), "PNG")
    choose(page, field(dialog, "Depth"), "16 bits")
    small(dialog)
    dialog.get_by_label("With backdrop").check()
    said = dialog.get_by_text(re.compile(r"^About \d+ kB"))
    expect(said).to_be_visible(timeout=SLOW)
    told = int(re.findall(r"\d+", said.inner_text())[0])
    with page.expect_download(timeout=SLOW) as download:
        dialog.get_by_test_id("export").click()
    path = tmp_path / "a.png"
    download.value.save_as(path)
    pixels = cv2.imread(str(path), cv2.IMREAD_UNCHANGED)
    assert (pixels.dtype, pixels.shape) == (np.uint16, (270, 480, 4))
    assert (pixels[..., 3] == 65535).all()
    assert path.stat().st_size / 1000 == pytest.approx(told, rel=0.1)


def test_settings_are_kept_under_a_name_and_used_again(dialog: Locator) -> None:
    dialog.get_by_role("button", name="For the web").click()
    small(dialog)
    dialog.get_by_role("textbox", name="Their name").fill("For the lift")
    dialog.get_by_role("button", name="Keep these settings").click()
    own = dialog.get_by_role("button", name="For the lift", exact=True)
    expect(own).to_have_attribute("aria-pressed", "true")
    dialog.get_by_role("button", name="For print").click()
    expect(own).to_have_attribute("aria-pressed", "false")
    own.click()
    expect(dialog.get_by_text("480 × 270 pixels")).to_be_visible()
    dialog.get_by_role("button", name="Delete the preset For the lift").click()
    expect(own).to_have_count(0)


def test_what_fails_says_why_and_can_be_tried_again(dialog: Locator) -> None:
    page = dialog.page
    page.route("**/api/exports", lambda route: route.fulfill(
        status=503, content_type="application/json",
        body='{"message": "The studio\'s disk is full.", "place": "", "rule": ""}',
    ) if route.request.method == "POST" else route.continue_())  # fmt: skip
    dialog.get_by_test_id("export").click()
    expect(dialog.get_by_role("alert")).to_have_text("The studio's disk is full.")


def test_a_title_over_a_shot_with_somebody_who_walks_before_it(page: Page, tmp_path: Path) -> None:
    """The wall as plate, its light by the gnomon, the figure keyed before the word with its shadow
    on the wall; exported for compositing, where the plate is left out."""
    open_title(page, "Buoy")
    page.keyboard.press("y")
    page.get_by_role("button", name="Over a picture of your own").click()
    page.get_by_text("harbour-wall.webm", exact=True).click()
    settings = page.locator(".settings")
    expect(settings.get_by_role("heading", name="Light of the shot")).to_be_visible()
    settled(page)
    wall, later = (ink(page, time) for time in (0, 1.4))
    assert 0.5 < differs(wall[:60], later[:60]) < 40  # the hand is not quite still

    match_light(page)
    page.get_by_role("region", name="Layers").get_by_text("harbour-wall").click()
    settings.get_by_role("button", name="Keep Key as the shot's").click()
    settled(page)
    page.get_by_role("region", name="Layers").get_by_text("BUOY").click()
    readings = page.get_by_role("region", name="Readings")
    expect(readings.get_by_text("Key agrees with the shot's light")).to_be_visible(timeout=SLOW)

    key_the_figure(page)
    left, right = (ink(page, time) for time in (0.2, 2.6))
    assert differs(left, right) > 2  # somebody walked
    before = proof_pixels(page)
    page.locator("h2").first.click()
    page.keyboard.press("a")
    page.get_by_label("Find a step by name or by need").fill("drop shadow")
    page.keyboard.press("Enter")
    settled(page)
    darker = (before - proof_pixels(page))[..., :3].mean(axis=-1)
    assert (darker > 8).mean() > 0.005

    frame = for_compositing(page, tmp_path)
    names = OpenEXR.File(str(frame)).parts[0].channels
    assert any("shadow" in name for name in names)
    alpha = next(value.pixels for name, value in names.items() if name in ("A", "RGBA"))
    alpha = alpha[..., 3] if alpha.ndim == 3 else alpha
    assert alpha[2, 2] == 0  # the wall is in the editor's own shot
    assert (alpha > 0.9).mean() > 0.02


def match_light(page: Page) -> None:
    """The gnomon beside the lamp's shadow, its tip along it: the lamp hangs to the upper right."""
    foot, tip = page.locator(".gnomon .foot").first, page.locator(".gnomon .tip").first
    drag(page, foot, -120, -160)
    drag(page, tip, *(end - start for start, end in zip(centre(tip), along(foot), strict=True)))
    settled(page)
    page.get_by_role("region", name="Light").get_by_role("button", name="Key").first.click()
    azimuth = page.get_by_role("textbox", name="Azimuth").input_value()
    assert abs(float(azimuth.rstrip("°")) - 319) < 4


def centre(what: Locator) -> tuple[float, float]:
    box = what.bounding_box()
    assert box
    return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2


def along(foot: Locator) -> tuple[float, float]:
    """Where the tip of the post's shadow belongs: the lamp's falls 150 to the left, 132 down."""
    x, y = centre(foot)
    return x - 38, y + 33


def drag(page: Page, what: Locator, across: float, down: float) -> None:
    x, y = centre(what)
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + across / 2, y + down / 2)
    page.mouse.move(x + across, y + down)
    page.mouse.up()


def key_the_figure(page: Page) -> None:
    settings = page.locator(".settings")
    page.get_by_role("button", name="Add a layer").click()
    page.get_by_text("Picture", exact=True).last.click()
    settled(page)
    choose(
        page,
        settings.locator(".choice", has_text="Picture").locator(".v-select").first,
        "walking-by.webm",
    )
    settled(page)
    number(page, "Height", 1000)
    expect(settings.get_by_text("After its end")).to_be_visible()
    assert green(proof_pixels(page)) > 0.3
    page.get_by_role("button", name="Cut out…").click()
    cut = page.get_by_role("dialog", name="Cut out")
    choose(
        page, cut.locator(".choice", has_text="Cut out").locator(".v-select").first, "From a screen"
    )
    source = cut.locator("img").first
    page.wait_for_function("(image) => image.naturalWidth > 0", arg=source.element_handle())
    box = source.bounding_box()
    assert box
    source.click(position={"x": box["width"] * 0.1, "y": box["height"] * 0.4})
    page.keyboard.press("Escape")
    settled(page)
    assert green(proof_pixels(page)) < 0.0005  # the hair too


def for_compositing(page: Page, folder: Path) -> Path:
    """The first of a few exported frames."""
    page.keyboard.press("e")
    dialog = page.get_by_role("dialog", name="Export")
    dialog.get_by_role("button", name="For compositing").click()
    expect(dialog.get_by_role("checkbox", name="With the plate")).not_to_be_checked()
    dialog.get_by_role("radio", name="Over the plate").click()
    expect(dialog.get_by_role("radio", name="Over the plate")).to_be_checked()
    small(dialog)
    to = dialog.get_by_role("textbox", name="To, ")
    to.fill("0.08")
    to.press("Enter")
    with page.expect_download(timeout=SLOW) as download:
        dialog.get_by_test_id("export").click()
    download.value.save_as(folder / "frames.zip")
    with zipfile.ZipFile(folder / "frames.zip") as archive:
        assert archive.namelist() == ["frame-0000.exr", "frame-0001.exr"]
        archive.extract("frame-0000.exr", folder)
    return folder / "frame-0000.exr"


def green(pixels: np.ndarray) -> float:
    """The share of pixels that are of the screen's colour, more or less."""
    red, own, blue = (pixels[..., channel] for channel in range(3))
    return float((own > np.maximum(red, blue) + 20).mean())
