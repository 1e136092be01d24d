"""What a lens adds: in linear light, and where the highlights are."""

from dataclasses import replace

import numpy as np
import pytest

from mabrel.colour import covering, light_of, picture_of, to_encoded, to_linear
from mabrel.field.coarse import coarser, finer
from mabrel.field.streaks import streaked, streaked_planes, zoomed
from mabrel.render.picture import Picture
from mabrel.steps import Piece
from mabrel.steps.faces.flattening import flattened
from mabrel.steps.lens_light.added import bright_light, with_light
from mabrel.steps.lens_light.brightest import brightest_places
from tests.engine.steps.trial import piece, run


def lit(places: list[tuple[int, int]], size: int = 120) -> Piece:
    """A dark plate with bright dots."""
    matte = np.ones((size, size), np.float32)
    plate = piece(matte, grey=0.1)
    face = plate.face.copy()
    for y, x in places:
        face[y - 2 : y + 3, x - 2 : x + 3, :3] = 1
    return plate.recoloured(lambda _: face)


class TestLight:
    def test_it_comes_back_as_it_was(self) -> None:
        picture = np.random.default_rng(3).random((5, 7, 4)).astype(np.float32)
        picture[..., :3] *= picture[..., 3:]
        assert picture_of(light_of(picture)) == pytest.approx(picture, abs=1e-5)

    def test_over_what_is_there_the_sum_is_exact(self) -> None:
        plate = piece(np.ones((20, 20), np.float32), grey=0.5)
        done = flattened(with_light(plate, flattened(plate), np.full((20, 20, 3), 0.2, np.float32)))
        half = to_linear(np.array([0.5], np.float32))[0]
        assert done[9, 9, 0] == pytest.approx(to_encoded(np.array([half + 0.2]))[0], abs=1e-4)

    def test_beyond_it_light_covers_as_much_as_it_is_bright(self) -> None:
        bare = piece(np.zeros((20, 20), np.float32))
        done = flattened(with_light(bare, flattened(bare), np.full((20, 20, 3), 0.2, np.float32)))[
            9, 9
        ]
        assert done[:3] == pytest.approx([done[3]] * 3)
        assert done[3] == pytest.approx(to_encoded(np.array([0.2]))[0], abs=1e-4)

    def test_on_one_plane_it_looks_as_it_does_in_front_of_it(self) -> None:
        """As beneath a wash: opaque, half there, light without cover, and nothing at all."""
        chance = np.random.default_rng(5)
        face = chance.random((24, 40, 4)).astype(np.float32)
        face[:6, :, 3] = 1
        face[..., :3] *= face[..., 3:]
        face[6:9], face[9:11, :, 3] = 0, 0
        light = chance.random((24, 40, 3)).astype(np.float32) ** 4
        light[:, :5], light[::3, 30:], light[3] = 0, 0, 0
        matte = np.ones((24, 40), np.float32)
        layer = piece(matte).recoloured(lambda _: face)
        plane = replace(layer, full=matte)
        assert plane.is_plane
        assert not layer.is_plane
        before = flattened(plane)
        assert before is plane.face
        kept = before.copy()
        lit = with_light(plane, before, light)
        assert lit.is_plane
        expected = flattened(with_light(layer, flattened(layer), light))
        np.testing.assert_allclose(flattened(lit), expected, atol=2e-5)
        assert (before == kept).all()
        assert (flattened(lit)[3] == kept[3]).all()  # no light, no change
        assert (flattened(lit)[:6, :, 3] == 1).all()

    def test_a_glow_without_cover_gets_alpha_on_its_way_out(self) -> None:
        glow = np.zeros((4, 4, 4), np.float32)
        glow[..., 0] = 0.5
        red, green, _, alpha = Picture(glow).to_uint8()[1, 1].tolist()
        assert (red, green) == (255, 0)
        assert alpha == pytest.approx(128, abs=1)
        assert covering(glow)[0, 0, 3] == pytest.approx(0.5)

    def test_only_what_is_brighter_than_the_threshold_counts(self) -> None:
        picture = np.ones((1, 3, 4), np.float32)
        picture[0, :, :3] = np.array([0.3, 0.6, 1.0])[:, None]
        plate = piece(np.ones((1, 3), np.float32)).recoloured(lambda _: picture)
        bright = bright_light(flattened(plate), 0.5)[0, :, 0]
        assert bright[0] == 0
        assert 0 < bright[1] < bright[2] == pytest.approx(1)

    def test_a_coarser_grid_is_fixed_to_the_layer(self) -> None:
        light = np.random.default_rng(1).random((40, 40, 3)).astype(np.float32)
        whole = finer(coarser(light, (-20, -20), 4), (-20, -20), (40, 40), 4)
        inner = np.ascontiguousarray(light[11:31, 7:27])
        cut = finer(coarser(inner, (-13, -9), 4), (-13, -9), (20, 20), 4)
        assert cut[8:12, 8:12] == pytest.approx(whole[19:23, 15:19], abs=1e-5)


class TestGlow:
    def test_bright_parts_shine_beyond_themselves_and_dark_ones_do_not(self) -> None:
        done = run("lens.glow", lit([(60, 60)]), radius=6, strength=4)
        before = lit([(60, 60)])
        grown = before.region.left - done.region.left
        gained = flattened(done)[grown : grown + 120, grown : grown + 120] - flattened(before)
        assert gained[60, 68, 0] > 0.05
        assert np.abs(gained[20, 20]).max() < 0.01

    def test_twice_the_strength_is_twice_the_light(self) -> None:
        def light(strength: float) -> float:
            done = run("lens.glow", lit([(60, 60)]), radius=5, strength=strength)
            shown = light_of(flattened(done))
            return float(shown[-done.region.top, 8 - done.region.left, 0])

        base = to_linear(np.array([0.1], np.float32))[0]
        assert light(2) - base == pytest.approx(2 * (light(1) - base), rel=0.02)


class TestStreaks:
    def test_a_point_is_drawn_out_to_one_side_and_keeps_its_light(self) -> None:
        dot = np.zeros((40, 120, 1), np.float32)
        dot[20, 20] = 1
        drawn = streaked(dot, 0, 64)
        assert drawn.sum() == pytest.approx(1, rel=0.01)
        row = drawn[20, :, 0]
        assert row[19] == 0
        assert row[25:80] == pytest.approx(1 / 64, rel=0.15)
        assert row[90:].max() < 1e-4

    def test_with_a_tail_it_falls_off(self) -> None:
        dot = np.zeros((20, 200, 1), np.float32)
        dot[10, 10] = 1
        row = streaked(dot, 0, 128, tail=0.25)[10, :, 0]
        assert row[42] / row[10] == pytest.approx(np.exp(-1), rel=0.1)

    def test_planes_are_drawn_out_each_by_its_own_tail(self) -> None:
        planes = np.random.default_rng(3).random((3, 30, 50)).astype(np.float32)
        tails = [0.1, 0.3, 0.8]
        together = streaked_planes(planes, 200, 21, tails)
        for plane, drawn, tail in zip(planes, together, tails, strict=True):
            alone = streaked(plane[..., None], 200, 21, tail)[..., 0]
            assert drawn == pytest.approx(alone, abs=1e-6)

    def test_from_a_point_light_is_drawn_outwards(self) -> None:
        dot = np.zeros((100, 100, 1), np.float32)
        dot[50, 70] = 1
        drawn = zoomed(dot, (50.0, 50.0), 1.0)[..., 0]
        reached = np.nonzero(drawn[50] > 1e-3)[0]
        assert (reached[0], reached[-1]) == pytest.approx((70, 90), abs=4)


class TestHighlights:
    def test_places_are_those_of_the_brightest_and_keep_apart(self) -> None:
        plate = lit([(30, 30), (34, 36), (90, 80)])
        found = brightest_places(flattened(plate), plate.region, 9, apart=20, threshold=0.5, seed=1)
        assert len(found) == 2
        at = {(round(x + 60), round(y + 60)) for x, y, _ in found}
        assert any(abs(x - 80) < 3 and abs(y - 90) < 3 for x, y in at)

    def test_they_are_the_same_at_another_scale(self) -> None:
        small = lit([(30, 30), (90, 80), (60, 20)])
        fine = np.kron(flattened(small), np.ones((4, 4, 1), np.float32))
        settings = {"apart": 5, "threshold": 0.5, "seed": 2}
        here, there = (
            brightest_places(shown, small.region, 3, **settings)
            for shown in (flattened(small), fine)
        )
        assert len(here) == len(there) == 3
        for place in here[:, :2]:
            assert np.hypot(*(there[:, :2] - place).T).min() < 2

    def test_sparkles_sit_on_them(self) -> None:
        done = run("lens.sparkles", lit([(30, 30), (90, 80)]), size=12, uneven=0)
        left, top = -60 - done.region.left, -60 - done.region.top
        light = done.front[top : top + 120, left : left + 120, 3]
        assert light[30, 30] > 0.9
        assert light[30, 36] > 0.05
        assert light[60, 60] == 0

    def test_a_flare_shines_from_the_brightest_place(self) -> None:
        done = run("lens.flare", lit([(90, 80)]), size=10, ghosts=0, streak=0, ring=0)
        light = done.front[..., 3]
        y, x = np.unravel_index(light.argmax(), light.shape)
        assert (x + done.region.left + 60, y + done.region.top + 60) == pytest.approx(
            (80, 90), abs=3
        )

    def test_ghosts_lie_on_the_line_through_the_centre(self) -> None:
        settings = {"at": "place", "point": [-40, 0], "size": 8, "streak": 0, "ring": 0}
        without = run("lens.flare", ghosts=5, ghostly=0, **settings).front[..., :3]
        done = run("lens.flare", ghosts=5, ghostly=4, **settings)
        gained = (done.front[..., :3] - without).sum(axis=2)
        rows, columns = np.nonzero(gained > 0.01)
        assert (rows + done.region.top).mean() == pytest.approx(0, abs=2)
        assert (columns + done.region.left).min() > 5

    def test_a_flare_beside_the_lettering_has_room(self) -> None:
        done = run("lens.flare", at="place", point=[30, -420], size=12, ghosts=0)
        assert done.region.top < -420 - 12
        row, column = -420 - done.region.top, 30 - done.region.left
        assert done.front[row, column, 0] > 0.5


class TestWholePicture:
    def test_a_vignette_darkens_the_corners_alone(self) -> None:
        plate = piece(np.ones((120, 120), np.float32), grey=0.6)
        done = run("lens.vignette", plate, amount=0.8, size=0.7, round=1)
        assert done.face[60, 60, 0] == pytest.approx(0.6, abs=0.01)
        assert done.face[2, 2, 0] < 0.35

    def test_exposure_counts_stops_of_light(self) -> None:
        plain = {"contrast": 1, "warmth": 0, "toned": 0}
        plate = piece(np.ones((8, 8), np.float32), grey=0.4)
        brighter = run("lens.grade", plate, exposure=1, **plain).face[3, 3, 0]
        light = to_linear(np.array([0.4, brighter], np.float32))
        assert light[1] == pytest.approx(2 * light[0], rel=1e-3)

    def test_toning_parts_dark_from_bright_and_keeps_their_brightness(self) -> None:
        tones = {
            "contrast": 1,
            "warmth": 0,
            "toned": 0.5,
            "shadows": "#0000ff",
            "highlights": "#ff0000",
        }
        dark, bright = (
            run("lens.grade", piece(np.ones((8, 8), np.float32), grey=g), **tones).face[3, 3, :3]
            for g in (0.15, 0.85)
        )
        assert dark[2] > dark[0]
        assert bright[0] > bright[2]
        assert dark @ [0.2126, 0.7152, 0.0722] == pytest.approx(0.15, abs=0.02)

    def test_grain_can_spare_black_and_white(self) -> None:
        def rough(grey: float) -> float:
            plate = piece(np.ones((80, 80), np.float32), grey=grey)
            return float(run("lens.grain", plate, amount=0.1, mids=1).face[..., 0].std())

        assert rough(0.5) > 5 * rough(0.98)

    @pytest.mark.parametrize("step", ["lens.vignette", "lens.grade", "lens.grain"])
    def test_what_covers_nothing_stays_nothing(self, step: str) -> None:
        bare = piece(np.zeros((30, 30), np.float32))
        assert flattened(run(step, bare))[..., 3].max() == 0
