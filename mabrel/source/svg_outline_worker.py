"""A program of its own: reads a drawing from standard input and writes its outline as JSON.

Arguments: bytes of memory, seconds. All that is painted, strokes too, is one outline: a list of
segments, each a letter (M, L, Q, C or Z) and its numbers. It ends with an error for a drawing that
is more than painted paths: words, masks, filters, or paint that one sees through. It imports
nothing of ours, since it starts anew for each drawing.
"""

import json
import resource
import sys
from collections.abc import Iterator, Sequence

import pathops
from picosvg import svg_pathops
from picosvg.svg import SVG

_LETTERS = {"moveTo": "M", "lineTo": "L", "qCurveTo": "Q", "curveTo": "C", "closePath": "Z"}
_HREF = "{http://www.w3.org/1999/xlink}href"
_OPAQUE = 0.999
Place = tuple[float, float]


def main() -> None:
    memory, seconds = (int(each) for each in sys.argv[1:])
    resource.setrlimit(resource.RLIMIT_AS, (memory, memory))
    resource.setrlimit(resource.RLIMIT_CPU, (seconds, seconds))
    text = sys.stdin.buffer.read().decode("utf-8-sig")
    try:
        drawing = _read(text).topicosvg()
        shapes = [shape for shape in drawing.shapes() if shape.fill != "none"]
    except (ValueError, KeyError, IndexError, AttributeError, TypeError, AssertionError) as unknown:
        sys.exit(f"has no outline of its own: {unknown}")
    if any(shape.opacity * shape.fill_opacity < _OPAQUE for shape in shapes):
        sys.exit("has paint that one sees through")
    whole = pathops.Path()
    for shape in shapes:
        own = svg_pathops.skia_path(shape.as_cmd_seq(), shape.fill_rule)
        whole = pathops.op(whole, own, pathops.PathOp.UNION)
    whole.convertConicsToQuads()
    segments: list[list[str | float]] = []
    for name, points in whole.segments:
        if name == "endPath":
            continue
        if name == "qCurveTo":
            segments += _quadratics(points)
        else:
            segments.append([_LETTERS[name], *(part for point in points for part in point)])
    json.dump(segments, sys.stdout)


def _read(text: str) -> SVG:
    """A drawing in which what is used is named as of old, the only way that is understood."""
    drawing = SVG.fromstring(text)
    for element in drawing.svg_root.iter():
        if "href" in element.attrib:
            element.set(_HREF, element.get("href"))
    return drawing


def _quadratics(points: Sequence[Place]) -> Iterator[list[str | float]]:
    """A run of quadratic curves, whose places between two controls are left to be understood."""
    *controls, end = points
    for index, control in enumerate(controls):
        after = end
        if index < len(controls) - 1:
            pairs = zip(control, controls[index + 1], strict=True)
            x, y = ((a + b) / 2 for a, b in pairs)
            after = (x, y)
        yield ["Q", *control, *after]


if __name__ == "__main__":
    main()
