"""Is the frame that is due found, however one comes to it? `python -m tools.clips` (`make clips`).

Clips of 600 frames that carry their number as a bar code, in every kind of file, read at 2,000
times each: at random, forwards and backwards, at half, double and odd rates. Says how many frames
were wrong (none), how long one took, and by how much the process grew from a fifth of the times to
the end of them.
"""

import random
import sys
import tempfile
import time
from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import cv2
import numpy as np
import psutil
from PIL import Image

from mabrel.source.library import Folder
from mabrel.source.moving import Moving, moving

WIDE, TALL, BITS = 320, 180, 10
COUNT, TIMES = 600, 2000
FORMS: dict[str, tuple[str, str, Fraction, dict[str, str]]] = {
    "vp9.webm": ("libvpx-vp9", "yuv420p", Fraction(25), {"g": "250", "cpu-used": "8"}),
    "alpha.webm": ("libvpx-vp9", "yuva420p", Fraction(25), {"g": "120", "cpu-used": "8"}),
    "vp8.webm": ("libvpx", "yuv420p", Fraction(30), {"g": "250", "cpu-used": "8"}),
    "av1.mkv": ("libsvtav1", "yuv420p", Fraction(25), {"preset": "8", "crf": "20"}),
    "h264.mp4": ("libx264", "yuv420p", Fraction(24000, 1001), {"g": "250"}),
    "h265.mp4": ("libx265", "yuv420p", Fraction(30000, 1001), {"g": "250", "preset": "fast"}),
    "mjpeg.mov": ("mjpeg", "yuvj420p", Fraction(30), {}),
    "ffv1.mkv": ("ffv1", "bgr0", Fraction(50), {}),
    "anim.gif": ("gif", "rgb8", Fraction(25), {}),
    "anim.apng": ("apng", "rgba", Fraction(24), {}),
}


def bars(number: int) -> np.ndarray:
    """A picture whose columns are the number's binary digits."""
    bits = np.array([255 * (number >> bit & 1) for bit in range(BITS)], np.uint8)
    row = np.repeat(bits, WIDE // BITS)
    return np.broadcast_to(row[None, :, None], (TALL, WIDE, 3)).copy()


def number_in(pixels: np.ndarray) -> int:
    places = ((np.arange(BITS) + 0.5) * pixels.shape[1] / BITS).astype(int)
    return sum(1 << bit for bit in range(BITS) if pixels[TALL // 2, places[bit], 1] > 0.5)


def write_clip(path: Path, codec: str, form: str, rate: Fraction, options: dict[str, str]) -> None:
    with av.open(str(path), "w") as file:
        stream: Any = file.add_stream(codec, rate=rate)
        stream.width, stream.height, stream.pix_fmt = WIDE, TALL, form
        stream.options = options
        for number in range(COUNT):
            frame = av.VideoFrame.from_ndarray(bars(number), format="rgb24")
            frame.pts, frame.time_base = number, 1 / rate
            file.mux(stream.encode(frame))
        file.mux(stream.encode(None))


def made(folder: Path) -> Iterator[tuple[str, Fraction]]:
    """Every kind of clip, and its rate."""
    for name, (codec, form, rate, options) in FORMS.items():
        write_clip(folder / name, codec, form, rate, options)
        yield name, rate
    pictures = [Image.fromarray(bars(number)) for number in range(COUNT)]
    pictures[0].save(
        folder / "flag.anim.webp",
        save_all=True,
        append_images=pictures[1:],
        duration=40,
        quality=80,
    )
    yield "flag.anim.webp", Fraction(25)
    for number in range(COUNT):
        cv2.imwrite(str(folder / f"wall.{number + 1:04d}.png"), bars(number))
    yield "wall.####.png", Fraction(25)


def times(rate: Fraction, draw: random.Random) -> list[float]:
    """Of all sorts, within the clip."""
    length = float(COUNT / rate)
    at_random = [draw.uniform(0, length) for _ in range(TIMES // 4)]
    steps = (Fraction(1, 2), Fraction(2), Fraction(24000, 25025), Fraction(1))
    runs = []
    for step in steps:
        begin = draw.uniform(0, length / 3)
        run = [begin + float(n * step / rate) for n in range(TIMES // 8)]
        runs += [each % length for each in (run if step != 1 else reversed(run))]
    return [*at_random, *runs, *(draw.uniform(0, length) for _ in range(TIMES // 4))]


def read(clip: Moving, rate: Fraction, asked: list[float]) -> tuple[int, float, float]:
    """Wrong frames, thousandths of a second for one, MB that the process grew by at the end."""
    process = psutil.Process()
    wrong, grown = 0, 0
    began = time.monotonic()
    for index, seconds in enumerate(asked):
        if index == len(asked) // 5:
            grown = process.memory_info().rss
        want = min(int(Fraction(seconds) * rate + Fraction(1, 10**6)), COUNT - 1)
        wrong += number_in(clip.frame(clip.due(seconds, float(rate)))) != want
    took = (time.monotonic() - began) / len(asked) * 1000
    return wrong, took, (process.memory_info().rss - grown) / 2**20


def main() -> None:
    print("| clip | times | wrong | one frame | grown |", "|---|---|---|---|---|", sep="\n")
    failed = False
    with tempfile.TemporaryDirectory() as place:
        library = Folder(Path(place))
        for name, rate in made(Path(place)):
            asked = times(rate, random.Random(name))
            wrong, took, grown = read(moving(library, name), rate, asked)
            failed = failed or wrong > 0
            print(
                f"| {name} | {len(asked)} | {wrong} | {took:.0f} ms | {grown:+.0f} MB |", flush=True
            )
    sys.exit(failed)


if __name__ == "__main__":
    main()
