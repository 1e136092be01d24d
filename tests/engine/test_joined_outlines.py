"""Outlines offset with joined corners, traced edges, and mitred bevels."""

import numpy as np
import pytest
import skia

from mabrel import Renderer, parse_title
from mabrel.field import signed_distance
from mabrel.field.contours import contours, outlines_of
from mabrel.field.fill import fill
from mabrel.field.joined import joined_distance
from mabrel.field.outline_crossings import edge_of, edge_of_outline

SHAPE = (200, 220)
STAR = [
    (110 + r * np.sin(a), 100 - r * np.cos(a))
    for a, r in zip(np.arange(10) * np.pi / 5, [85, 36] * 5, strict=True)
]
POLYGONS = {
    "L": [(30, 20), (80, 20), (80, 120), (190, 120), (190, 175), (30, 175)],
    "M": [(20, 180), (35, 20), (75, 20), (110, 90), (145, 20), (185, 20), (200, 180), (158, 180),
          (148, 85), (118, 150), (102, 150), (72, 85), (62, 180)],
    "star": STAR,
}  # fmt: skip


def closed(points: list) -> np.ndarray:
    corners = np.array(points, float) + np.array([0.31, 0.17])
    return np.hstack([corners, np.roll(corners, -1, axis=0)])


def roof(lines: np.ndarray, **joins) -> np.ndarray:
    """Distance to the mitred outline, over pixel centres."""
    edge = edge_of_outline(lines - 0.5, SHAPE)
    own = signed_distance(edge.inside.astype(np.float32), edge)
    return joined_distance(outlines_of(edge, 0.02), edge, own, 200, **joins)


def offset(points: list, by: float, join: object) -> np.ndarray:
    """Coverage of a polygon offset inwards (below 0) or outwards, by Skia."""
    path, line = skia.Path(), skia.Path()
    path.addPoly([skia.Point(float(x) + 0.31, float(y) + 0.17) for x, y in points], True)
    paint = skia.Paint(Style=skia.Paint.kStroke_Style, StrokeWidth=2 * abs(by), StrokeMiter=50)
    paint.setStrokeJoin(join)
    paint.getFillPath(path, line)
    whole = skia.Op(path, line, skia.kDifference_PathOp if by < 0 else skia.kUnion_PathOp)
    surface = skia.Surface(SHAPE[1] * 4, SHAPE[0] * 4)
    with surface as canvas:
        canvas.scale(4, 4)
        canvas.drawPath(whole, skia.Paint(AntiAlias=True, Color=skia.ColorBLACK))
    alpha = surface.toarray()[..., 3].astype(float) / 255
    return alpha.reshape(SHAPE[0], 4, SHAPE[1], 4).mean(axis=(1, 3))


def test_the_mitred_roof_of_an_l_is_that_of_its_two_bars() -> None:
    y, x = np.indices(SHAPE) + 0.5
    x, y = x - 0.31, y - 0.17

    def bar(left: float, top: float, right: float, bottom: float) -> np.ndarray:
        return np.minimum.reduce([x - left, right - x, y - top, bottom - y])

    truth = np.maximum(bar(30, 20, 80, 175), bar(30, 120, 190, 175))
    found = -roof(closed(POLYGONS["L"]), inner="mitre")
    assert np.abs(found - truth)[truth > 0].max() < 0.1


@pytest.mark.parametrize("name", POLYGONS)
def test_mitred_roofs_stand_as_their_level_lines_tell(name: str) -> None:
    """The volume under each level, from the exact offsets of the polygon."""
    found = -roof(closed(POLYGONS[name]), inner="mitre", limit=50)
    for level in (2.0, 7.5, 13.0, 19.0):
        truth = offset(POLYGONS[name], -level, skia.Paint.kMiter_Join)
        seen = np.clip(0.5 + found - level, 0, 1)
        sure = (np.abs(found - level) > 0.75 + 0.1) | (np.abs(truth - 0.5) > 0.49)
        assert np.abs(seen - truth)[sure & (np.abs(truth - 0.5) > 0.49)].max() < 0.35
        assert abs(seen.sum() - truth.sum()) < 0.1 * max(_edge_length(truth), 1)


def _edge_length(cover: np.ndarray) -> float:
    return float(((cover > 0.02) & (cover < 0.98)).sum())


@pytest.mark.parametrize("name", POLYGONS)
@pytest.mark.parametrize("join", ["round", "mitre", "bevel"])
@pytest.mark.parametrize("by", [3.0, 9.0, 17.0])
def test_outlines_grow_with_their_corners_joined(name: str, join: str, by: float) -> None:
    """No bay or counter is flooded at any width: coverage as Skia's strokes have it."""
    kinds = {
        "round": skia.Paint.kRound_Join,
        "mitre": skia.Paint.kMiter_Join,
        "bevel": skia.Paint.kBevel_Join,
    }
    found = np.clip(0.5 + by - roof(closed(POLYGONS[name]), outer=join, limit=50), 0, 1)
    truth = offset(POLYGONS[name], by, kinds[join])
    wrong = np.abs(found - truth)
    assert wrong.mean() < 0.15 * _edge_length(truth) / truth.size
    assert np.percentile(wrong, 99.9) < 0.3


def test_a_traced_edge_has_sharp_corners() -> None:
    for turn in np.radians([0, 10, 30, 45, 71]):
        matrix = np.array([[np.cos(turn), np.sin(turn)], [-np.sin(turn), np.cos(turn)]])
        corners = np.array([[-40, -30], [40, -30], [40, 30], [-40, 30.0]]) @ matrix + 100.3
        lines = np.hstack([corners, np.roll(corners, -1, axis=0)])
        found = contours(fill(lines, (0, 0, SHAPE[1], SHAPE[0])))
        nearest = [np.hypot(*(found[:, :2] - corner).T).min() for corner in corners]
        assert max(nearest) < 0.1
        assert len(found) < 12


def test_a_traced_circle_is_round() -> None:
    y, x = np.indices(SHAPE) + 0.5
    disc = np.clip(70.5 - np.hypot(x - 110.3, y - 99.8), 0, 1).astype(np.float32)
    found = contours(disc)
    assert np.hypot(found[:, 0] - 110.3, found[:, 1] - 99.8) == pytest.approx(70, abs=0.08)


def test_distances_to_an_outline_are_exact_at_its_corners() -> None:
    lines = closed(STAR)
    edge = edge_of_outline(lines - 0.5, SHAPE)
    matte = fill(lines, (0, 0, SHAPE[1], SHAPE[0]))
    y, x = np.indices(SHAPE) + 0.5
    places = np.stack([x, y], -1)
    truth = np.full(SHAPE, np.inf)
    for a, b in zip(lines[:, :2], lines[:, 2:], strict=True):
        along = np.clip((places - a) @ (b - a) / ((b - a) @ (b - a)), 0, 1)
        truth = np.minimum(truth, np.linalg.norm(places - a - along[..., None] * (b - a), axis=-1))
    found = signed_distance(matte, edge)
    assert np.abs(np.abs(found) - truth).max() < 0.06
    assert np.abs(np.abs(signed_distance(matte)) - truth).max() > 0.3  # from coverage alone
    assert (found < 0).sum() == pytest.approx(matte.sum(), rel=0.005)


def test_overlapping_outlines_have_no_edge_inside() -> None:
    a = closed([(30, 30), (120, 30), (120, 120), (30, 120)])
    b = closed([(90, 60), (190, 60), (190, 160), (90, 160)])
    edge = edge_of_outline(np.vstack([a, b]) - 0.5, SHAPE)
    assert signed_distance(edge.inside.astype(np.float32), edge)[90, 105] < -14
    assert len({tuple(p) for p in outlines_of(edge)[:, :2].round(2)}) == 8


def test_a_coverage_and_its_outline_have_the_same_edge() -> None:
    lines = closed(POLYGONS["M"])
    matte = fill(lines, (0, 0, SHAPE[1], SHAPE[0]))
    known, seen = edge_of_outline(lines - 0.5, SHAPE), edge_of(matte)
    assert (known.inside != seen.inside).mean() < 0.0005
    both = (known.across < 2) & (seen.across < 2)
    assert np.abs(known.across - seen.across)[both].mean() < 0.03


@pytest.mark.parametrize("size", [120, 122, 127])
def test_a_rim_goes_up_to_tips_that_are_narrower_than_a_pixel(size: float) -> None:
    """The counter of an A, which ends half a pixel wide: as on a grid four times as fine."""
    bevel = {"width": 27, "height": 20, "corners": "mitred"}
    word = {
        "kind": "lettering",
        "source": {"text": "A", "font": "Archivo Black", "size": size},
        "build": [{"step": "relief.bevel", "settings": bevel}],
    }
    frame = {"width": 320, "height": 320}
    title = parse_title({"mabrel": 1, "frame": frame, "layers": [word]})
    layer = title.layers[0].id
    coarse, fine = (Renderer().fields(title, layer, scale=scale) for scale in (1, 4))
    expected = fine.height.reshape(320, 4, 320, 4).mean(axis=(1, 3))
    assert np.abs((coarse.height - expected)[coarse.matte >= 1]).max() < 1


def test_grain_keeps_its_corners_rounded_and_takes_no_time() -> None:
    """A hundred thousand corners with wide mitres would take minutes, to be told by nobody."""
    noise = np.random.default_rng(1).random((400, 600)).astype(np.float32)
    edge = edge_of(noise)
    own = signed_distance(noise, edge)
    lines = contours(noise) - 0.5
    assert (joined_distance(lines, edge, own, 300, outer="mitre") == own).all()
