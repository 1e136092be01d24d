"""OpenRaster: a picture as layers that any painting program opens.

Each layer of the title is a group of its own, with what lies behind its face, the face, and what
lies before it as layers. Light that nothing covers is a layer that adds. A layer that the format
has no blend mode for, and a wash, which treats all beneath it, are laid into one layer with what
lies beneath them, which is hidden then. Laid together as the specification says, the layers are
the picture.

References: https://www.openraster.org (baseline 0.0.5).
"""

import io
import zipfile
from collections.abc import Iterator, Sequence
from typing import Any, NamedTuple
from xml.etree import ElementTree

import cv2
import numpy as np

from mabrel.export.png import png_bytes
from mabrel.render import Cancel, Picture, Renderer, drawn_layers
from mabrel.steps import Array
from mabrel.title import Layer, Title, Wash, value_at

_MODES = {
    "normal": "svg:src-over", "multiply": "svg:multiply", "screen": "svg:screen",
    "overlay": "svg:overlay", "darken": "svg:darken", "lighten": "svg:lighten",
    "color-dodge": "svg:color-dodge", "color-burn": "svg:color-burn",
    "hard-light": "svg:hard-light", "soft-light": "svg:soft-light",
    "difference": "svg:difference", "color": "svg:color", "luminosity": "svg:luminosity",
    "hue": "svg:hue", "saturation": "svg:saturation", "plus-lighter": "svg:plus",
}  # fmt: skip
_PLAIN = "svg:src-over"
_THUMB = 256
_SEEN = 1e-5  # light beyond its cover that is worth a layer


class _Sheet(NamedTuple):
    """One layer of the file."""

    name: str
    pixels: Array
    mode: str = "svg:src-over"


class _Stack(NamedTuple):
    """Sheets from the back to the front, drawn as one."""

    name: str
    mode: str
    sheets: tuple[_Sheet, ...]
    seen: bool = True


def openraster_bytes(
    renderer: Renderer,
    title: Title,
    *,
    time: float = 0.0,
    scale: float = 1.0,
    cancel: Cancel | None = None,
) -> bytes:
    """A title's picture at `time` seconds and `scale` as an OpenRaster file, its layers in 16
    bits. Raises what `Renderer.render` raises."""
    whole = renderer.render(title, time=time, scale=scale, cancel=cancel)
    stacks = list(_stacks(renderer, title, whole, time=time, scale=scale, cancel=cancel))
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        _add(archive, "mimetype", b"image/openraster")
        _add(archive, "stack.xml", _described(archive, stacks, whole), zipfile.ZIP_DEFLATED)
        _add(archive, "mergedimage.png", png_bytes(whole, 16))
        _add(archive, "Thumbnails/thumbnail.png", png_bytes(_thumbnail(whole)))
    return out.getvalue()


def _stacks(renderer: Renderer, title: Title, whole: Picture, **how: Any) -> Iterator[_Stack]:
    """From the back to the front."""
    if title.blur.angle:  # the mean of several pictures is no stack of layers
        yield _Stack(title.name or "Picture", _PLAIN, tuple(_split("Picture", whole.pixels)))
        return
    time = how["time"]
    shown = drawn_layers(title)
    first = _first_apart(shown, time)
    for index, layer in enumerate(shown):
        if index == first and first:
            yield _baked(renderer, title, shown[:first], how)
        if not isinstance(layer, Wash):
            mode = _MODES.get(value_at(layer.blend, time), _PLAIN)
            yield _Stack(_name(layer), mode, _apart(renderer, title, layer, how), index >= first)
    if first == len(shown) > 0:
        yield _baked(renderer, title, shown, how)


def _name(layer: Layer) -> str:
    return layer.name or layer.kind


def _baked(
    renderer: Renderer, title: Title, layers: Sequence[Layer], how: dict[str, Any]
) -> _Stack:
    pixels = renderer.render(_with_only(title, {each.id for each in layers}), **how).pixels
    name = ", ".join(_name(each) for each in layers)
    return _Stack(name, _PLAIN, tuple(_split(name, pixels)))


def _apart(
    renderer: Renderer, title: Title, layer: Layer, how: dict[str, Any]
) -> tuple[_Sheet, ...]:
    planes = renderer.planes(title, layer.id, **how)._asdict().items()
    return tuple(
        sheet for name, pixels in planes for sheet in _split(f"{_name(layer)}, {name}", pixels)
    )


def _first_apart(layers: Sequence[Layer], time: float) -> int:
    """Where the layers begin that can be kept apart, with all that lie before them."""
    baked = [
        index
        for index, layer in enumerate(layers)
        if isinstance(layer, Wash) or value_at(layer.blend, time) not in _MODES
    ]
    return baked[-1] + 1 if baked else 0


def _with_only(title: Title, drawn: set[str]) -> Title:
    """The title with all but these layers out of sight, still there for others to refer to."""
    own = {each.id for each in drawn_layers(title)}
    layers = [
        each.model_copy(update={"visible": False}) if each.id in own - drawn else each
        for each in title.layers
    ]
    return title.model_copy(update={"layers": layers}).at_home(title.home)


def _split(name: str, pixels: Array) -> Iterator[_Sheet]:
    """A plane as what covers, and the light beyond that; nothing where it is empty."""
    cover = np.minimum(pixels, np.clip(pixels[..., 3:], 0, 1))
    beyond = np.maximum(pixels - cover, 0)
    beyond[..., 3] = 0
    if cover.any():
        yield _Sheet(name, cover)
    if (beyond > _SEEN).any():
        yield _Sheet(f"{name}, light", beyond, "svg:plus")


def _described(archive: zipfile.ZipFile, stacks: Sequence[_Stack], whole: Picture) -> bytes:
    """The file's table of layers, the front one first; each is put into the archive."""
    size = {"w": str(whole.width), "h": str(whole.height)}
    image = ElementTree.Element("image", {"version": "0.0.5", **size, "name": "Mabrel"})
    root = ElementTree.SubElement(image, "stack")
    for number, stack in reversed(list(enumerate(stacks))):
        group = ElementTree.SubElement(
            root, "stack",
            {"name": stack.name, "composite-op": stack.mode, "isolation": "isolate",
             "opacity": "1.0", "visibility": "visible" if stack.seen else "hidden"},
        )  # fmt: skip
        for part, sheet in reversed(list(enumerate(stack.sheets))):
            source = f"data/{number:03d}-{part}.png"
            x, y, pixels = _trimmed(sheet.pixels)
            _add(archive, source, png_bytes(Picture(pixels), 16))
            ElementTree.SubElement(
                group, "layer",
                {"name": sheet.name, "src": source, "x": str(x), "y": str(y),
                 "composite-op": sheet.mode, "opacity": "1.0", "visibility": "visible"},
            )  # fmt: skip
    described: bytes = ElementTree.tostring(image, "UTF-8", xml_declaration=True)
    return described


def _trimmed(pixels: Array) -> tuple[int, int, Array]:
    """Left, top, and what is not empty."""
    seen = (pixels != 0).any(axis=2)
    rows, columns = np.flatnonzero(seen.any(axis=1)), np.flatnonzero(seen.any(axis=0))
    left, top = int(columns[0]), int(rows[0])
    inside = pixels[top : rows[-1] + 1, left : columns[-1] + 1]
    return left, top, np.ascontiguousarray(inside)


def _thumbnail(whole: Picture) -> Picture:
    share = min(_THUMB / max(whole.width, whole.height), 1)
    size = (max(round(whole.width * share), 1), max(round(whole.height * share), 1))
    small = cv2.resize(whole.pixels, size, interpolation=cv2.INTER_AREA)
    return Picture(np.asarray(small, np.float32))


def _add(archive: zipfile.ZipFile, name: str, content: bytes, way: int | None = None) -> None:
    """Undated, so that the same picture is the same file."""
    entry = zipfile.ZipInfo(name)
    archive.writestr(entry, content, zipfile.ZIP_STORED if way is None else way)
