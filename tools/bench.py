"""Measure, and write the tables in docs/performance.md between their marks.

What the engine is compared with by `mabrel bench`, and what needs a browser: the same chain as
an SVG filter in Debian's Chromium, the ways in which a picture can reach the page, dragging in a
real page, and twenty pages at once. And how much sooner two workers make a clip than one. Each
table says what share of its time the machine gave to others meanwhile.
"""

import argparse
import base64
import re
import statistics
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

import cv2
import numpy as np
from playwright.sync_api import Page, sync_playwright

from mabrel import Renderer, read_title
from mabrel.allocation import keep_freed
from mabrel.bench import FRAME, Row, chain, cost_table, rows, table, word_coverage
from mabrel.bench_scene import memory_text, scene_rows
from mabrel.title.motion import still_time
from tools import bench_exports, bench_hand, bench_titles, pages
from tools.bench_pixels import pixels_table
from tools.lost_time import lost, quietest

ROOT = Path(__file__).resolve().parent.parent
PAGE = ROOT / "docs" / "performance.md"
FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-background-networking"]

FILTER = """
<svg width="0" height="0"><filter id="f" x="0" y="0" width="100%" height="100%"
  color-interpolation-filters="sRGB">
  <feGaussianBlur in="SourceAlpha" stdDeviation="8" result="relief"/>
  <feDiffuseLighting in="relief" surfaceScale="40" result="lit">
    <feDistantLight azimuth="225" elevation="45"/></feDiffuseLighting>
  <feComponentTransfer in="lit" result="tone">
    <feFuncR type="table" tableValues="0.1 0.8 1"/><feFuncG type="table" tableValues="0.05 0.5 1"/>
    <feFuncB type="table" tableValues="0.02 0.2 0.9"/></feComponentTransfer>
  <feSpecularLighting in="relief" surfaceScale="40" specularConstant="0.6" specularExponent="20"
    result="shine"><feDistantLight azimuth="225" elevation="45"/></feSpecularLighting>
  <feComposite in="tone" in2="shine" operator="arithmetic" k2="1" k3="1" result="sum"/>
  <feComposite in="sum" in2="SourceAlpha" operator="in" result="face"/>
  <feDropShadow in="face" dx="12" dy="18" stdDeviation="10" flood-opacity="0.6"/>
</filter></svg>
"""

# A blank drawing is measured likewise and taken off: only the filter is left.
TIME_FILTER = """async ([url, width, height, repeats]) => {
    const image = new Image();
    image.src = url;
    await image.decode();
    const bitmap = await createImageBitmap(image);
    const context = Object.assign(document.createElement('canvas'), {width, height})
        .getContext('2d', {willReadFrequently: true});
    const run = (filter) => {
        context.filter = filter;
        context.clearRect(0, 0, width, height);
        const began = performance.now();
        context.drawImage(bitmap, 0, 0);
        context.getImageData(0, 0, 1, 1);
        return performance.now() - began;
    };
    const median = (list) => list.sort((a, b) => a - b)[list.length >> 1];
    run('url(#f)');
    const filtered = Array.from({length: repeats}, () => run('url(#f)'));
    const plain = Array.from({length: repeats}, () => run('none'));
    return median(filtered) - median(plain);
}"""

TIME_DECODING = """async ([encoded, mime, width, height, repeats]) => {
    const bytes = Uint8Array.from(atob(encoded), (c) => c.charCodeAt(0));
    const canvas = Object.assign(document.createElement('canvas'), {width, height});
    const context = canvas.getContext('2d');
    const times = [];
    for (let i = 0; i < repeats; i++) {
        const began = performance.now();
        if (mime) context.drawImage(await createImageBitmap(new Blob([bytes], {type: mime})), 0, 0);
        else context.putImageData(new ImageData(new Uint8ClampedArray(bytes.buffer), width), 0, 0);
        context.getImageData(0, 0, 1, 1);
        times.push(performance.now() - began);
    }
    return times.sort((a, b) => a - b)[repeats >> 1];
}"""


def main() -> None:
    """Measure the tables that are named, or all, and write each as soon as it is there."""
    parser = argparse.ArgumentParser(prog="python -m tools.bench", description=__doc__)
    parser.add_argument("tables", nargs="*", choices=[[], *TABLES], metavar="table", help=NAMES)
    keep_freed()  # as the processes do that render
    for name in parser.parse_args().tables or TABLES:
        with lost() as to_others:
            content = TABLES[name]()
        content += f"\n\nOthers took {to_others} of the time of the processors that this wanted."
        PAGE.write_text(between_marks(PAGE.read_text(), name, content))
        print(f"{name}\n\n{content}\n", flush=True)


@contextmanager
def chromium() -> Iterator[Page]:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
        yield browser.new_page()
        browser.close()


def chain_row() -> Row:
    matte = word_coverage()
    with filtering() as filter_ms:
        (ours, other), _ = quietest(lambda: (median_ms(lambda: chain(matte)), filter_ms()))
    what = "blur → diffuse + highlight → tone → drop shadow, 1920×1080, float32"
    return Row(what, ours, "the same SVG filter in Chromium, 8 bits", other, 0.2)


@contextmanager
def filtering() -> Iterator[Callable[[], float]]:
    """The same chain as an SVG filter in Chromium: how many milliseconds, as often as asked."""
    matte = word_coverage()
    rgba = np.zeros((*matte.shape, 4), np.uint8)
    rgba[..., 3] = np.round(matte * 255)
    png = cv2.imencode(".png", rgba)[1].tobytes()
    url = "data:image/png;base64," + base64.b64encode(png).decode()
    with chromium() as page:
        page.set_content(FILTER)
        yield lambda: float(page.evaluate(TIME_FILTER, [url, *FRAME, 7]))


def titles_table() -> str:
    with filtering() as filter_ms:
        return bench_titles.table(filter_ms)


def between_marks(text: str, name: str, content: str) -> str:
    pattern = rf"(<!-- {name} -->\n).*?(<!-- end {name} -->)"
    return re.sub(pattern, lambda m: f"{m[1]}{content}\n{m[2]}", text, flags=re.DOTALL)


def median_ms(call: Callable[[], object], repeats: int = 7) -> float:
    call()
    times = []
    for _ in range(repeats):
        began = time.perf_counter()
        call()
        times.append((time.perf_counter() - began) * 1000)
    return statistics.median(times)


def transport_table() -> str:
    """How a proof of 748×421 pixels can reach the page: encoding, bytes, decoding."""
    title = read_title(ROOT / "demo" / "titles" / "foghorn.title.json")
    pixels = Renderer().render(title, time=still_time(title), scale=748 / 1920).to_uint8()
    height, width = pixels.shape[:2]
    swapped = cv2.cvtColor(pixels, cv2.COLOR_RGBA2BGRA)

    def encoded(ending: str, *flags: int) -> Callable[[], bytes]:
        return lambda: cv2.imencode(ending, swapped, flags)[1].tobytes()

    ways = {
        "raw RGBA": (pixels.tobytes, ""),
        "PNG, level 1": (encoded(".png", cv2.IMWRITE_PNG_COMPRESSION, 1), "image/png"),
        "PNG, level 6": (encoded(".png", cv2.IMWRITE_PNG_COMPRESSION, 6), "image/png"),
        "WebP, 85": (encoded(".webp", cv2.IMWRITE_WEBP_QUALITY, 85), "image/webp"),
        "WebP, lossless": (encoded(".webp", cv2.IMWRITE_WEBP_QUALITY, 101), "image/webp"),
    }
    lines = ["| way | encode, ms | kB | decode and draw, ms |", "|---|---|---|---|"]
    with chromium() as page:
        for name, (encode, mime) in ways.items():
            content = encode()
            ask = [base64.b64encode(content).decode(), mime, width, height, 9]
            decode = page.evaluate(TIME_DECODING, ask)
            kilobytes = len(content) / 1000
            lines.append(f"| {name} | {median_ms(encode):.1f} | {kilobytes:.0f} | {decode:.1f} |")
    return "\n".join(lines)


TABLES: dict[str, Callable[[], str]] = {
    "engine": lambda: table([chain_row(), *rows(), *scene_rows()], markdown=True),
    "titles": titles_table,
    "steps": cost_table,
    "memory": memory_text,
    "transport": transport_table,
    "pixels": pixels_table,
    "exports": bench_exports.table,
    "hand": lambda: bench_hand.table(bench_hand.measured()),
    "pages": lambda: pages.measured(60)[0],
}
NAMES = "one of " + ", ".join(TABLES)


if __name__ == "__main__":
    main()
