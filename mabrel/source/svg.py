"""SVG drawings, through resvg.

A drawing is searched before it is drawn: no scripts, nothing from outside, no entities, and
limits on depth, on the number of elements, and on how far `use` multiplies them.
"""

import io
import math
import re
from xml.parsers import expat

import cv2
import numba
import numpy as np
from numpy.typing import NDArray
from PIL import Image

from mabrel.kernels import kernel
from mabrel.source.fonts import families
from mabrel.source.picture_error import PictureError
from mabrel.source.svg_process import drawn_png
from mabrel.source.svg_uses import Uses

Array = NDArray[np.float32]
DEEPEST = 200
MOST_ELEMENTS = 100_000
LARGEST_TEXT = 16 * 2**20
_LARGEST_DRAWN = 40_000_000
_LARGEST_FINE = 12_000_000
_OVERSAMPLED = 4  # resvg's own edges have few levels: drawn larger and averaged they are smooth
_URL = re.compile(r"url\(", re.IGNORECASE)
_LONGEST_WRITTEN = 64  # characters that a length, a number or the beginning of an address may have
_LENGTH = re.compile(
    r"\s*([0-9]*\.?[0-9]+(?:e[+-]?[0-9]+)?)\s*(px|pt|pc|mm|cm|in|)\s*", re.IGNORECASE
)
_PIXELS = {
    "": 1.0,
    "px": 1.0,
    "pt": 4 / 3,
    "pc": 16.0,
    "mm": 96 / 25.4,
    "cm": 96 / 2.54,
    "in": 96.0,
}
_COSTLY = re.compile(r"\b(?:filter|mask)\b", re.IGNORECASE)
_MOST_COSTLY = 100
_REFUSED = {"script", "foreignobject", "image", "iframe", "audio", "video"}
_FAMILY = re.compile(r"font-family\s*:\s*([^;}]+)", re.IGNORECASE)
_GENERIC = {"sans-serif", "serif", "monospace", "cursive", "fantasy", "inherit", "initial"}
_TEXT = re.compile(rb"<(?:\w+:)?text[\s>]")
_START = re.compile(rb"^(?:\xef\xbb\xbf)?\s*<(?:\?xml|!--|!DOCTYPE|svg[\s>]|\w+:svg[\s>])")


def looks_like_svg(content: bytes) -> bool:
    return bool(_START.match(content[:512]))


def svg_size(content: bytes, name: str) -> tuple[int, int]:
    """Width and height in the drawing's own units, after it was searched. Raises PictureError."""
    search = _Search(name)
    search.run(content)
    return search.size()


def decoded_svg(content: bytes, name: str, size: tuple[int, int], scale: float) -> Array:
    """Premultiplied RGBA (H, W, 4) at `scale` times its own size. Raises PictureError."""
    width = max(round(size[0] * scale), 1)
    height = max(round(size[1] * scale), 1)
    if width * height > _LARGEST_DRAWN:
        raise PictureError(name, f"would be drawn with {width} × {height} pixels: too many")
    more = _OVERSAMPLED
    while more > 1 and width * height * more * more > _LARGEST_FINE:
        more //= 2
    drawn = np.asarray(_drawn(content, name, width * more).convert("RGBA"))
    if drawn.shape[0] % more or drawn.shape[1] % more:
        more = 1
    pixels = np.empty((drawn.shape[0] // more, drawn.shape[1] // more, 4), np.float32)
    _average(np.ascontiguousarray(drawn), more, pixels)
    if pixels.shape[:2] != (height, width):
        pixels = np.asarray(cv2.resize(pixels, (width, height), interpolation=cv2.INTER_AREA))
    return pixels


@kernel(parallel=True)
def _average(drawn, more, out):  # type: ignore[no-untyped-def]
    """Straight RGBA of 8 bits to premultiplied means over `more` × `more` pixels."""
    whole = np.float32(255 * more * more)
    for line in numba.prange(out.shape[0]):
        y = np.int64(line)
        for x in range(out.shape[1]):
            red = green = blue = alpha = np.int64(0)
            for j in range(y * more, (y + 1) * more):
                for i in range(x * more, (x + 1) * more):
                    cover = np.int64(drawn[j, i, 3])
                    red += drawn[j, i, 0] * cover
                    green += drawn[j, i, 1] * cover
                    blue += drawn[j, i, 2] * cover
                    alpha += cover
            out[y, x, 0] = np.float32(red) / (whole * np.float32(255))
            out[y, x, 1] = np.float32(green) / (whole * np.float32(255))
            out[y, x, 2] = np.float32(blue) / (whole * np.float32(255))
            out[y, x, 3] = np.float32(alpha) / whole


def _drawn(content: bytes, name: str, width: int) -> Image.Image:
    png = drawn_png(content, name, width, bool(_TEXT.search(content)))
    with Image.open(io.BytesIO(png), formats=("PNG",)) as image:
        image.load()
        return image


class _Search:
    """Reads a drawing once, element by element, and stops at the first thing refused."""

    def __init__(self, name: str) -> None:
        self.name = name
        self.depth = 0
        self.elements = 0
        self.path: list[str] = []
        self.names: list[str] = []
        self.uses = Uses()
        self.costly = 0
        self.root: dict[str, str] = {}

    def size(self) -> tuple[int, int]:
        """Of the root: its width and height, or those of its viewBox (SVG 2, 8.2)."""
        box = re.split(r"[\s,]+", self.root.get("viewBox", "").strip(), maxsplit=4)
        across, down = (_number(part) for part in (*box, "", "", "", "")[2:4])
        width, height = (_pixels(self.root.get(key, "")) for key in ("width", "height"))
        if width is None and height is None:
            width, height = across, down
        elif height is None:
            height = (width or 0) * down / across if across else 0
        elif width is None:
            width = height * across / down if down else 0
        most = 10.0**9  # far over every limit: what is larger must not become infinite
        return round(min(width or 0, most)), round(min(height or 0, most))

    def run(self, content: bytes) -> None:
        if len(content) > LARGEST_TEXT:
            raise PictureError(self.name, f"is larger than {LARGEST_TEXT // 2**20} MiB")
        parser = expat.ParserCreate()
        parser.StartElementHandler = self._start
        parser.EndElementHandler = self._end
        parser.StartDoctypeDeclHandler = self._doctype
        parser.CharacterDataHandler = self._text
        parser.ProcessingInstructionHandler = self._instruction
        try:
            parser.Parse(content, True)
        except PictureError:
            raise
        except (LookupError, ValueError) as unknown:
            raise PictureError(self.name, f"can't be read: {unknown}") from None
        except expat.ExpatError as broken:
            place = f"line {broken.lineno}, column {broken.offset + 1}"
            raise PictureError(
                self.name, f"is not well-formed at {place}: {expat.ErrorString(broken.code)}"
            ) from None
        try:
            total = self.uses.total(MOST_ELEMENTS, DEEPEST)
        except ValueError as circle:
            raise PictureError(self.name, str(circle)) from None
        if total > MOST_ELEMENTS:
            raise PictureError(self.name, "multiplies its parts too often by 'use'")

    def _refuse(self, fault: str) -> None:
        raise PictureError(self.name, fault)

    def _doctype(self, *_: object) -> None:
        self._refuse("declares a document type, which a drawing here must not")

    def _instruction(self, target: str, _: str) -> None:
        if target == "xml-stylesheet":
            self._refuse("refers to something outside")

    def _text(self, text: str) -> None:
        if "@import" in text or _leads_outside(text):
            self._refuse("refers to something outside")
        if _COSTLY.search(text) and self.path and "style" in self.names[-1:]:
            self._refuse("has a filter or mask in its style sheet: put it on the part itself")
        self._styled(text)

    def _start(self, name: str, attributes: dict[str, str]) -> None:
        self.depth += 1
        self.elements += 1
        local = name.rpartition(":")[2].lower()
        if self.depth > DEEPEST:
            self._refuse(f"nests its parts more than {DEEPEST} deep")
        if self.elements > MOST_ELEMENTS:
            self._refuse(f"has more than {MOST_ELEMENTS} parts")
        if local in _REFUSED:
            self._refuse(f"has a <{local}>, which a drawing here must not")
        if self.elements == 1:
            if local != "svg":
                self._refuse("is no SVG")
            self.root = attributes
        self.path.append(attributes.get("id", ""))
        self.names.append(local)
        self.uses.enter(self.path[-1])
        for key, value in attributes.items():
            self._attribute(local, key.lower(), value)

    def _attribute(self, element: str, key: str, value: str) -> None:
        if key in ("filter", "mask") or (key == "style" and _COSTLY.search(value)):
            self.costly += 1
            if self.costly > _MOST_COSTLY:
                self._refuse(f"has more than {_MOST_COSTLY} filters and masks")
        if key == "font-family":
            self._font(value)
        elif key == "style":
            self._styled(value)
        if key.rpartition(":")[2] == "href":
            target = value.strip()
            if not target.startswith("#"):
                self._refuse("refers to something outside")
            if element == "use":
                self.uses.use(target[1:])
        elif key.startswith("on"):
            self._refuse("has a script, which a drawing here must not")
        elif _leads_outside(value):
            self._refuse("refers to something outside")

    def _styled(self, css: str) -> None:
        for named in _FAMILY.findall(css):
            self._font(named)

    def _font(self, named: str) -> None:
        """Words in a font that isn't here would be left out without a word."""
        asked = [each.strip().strip("'\"") for each in named.split(",")]
        there = {name.lower() for name in families()} | _GENERIC
        if not any(each.lower() in there for each in asked):
            self._refuse(f"asks for the font {asked[0]!r}, which isn't here: turn it into outlines")

    def _end(self, _: str) -> None:
        self.depth -= 1
        self.uses.leave(self.path.pop())
        self.names.pop()


def _leads_outside(text: str) -> bool:
    """Whether any ``url(…)`` in it names something that is not in the drawing itself."""
    for found in _URL.finditer(text):
        address = text[found.end() : found.end() + _LONGEST_WRITTEN].lstrip()
        if not address.lstrip("'\"").lstrip().startswith("#"):
            return True
    return False


def _number(written: str) -> float:
    """0 for what is no finite number."""
    try:
        value = float(written[:_LONGEST_WRITTEN])
    except ValueError:
        return 0.0
    return value if math.isfinite(value) else 0.0


def _pixels(written: str) -> float | None:
    """A length in pixels (CSS Values 4), or None where it is left out or a percentage."""
    found = _LENGTH.fullmatch(written) if len(written) <= _LONGEST_WRITTEN else None
    if found is None or found[2].lower() not in _PIXELS:
        return None
    return float(found[1]) * _PIXELS[found[2].lower()]
