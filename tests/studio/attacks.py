"""What was sent to stop the studio: each with what was open before it.

Used by the tests and by `make attacks`, which measures what other pages notice of them.
"""

import io
import json
import random
import struct
import zipfile
import zlib
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any

import brotli
import cv2
import numpy as np
import OpenEXR

from mabrel.source.font_packing import _Woff2Directory
from tests.engine.source.test_own_fonts import packed

SVG = '<svg xmlns="http://www.w3.org/2000/svg" {}>{}</svg>'
SIZED = 'width="40" height="40"'


@dataclass
class Attack:
    """One request. `upload` is the name of a file in `body`."""

    name: str
    method: str
    path: str
    body: Any = None
    upload: str = ""
    allowed: tuple[int, ...] = (422,)
    headers: dict[str, str] = field(default_factory=dict)


def _layers(*layers: dict, **document: Any) -> dict:
    return {"mabrel": 1, "frame": {"width": 320, "height": 180}, "layers": list(layers)} | document


def word(text: str = "KELP", build: list | None = None, **source: Any) -> dict:
    layer = {"kind": "lettering", "id": "word", "build": build or []}
    return layer | {"source": {"text": text, "size": 60} | source}


def _step(step: str, **settings: Any) -> dict:
    return {"step": step, "settings": settings}


def noise_png(seed: int = 1, side: int = 1000) -> bytes:
    grain = np.random.default_rng(seed).random((side, side), dtype="float32")
    return cv2.imencode(".png", (grain * 255).astype(np.uint8))[1].tobytes()


def woff2_bomb() -> bytes:
    small = packed("woff2")
    directory = _Woff2Directory(small)
    directory.sizes()
    bomb = brotli.compress(bytes(200 * 2**20), quality=5)
    lying = bytearray(small[: directory.place] + bomb)
    struct.pack_into(">I", lying, 20, len(bomb))
    return bytes(lying)


def woff_bomb() -> bytes:
    bomb = zlib.compress(bytes(100 * 2**20), 9)
    header = struct.pack(">4sIIHHI", b"wOFF", 0x00010000, 0, 1, 0, 4000) + bytes(24)
    return header + b"cmap" + struct.pack(">IIII", 64, len(bomb), 4000, 0) + bomb


def exr(channels: dict[str, np.ndarray]) -> bytes:
    out = io.BytesIO()
    header = {"type": OpenEXR.scanlineimage, "compression": OpenEXR.ZIPS_COMPRESSION}
    OpenEXR.File(header, channels).write(out)
    return out.getvalue()


def many_channels() -> bytes:
    plane = np.zeros((1300, 1300), np.float16)
    return exr({f"c{n}": plane for n in range(101)})


def truncated_exr() -> bytes:
    whole = exr({"Y": np.random.default_rng(1).random((60, 80), np.float32)})
    return whole[: len(whole) // 2]


def two_sizes_hdr() -> bytes:
    header = b"#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 8 +X 8\n-Y 20000 +X 20000\n"
    return header + bytes(4000)


def odd_tiff() -> bytes:
    tiff = bytearray(cv2.imencode(".tiff", np.zeros((20, 30, 3), np.uint8))[1].tobytes())
    (start,) = struct.unpack_from("<I", tiff, 4)
    (count,) = struct.unpack_from("<H", tiff, start)
    for entry in range(start + 2, start + 2 + 12 * count, 12):
        struct.pack_into("<H", tiff, entry + 2, 2)
    return bytes(tiff)


def zip_of(document: bytes, **files: bytes) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("title.json", document)
        for name, content in files.items():
            archive.writestr(f"files/{name}", content)
    return out.getvalue()


DRAWINGS = {
    "spaces in an address": SVG.format(SIZED, f'<path style="fill:url({" " * 200_000}"/>'),
    "a length of digits": SVG.format(f'width="{"1" * 160_000}x" height="9"', ""),
    "one part used by all": SVG.format(SIZED, '<g id="a"/>' * 40_000 + '<use href="#a"/>' * 40_000),
    "a box of nothing": SVG.format('viewBox="0 0 nan nan"', ""),
    "an encoding that there is not": '<?xml version="1.0" encoding="nope"?>'
    + SVG.format(SIZED, ""),
}


def uploads() -> Iterator[Attack]:
    for name, drawing in DRAWINGS.items():
        yield Attack(name, "POST", "/library", drawing.encode(), "drawing.svg")
    for name, content in (
        ("bomb.woff2", woff2_bomb()),
        ("bomb.woff", woff_bomb()),
        ("many.exr", many_channels()),
        ("half.exr", truncated_exr()),
        ("odd.tif", odd_tiff()),
    ):
        # a header that is whole passes: its picture says the rest
        yield Attack(name, "POST", "/library", content, name, (201, 422))
    yield Attack("two sizes", "POST", "/library", two_sizes_hdr(), "sizes.hdr", (201, 422))
    yield Attack(
        "a long name of wide letters",
        "POST",
        "/library",
        noise_png(2, 8),
        "漢" * 100 + ".png",
        (201,),
    )
    for name, content in (
        ("a bundle that is none", b"PK\5\6" + bytes(18)),
        (
            "a bundle of a huge document",
            zip_of(b'{"mabrel": 1, "name": "' + b"x" * (20 * 2**20) + b'"}'),
        ),
        ("a bundle of junk", zip_of(b"[" * 100_000)),
    ):
        yield Attack(name, "POST", "/titles/import", content, "x.mabrel")


def _painted(*rows: str) -> dict[str, Any]:
    return {"inks": [{"colour": "#fff"}], "letters": [{"rows": rows}]}


BROKEN = {
    "an unknown step": _layers(word(build=[_step("moon.rise")])),
    "an unknown setting": _layers(word(build=[_step("relief.inflate", depth=1)])),
    "an unknown handle": _layers(word() | {"handle": "nobody"}),
    "copies in a circle": _layers(
        {"kind": "copy", "id": "a", "source": {"layer": "b"}},
        {"kind": "copy", "id": "b", "source": {"layer": "a"}},
        word(),
    ),
    "deep settings": _layers(word(build=[_step("relief.inflate", height=None)])),
    "junk over time": _layers(word(), camera={"pan": {"pegs": [{"at": 0, "value": "junk"}]}}),
    "opacity over time": _layers(word() | {"opacity": {"pegs": [{"at": 0, "value": 99}]}}),
    "a colour over time": _layers(
        {"kind": "backdrop", "source": {"colour": {"pegs": [{"at": 0, "value": "nocolour"}]}}},
        word(),
    ),
    "too many steps": _layers(
        *(word(build=[_step("tone.invert")] * 200) | {"id": f"w{n}"} for n in range(200))
    ),
    "cells in no ink": _layers(word(build=[_step("surface.cells", painted=_painted("z"))])),
    "rows that go on": _layers(
        word(build=[_step("surface.cells", painted=_painted(*["a" * 4000] * 200))])
    ),
    "two thousand and one paints": _layers(
        word(build=[_step("surface.parts", paints={"parts": [{}] * 2001})])
    ),
    "a part that is no part": _layers(
        word(build=[_step("surface.parts", paints={"parts": [{"kind": "shadow"}]})])
    ),
    "a frame around nobody": _layers(
        word(), {"kind": "shapes", "source": {"shapes": [{"form": "frame", "around": "nobody"}]}}
    ),
    "a shape of thousands": _layers(word(), {"kind": "shapes", "source": {"shapes": [{}] * 5000}}),
    "words along themselves": _layers(word(along={"on": "shapes", "layer": "word"})),
    "fields that nobody knows": _layers(word() | {f"k{n}": 1 for n in range(290_000)}),
    "two million lists": _layers(*([],) * 2_000_000),
}
_deep: Any = 1
for _ in range(150):
    _deep = [_deep]
BROKEN["deep settings"]["layers"][0]["build"][0]["settings"]["height"] = _deep

TO_DOCUMENTS = {
    "/preview": {"session": "x"},
    "/export": {},
    "/readings": {"session": "x", "layer": "word"},
    "/relief": {"session": "x", "layer": "word"},
    "/section": {"session": "x", "layer": "word", "at": 90},
    "/boxes": {"session": "x", "layer": "word"},
    "/cells": {"session": "x", "layer": "word", "step": "x"},
    "/parts": {"session": "x", "layer": "word", "step": "x", "coloured": True},
    "/tones": {"session": "x", "layer": "word", "step": "x"},
    "/build-pictures": {"session": "x", "layer": "word"},
    "/strip": {"session": "x", "lane": "x"},
    "/look/swap": {"layer": "word", "text": "RUST"},
    "/look/resize": {"layer": "word", "size": 40},
    "/look/finish": {"layers": ["word"], "finish": "enamel"},
    "/look/words": {"words": "RUST"},
    "/finishes": {"layer": "word", "label": "Mine"},
}


def _thread(count: int) -> list[list[float]]:
    """A path that crosses itself all over."""
    draw = random.Random(4)
    return [[draw.uniform(-300, 300) for _ in range(6)] for _ in range(count)]


def documents() -> Iterator[Attack]:
    for name, document in BROKEN.items():
        allowed = (400,) if name == "two million lists" else (422,)  # that is no JSON to be read
        for path, ask in TO_DOCUMENTS.items():
            body = ask | {"document": document}
            yield Attack(f"{name} to {path}", "POST", path, body, allowed=allowed)
        for path in ("/exports/set", "/titles/set"):
            body = {"documents": [document]} | ({"order": {}} if path == "/exports/set" else {})
            yield Attack(f"{name} to {path}", "POST", path, body, allowed=allowed)
    row = _layers(
        {
            "kind": "backdrop",
            "build": [_step("surface.gradient"), _step("relief.inflate"),
                      _step("surface.bend", amount=4000)],
        },
        frame={"width": 320, "height": 1},
    )  # fmt: skip
    yield Attack("a backdrop of one row", "POST", "/preview", {"session": "x", "document": row},
                 allowed=(200,))  # fmt: skip
    for name, shape in (
        ("a wound up swirl", {"form": "swirl", "points": 60, "twist": 720, "line": 9}),
        ("a gear of needles", {"form": "gear", "points": 60, "twist": -720, "rounded": 1}),
        ("a ball of thread", {"form": "path", "nodes": _thread(500)}),
        ("a path of one place", {"form": "path", "nodes": [[0] * 6] * 9, "line": 20}),
        ("a shape beyond all", {"form": "star", "width": 20_000, "height": 20_000}),
    ):
        layers = _layers({"kind": "shapes", "id": "word", "source": {"shapes": [shape]}})
        yield Attack(name, "POST", "/preview", {"session": "x", "document": layers},
                     allowed=(200, 422))  # fmt: skip
    fine = {"fit": "size", "width": 0.01, "height": 0.01, "divided": "eighths", "pattern": "noise"}
    dust = _layers(word(build=[_step("surface.cells", **fine) | {"id": "cells"}]))
    yield Attack("cells like dust", "POST", "/preview", {"session": "x", "document": dust},
                 allowed=(200,))  # fmt: skip
    ask = {"session": "x", "document": dust, "layer": "word", "step": "cells", "divided": 8}
    yield Attack("the grid of dust", "POST", "/cells", ask)
    many = [
        {"kind": "facet", "facing": 360 * n / 2000, "fill": "pattern", "size": 1 + n}
        for n in range(2000)
    ]
    glass = [
        _step("relief.bevel", width=2000, corners="mitred"), _step("depth.extrude", length=4000),
        _step("surface.parts", paints={"parts": many}) | {"id": "parts"},
    ]  # fmt: skip
    for name, text in (("a wall of glass", "ABRS" * 8), ("no glass at all", " ")):
        panes = _layers(word(text, build=glass))
        yield Attack(name, "POST", "/preview", {"session": "x", "document": panes},
                     allowed=(200, 422))  # fmt: skip
        ask = {"session": "x", "document": panes, "layer": "word", "step": "parts"}
        yield Attack(f"the panes of {name}", "POST", "/parts", ask, allowed=(200, 422))
    heap = _layers(word("A" * 2000, size=300, letter_spacing=-208))
    yield Attack("a heap of letters", "POST", "/preview", {"session": "x", "document": heap},
                 allowed=(200, 422))  # fmt: skip
    for mark in "\u2066\u2069\u0590":
        marked = _layers(word(f"A{mark}B"))
        yield Attack(f"the character {ord(mark):x}", "POST", "/preview",
                     {"session": "x", "document": marked}, allowed=(200,))  # fmt: skip
    plain = _layers(word(), {"kind": "backdrop"})
    for name, words in (
        ("a lone return", "Name,Word\ra,b"),
        ("a huge cell", 'Name,Word\n"' + "x" * 150_000 + '",b'),
    ):
        yield Attack(name, "POST", "/look/words", {"document": plain, "words": words},
                     allowed=(200, 422))  # fmt: skip
    whole = json.dumps({"session": "x", "document": plain, "layer": "word", "at": 1}).encode()
    for name, body in (
        ("a cut at nan", whole.replace(b'"at": 1', b'"at": NaN')),
        ("a cut at text", whole.replace(b'"at": 1', b'"at": "nan"')),
        ("a cut at infinity", whole.replace(b'"at": 1', b'"at": 1e999')),
        ("half a surrogate", whole.replace(b'"KELP"', b'"\\ud800"')),
        ("an endless number", whole.replace(b'"at": 1', b'"at": ' + b"9" * 5000)),
        ("an endless depth", b"[" * 500_000),
    ):
        yield Attack(name, "POST", "/section", body, allowed=(400, 422))
    huge = _layers(word(), frame={"width": 16_384, "height": 2400})
    yield Attack("a vast preview", "POST", "/preview", {"session": "x", "document": huge})


def all_attacks() -> list[Attack]:
    return [*uploads(), *documents()]
