"""Drawings as outlines: exact where they are painted paths, pixels where they are more."""

import math
from pathlib import Path

import numpy as np
import pytest

from mabrel import Renderer, parse_title
from mabrel.source.svg_outlines import drawing_outline

GULL = Path(__file__).parents[3] / "demo" / "titles"
LINEAR = {"width": 12, "height": 12, "profile": [[0, 0], [1, 1]]}


def drawing(inside: str, box: str = "0 0 200 100") -> bytes:
    start = f'<svg xmlns="http://www.w3.org/2000/svg" width="200" height="100" viewBox="{box}">'
    return f"{start}{inside}</svg>".encode()


def area(lines: np.ndarray) -> float:
    x1, y1, x2, y2 = lines.T
    return abs(float(np.sum(x1 * y2 - x2 * y1))) / 2


@pytest.mark.parametrize(
    ("inside", "wanted", "box"),
    [
        ('<rect x="20" y="10" width="60" height="80"/>', 60 * 80, 60 * 80),
        ('<circle cx="100" cy="50" r="40"/>', math.pi * 1600, 80 * 80),
        ('<ellipse cx="100" cy="50" rx="60" ry="40"/>', math.pi * 2400, 120 * 80),
        ('<polygon points="10,90 60,10 110,90"/>', 100 * 80 / 2, 100 * 80),
        ('<path d="M10 50H190" stroke="#f00" stroke-width="12"/>', 180 * 12, 180 * 12),
        ('<g transform="rotate(90)"><rect y="-90" width="80" height="20"/></g>', 1600, 1600),
        ('<path fill-rule="evenodd" d="M9 9H89V89H9ZM29 29H69V69H29Z"/>', 4800, 6400),
        ('<defs><rect id="r" width="30" height="40"/></defs><use href="#r" x="5"/>', 1200, 1200),
        (
            '<rect width="50" height="50"/><rect x="25" y="5" width="50" height="50"/>',
            3875,
            75 * 55,
        ),
    ],
)
def test_all_that_is_painted_is_one_outline(inside: str, wanted: float, box: float) -> None:
    content = drawing(inside)
    lines = drawing_outline(content, 100.0)
    assert lines is not None
    (left, top), (right, bottom) = (end(lines[:, :2], axis=0) for end in (np.min, np.max))
    assert (left + right, top + bottom) == pytest.approx((0, 0), abs=1e-3)
    assert bottom - top == pytest.approx(100)
    ratio = area(lines) / ((right - left) * (bottom - top))
    assert ratio == pytest.approx(wanted / box, rel=2e-3)


@pytest.mark.parametrize(
    "inside",
    [
        "<text x='10' y='50'>WORD</text>",
        '<rect width="50" height="50" opacity="0.5"/>',
        '<mask id="m"><rect width="9" height="9" fill="#fff"/></mask><rect mask="url(#m)" '
        'width="50" height="50"/>',
        "",
    ],
)
def test_what_is_more_than_opaque_paths_has_no_outline(inside: str) -> None:
    assert drawing_outline(drawing(inside), 100.0) is None


@pytest.mark.parametrize(
    "content", [b"", b"<svg", b"\xff\xfe", b"<svg xmlns='http://www.w3.org/2000/svg'/>"]
)
def test_what_is_no_drawing_has_no_outline(content: bytes) -> None:
    assert drawing_outline(content, 100.0) is None


def emblem(home: Path, picture: str, build: list, height: float = 560) -> object:
    layer = {"kind": "picture", "id": "own", "source": {"picture": picture, "height": height}}
    frame = {"width": 700, "height": 640}
    layers = [layer | {"build": build}]
    return parse_title({"mabrel": 1, "frame": frame, "layers": layers}).at_home(home)


def test_the_bevel_of_an_emblem_is_that_of_its_analytic_ring() -> None:
    """The gull's ring is a circle of 280 with a hole of 238."""
    title = emblem(GULL, "gull.svg", [{"step": "relief.bevel", "settings": LINEAR}])
    fields = Renderer().fields(title, "own")
    y, x = np.mgrid[:640, :700] + 0.5
    radius = np.hypot(x - 350, y - 320)
    away = np.minimum(280 - radius, radius - 238)
    ring = (fields.matte == 1) & (away > 0)
    assert np.abs(fields.height[ring] - np.minimum(away[ring], 12)).max() < 0.1


def test_the_parts_of_a_drawing_keep_their_colours(tmp_path: Path) -> None:
    side = 'width="100" height="100"'
    parts = f'<rect {side} fill="#c03020"/><rect x="100" {side} fill="#2050a0"/>'
    (tmp_path / "two.svg").write_bytes(drawing(parts))
    title = emblem(tmp_path, "two.svg", [], 200)
    seen = Renderer().render(title).pixels
    assert seen[320, 300, :3] == pytest.approx(np.array([0xC0, 0x30, 0x20]) / 255, abs=1 / 255)
    assert seen[320, 400, :3] == pytest.approx(np.array([0x20, 0x50, 0xA0]) / 255, abs=1 / 255)
    assert Renderer().box(title, "own", scale=1.0) == pytest.approx(
        (-200, -100, 200, 100), abs=1e-3
    )


def test_a_drawing_that_is_half_seen_through_keeps_its_pixels(tmp_path: Path) -> None:
    glass = '<rect width="200" height="100" fill="#c03020" fill-opacity="0.5"/>'
    (tmp_path / "glass.svg").write_bytes(drawing(glass))
    seen = Renderer().render(emblem(tmp_path, "glass.svg", [], 200)).pixels
    assert seen[320, 350, 3] == pytest.approx(0.5, abs=2 / 255)
