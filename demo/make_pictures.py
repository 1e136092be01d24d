"""Make the demo's pictures: the gull emblem of "The Skerry Line", as SVG and as PNG."""

import math
from pathlib import Path

import resvg_py

from mabrel.source import LetteringStyle, outline_text, svg_path

FOLDER = Path(__file__).parent / "titles"
NAVY, CREAM = "#16324a", "#f3ead6"


def main() -> None:
    FOLDER.mkdir(exist_ok=True)
    (FOLDER / "gull.svg").write_text(gull())
    (FOLDER / "gull.png").write_bytes(resvg_py.svg_to_bytes(svg_string=gull(), width=900))
    (FOLDER / "badge.png").write_bytes(resvg_py.svg_to_bytes(svg_string=badge(), width=720))


def gull() -> str:
    """A gull in a ring, in one colour."""
    inside = 'transform="translate(300 310) scale(0.84) translate(-300 -310)"'
    return _svg(
        f'<path fill="{NAVY}" fill-rule="evenodd" d="{_circle(280)}{_circle(238)}"/>'
        f'<path fill="{NAVY}" {inside} d="{BIRD}"/><path fill="{NAVY}" {inside} d="{_waves()}"/>'
    )


def badge() -> str:
    """The same gull and the name of the line, cream on a navy disc."""
    name = outline_text("SKERRY", LetteringStyle("Anton", "", 118, 6))
    small = 'transform="translate(300 232) scale(0.62) translate(-300 -300)"'
    return _svg(
        f'<path fill="{NAVY}" d="{_circle(290)}"/>'
        f'<path fill="{CREAM}" fill-rule="evenodd" d="{_circle(272)}{_circle(262)}"/>'
        f'<path fill="{CREAM}" {small} d="{BIRD}"/>'
        f'<path fill="{CREAM}" transform="translate(300 408)" d="{svg_path(name)}"/>'
    )


# Two raised wings, a body with a head to the right, a forked tail to the left.
BIRD = (
    "M96 236 C150 176 226 190 278 262 C290 246 304 236 322 230 C352 168 428 128 508 150 "
    "C462 164 424 198 398 244 C420 246 440 256 452 270 L486 282 L450 292 "
    "C436 318 402 336 360 338 C332 352 296 356 262 346 L206 372 L222 340 L180 340 "
    "L240 316 C250 308 256 298 262 286 C222 238 160 218 96 236 Z"
)


def _circle(radius: float) -> str:
    return (
        f"M{300 - radius} 300a{radius} {radius} 0 1 0 {2 * radius} 0"
        f"a{radius} {radius} 0 1 0 {-2 * radius} 0Z"
    )


def _waves() -> str:
    """Two swells under the bird."""
    parts = []
    for y, left, right, thick in ((404, 148, 452, 26), (456, 196, 404, 22)):
        count = 24
        xs = [left + (right - left) * i / count for i in range(count + 1)]
        crest = [(x, y - 9 * math.sin((x - left) / 38)) for x in xs]
        trough = [
            (x, cy + thick * math.sin(math.pi * i / count)) for i, (x, cy) in enumerate(crest)
        ]
        loop = crest + trough[::-1]
        parts.append("M" + "L".join(f"{x:.1f} {cy:.1f}" for x, cy in loop) + "Z")
    return "".join(parts)


def _svg(inside: str) -> str:
    return (
        '<svg xmlns="http://www.w3.org/2000/svg" width="600" height="600" viewBox="0 0 600 600">'
        f"{inside}</svg>\n"
    )


if __name__ == "__main__":
    main()
