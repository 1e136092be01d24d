"""Playing and getting ready, measured in the page: `python -m tools.bench_time`.

FOGHORN at the proof's size: frames left out and the latest one while it plays for ten seconds; how
many frames a second get ready where only the light, or only the lens, moves; and how soon a picture
is there while the hand is on the ruler.
"""

import tempfile
import time
from collections.abc import Callable, Iterator
from functools import partial
from pathlib import Path
from typing import Any

import numpy as np
from playwright.sync_api import Page, expect, sync_playwright

from tests.browser.looking import open_title, settled
from tools.lost_time import quietest
from tools.running_studio import CHROMIUM, RunningStudio

STORES = "document.querySelector('#app').__vue_app__.config.globalProperties.$pinia._s"
FILM = f"{STORES}.get('film')"
SECONDS = 10
OPEN, WAY, REST = 3000, 300, 150
"""Milliseconds for which a title is looked at, that a hand takes on its way to the ruler, and for
which it rests over a place before it presses."""
CHANGE = """() => {
    const opened = STORES.get('opened'), plain = JSON.parse(JSON.stringify(opened.title));
    plain.lights[0].strength *= 0.93;
    opened.rewrite(plain);
}""".replace("STORES", STORES)
TIMES = (0.4, 1.2, 2.0, 2.8, 3.6, 4.4)
PLACE = f"(time) => {STORES}.get('timeline').x(time)"
WATCH_PRESS = """() => {
    const seen = () => {
        const film = document.querySelector('canvas.film');
        const shown = film && film.style.display !== 'none';
        return shown || document.querySelector('canvas[data-lane=proof]').dataset.busy === 'false';
    };
    window.waited = new Promise((done) => document.addEventListener('pointerdown', () => {
        const began = performance.now();
        const look = () => (seen() ? done(performance.now() - began) : requestAnimationFrame(look));
        requestAnimationFrame(look);
    }, { once: true, capture: true }));
}"""
JUMP = """async (time) => {
    const stores = STORES, clock = stores.get('clock');
    clock.scrubbing = true;
    document.dispatchEvent(new PointerEvent('pointerdown'));
    stores.get('timeline').goTo(time);
    const took = await window.waited;
    clock.scrubbing = false;
    return took;
}""".replace("STORES", STORES)


def main() -> None:
    with tempfile.TemporaryDirectory() as state, sync_playwright() as playwright:
        studio = RunningStudio(Path(state))
        studio.prepare()
        studio.start()
        try:
            browser = playwright.chromium.launch(**CHROMIUM)
            size = {"width": 1280, "height": 800}
            page = browser.new_page(viewport=size, base_url=studio.url)
            expect.set_options(timeout=60_000)
            print("| what | measured | taken by others |", "|---|---|---|", sep="\n")
            for what, measure in measured(page):
                told, to_others = quietest(measure)
                print(f"| {what} | {told} | {to_others} |", flush=True)
            browser.close()
        finally:
            studio.stop()


Row = tuple[str, Callable[[], str]]
"""What is measured, and how, as often as needed."""
Go = Callable[[Page, float], float]
"""Goes to a time; gives the milliseconds until its picture was there."""


def measured(page: Page) -> Iterator[Row]:
    """The rows of the table in docs/performance.md."""
    for name in ("Foghorn", "Salt", "Mooring", "Lantern"):
        yield from _scrubbed(page, name)
    open_title(page, "Foghorn")
    page.keyboard.press("y")
    yield "getting ready, as it comes", partial(_ready, page, None)
    yield "playing for ten seconds", partial(_played, page)
    yield "scrubbing, a picture after", lambda: _waits(page, _pressed)
    yield "getting ready, light alone", partial(_ready, page, {"lights": {"azimuth": [0, 300]}})
    slide = {"tone.gradient_map": {"slide": [0, 1]}}
    yield "getting ready, tone alone", partial(_ready, page, slide)
    yield "getting ready, lens alone", partial(_ready, page, {"lens.glow": {"strength": [0, 1]}})
    taken = f"() => {FILM}.cache.taken"
    yield "memory of frames", lambda: f"{page.evaluate(taken) / 2**20:.0f} MB"
    yield from _long(page)


def _scrubbed(page: Page, name: str) -> Iterator[Row]:
    """How soon a picture is there when a hand comes to the ruler."""

    def just_opened() -> str:
        open_title(page, name)
        settled(page)
        page.wait_for_timeout(OPEN)
        page.keyboard.press("y")
        page.wait_for_timeout(WAY)
        return _waits(page, _pressed)

    def changed() -> str:
        page.wait_for_timeout(OPEN)
        page.evaluate(CHANGE)
        page.wait_for_timeout(50)
        settled(page)
        page.wait_for_timeout(WAY)
        return _waits(page, _pressed, 0.08)

    def nothing_ready(go: Go, later: float) -> str:
        page.evaluate(f"() => {{ {FILM}.wanted = false; {FILM}.cache.clear(); }}")
        return _waits(page, go, later)

    yield f"scrubbing {name}, the timing view just opened", just_opened
    yield f"scrubbing {name} after a change", changed
    yield f"scrubbing {name}, nothing ready", partial(nothing_ready, _pressed, 0.16)
    yield f"jumping in {name} from nowhere, nothing ready", partial(nothing_ready, _jumped, 0.24)


def _waits(page: Page, go: Go, later: float = 0.0) -> str:
    """At the times of this title, so many seconds later: what was seen before is there still."""
    took = []
    for time_ in TIMES:
        page.evaluate(WATCH_PRESS)
        took.append(go(page, time_ + later))
        page.wait_for_timeout(400)
    return f"{min(took):.0f} to {max(took):.0f} ms"


def _pressed(page: Page, time_: float) -> float:
    """A hand comes along the ruler, rests for a moment as hands do, and presses."""
    box = page.locator(".timing .ruler").bounding_box()
    assert box
    page.mouse.move(box["x"] + page.evaluate(PLACE, time_), box["y"] + 8, steps=8)
    page.wait_for_timeout(REST)
    page.mouse.down()
    took = page.evaluate("() => window.waited")
    page.mouse.up()
    return float(took)


def _jumped(page: Page, time_: float) -> float:
    """It goes to a time without any hand that comes near."""
    return float(page.evaluate(JUMP, time_))


def _ready(page: Page, moving: dict[str, Any] | None) -> str:
    """Frames a second that get ready, from none; with nothing but these values moving."""
    if moving is not None:
        page.evaluate(SET_MOVING, moving)
    settled(page)
    page.evaluate(f"() => {FILM}.cache.clear()")
    page.evaluate(f"() => {{ {FILM}.wanted = false; {FILM}.quality = 1; {FILM}.wanted = true; }}")
    began, before = time.monotonic(), page.evaluate(f"() => {FILM}.version")
    page.evaluate(f"() => {{ {FILM}.play(); }}")
    page.wait_for_function(f"() => !{FILM}.preparing", timeout=300_000)
    made = page.evaluate(f"() => {FILM}.version") - before
    took = time.monotonic() - began
    page.evaluate(f"() => {{ {FILM}.pause(); }}")
    return f"{made / took:.1f} frames a second"


SET_MOVING = """(moving) => {
    const stores = STORES, opened = stores.get('opened');
    const plain = JSON.parse(JSON.stringify(opened.title));
    const pegs = ([from, to]) => ({ pegs: [
        { at: 0, value: from, ease: [0, 0, 1, 1] }, { at: 5, value: to, ease: [0, 0, 1, 1] }] });
    const set = (model, values) => {
        for (const [name, ends] of Object.entries(values ?? {})) model[name] = pegs(ends);
    };
    set(plain.lights[0], moving.lights);
    const word = plain.layers.at(-1);
    const added = word.build.some((each) => each.id === "measured");
    for (const name of Object.keys(moving).filter((each) => each.startsWith("lens.") && !added))
        word.build.push({ id: "measured", step: name, settings: {} });
    for (const layer of plain.layers)
        for (const step of layer.build) set(step.settings, moving[step.step]);
    opened.rewrite(plain);
}""".replace("STORES", STORES)


LONG = """() => {
    const stores = STORES, opened = stores.get('opened');
    const plain = JSON.parse(JSON.stringify(opened.title)), word = plain.layers.at(-1);
    plain.frame.duration = 600;
    const pegs = (value) => ({ pegs: [...Array(12).keys()].map((i) => (
        { at: 50 * i, value: i % 2 ? value : value * 0.9, ease: [0.4, 0, 0.2, 1] })) });
    let lanes = 0;
    for (let i = 0; i < 17; i += 1, lanes += 3) {
        const settings = { radius: pegs(20), threshold: pegs(1), strength: pegs(0.5) };
        word.build.push({ id: `long-${i}`, step: 'lens.glow', on: false, settings });
    }
    opened.rewrite(plain);
    return lanes;
}""".replace("STORES", STORES)
WATCH = """() => {
    const between = (window.measured = []);
    let last = 0;
    const look = (now) => {
        if (last) between.push(now - last);
        last = now;
        if (window.measured === between) requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
}"""


def _long(page: Page) -> Iterator[Row]:
    """How evenly the page draws while a hand works in a title of ten minutes with fifty lanes."""
    lanes = page.evaluate(LONG)
    settled(page)
    view = page.get_by_role("region", name="Timing")
    assert view.locator(".lane").count() == lanes
    for name, act in (("ruler", _drag_ruler), ("peg", _drag_peg), ("zoom", _zoom)):
        yield f"ten minutes, {lanes} lanes: {name}", partial(_watched, page, act)


def _watched(page: Page, act: Callable[[Page], None]) -> str:
    page.evaluate(WATCH)
    act(page)
    page.wait_for_timeout(50)
    between = page.evaluate("() => [window.measured, (window.measured = null)][0]")
    half, most, worst = np.percentile(between, (50, 95, 100))
    return f"{half:.0f} ms between pictures, {most:.0f} for 95 of 100, {worst:.0f} at most"


def _drag_ruler(page: Page) -> None:
    _pull(page, ".timing .ruler", 300)


def _drag_peg(page: Page) -> None:
    _pull(page, ".timing .track .peg >> nth=3", 120)


def _zoom(page: Page) -> None:
    box = page.locator(".timing .axis").bounding_box()
    assert box
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + 20)
    for turn in range(40):
        page.mouse.wheel(0, -60 if turn < 20 else 60)
        page.wait_for_timeout(16)


def _pull(page: Page, what: str, far: float) -> None:
    box = page.locator(what).bounding_box()
    assert box
    x, y = box["x"] + min(box["width"] / 2, 200), box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    for step in range(60):
        page.mouse.move(x + far * step / 60, y)
        page.wait_for_timeout(16)
    page.mouse.up()


def _played(page: Page) -> str:
    page.evaluate(f"() => {{ {FILM}.play(); }}")
    page.wait_for_function(f"() => {FILM}.report.shown > 0", timeout=300_000)
    page.wait_for_timeout(SECONDS * 1000)
    report = page.evaluate(f"() => ({{ ...{FILM}.report }})")
    page.evaluate(f"() => {{ {FILM}.pause(); }}")
    settled(page)
    shown, left_out, latest = (report[name] for name in ("shown", "leftOut", "latest"))
    return f"{shown} shown, {left_out} left out, the latest {latest:.1f} ms late"


if __name__ == "__main__":
    main()
