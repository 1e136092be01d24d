"""Paths as straight lines: holes stay holes, and lines stay beside their curves."""

import numpy as np
import pytest
import skia

from mabrel.source import LetteringStyle, coverage, outline_text
from mabrel.source.flatten import curves_of, straight_lines, straightened


def area(lines: np.ndarray) -> float:
    x1, y1, x2, y2 = lines.T
    return abs(float((x1 * y2 - x2 * y1).sum()) / 2)


@pytest.mark.parametrize("size", [18, 315])
def test_what_skia_can_not_wind_keeps_its_area(size: float) -> None:
    """A whole line of a script, whose letters run into one another."""
    outline = outline_text("MOORING&Sg8", LetteringStyle("Pacifico", size=size))
    with pytest.raises(RuntimeError):
        skia.AsWinding(skia.Simplify(outline.path))
    left, top, width, height = (round(side * size) for side in (-6, -2, 12, 4))
    covered = coverage(outline, (left, top, width, height)).sum()
    assert area(straight_lines(outline.path)) == pytest.approx(covered, rel=1e-3)


@pytest.mark.parametrize("font", ["Titan One", "Archivo Black", "Pacifico", "Press Start 2P"])
def test_curves_that_are_read_once_make_the_same_lines_at_every_size(font: str) -> None:
    for letter in "AgS8":
        path = outline_text(letter, LetteringStyle(font, size=1000)).path
        curves = curves_of(path)
        for scale in (0.013, 0.4, 1.7):
            scaled = skia.Path()
            scaled.addPath(path, skia.Matrix.Scale(scale, scale))
            lines, expected = straightened(curves, scale), straight_lines(scaled)
            assert abs(len(lines) - len(expected)) <= 4
            assert area(lines) == pytest.approx(area(expected), rel=1e-4)
            assert lines.min() == pytest.approx(expected.min(), abs=1e-3)
            assert lines.max() == pytest.approx(expected.max(), abs=1e-3)


@pytest.mark.parametrize("radius", [2.0, 40.0, 900.0])
@pytest.mark.parametrize("curve", ["quadratic", "cubic"])
def test_lines_lie_within_a_fiftieth_of_a_pixel_of_their_curve(radius: float, curve: str) -> None:
    path = skia.Path()
    path.moveTo(-radius, 0)
    if curve == "quadratic":
        path.quadTo(0, 2 * radius, radius, 0)
    else:
        path.cubicTo(-radius, 2 * radius, radius, -radius, radius, 0)
    lines = straight_lines(path)
    t = np.linspace(0, 1, 4001)[:, None]
    ends = np.array([[-radius, 0], [radius, 0]])
    if curve == "quadratic":
        places = (1 - t) ** 2 * ends[0] + 2 * t * (1 - t) * [0, 2 * radius] + t**2 * ends[1]
    else:
        places = (1 - t) ** 3 * ends[0] + 3 * t * (1 - t) ** 2 * [-radius, 2 * radius]
        places += 3 * t**2 * (1 - t) * [radius, -radius] + t**3 * ends[1]
    starts, ways = lines[:, :2], lines[:, 2:] - lines[:, :2]
    from_start = places[:, None] - starts
    along = (from_start * ways).sum(axis=2) / np.maximum((ways**2).sum(axis=1), 1e-12)
    beside = from_start - np.clip(along, 0, 1)[..., None] * ways
    assert np.hypot(*beside.transpose(2, 0, 1)).min(axis=1).max() < 0.021
    assert len(lines) < 20 + 16 * np.sqrt(radius)  # and they are few
