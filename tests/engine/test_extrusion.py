"""Extrusion: equal to finely stacked copies."""

import cv2
import numpy as np
import pytest

from mabrel.field import signed_distance
from mabrel.field.body import BACK, FACE, SIDE, Rays, Seen, march
from mabrel.field.extrusion import _with_what_comes, silhouette
from mabrel.field.rays import ray
from mabrel.source import LetteringStyle, coverage, outline_text

COPIES = 500  # each moved by less than a tenth of a pixel
FINE = 3  # parts of a pixel in which copies are stacked
FONTS = ("Lilita One", "Titan One", "Archivo Black", "Bevan", "Pacifico")
Word = tuple[np.ndarray, np.ndarray]


def set_in(font: str, fine: int) -> np.ndarray:
    outline = outline_text("Rg8", LetteringStyle(font, size=80 * fine))
    return coverage(outline, (-120 * fine, -90 * fine, 240 * fine, 190 * fine))


@pytest.fixture(scope="module", params=FONTS)
def word(request: pytest.FixtureRequest) -> Word:
    """A word's coverage, and that in finer pixels, 0..255."""
    return set_in(request.param, 1), np.round(set_in(request.param, FINE) * 255).astype(np.uint8)


def stacked(fine: np.ndarray, matrices: list[list[list[float]]]) -> np.ndarray:
    """The union of copies, each moved in pixels from the corner, as coverage."""
    height, width = fine.shape
    union = fine.copy()
    for (a, b, x), (c, d, y) in matrices:
        matrix = np.array([[a, b, x * FINE], [c, d, y * FINE]])
        copy = cv2.warpAffine(fine, matrix, (width, height), flags=cv2.INTER_LINEAR)
        np.maximum(union, copy, out=union)
    size = (width // FINE, height // FINE)
    return cv2.resize(union.astype(np.float32) / 255, size, interpolation=cv2.INTER_AREA)


def intersection_over_union(a: np.ndarray, b: np.ndarray) -> float:
    return float(np.minimum(a, b).sum() / np.maximum(a, b).sum())


@pytest.mark.parametrize("degrees", [90, 30, 200])
def test_in_a_direction_it_is_the_union_of_copies(word: Word, degrees: float) -> None:
    x, y = np.cos(np.radians(degrees)), np.sin(np.radians(degrees))
    cover, _ = silhouette(signed_distance(word[0]), towards=(x, y), length=40)
    steps = np.linspace(0, 40, COPIES)
    copies = stacked(word[1], [[[1, 0, x * step], [0, 1, y * step]] for step in steps])
    assert intersection_over_union(cover, copies) >= 0.995


@pytest.mark.parametrize("point", [(120, 360), (20, 80)])
def test_towards_a_point_it_is_the_union_of_shrinking_copies(
    word: Word, point: tuple[float, float]
) -> None:
    shrink = 0.2
    cover, _ = silhouette(signed_distance(word[0]), towards=point, shrink=shrink)
    x, y = point[0] + 0.5, point[1] + 0.5  # from the array's corner
    shares = np.linspace(0, shrink, COPIES)
    copies = stacked(word[1], [[[1 - k, 0, x * k], [0, 1 - k, y * k]] for k in shares])
    assert intersection_over_union(cover, copies) >= 0.995


def looked_at(distance: np.ndarray, towards: tuple[float, float], length: float) -> Seen:
    """Through the middle of each pixel, back along the sides."""
    way = np.zeros((3, 3))
    way[:, 2] = (-towards[0] * length, -towards[1] * length, -length)
    pixels = tuple(np.meshgrid(*(np.arange(side) + 0.5 for side in distance.shape[::-1])))
    return march(
        distance, distance, (0, 0), length=length, profile=np.zeros(2, np.float32),
        rays=Rays(np.diag([1.0, 1.0, 0.0]), way), pixels=pixels,
    )  # fmt: skip


def test_depth_grows_along_the_side_from_the_face_to_the_far_end() -> None:
    square = np.zeros((120, 80), np.float32)
    square[20:50, 20:60] = 1
    seen = looked_at(signed_distance(square), (0, 1), 40)
    below = seen.depth[51:89, 40]
    assert below == pytest.approx((np.arange(51, 89) - 49.5) / 40, abs=0.02)
    assert seen.normal[60, 40] == pytest.approx([0, 1], abs=0.02)
    assert seen.what[60, 40] == SIDE
    assert seen.what[30, 40] == FACE
    assert seen.place[60, 40] == pytest.approx([40.5, 50, -10.5], abs=0.1)
    _, depth = silhouette(signed_distance(square), towards=(0, 1), length=40)
    assert depth[51:89, 40] == pytest.approx(below, abs=0.02)


def test_a_side_has_no_stairs() -> None:
    """The silhouette of a slanted side is antialiased: its edge moves evenly from row to row."""
    square = np.zeros((160, 160), np.float32)
    square[20:60, 20:60] = 1
    cover, _ = silhouette(signed_distance(square), towards=(0.6, 0.8), length=80)
    for rows in (slice(64, 82), slice(90, 118)):  # between the corners of the silhouette
        edge = cover[rows].sum(axis=1)
        assert np.abs(np.diff(edge, 2)).max() < 0.12


def test_nothing_to_extrude_gives_nothing() -> None:
    empty = signed_distance(np.zeros((30, 30), np.float32))
    assert silhouette(empty, towards=(0, 1), length=10)[0].max() == 0
    assert looked_at(empty, (0, 1), 10).what.max() == 0


def square(size: int = 160, low: int = 50, high: int = 110) -> np.ndarray:
    matte = np.zeros((size, size), np.float32)
    matte[low:high, low:high] = 1
    return signed_distance(matte)


def test_a_taper_narrows_the_far_end_and_a_swell_widens_the_middle() -> None:
    share = np.linspace(0, 1, 65)
    straight = silhouette(square(), towards=(0, 1), length=40)
    tapered = silhouette(square(), towards=(0, 1), length=40, profile=-20 * share)
    swollen = silhouette(square(), towards=(0, 1), length=40, profile=12 * np.sin(np.pi * share))

    def width(seen: tuple[np.ndarray, np.ndarray], row: int) -> float:
        return float(seen[0][row].sum())

    assert width(straight, 145) == pytest.approx(60, abs=0.5)
    # 25 px down the far copies, narrower by as much as they are deep, come to their edges.
    assert width(tapered, 118) < 50
    assert width(swollen, 130) == pytest.approx(84, abs=1)


def from_space(viewer: tuple[float, float, float], towards: np.ndarray, profile=(0, 0)) -> Seen:
    """Rays from a viewer, one for each column and row of `towards` (3 × 3)."""
    start = np.zeros((3, 3))
    start[:, 2] = viewer
    pixels = tuple(np.meshgrid(np.linspace(-60, 60, 121), np.linspace(-60, 60, 121)))
    return march(
        square(), square(), (-80, -80), length=100, profile=np.array(profile, np.float32),
        rays=Rays(start, towards, 1e-6), pixels=pixels,
    )  # fmt: skip


def test_from_behind_one_sees_the_back_larger_than_the_face() -> None:
    """An eye at 400 behind a body 100 deep: its back lies at 300."""
    away = np.array([[1.0, 0, 0], [0, 1.0, 0], [0, 0, 400.0]])  # through the plane of the face
    seen = from_space((0, 0, -400), away)
    assert (seen.what == BACK).sum() == pytest.approx(80**2, rel=0.03)
    assert (seen.what == FACE).sum() == 0
    assert seen.depth[60, 60] == 1


def test_from_its_edge_one_sees_the_side_alone() -> None:
    across = np.array([[0, 0, -300.0], [0, 1.0, 0], [1.0, 0, 0]])
    seen = from_space((300, 0, 0), across)
    assert set(np.unique(seen.what)) == {0, SIDE}
    assert seen.normal[60, 30] == pytest.approx([1, 0], abs=1e-3)
    assert seen.place[60, 30][0] == pytest.approx(30, abs=0.1)


def test_a_body_that_grows_on_its_way_back_hides_no_part_of_itself() -> None:
    """A front edge of 12 pixels: beyond the face one sees the slope, outside of it nothing."""
    away = np.array([[1.0, 0, 0], [0, 1.0, 0], [0, 0, -4000.0]])
    seen = from_space((0, 0, 4000), away, profile=np.minimum(np.linspace(0, 100, 101), 12))
    row = seen.what[60]
    assert (row == FACE).sum() == pytest.approx(60, abs=1)
    assert (row == SIDE).sum() == pytest.approx(23, abs=1.5)


@pytest.mark.parametrize("upright", [False, True])
def test_a_grid_of_one_row_or_column_is_as_one_of_three(upright: bool) -> None:
    """Rays once read what lay in memory before it."""
    row = np.linspace(-5, 5, 40, dtype=np.float32)[None]
    way = (0.0, 1.0) if upright else (1.0, 0.0)
    for length in (0.0, 6.0):
        one, three = (
            silhouette(
                np.ascontiguousarray(each.T if upright else each), towards=way, length=length
            )
            for each in (row, np.repeat(row, 3, axis=0))
        )
        for narrow, wide in zip(one, three, strict=True):
            middle = wide[:, 1:2] if upright else wide[1:2]
            assert narrow == pytest.approx(middle, abs=1e-5)


@pytest.mark.parametrize("reach", ["along", "closing in", "growing"])
@pytest.mark.parametrize("profile", ["even", "taper", "swell"])
def test_rays_that_begin_where_their_block_is_clear_see_what_they_see_from_the_face(
    word: Word, reach: str, profile: str
) -> None:
    distance = signed_distance(np.pad(word[0], 40))
    sizes = {"even": [0, 0], "taper": np.linspace(0, -5, 16), "swell": [0, 4, 7, 8, 7, 4, 0]}
    ways = {
        "along": (0.6, 0.8, 35, 0),
        "closing in": (150, 90, 0.25, 1),
        "growing": (90, 9, -0.2, 1),
    }
    way = np.array(ways[reach], np.float32)
    grown = np.array(sizes[profile], np.float32)
    x, y, far, converging = ways[reach]
    shrink = far / (1 + far) if converging else 0.0
    cover, depth = silhouette(
        distance, towards=(x, y), length=0 if converging else far, shrink=shrink, profile=grown
    )
    rng = np.random.default_rng(3)
    for row, column in rng.integers((0, 0), distance.shape, (1500, 2)):
        if distance[row, column] >= grown[0] - 2:
            place = np.float32(column), np.float32(row)
            seen = ray(distance, way, _with_what_comes(grown), *place, np.float32(0))
            assert cover[row, column] == pytest.approx(seen[0], abs=0.03)
            if seen[0] == 1:  # a grazing ray may come as near at two depths
                assert depth[row, column] == pytest.approx(seen[1], abs=0.01)
