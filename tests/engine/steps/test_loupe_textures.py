"""Textures, displacement, ornaments and parts where they are looked at closely."""

from dataclasses import replace

import numpy as np
import pytest
import shapely

from mabrel import Renderer, parse_title
from mabrel.field import ornaments, patterns
from mabrel.source import Image
from mabrel.steps import Scene, Surroundings
from tests.engine.steps.trial import piece, run, scene

RENDERER = Renderer()


def runs(row: np.ndarray) -> list[int]:
    """How long the stretches of one value along a row are, those at its ends left out."""
    changes = np.flatnonzero(np.diff(row > 0.5))
    return np.diff(changes).tolist()


class TestRegular:
    X = np.arange(400, dtype=np.float32) + 0.5

    def test_stripes_and_fields_are_as_wide_as_their_size_says(self) -> None:
        assert set(runs(patterns.stripes(self.X, 25))) == {25}
        assert set(runs(patterns.checker(self.X, self.X[:1], 25, 25))) == {25}

    def test_a_duty_tells_what_is_light(self) -> None:
        assert patterns.stripes(self.X, 25, 0.2).mean() == pytest.approx(0.2, abs=1e-4)
        assert set(runs(patterns.stripes(self.X, 25, 0.2))) == {10, 40}

    def test_a_grid_has_thin_lines_at_any_width(self) -> None:
        for line in (0.4, 1.0, 3.0):
            shown = patterns.grid(self.X[None], self.X[:, None], 40, 20, line)
            covered = 1 - (1 - line / 40) * (1 - line / 20)
            assert shown.mean() == pytest.approx(covered, rel=0.01)

    def test_they_begin_where_they_are_moved_to(self) -> None:
        settings = {"pattern": "stripes", "width": 16, "blend": "normal", "opacity": 1}
        one = run("surface.made", **settings).face[60, :, 0]
        moved = run("surface.made", **settings, shift=(5, 0)).face[60, :, 0]
        assert moved[5:] == pytest.approx(one[:-5], abs=1e-5)
        half = run("surface.made", **settings, shift=(0.5, 0)).face[60, :, 0]
        assert half[1:] == pytest.approx(((one + np.roll(one, 1)) / 2)[1:], abs=0.02)

    def test_noise_is_moved_too(self) -> None:
        settings = {"pattern": "clouds", "width": 40, "height": 40, "blend": "normal", "opacity": 1}
        one = run("surface.made", **settings).face[..., 0]
        moved = run("surface.made", **settings, shift=(7, -3)).face[..., 0]
        assert moved[:-3, 7:] == pytest.approx(one[3:, :-7], abs=0.02)


def blocks(name: str, size: float) -> Image:
    """Four blocks side by side, black and white by turns."""
    pixels = np.zeros((1, 4, 4), np.float32)
    pixels[..., 3] = 1
    pixels[0, 1::2, :3] = 1
    return Image(pixels, name)


class TestDisplacement:
    def torn(self, **settings: object) -> np.ndarray:
        where = replace(scene(), image=blocks)
        done = run("shape.displace", where=where, map="b", fit="stretch", across=0, down=20,
                   grid="blocky", **settings)  # fmt: skip
        return done.matte

    def test_a_blocky_map_steps_squarely_at_each_blocks_own_edge(self) -> None:
        """Beside a block's edge, columns are those of one block, and beyond it of the next."""
        plain, torn = piece().matte, self.torn()
        top = (torn.shape[0] - plain.shape[0]) // 2
        left = (torn.shape[1] - plain.shape[1]) // 2
        whole = np.zeros_like(torn)
        whole[top : top + plain.shape[0], left : left + plain.shape[1]] = plain
        for column in range(plain.shape[1] // 2 - 38, plain.shape[1] // 2 + 38):
            block = int((column + 0.5 - (plain.shape[1] / 2 - 40)) // 20)
            by = 10 if block % 2 else -10
            seen = torn[:, left + column]
            assert seen == pytest.approx(np.roll(whole[:, left + column], by), abs=0.02)

    def test_it_is_shifted(self) -> None:
        assert np.abs(self.torn() - self.torn(shift=(7, 0))).max() > 0.5

    @pytest.mark.parametrize("kind", ["shape.displace", "relief.emboss"])
    def test_tiles_run_and_come_round(self, kind: str) -> None:
        def at(phase: float) -> np.ndarray:
            done = run(kind, fit="tile", size=33, phase=phase)
            return done.matte if kind.startswith("shape") else done.height

        assert np.abs(at(0.3) - at(0)).max() > 0.05
        assert at(1.0) == pytest.approx(at(0.0), abs=1e-3)


@pytest.mark.parametrize("placement", [{}, {"turn_x": 30, "turn_y": -25}, {"x": 61, "y": -20}])
def test_a_picture_in_the_frame_lies_where_the_backdrop_has_it(placement: dict) -> None:
    """Lettering that shows the backdrop's own photo in the frame can't be told from it."""
    photo = {"step": "surface.picture", "settings": {"picture": "shipped/planks.jpg"}}
    own = {"settings": photo["settings"] | {"lies": "frame"}, "step": "surface.picture"}
    ground = {"kind": "backdrop", "build": [photo]}
    word = {"kind": "lettering", "placement": placement, "build": [own],
            "source": {"text": "HULL", "size": 130}}  # fmt: skip
    frame = {"width": 480, "height": 270}

    def seen(layers: list) -> np.ndarray:
        return RENDERER.render(parse_title({"mabrel": 1, "frame": frame, "layers": layers})).pixels

    plain, laid = seen([ground]), seen([ground, word])
    over = seen([word])[..., 3] > 0.99
    assert over.mean() > 0.05
    assert np.abs(plain - laid)[over].mean() < (0.004 if "turn_x" not in placement else 0.02)
    loose = seen([ground, word | {"build": [photo]}])
    assert np.abs(plain - loose)[over].mean() > 0.03


@pytest.mark.parametrize("placement", [{}, {"x": 90, "y": 40}, {"x": -60, "turn_y": 40}])
@pytest.mark.parametrize("fit", ["stretch", "cover", "fit"])
def test_a_layer_as_picture_in_the_frame_lies_where_it_is(placement: dict, fit: str) -> None:
    """A lettering too, whose ink is only a part of the frame."""
    mark = {"kind": "lettering", "id": "mark", "placement": placement,
            "source": {"text": "KEEL", "size": 70},
            "build": [{"step": "surface.flat", "settings": {"colour": "#c04020"}}]}  # fmt: skip
    own = {"picture": "layer:mark", "fit": fit, "lies": "frame"}
    ground = {"kind": "backdrop", "build": [{"step": "surface.picture", "settings": own}]}
    frame = {"width": 480, "height": 270}

    def seen(layers: list) -> np.ndarray:
        return RENDERER.render(parse_title({"mabrel": 1, "frame": frame, "layers": layers})).pixels

    shown = seen([ground, mark | {"visible": False}])
    bare = {"kind": "backdrop", "build": []}
    assert shown == pytest.approx(seen([bare, mark]), abs=0.02)
    moved = mark | {"visible": False, "placement": placement | {"y": -70}}
    assert np.abs(shown - seen([ground, moved])).max() > 0.3


class TestOrnaments:
    @pytest.mark.parametrize("twist", [-90, -30, 30, 90])
    def test_twisted_arms_bend_and_never_cross(self, twist: float) -> None:
        assert shapely.Polygon(ornaments.star(50, 7, twist)).is_valid
        whole = shapely.Polygon(ornaments.star(50, 7, 0)).area
        assert shapely.Polygon(ornaments.star(50, 7, twist)).area == pytest.approx(whole, rel=0.02)
        rim = ornaments.gear(50, 30, twist)[:-122]
        assert shapely.Polygon(rim).is_valid

    def test_rounded_corners_lose_little(self) -> None:
        plain = ornaments.star(50, 5, 20)
        soft = ornaments.rounded(plain, 5)
        area = shapely.Polygon(plain).area
        assert shapely.Polygon(soft).area == pytest.approx(area, rel=0.12)
        assert np.hypot(*soft.T).max() < 48

    def test_a_gear_keeps_its_hole_when_it_is_rounded(self) -> None:
        soft = shapely.make_valid(shapely.Polygon(ornaments.rounded(ornaments.gear(50, 9, 0), 3)))
        assert not soft.contains(shapely.Point(0, 0))

    @pytest.mark.parametrize("points", [3, 12, 40])
    def test_drops_have_no_needle_necks(self, points: int) -> None:
        for seed in range(20):
            drop = ornaments.drop(40, points, 0, np.random.default_rng(seed))
            half = drop[: len(drop) // 2]
            end = half[half[:, 1] > 0.6 * half[-1, 1], 0].max()
            neck = half[half[:, 1] < half[-1, 1] - end, 0].min()
            assert neck > 0.6 * end


class TestOnly:
    BEFORE = run("depth.extrude", run("relief.bevel", width=10), angle=90, length=20)

    def test_the_sides_alone(self) -> None:
        left = run("depth.only", self.BEFORE, part="sides")
        assert left.matte.max() == 0
        assert left.behind is not None
        assert left.behind[..., 3][self.BEFORE.matte == 1].max() == 0
        assert left.behind[..., 3].max() == pytest.approx(1, abs=1e-3)

    def test_the_rim_alone_is_as_wide_as_it_says(self) -> None:
        left = run("depth.only", self.BEFORE, part="rim", width=9)
        assert left.matte.sum() == pytest.approx(np.pi * (40**2 - 31**2), rel=0.01)
        assert left.behind is None

    def test_the_bevel_alone_leaves_out_the_plateau(self) -> None:
        left = run("depth.only", self.BEFORE, part="bevel")
        height, width = left.matte.shape
        assert left.matte[height // 2 - 10, width // 2] == 0
        assert left.matte.sum() == pytest.approx(np.pi * (40**2 - 30**2), rel=0.08)

    def test_the_face_alone(self) -> None:
        left = run("depth.only", self.BEFORE, part="face")
        assert left.behind is None
        assert (left.matte == self.BEFORE.matte).all()


def test_a_scene_that_is_not_turned_says_so() -> None:
    assert not Scene(1.0, Surroundings()).turned
    assert Scene(1.0, Surroundings(seen=np.eye(3, 4))).turned
