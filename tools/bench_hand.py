"""Measure the page in the hand: sliders of a word and of scenes dragged for five seconds, in
Chromium.

Pictures a second, how long after letting go the last one comes, whether it is exact, and the
longest time for which the page was blocked. Written to docs/performance.md by `make bench`.
"""

import math
import statistics
import tempfile
import time
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from functools import partial
from pathlib import Path

import numpy as np
from playwright.sync_api import Locator, Page, expect, sync_playwright

from mabrel import Renderer, parse_title
from mabrel.title.motion import still_time
from tests.browser.looking import open_title, proof_pixels, settled
from tools.lost_time import Lost, quietest
from tools.running_studio import CHROMIUM, RunningStudio

SECONDS = 5.0
REPEATS = 3
Slider = tuple[str, str, str, float, float]
"""A title, a step, its setting, pictures a second at least, milliseconds for the last at most."""
VIEW = {"width": 1280, "height": 800}

WATCH = """() => {
    const seen = (window.seen = {paints: [], blocks: [], up: 0});
    const canvas = document.querySelector("canvas[data-lane=proof]");
    new MutationObserver(() => seen.paints.push([performance.now(), canvas.dataset.coarse]))
        .observe(canvas, {attributes: true, attributeFilter: ['width']});
    const note = (list) => list.getEntries().forEach((each) => seen.blocks.push(each.duration));
    new PerformanceObserver(note).observe({entryTypes: ['longtask']});
    window.addEventListener('pointerup', () => (seen.up = performance.now()), true);
}"""


@dataclass(frozen=True)
class Drag:
    """What one drag was like. Milliseconds."""

    title: str
    step: str
    setting: str
    least: float
    most: float
    """Milliseconds within which the last picture must come."""
    pictures: float
    last: float
    longest_block: float
    exact: bool
    to_others: Lost = field(default_factory=Lost)
    """What others took of the processors while all of its drags were done."""


def drag(
    page: Page, title: str, step: str, setting: str, least: float, most: float, ahead: float = 0.0
) -> Drag:
    """Move a setting's slider to and fro for `SECONDS`, then let go; `ahead` (radians) is how far
    it begins on its way."""
    page.get_by_role("button", name=step, exact=True).click()
    settled(page)
    page.wait_for_timeout(1500)  # the readings and small pictures have come
    page.evaluate(WATCH)
    slider = page.get_by_role("slider", name=setting, exact=True)
    _to_and_fro(page, slider, ahead)
    seen = page.evaluate("() => window.seen")
    up = seen["up"]
    settled(page)
    page.wait_for_timeout(600)
    seen = page.evaluate("() => window.seen")
    during = [at for at, _ in seen["paints"] if at <= up]
    after = [at for at, _ in seen["paints"] if at > up]
    return Drag(
        title=title,
        most=most,
        step=step,
        setting=setting,
        least=least,
        pictures=_a_second(during),
        last=(after[-1] - up) if after else 0.0,
        longest_block=max(seen["blocks"], default=0.0),
        exact=_exact(page),
    )


def _a_second(times: list[float]) -> float:
    """How many pictures a second came at these milliseconds; none where fewer than two came."""
    return 1000 * (len(times) - 1) / (times[-1] - times[0]) if len(times) > 1 else 0.0


def _to_and_fro(page: Page, slider: Locator, ahead: float) -> None:
    box = slider.bounding_box()
    assert box
    track = slider.locator("xpath=ancestor::*[contains(@class, 'v-slider__container')]")
    wide = track.bounding_box()
    assert wide
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    began = time.monotonic()
    while (passed := time.monotonic() - began) < SECONDS:
        share = 0.5 + 0.4 * math.sin(passed * 2.4 + ahead)
        page.mouse.move(wide["x"] + wide["width"] * share, y)
        time.sleep(0.016)
    page.mouse.up()


def _exact(page: Page) -> bool:
    """Whether the proof shows what the engine renders of the document that was saved."""
    shown = proof_pixels(page)
    address = page.url.rsplit("/", 1)[1]
    title = parse_title(page.request.get(f"/api/titles/{address}").json()["document"])
    width = page.evaluate("() => document.querySelector('canvas[data-lane=proof]').width")
    scale = _scale(title.frame.width, width)
    rendered = Renderer().render(title, time=still_time(title), scale=scale).to_uint8()
    # The canvas holds premultiplied bytes: only what is opaque comes back as it went in.
    opaque = rendered[..., 3] == 255
    return rendered.shape == shown.shape and bool(np.array_equal(rendered[opaque], shown[opaque]))


def _scale(frame: float, width: int) -> float:
    """The scale that the page asked for: rounded to thousandths."""
    return next(s / 1000 for s in range(1, 4001) if max(round(frame * s / 1000), 1) == width)


def _dragged(page: Page, each: Slider) -> list[Drag]:
    # Each ends elsewhere: a picture that was there before would come at once.
    return [drag(page, *each, ahead=0.4 * number) for number in range(REPEATS)]


def typical(drags: list[Drag]) -> Drag:
    """The median of each number; exact only where all were."""

    def median(name: str) -> float:
        return statistics.median(getattr(each, name) for each in drags)

    return replace(
        drags[0],
        pictures=median("pictures"),
        last=median("last"),
        longest_block=median("longest_block"),
        exact=all(each.exact for each in drags),
    )


def table(drags: list[Drag]) -> str:
    lines = [
        "| title | slider | pictures a second | must | last picture after | must | exact | "
        "longest block | taken by others |  |",
        "|---|---|---|---|---|---|---|---|---|---|",
    ]
    for each in drags:
        met = each.pictures >= each.least and each.last <= each.most and each.exact
        block = f"{each.longest_block:.0f} ms" if each.longest_block else "under 50 ms"
        good = "met" if met and each.longest_block <= 50 else "not met"
        lines.append(
            f"| {each.title} | {each.step}, {each.setting.lower()} | {each.pictures:.1f} | "
            f"≥ {each.least:g} | {each.last:.0f} ms | ≤ {each.most:g} ms | "
            f"{'yes' if each.exact else 'no'} | {block} | {each.to_others} | {good} |"
        )
    return "\n".join(lines)


WORD = (
    ("Foghorn", "Drop shadow", "Blur", 15, 300),
    ("Foghorn", "Extrude", "Length", 15, 300),
    ("Foghorn", "Inflate", "Height", 6, 300),
)
"""Of a single word the last step, one before, and the first."""
SCENES = (
    ("Mooring", "Bevel", "Width", 8, 400),
    ("Mooring", "Reflection", "Tinted", 8, 400),
    ("Salt", "Inflate", "Height", 8, 400),
    ("Salt", "Reflection", "Tinted", 8, 400),
    ("Lantern", "Soft relief", "Radius", 8, 400),
    ("Lantern", "Reflection", "Tinted", 8, 400),
)
"""Of whole scenes the first step that others build on, and the last."""


def measured(drags: Sequence[Slider] = (*WORD, *SCENES)) -> list[Drag]:
    """Each slider dragged `REPEATS` times in a studio of its own."""
    with tempfile.TemporaryDirectory() as state, sync_playwright() as playwright:
        studio = RunningStudio(Path(state))
        studio.prepare()
        studio.start()
        try:
            browser = playwright.chromium.launch(**CHROMIUM)
            page = browser.new_page(viewport=VIEW, base_url=studio.url)
            expect.set_options(timeout=60_000)  # the first picture may wait for kernels
            done, shown = [], ""
            for each in drags:
                if each[0] != shown:
                    open_title(page, each[0])
                    shown = each[0]
                dragged, to_others = quietest(partial(_dragged, page, each))
                done.append(replace(typical(dragged), to_others=to_others))
            browser.close()
            return done
        finally:
            studio.stop()


if __name__ == "__main__":
    print(table(measured()))
