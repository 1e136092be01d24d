"""Extrude's paint and profile, parallax, and the outline around everything."""

from dataclasses import replace

import numpy as np
import pytest

from mabrel.field import clearance, marching
from mabrel.field.contours import contours
from mabrel.field.marching import leaned
from mabrel.light import Light
from mabrel.steps import Piece, Surroundings
from mabrel.steps.sides.perimeter import Perimeter
from tests.engine.steps.trial import RADIUS, piece, run, scene

SIDES = {"right": "#ff0000", "down": "#00ff00", "left": "#0000ff", "up": "#ffffff"}
VIEWERS = [(-900, 20), (900, 60), (40, -900), (50, 900), (45, 30), (-800, 900)]
BACK = {"towards": "back", "fade": 0, "lit": 0}


def seen_from(x: float, y: float, z: float = 400.0):
    return replace(scene(), around=Surroundings(lights=(Light(),), viewer=(x, y, z)))


def colour_at(done: Piece, x: float, y: float) -> np.ndarray:
    """Straight colour of what is behind the face, at a place from the layer's centre."""
    pixel = done.behind[int(y - done.region.top), int(x - done.region.left)]
    assert pixel[3] > 0.9
    return pixel[:3] / pixel[3]


class TestExtrude:
    @pytest.mark.parametrize(
        ("viewer", "side"), [((-300, 0), "left"), ((300, 0), "right"), ((0, -300), "up")]
    )
    def test_straight_back_one_sees_the_sides_that_face_the_viewer(
        self, viewer: tuple, side: str
    ) -> None:
        done = run(
            "depth.extrude", where=seen_from(*viewer), length=100, paint="sides", **BACK, **SIDES
        )
        way = np.sign(viewer)
        code = SIDES[side]
        expected = [int(code[i : i + 2], 16) / 255 for i in (1, 3, 5)]
        assert colour_at(done, *(way * (RADIUS + 4))) == pytest.approx(expected, abs=0.05)

    def test_straight_back_the_far_end_lies_where_perspective_puts_it(self) -> None:
        """q + (e − q) · t / (D + t): from 300 px beside and 400 before, 100 deep."""
        done = run("depth.extrude", where=seen_from(300, 0), length=100, **BACK)
        columns = np.nonzero(done.body.max(axis=0) > 0.5)[0] + done.region.left
        assert columns[-1] + 1 == pytest.approx(RADIUS + (300 - RADIUS) * 0.2, abs=0.6)
        assert done.depth == 100

    def test_stops_along_the_depth_are_where_they_say(self) -> None:
        stops = [{"place": 0, "colour": "#ff0000"}, {"place": 1, "colour": "#0000ff"}]
        done = run("depth.extrude", angle=90, length=40, paint="depth", depths=stops, lit=0)
        half = colour_at(done, 0, RADIUS + 20)
        assert half == pytest.approx([0.5, 0, 0.5], abs=0.04)

    def test_stops_around_follow_the_facing(self) -> None:
        stops = [{"place": 0, "colour": "#000000"}, {"place": 1, "colour": "#ffffff"}]
        done = run(
            "depth.extrude", angle=0, length=30, paint="around", compass=stops, lit=0, fade=0
        )
        below, above = (colour_at(done, 30, y)[0] for y in (32, -32))
        assert below < 0.3
        assert above > 0.7

    def test_a_front_edge_goes_around_the_face_and_catches_the_light(self) -> None:
        settings = {"length": 40, "edge": 10, "lit": 1, "fade": 0, "colour": "#808080"}
        light = scene([Light(180, 45)])
        done = run("depth.extrude", where=light, towards="back", **settings)
        left, right = (done.behind[-done.region.top, int(x - done.region.left)] for x in (-44, 44))
        assert left[3] > 0.95
        assert left[0] > 1.25 * right[0]

    def test_lights_beside_the_key_only_add(self) -> None:
        key, fill = Light(180, 20), Light(0, 20, (0.2, 0.4, 1.0))
        settings = {"angle": 0, "length": 20, "fade": 0, "lit": 1, "colour": "#606060"}
        one, two = (
            run("depth.extrude", where=scene(lights), **settings) for lights in ([key], [key, fill])
        )
        gained = colour_at(two, RADIUS + 6, 0) - colour_at(one, RADIUS + 6, 0)
        assert gained[2] > gained[0] > 0.02

    def test_streaks_run_into_the_depth_and_layers_around(self) -> None:
        def rough(texture: str) -> tuple[float, float]:
            done = run(
                "depth.extrude", angle=90, length=60, fade=0, lit=0, texture=texture, size=6,
                textured=1, colour="#808080",
            )  # fmt: skip
            part = done.behind[int(46 - done.region.top) :, int(-25 - done.region.left) :][:40, :50]
            tone = part[..., 0]
            return float(np.abs(np.diff(tone, axis=0)).mean()), float(
                np.abs(np.diff(tone, axis=1)).mean()
            )

        down, across = rough("streaks")
        assert across > 3 * down
        down, across = rough("layers")
        assert down > 1.5 * across

    def test_a_picture_runs_along_the_outline(self) -> None:
        plain = run("depth.extrude", angle=90, length=40, lit=0)
        settings = {"texture": "picture", "picture": "shipped/chart.png", "textured": 1, "size": 30}
        papered = run("depth.extrude", angle=90, length=40, lit=0, **settings)
        assert np.abs(papered.behind - plain.behind).max() > 0.2
        assert papered.behind[..., 3] == pytest.approx(plain.behind[..., 3], abs=1e-6)


def test_the_way_along_an_outline_is_as_long_as_it_is() -> None:
    disc = piece()
    turns = np.radians([0, 90, 180])
    places = np.stack([np.cos(turns), np.sin(turns)], axis=1) * RADIUS
    perimeter = Perimeter(disc)
    along, whole = perimeter.run(places), perimeter.length
    assert whole == pytest.approx(2 * np.pi * RADIUS, rel=0.02)
    quarter = np.abs(np.diff(along)) % (whole / 2)
    assert quarter == pytest.approx([whole / 4] * 2, rel=0.03)


def test_each_place_finds_the_nearest_of_all_marks() -> None:
    """Wherever in its pixel it lies, and however many are asked for at once."""
    disc = piece()
    perimeter = Perimeter(disc)
    turns = np.random.default_rng(3).uniform(0, 2 * np.pi, 4000)
    places = np.stack([np.cos(turns), np.sin(turns)], axis=1) * RADIUS
    along = perimeter.run(places)
    order = np.argsort(turns)
    steps = np.abs(np.diff(along[order])) - np.diff(turns[order]) * RADIUS
    assert np.percentile(np.abs(steps), 99) < 0.2
    assert perimeter.run(places[:50]) == pytest.approx(along[:50], abs=1e-6)
    assert len(perimeter.run(places[:0])) == 0
    far = perimeter.run(places * 1.4)  # where a side has grown beyond all pixels that are told
    apart = np.abs(far - along)
    assert np.percentile(np.minimum(apart, perimeter.length - apart), 99) < 1.5


def test_what_has_no_outline_has_no_way_along_it() -> None:
    nothing = piece().reshaped(np.zeros_like(piece().matte))
    perimeter = Perimeter(nothing)
    assert perimeter.length == 1
    assert not perimeter.run(np.array([[0.0, 0.0], [50.0, -3.0]])).any()


def test_outlines_of_a_matte_enclose_its_area() -> None:
    disc = piece().matte
    lines = contours(disc)
    x1, y1, x2, y2 = lines.T
    assert abs(np.sum(x1 * y2 - x2 * y1)) / 2 == pytest.approx(np.pi * RADIUS**2, rel=0.01)
    assert len(contours(np.zeros((20, 20), np.float32))) == 0


class TestParallax:
    def block(self, height: float = 20.0) -> Piece:
        flat = piece()
        return flat.with_height(
            np.where(flat.matte > 0.5, np.float32(height), 0).astype(np.float32)
        )

    def test_a_plateau_shifts_by_its_height_times_the_lean(self) -> None:
        done = run("depth.parallax", self.block(), view="own", lean=45, angle=180)
        columns = np.nonzero(done.matte[-done.region.top] > 0.5)[0] + done.region.left
        # Seen from the left, what is high moves to the right; the base stays in sight at the left.
        assert columns[-1] + 1 == pytest.approx(RADIUS + 20, abs=1)
        assert columns[0] == pytest.approx(-RADIUS, abs=1)

    def test_what_lies_behind_a_high_place_is_hidden(self) -> None:
        height = np.zeros((40, 120), np.float32)
        height[:, 40:60] = 20
        field = np.tile(np.arange(120, dtype=np.float32), (40, 1))[..., None]
        seen, lifted = leaned(height, field, np.array([-1e6, 20, 1e6]), np.array([0.0, 0.0]))
        row = seen[20, :, 0]
        assert row[70] == pytest.approx(50, abs=1)  # the top, 20 px to the right of its place
        assert not ((row > 61) & (row < 79)).any()  # behind it
        assert row[100] == pytest.approx(100, abs=0.1)
        assert lifted[20, 70] == pytest.approx(20, abs=1)

    @pytest.mark.parametrize("viewer", VIEWERS)
    def test_no_ray_leaps_over_what_it_meets(self, viewer: tuple[float, float]) -> None:
        """From all sides, among walls: as if each took every step."""
        height, view, low = self.walls(), np.array([*viewer, 900.0]), np.float32(-5)
        tiles = clearance._tiles(height)
        begins = clearance._begins(tiles, view, -5, 20)
        peaks = clearance._peaks(tiles, view, height.shape)
        leapt, walked = (np.empty((*height.shape, 3), np.float32) for _ in range(2))
        marching._march(height, view, low, begins, peaks, leapt)
        marching._march(height, view, low, begins, np.full_like(peaks, 99), walked)
        assert np.array_equal(leapt, walked)

    @pytest.mark.parametrize("viewer", VIEWERS)
    def test_a_ray_meets_nothing_above_where_it_begins(self, viewer: tuple[float, float]) -> None:
        height, view = self.walls(), np.array([*viewer, 900.0])
        begins = clearance._begins(clearance._tiles(height), view, -5, 20)
        assert (begins < 20).any()
        y, x = np.indices(height.shape)
        for z in np.linspace(20, -5, 300):
            j = np.clip(np.rint(y + (view[1] - y) / view[2] * z), 0, height.shape[0] - 1)
            i = np.clip(np.rint(x + (view[0] - x) / view[2] * z), 0, height.shape[1] - 1)
            above = begins[y // 4, x // 4] < z
            assert (height[j.astype(int), i.astype(int)] < z)[above].all()

    @staticmethod
    def walls() -> np.ndarray:
        roofs = np.random.default_rng(8).uniform(-5, 20, (9, 13)).astype(np.float32)
        return np.kron(roofs, np.ones((7, 7), np.float32))

    def test_straight_from_above_nothing_moves(self) -> None:
        before = self.block()
        done = run("depth.parallax", before, view="own", lean=0)
        assert done.matte.sum() == pytest.approx(before.matte.sum(), rel=0.01)

    def test_the_camera_view_follows_the_viewer(self) -> None:
        left = run("depth.parallax", self.block(), where=seen_from(-400, 0), view="camera")
        columns = np.nonzero(left.matte.max(axis=0) > 0.5)[0] + left.region.left
        assert columns[-1] > RADIUS + 10


class TestOutline:
    def test_it_runs_around_face_and_sides_as_one(self) -> None:
        deep = run("depth.extrude", angle=0, length=30)
        done = run("depth.outline", deep, width=6, colour="#ff0000")
        grown = np.pi * (RADIUS + 6) ** 2 + 30 * 2 * (RADIUS + 6)
        assert done.body.sum() == pytest.approx(grown, rel=0.01)
        red = (done.behind[..., 0] > 0.9) & (done.behind[..., 1] < 0.1)
        assert red.sum() == pytest.approx(grown - deep.body.sum(), rel=0.08)

    @pytest.mark.parametrize(("join", "area"), [("mitre", 52**2), ("bevel", 52**2 - 2 * 36)])
    def test_corners_are_joined_as_they_are_asked_to(self, join: str, area: float) -> None:
        square = np.zeros((120, 120), np.float32)
        square[40:80, 40:80] = 1
        done = run("depth.outline", piece(square), width=6, join=join)
        assert done.body.sum() == pytest.approx(area, rel=0.015)

    def test_a_gap_is_filled_with_its_own_colour(self) -> None:
        done = run("depth.outline", width=4, gap=8, colour="#000000", gap_colour="#00ff00")
        row = done.behind[-done.region.top]
        ring = row[int(RADIUS + 4 - done.region.left)]
        assert ring[:3] == pytest.approx([0, 1, 0], abs=0.02)


@pytest.mark.parametrize("size", [4, 16])
@pytest.mark.parametrize("shape", [(1, 1), (16, 32), (37, 21), (3, 50)])
def test_the_highest_place_of_each_tile_is_known(size: int, shape: tuple[int, int]) -> None:
    relief = np.random.default_rng(1).uniform(-9, 9, shape).astype(np.float32)
    found = clearance._highest(relief, size)
    rows, columns = range(0, shape[0], size), range(0, shape[1], size)
    expected = [[relief[y : y + size, x : x + size].max() for x in columns] for y in rows]
    assert np.array_equal(found, np.array(expected, np.float32))
