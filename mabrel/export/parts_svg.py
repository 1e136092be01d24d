"""Parts as SVG 1.1: one path each, in groups by layer and letter."""

from collections import Counter
from collections.abc import Iterator
from itertools import groupby
from xml.sax.saxutils import escape, quoteattr

import numpy as np
from numpy.typing import NDArray

from mabrel.export.parts import Drawn, Paint, Sheet
from mabrel.field.fitting import Curve

_LINE = 0.02  # frame pixels within which a curve is written as a line


def svg_text(sheet: Sheet) -> str:
    """The whole drawing, in frame pixels."""
    lines = [
        '<?xml version="1.0" encoding="UTF-8"?>',
        f'<svg xmlns="http://www.w3.org/2000/svg" version="1.1" width="{sheet.width}" '
        f'height="{sheet.height}" viewBox="0 0 {sheet.width} {sheet.height}">',
        f"<title>{escape(sheet.name)}</title>",
        *_gradients(sheet),
    ]
    names, groups = _names(sheet), Counter[str]()
    for layer, parts in groupby(enumerate(sheet.parts), lambda each: each[1].shard.layer):
        lines.append(f"<g id={quoteattr(_id(f'layer-{layer}'))}>")
        lines.append(f"<title>{escape(sheet.layers[layer])}</title>")
        for (kind, letter), own in groupby(parts, _group):
            group = _id(f"{layer}-{kind}-{letter}")
            groups[group] += 1
            name = group if groups[group] == 1 else f"{group}-{groups[group]}"
            lines.append(f"<g id={quoteattr(name)}>")
            lines += [_path(part, number, names[number]) for number, part in own]
            lines.append("</g>")
        lines.append("</g>")
    return "\n".join([*lines, "</svg>", ""])


def _group(each: tuple[int, Drawn]) -> tuple[str, str]:
    return each[1].shard.kind, each[1].shard.letter


def _names(sheet: Sheet) -> list[str]:
    """An id for each part, no two the same."""
    seen: dict[str, int] = {}
    names = []
    for part in sheet.parts:
        name = _id(f"{part.shard.layer}-{part.shard.name}")
        seen[name] = seen.get(name, 0) + 1
        names.append(name if seen[name] == 1 else f"{name}-{seen[name]}")
    return names


def _id(name: str) -> str:
    """Letters, digits, dashes and dots alone, a letter first."""
    plain = "".join(
        each if each.isascii() and (each.isalnum() or each in "-.") else f"u{ord(each):x}"
        for each in name
    )
    return plain if plain[:1].isalpha() else f"p-{plain}"


def _gradients(sheet: Sheet) -> Iterator[str]:
    found = [(n, part.paint) for n, part in enumerate(sheet.parts) if len(part.paint.colours) > 1]
    if not found:
        return
    yield "<defs>"
    for number, paint in found:
        x1, y1, x2, y2 = (f"{each:.2f}" for each in paint.line)
        yield (
            f'<linearGradient id="paint-{number}" gradientUnits="userSpaceOnUse" x1="{x1}" '
            f'y1="{y1}" x2="{x2}" y2="{y2}">'
        )
        for place, (*colour, alpha) in zip((0, 1), paint.colours, strict=True):
            opacity = "" if alpha > _OPAQUE else f' stop-opacity="{alpha:.3f}"'
            yield f'<stop offset="{place}" stop-color="{_code(colour)}"{opacity}/>'
        yield "</linearGradient>"
    yield "</defs>"


_OPAQUE = 0.998


def _path(part: Drawn, number: int, name: str) -> str:
    outline = "".join(path_data(curves) for curves in part.outlines)
    return f'<path id="{name}" {_fill(part.paint, number)} fill-rule="evenodd" d="{outline}"/>'


def _fill(paint: Paint, number: int) -> str:
    if len(paint.colours) > 1:
        return f'fill="url(#paint-{number})"'
    *colour, alpha = paint.colours[0]
    opacity = "" if alpha > _OPAQUE else f' fill-opacity="{alpha:.3f}"'
    return f'fill="{_code(colour)}"{opacity}'


def _code(colour: list[float]) -> str:
    return "#" + "".join(f"{round(channel * 255):02x}" for channel in colour)


def rgba_code(colour: tuple[float, float, float, float]) -> str:
    """#rrggbb, or #rrggbbaa where it lets something through."""
    return _code(list(colour[:3] if colour[3] > _OPAQUE else colour))


def path_data(curves: tuple[Curve, ...]) -> str:
    """One closed outline as the `d` of a path, to a hundredth of a pixel."""
    words = [f"M{_place(curves[0][0])}"]
    for curve in curves:
        first, last = curve[0], curve[3]
        third = (last - first) / 3
        straight = abs(curve[1] - first - third).max() < _LINE
        straight = straight and abs(curve[2] - last + third).max() < _LINE
        words.append(
            f"L{_place(last)}" if straight else "C" + " ".join(_place(place) for place in curve[1:])
        )
    return "".join([*words, "Z"])


def _place(place: NDArray[np.float64]) -> str:
    x, y = place.tolist()
    return f"{_short(x)} {_short(y)}"


def _short(value: float) -> str:
    return f"{value:.2f}".rstrip("0").rstrip(".") or "0"
