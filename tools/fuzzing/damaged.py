"""Files of every kind that the studio takes, damaged at random."""

import io
import random
import struct
import zipfile
from collections.abc import Iterator
from functools import cache
from typing import Any

import av
import cv2
import numpy as np
from PIL import Image as Pillow

from tests.engine.source.test_own_fonts import packed, shipped, variable
from tests.studio.attacks import exr
from tools.fuzzing.documents import DEMO
from tools.fuzzing.sending import Request, upload

_CONTAINERS = {"mkv": "matroska", **{each: each for each in ("webm", "mp4", "mov", "gif", "apng")}}
_NUMBERS = (0, 1, 255, 256, 32_767, 65_535, 2**31 - 1, 2**31, 2**32 - 1)


@cache
def whole_files() -> dict[str, bytes]:
    """One of each kind, by name."""
    draw = np.random.default_rng(5)
    noise = draw.integers(0, 255, (48, 64, 3), np.uint8)
    found = {}
    for ending, kind in (("png", "PNG"), ("jpg", "JPEG"), ("webp", "WEBP"), ("tif", "TIFF")):
        out = io.BytesIO()
        Pillow.fromarray(noise).save(out, kind)
        found[f"noise.{ending}"] = out.getvalue()
    deep = draw.integers(0, 65_535, (48, 64, 3), np.uint16)
    found["deep.png"] = cv2.imencode(".png", deep)[1].tobytes()
    found["deep.tiff"] = cv2.imencode(".tiff", deep)[1].tobytes()
    found["sky.hdr"] = cv2.imencode(".hdr", noise.astype(np.float32) / 99)[1].tobytes()
    found["sky.exr"] = exr({name: draw.random((48, 64), np.float32) for name in "RGBA"})
    found["gull.svg"] = (DEMO / "gull.svg").read_bytes()
    found["plain.ttf"], found["varies.ttf"] = shipped(), variable()
    found["plain.woff"], found["plain.woff2"] = packed("woff"), packed("woff2")
    found["gull.mabrel"] = _bundle(found["gull.svg"])
    return found | _clips(noise)


def _clips(noise: np.ndarray) -> dict[str, bytes]:
    """A few frames in each kind of file that holds several."""
    found = {}
    moved = [np.roll(noise, 8 * number, axis=1) for number in range(4)]
    kinds = {
        "clip.webm": ("libvpx-vp9", "yuv420p"), "clip.mkv": ("ffv1", "bgr0"),
        "clip.mp4": ("libx264", "yuv420p"), "clip.mov": ("mjpeg", "yuvj420p"),
        "clip.gif": ("gif", "rgb8"), "clip.apng": ("apng", "rgba"),
    }  # fmt: skip
    for name, (codec, form) in kinds.items():
        out = io.BytesIO()
        with av.open(out, "w", format=_CONTAINERS[name.rpartition(".")[2]]) as file:
            stream: Any = file.add_stream(codec, rate=25)
            stream.width, stream.height, stream.pix_fmt = 64, 48, form
            for pixels in moved:
                file.mux(stream.encode(av.VideoFrame.from_ndarray(pixels, format="rgb24")))
            file.mux(stream.encode(None))
        found[name] = out.getvalue()
    out = io.BytesIO()
    first, *others = (Pillow.fromarray(pixels) for pixels in moved)
    first.save(out, "WEBP", save_all=True, append_images=others, duration=40)
    return found | {"flag.anim.webp": out.getvalue()}


def _bundle(drawing: bytes) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("title.json", (DEMO / "gull.title.json").read_bytes())
        archive.writestr("files/gull.svg", drawing)
    return out.getvalue()


def damaged_files(draw: random.Random) -> Iterator[tuple[str, bytes]]:
    """Names and contents, without end."""
    files = whole_files()
    while True:
        name = draw.choice(list(files))
        content = bytearray(files[name])
        for _ in range(draw.choice((1, 1, 2, 4, 12))):
            _damage(content, draw, files)
        if draw.random() < 0.05:  # another ending than its content has
            name = draw.choice(list(files))
        yield name, bytes(content)


def _damage(content: bytearray, draw: random.Random, files: dict[str, bytes]) -> None:
    if not content:
        return
    # Most of what decides lies at the beginning.
    place = draw.randrange(min(len(content), draw.choice((64, 512, len(content)))))
    how = draw.random()
    if how < 0.35:
        content[place] = draw.randrange(256)
    elif how < 0.6:
        order = draw.choice(("<I", ">I", "<H", ">H"))
        size = struct.calcsize(order)
        number = draw.choice(_NUMBERS) % 2 ** (8 * size)
        content[place : place + size] = struct.pack(order, number)
    elif how < 0.75:
        del content[place:]
    elif how < 0.85:
        content[place:place] = content[place : place + draw.randrange(1, 400)]
    elif how < 0.93:
        content[place : place + draw.randrange(1, 200)] = bytes(draw.randrange(1, 200))
    else:
        other = draw.choice(list(files.values()))
        content[place:] = other[draw.randrange(len(other)) :]


def as_upload(name: str, content: bytes) -> Request:
    path = "/api/titles/import" if name.endswith(".mabrel") else "/api/library"
    return upload(path, name, content)
