"""Each step: what it promises a title artist."""

from collections.abc import Sequence
from pathlib import Path

import numpy as np
import pytest

from mabrel.light import Light
from mabrel.steps import Margin, Piece, Region, Scene, catalogue, kind_of, kinds
from tests.engine.shapes import centres, disc

SIZE = 120
RADIUS = 40.0


def scene(lights: Sequence[Light] = (Light(),), scale: float = 1.0) -> Scene:
    return Scene(scale, lights, 2000 * scale, lambda: None)


def piece(matte: np.ndarray | None = None, grey: float = 0.5) -> Piece:
    """A disc in the middle, its centre at the origin, unless another matte is given."""
    matte = disc(RADIUS, SIZE, SIZE / 2 - 0.5, SIZE / 2 - 0.5) if matte is None else matte
    height, width = matte.shape
    face = np.full((height, width, 4), grey, np.float32)
    face[..., 3] = 1
    region = Region(-width // 2, -height // 2, width, height)
    box = (-RADIUS, -RADIUS, RADIUS, RADIUS)
    return Piece(region, box, matte, face, np.zeros_like(matte))


def run(name: str, before: Piece | None = None, where: Scene | None = None, **settings) -> Piece:
    kind = kind_of(name)
    given = kind.settings.model_validate(settings)
    where = where or scene()
    before = before or piece()
    before = before.grown(kind.margin(given, where))
    return kind.apply(before, given, where)


def inside(done: Piece) -> np.ndarray:
    return done.matte > 0.99


def from_edge(done: Piece) -> np.ndarray:
    """Distance inwards from the disc's edge, at each pixel."""
    x, y = centres(done.matte.shape)
    away = np.hypot(x + done.region.left + 0.5, y + done.region.top + 0.5)
    return RADIUS - away


def test_no_step_changes_what_it_was_given() -> None:
    for kind in kinds().values():
        before = run("light.shade", run("relief.inflate"))
        given = kind.settings()
        before = before.grown(kind.margin(given, scene()))
        copies = {name: getattr(before, name).copy() for name in ("matte", "face", "height")}
        kind.apply(before, given, scene())
        for name, copied in copies.items():
            assert np.array_equal(getattr(before, name), copied), (kind.name, name)


def test_every_step_writes_what_it_declares_and_nothing_else() -> None:
    fields = ("matte", "face", "height", "behind", "front", "body")
    for kind in kinds().values():
        before = run("relief.inflate")
        given = kind.settings()
        before = before.grown(kind.margin(given, scene()))
        after = kind.apply(before, given, scene())
        for name in fields:
            same = getattr(before, name) is getattr(after, name)
            assert same or name in kind.writes, (kind.name, name)


def test_only_steps_that_say_so_depend_on_the_rig() -> None:
    lit = run("light.shade", run("relief.inflate"))
    for kind in kinds().values():
        given = kind.settings()
        results = []
        for light in (Light(0, 30), Light(180, 60)):
            there = scene([light])
            before = lit.grown(kind.margin(given, there))
            done = kind.apply(before, given, there)
            results.append([done.face, done.height, done.behind])
        same = all(
            (a is None and b is None) or (a.shape == b.shape and np.array_equal(a, b))
            for a, b in zip(*results, strict=True)
        )
        assert same != kind.lit, kind.name


class TestFlat:
    def test_paints_one_colour(self) -> None:
        done = run("surface.flat", colour="#336699")
        assert done.face[60, 60] == pytest.approx([0.2, 0.4, 0.6, 1])

    def test_opacity_and_alpha_multiply(self) -> None:
        done = run("surface.flat", colour="#ffffff80", opacity=0.5)
        assert done.face[60, 60, 0] == pytest.approx(0.5 + 0.5 * 0.5 * 128 / 255, abs=1e-3)

    def test_blends(self) -> None:
        done = run("surface.flat", colour="#808080", blend="multiply")
        assert done.face[60, 60, 0] == pytest.approx(0.5 * 128 / 255, abs=1e-3)


class TestGradient:
    def ends(self, **settings) -> np.ndarray:
        stops = [{"place": 0, "colour": "#000000"}, {"place": 1, "colour": "#ffffff"}]
        return run("surface.gradient", stops=stops, **settings).face[..., 0]

    def test_runs_from_edge_to_edge_of_the_ink(self) -> None:
        tones = self.ends(angle=0)
        assert tones[60, 21] == pytest.approx(1.5 / 80, abs=0.01)
        assert tones[60, 98] == pytest.approx(1 - 1.5 / 80, abs=0.01)
        assert tones[60, 60] == pytest.approx(0.5, abs=0.01)

    @pytest.mark.parametrize(("angle", "dark"), [(0, (60, 25)), (90, (25, 60)), (180, (60, 95))])
    def test_runs_in_its_direction(self, angle: float, dark: tuple[int, int]) -> None:
        tones = self.ends(angle=angle)
        assert tones[dark] < 0.1

    def test_radial_is_the_same_all_around(self) -> None:
        tones = self.ends(shape="radial")
        assert tones[60, 30] == pytest.approx(tones[30, 60], abs=0.01)
        assert tones[60, 60] < 0.02 < tones[60, 90]

    def test_size_and_centre_move_it(self) -> None:
        assert self.ends(shape="radial", size=0.5)[60, 90] > self.ends(shape="radial")[60, 90]
        assert self.ends(shape="radial", centre=[30, 0])[60, 90] < 0.02


class TestInflate:
    def test_a_disc_becomes_a_half_sphere(self) -> None:
        done = run("relief.inflate")
        assert done.height.max() == pytest.approx(RADIUS, rel=0.01)

    def test_below_nought_it_dents(self) -> None:
        assert np.array_equal(
            run("relief.inflate", height=-1).height, -run("relief.inflate").height
        )

    def test_adds_to_the_relief_that_is_there(self) -> None:
        twice = run("relief.inflate", run("relief.inflate"))
        assert twice.height == pytest.approx(2 * run("relief.inflate").height)


class TestBevel:
    STRAIGHT = ((0.0, 0.0), (1.0, 1.0))

    def test_a_straight_profile_rises_evenly_over_its_width(self) -> None:
        done = run("relief.bevel", width=20, height=10, profile=self.STRAIGHT)
        depth = from_edge(done)
        truth = np.clip(depth / 20, 0, 1) * 10
        assert np.abs(done.height - truth)[depth > 1].max() < 0.05

    def test_nothing_rises_outside_the_letters(self) -> None:
        done = run("relief.bevel", width=30, height=30)
        assert done.height[done.matte == 0].max() == 0

    def test_a_profile_of_any_shape(self) -> None:
        steps = ((0.0, 0.0), (0.3, 0.5), (0.6, 0.5), (1.0, 1.0))
        done = run("relief.bevel", width=20, height=8, profile=steps)
        depth = from_edge(done)
        level = done.height[(depth > 7) & (depth < 11)]
        assert level == pytest.approx(np.full_like(level, 4), abs=0.05)

    def test_sunk_is_raised_upside_down(self) -> None:
        raised, sunk = (run("relief.bevel", direction=way).height for way in ("raised", "sunk"))
        assert np.array_equal(sunk, -raised)

    @pytest.mark.parametrize(
        ("how", "join"),
        [
            ("add", np.add),
            ("greater", np.maximum),
            ("lesser", np.minimum),
            ("replace", lambda before, rise: rise),
        ],
    )
    def test_joins_the_relief_that_is_there(self, how: str, join) -> None:
        before = run("relief.inflate", height=0.5)
        rise = run("relief.bevel").height
        done = run("relief.bevel", before, combine=how)
        assert done.height == pytest.approx(join(before.height, rise))

    def test_softening_rounds_its_creases(self) -> None:
        def sharpest(soften: float) -> float:
            done = run("relief.bevel", width=15, height=15, profile=self.STRAIGHT, soften=soften)
            row = done.height[60, 30:90]
            return float(np.abs(np.diff(row, 2)).max())

        assert sharpest(4) < 0.4 * sharpest(0)

    def test_no_stairs_on_a_slanted_edge(self) -> None:
        """Along a straight edge at an odd angle the bevel is the same everywhere."""
        x, y = centres((160, 160))
        turn = np.radians(17)
        along = (x - 80) * np.cos(turn) + (y - 80) * np.sin(turn)
        across = (y - 80) * np.cos(turn) - (x - 80) * np.sin(turn)
        matte = np.clip(0.5 - across, 0, 1).astype(np.float32)
        done = run("relief.bevel", piece(matte), width=12, height=12, profile=self.STRAIGHT)
        band = (np.abs(along) < 50) & (across > -11) & (across < -2)
        assert np.abs(done.height - np.clip(-across, 0, 12))[band].max() < 0.06

    def test_scales_with_the_render(self) -> None:
        half = run("relief.bevel", where=scene(scale=0.5), width=40, height=20)
        assert half.height == pytest.approx(run("relief.bevel", width=20, height=10).height)


class TestShade:
    def shaded(self, **settings) -> Piece:
        return run("light.shade", run("relief.inflate"), **settings)

    def test_flat_parts_stay_as_they_are(self) -> None:
        done = run("light.shade", piece(grey=0.3))
        assert done.face[inside(done)][:, 0] == pytest.approx(np.full(inside(done).sum(), 0.3))

    def test_lighter_towards_the_light_and_darker_away(self) -> None:
        tones = self.shaded().face[..., 0]  # from the upper left
        assert tones[38, 38] > 0.8
        assert tones[82, 82] < 0.2

    def test_a_rim_light_adds_no_shade(self) -> None:
        done = self.shaded(shade_opacity=0)
        assert done.face[inside(done)][:, 0].min() >= 0.5 - 1e-6

    def test_shade_alone_adds_no_highlight(self) -> None:
        done = self.shaded(highlight_opacity=0)
        assert done.face[inside(done)][:, 0].max() <= 0.5 + 1e-6

    def test_its_own_light_leaves_the_rig_alone(self) -> None:
        own = {"light": "own", "azimuth": 45, "elevation": 45}
        first = run("light.shade", run("relief.inflate"), scene([Light(225)]), **own)
        second = run("light.shade", run("relief.inflate"), scene([Light(10)]), **own)
        assert np.array_equal(first.face, second.face)
        assert first.face[82, 82, 0] > 0.8

    def test_a_response_curve_makes_rings(self) -> None:
        rings = [[0, 0], [0.25, 1], [0.5, 0], [0.75, 1], [1, 0]]
        row = self.shaded(response=rings).face[60, 22:98, 0]
        turns = np.sum(np.diff(np.sign(np.diff(row))) != 0)
        assert turns >= 4

    def test_gloss_is_small_and_bright(self) -> None:
        plain, glossy = self.shaded(), self.shaded(gloss=1, tightness=80)
        more = glossy.face[..., 0] - plain.face[..., 0]
        assert more.max() > 0.15
        assert (more > 0.05).mean() < 0.1

    def test_colours_and_blend_modes_of_both(self) -> None:
        done = self.shaded(highlight_colour="#ff0000", shade_colour="#0000ff", shade_blend="normal")
        lit, dark = done.face[35, 35], done.face[85, 85]
        assert lit[0] > lit[2]
        assert dark[2] > 0.7 > dark[0]

    def test_coloured_lights_tint_the_highlight(self) -> None:
        warm = run("light.shade", run("relief.inflate"), scene([Light(225, 45, (1, 0.5, 0.2))]))
        red, green, blue, _ = warm.face[38, 38]
        assert red > green > blue

    def test_without_any_light_all_of_a_relief_is_in_the_shade(self) -> None:
        dark = run("light.shade", run("relief.inflate"), scene([]))
        assert dark.face[inside(dark)][:, 0].max() == 0


class TestGradientMap:
    STOPS = ({"place": 0, "colour": "#ff0000"}, {"place": 1, "colour": "#0000ff"})

    def test_brightness_becomes_colour(self) -> None:
        for grey in (0.0, 0.25, 1.0):
            done = run("tone.gradient_map", piece(grey=grey), stops=self.STOPS)
            assert done.face[60, 60] == pytest.approx([1 - grey, 0, grey, 1], abs=1e-3)

    def test_opacity_keeps_a_share_of_what_was(self) -> None:
        done = run("tone.gradient_map", piece(grey=0.25), stops=self.STOPS, opacity=0.5)
        assert done.face[60, 60] == pytest.approx([0.5, 0.125, 0.25, 1], abs=1e-3)

    def test_it_goes_by_brightness_and_not_by_one_channel(self) -> None:
        green = run("surface.flat", colour="#00ff00")
        done = run("tone.gradient_map", green, stops=self.STOPS)
        assert done.face[60, 60, 2] == pytest.approx(0.7152, abs=1e-3)


class TestExtrude:
    def test_its_sides_fade_along_their_depth(self) -> None:
        settings = {"angle": 90, "length": 40, "colour": "#ffffff", "fade_colour": "#000000"}
        done = run("depth.extrude", fade=1, lit=0, **settings)
        x = -done.region.left
        bottom = RADIUS - done.region.top
        near, far = (done.behind[int(bottom + d), x, 0] for d in (4, 34))
        assert near == pytest.approx(0.9, abs=0.05)
        assert far == pytest.approx(0.15, abs=0.05)

    def test_towards_a_point_it_narrows(self) -> None:
        done = run("depth.extrude", towards="point", point=[0, 300], length=1000, fade=0)
        widths = (done.behind[..., 3] > 0.5).sum(axis=1)
        top, bottom = np.nonzero(widths)[0][[0, -1]]
        assert widths[top : (top + bottom) // 2].max() > 1.2 * widths[bottom - 12]

    def test_it_has_no_rim_on_the_side_it_leaves(self) -> None:
        done = run("depth.extrude", angle=90, length=30)
        x = -done.region.left
        upper = int(-RADIUS - done.region.top)
        assert done.behind[upper - 3 : upper - 1, x, 3].max() < 0.02

    def test_without_length_nothing_changes(self) -> None:
        before = piece()
        done = run("depth.extrude", before, length=0)
        assert done.behind is None

    def test_all_that_is_solid_throws_the_shadow(self) -> None:
        done = run("depth.extrude", angle=0, length=30)
        assert done.body.sum() == pytest.approx(done.matte.sum() + 30 * 2 * RADIUS, rel=0.02)


class TestDropShadow:
    def middle(self, **settings) -> np.ndarray:
        where = settings.pop("where", None)
        done = run("ground.drop_shadow", where=where, blur=3, opacity=1, **settings)
        y, x = np.nonzero(done.behind[..., 3] > 0.5)
        return np.array([x.mean() + done.region.left + 0.5, y.mean() + done.region.top + 0.5])

    def test_it_falls_away_from_the_key_light(self) -> None:
        place = self.middle(where=scene([Light(225, 45)]), offset=20)
        assert place == pytest.approx([14.1, 14.1], abs=0.4)

    def test_a_lower_light_throws_it_further(self) -> None:
        places = [self.middle(where=scene([Light(180, up)]), offset=10)[0] for up in (30, 60, 90)]
        assert places == pytest.approx([17.3, 5.8, 0], abs=0.4)

    def test_its_own_angle_leaves_the_light_alone(self) -> None:
        place = self.middle(where=scene([Light(0, 10)]), light="own", angle=90, offset=20)
        assert place == pytest.approx([0, 20], abs=0.4)

    def test_spread_grows_and_shrinks_it(self) -> None:
        def area(spread: float) -> float:
            settings = {"light": "own", "offset": 0, "blur": 0, "opacity": 1}
            done = run("ground.drop_shadow", spread=spread, **settings)
            return float(done.behind[..., 3].sum())

        assert area(10) == pytest.approx(np.pi * 50**2, rel=0.01)
        assert area(-10) == pytest.approx(np.pi * 30**2, rel=0.01)

    def test_a_second_one_lies_under_the_first_and_is_not_thrown_by_it(self) -> None:
        settings = {"light": "own", "angle": 0, "blur": 0, "opacity": 1, "offset": 90}
        first = run("ground.drop_shadow", colour="#ff0000", **settings)
        both = run("ground.drop_shadow", first, colour="#00ff00", **(settings | {"angle": 180}))
        green = (both.behind[..., 1] > 0.5).sum()
        assert green == pytest.approx(np.pi * RADIUS**2, rel=0.02)

    def test_the_margin_holds_all_of_it(self) -> None:
        kind = kind_of("ground.drop_shadow")
        given = kind.settings.model_validate({"offset": 30, "blur": 10, "light": "own", "angle": 0})
        margin = kind.margin(given, scene())
        assert margin.right == margin.left + 30
        assert isinstance(margin, Margin)


class TestGrain:
    def test_it_is_as_rough_as_its_amount(self) -> None:
        done = run("lens.grain", amount=0.1, size=1)
        grains = done.face[..., 0] - 0.5
        assert grains.std() == pytest.approx(0.1, rel=0.05)
        assert grains.mean() == pytest.approx(0, abs=0.005)

    def test_grey_grains_are_grey_and_coloured_ones_are_not(self) -> None:
        grey, hues = run("lens.grain"), run("lens.grain", colour=1)
        assert np.array_equal(grey.face[..., 0], grey.face[..., 1])
        assert not np.array_equal(hues.face[..., 0], hues.face[..., 1])

    def test_it_stays_in_its_place_when_the_piece_grows(self) -> None:
        small = run("lens.grain")
        large = run("lens.grain", piece().grown(Margin(5, 7, 3, 2)))
        assert np.array_equal(large.face[7:-2, 5:-3], small.face)


class TestToneSteps:
    """On a face of one colour, each is a formula."""

    def toned(self, name: str, colour: str = "#4080c0", **settings) -> np.ndarray:
        return run(name, run("surface.flat", colour=colour), **settings).face[60, 60, :3]

    def test_curves_bend_all_channels_and_then_one(self) -> None:
        done = self.toned("tone.curves", master=[[0, 1], [1, 0]], red=[[0, 0], [1, 0.5]])
        assert done == pytest.approx([0.5 * 191 / 255, 127 / 255, 63 / 255], abs=2e-3)

    def test_levels_stretch_between_black_and_white(self) -> None:
        done = self.toned("tone.levels", black=0.25, white=0.75, lowest=0.1, highest=0.9)
        assert done == pytest.approx([0.1 + 0.8 * 0.002, 0.5, 0.9], abs=5e-3)
        assert self.toned("tone.levels", black=0, white=1, gamma=2)[1] == pytest.approx(
            (128 / 255) ** 0.5, abs=1e-3
        )

    def test_levels_with_black_above_white_turn_tones_over(self) -> None:
        assert self.toned("tone.levels", black=1, white=0)[0] == pytest.approx(191 / 255, abs=1e-3)

    def test_brightness_adds_and_contrast_spreads_about_grey(self) -> None:
        assert self.toned("tone.brightness", brightness=0.1, contrast=0)[0] == pytest.approx(
            64 / 255 + 0.1, abs=1e-3
        )
        assert self.toned("tone.brightness", contrast=1)[0] == pytest.approx(
            2 * (64 / 255) - 0.5, abs=1e-3
        )

    def test_a_full_turn_of_the_hue_changes_nothing(self) -> None:
        done = self.toned("tone.hue", hue=360)
        assert done == pytest.approx([64 / 255, 128 / 255, 192 / 255], abs=2e-3)

    def test_without_saturation_it_is_grey(self) -> None:
        done = self.toned("tone.hue", hue=0, saturation=0)
        assert np.ptp(done) < 2e-3

    def test_colourise_gives_all_colours_one_hue(self) -> None:
        ask = {"mode": "colourise", "hue": 30}
        first, second = (self.toned("tone.hue", code, **ask) for code in ("#4080c0", "#50c040"))
        assert np.argmax(first) == np.argmax(second) == 0

    def test_duotone_runs_from_dark_to_light(self) -> None:
        ask = {"dark": "#100000", "light": "#00ff00"}
        assert self.toned("tone.duotone", "#000000", **ask) == pytest.approx([16 / 255, 0, 0])
        assert self.toned("tone.duotone", "#ffffff", **ask) == pytest.approx([0, 1, 0], abs=1e-6)

    def test_inverting_twice_gives_back_what_was(self) -> None:
        once = run("tone.invert", run("surface.flat", colour="#4080c0"))
        assert once.face[60, 60, 0] == pytest.approx(1 - 64 / 255)
        assert run("tone.invert", once).face[60, 60, 0] == pytest.approx(64 / 255)

    def test_desaturated_keeps_its_brightness(self) -> None:
        grey = 0.2126 * 64 / 255 + 0.7152 * 128 / 255 + 0.0722 * 192 / 255
        assert self.toned("tone.desaturate") == pytest.approx([grey] * 3, abs=1e-5)
        half = self.toned("tone.desaturate", amount=0.5)
        assert half[0] == pytest.approx((64 / 255 + grey) / 2, abs=1e-5)

    def test_sharpening_leaves_flat_parts_and_lifts_edges(self) -> None:
        assert self.toned("tone.sharpen") == pytest.approx(
            [64 / 255, 128 / 255, 192 / 255], abs=1e-4
        )
        before = run("surface.made", pattern="stripes", width=12, opacity=1, blend="normal")
        after = run("tone.sharpen", before, radius=3)
        assert np.ptp(after.face[60, 40:80, 0]) > np.ptp(before.face[60, 40:80, 0]) + 0.1


class TestInnerLight:
    def test_an_inner_shadow_falls_from_the_side_of_the_light(self) -> None:
        done = run(
            "light.inner_shadow", where=scene([Light(180, 45)]), offset=10, blur=3, opacity=1
        )
        row = done.face[60, :, 0]
        assert row[24] < 0.15
        assert row[90] == pytest.approx(0.5, abs=0.01)

    def test_an_inner_shadow_of_its_own_leaves_the_light_alone(self) -> None:
        ask = {"light": "own", "angle": 90, "offset": 12}
        first, second = (
            run("light.inner_shadow", where=scene([Light(turn)]), **ask) for turn in (0, 90)
        )
        assert np.array_equal(first.face, second.face)

    def test_an_inner_glow_fades_from_the_edge(self) -> None:
        done = run(
            "light.inner_glow", width=20, falloff=[[0, 1], [1, 0]], opacity=1, colour="#ffffff"
        )
        depth = from_edge(done)
        for inwards in (3, 10, 17):
            there = np.abs(depth - inwards) < 0.5
            share = 1 - inwards / 20
            assert done.face[there][:, 0].mean() == pytest.approx(0.5 + 0.5 * share, abs=0.02)
        assert done.face[60, 60, 0] == pytest.approx(0.5)

    def test_a_gleam_crosses_at_its_place_and_bends_with_the_relief(self) -> None:
        ask = {"angle": 0, "width": 10, "opacity": 1, "bend": 0}
        for place in (0.25, 0.75):
            row = run("light.gleam", place=place, **ask).face[60, :, 0]
            assert np.argmax(row) + 0.5 - 60 == pytest.approx((place - 0.5) * 80, abs=2)
        bent = run("light.gleam", run("relief.inflate"), place=0.25, **(ask | {"bend": 40}))
        straight = run("light.gleam", run("relief.inflate"), place=0.25, **ask)
        assert not np.allclose(bent.face, straight.face)


class TestStroke:
    @pytest.mark.parametrize(
        ("side", "inner", "outer"), [("inside", 34, 40), ("centred", 37, 43), ("outside", 40, 46)]
    )
    def test_it_is_as_wide_as_it_says(self, side: str, inner: float, outer: float) -> None:
        done = run("surface.stroke", side=side, width=6, colour="#ffffff")
        face = (done.face[..., 0] > 0.75) & (done.matte > 0.5)
        behind = done.behind[..., 3] > 0.5 if done.behind is not None else np.zeros_like(face)
        area = (face | (behind & (done.matte <= 0.5))).sum()
        assert area == pytest.approx(np.pi * (outer**2 - inner**2), rel=0.03)

    def test_what_runs_outside_throws_a_shadow_too(self) -> None:
        done = run("surface.stroke", side="outside", width=10)
        assert done.solid.sum() == pytest.approx(np.pi * 50**2, rel=0.01)

    def test_without_width_nothing_changes(self) -> None:
        before = piece()
        assert np.array_equal(
            run("surface.stroke", before, width=0).matte.max(), before.matte.max()
        )


class TestMade:
    @pytest.mark.parametrize("pattern", ["clouds", "veins", "stripes", "checker", "dots"])
    @pytest.mark.parametrize("turn", [0, 33])
    def test_every_pattern_has_dark_and_light_parts(self, pattern: str, turn: float) -> None:
        ask = {"pattern": pattern, "width": 20, "height": 20, "turn": turn}
        tones = run("surface.made", opacity=1, blend="normal", **ask).face[..., 0]
        assert tones.min() < 0.35
        assert tones.max() > 0.6

    def test_it_stays_in_its_place_when_the_piece_grows(self) -> None:
        grown = piece().grown(Margin(9, 4, 2, 7))
        for pattern in ("clouds", "checker"):
            small = run("surface.made", pattern=pattern)
            large = run("surface.made", grown, pattern=pattern)
            assert large.face[4:-7, 9:-2] == pytest.approx(small.face, abs=1e-5)

    @pytest.mark.parametrize("pattern", ["clouds", "stripes", "checker", "dots"])
    def test_parts_finer_than_pixels_become_their_mean(self, pattern: str) -> None:
        ask = {"pattern": pattern, "width": 3, "height": 3, "opacity": 1, "blend": "normal"}
        fine = run("surface.made", where=scene(scale=0.17), **ask).face[..., 0]
        assert fine.std() < 0.12

    def test_streaks_are_clouds_drawn_out(self) -> None:
        done = run("surface.made", width=300, height=4, opacity=1, blend="normal").face[..., 0]
        along, across = np.abs(np.diff(done, axis=1)).mean(), np.abs(np.diff(done, axis=0)).mean()
        assert across > 8 * along

    def test_phase_moves_it_without_a_jump(self) -> None:
        frames = [run("surface.made", phase=p, opacity=1).face[..., 0] for p in (0, 0.02, 0.5)]
        assert np.abs(frames[1] - frames[0]).max() < 0.12
        assert np.abs(frames[2] - frames[0]).mean() > 0.02


class TestReliefSteps:
    def test_soft_relief_rises_from_the_edge_to_its_height(self) -> None:
        done = run("relief.soft", radius=8, height=30)
        assert done.height[60, 60] == pytest.approx(30, abs=0.5)
        assert done.height[done.matte < 0.01].max() < 6

    def test_rough_relief_goes_up_and_down_by_half_its_amount(self) -> None:
        done = run("relief.grain", amount=10)
        assert -5 <= done.height.min() < -1
        assert 1 < done.height.max() <= 5

    def test_level_makes_a_plateau(self) -> None:
        done = run("relief.level", run("relief.inflate"), ceiling=20, smooth=0)
        assert done.height.max() == pytest.approx(20)
        doubled = run("relief.level", run("relief.inflate"), scale=2, ceiling=4000, smooth=0)
        assert doubled.height.max() == pytest.approx(2 * RADIUS, rel=0.01)


class TestEdge:
    def radius_of(self, **settings) -> float:
        return float(np.sqrt(run("shape.edge", **settings).matte.sum() / np.pi))

    @pytest.mark.parametrize("grow", [-12, 0, 9])
    def test_it_grows_and_shrinks(self, grow: float) -> None:
        assert self.radius_of(grow=grow, radius=0) == pytest.approx(RADIUS + grow, abs=0.1)

    def test_a_disc_has_no_corners_to_round(self) -> None:
        assert self.radius_of(grow=0, radius=10) == pytest.approx(RADIUS, abs=0.25)

    def test_corners_become_arcs_of_their_radius(self) -> None:
        square = np.zeros((120, 120), np.float32)
        square[30:90, 30:90] = 1
        done = run("shape.edge", piece(square), grow=0, radius=15)
        lost = 60 * 60 - done.matte.sum()
        assert lost == pytest.approx((4 - np.pi) * 15**2, rel=0.12)  # the edge rounds a little too

    def test_inner_corners_fill_and_narrow_gaps_close(self) -> None:
        notched = np.zeros((120, 120), np.float32)
        notched[30:90, 30:90] = 1
        notched[30:60, 56:64] = 0
        apart = run("shape.edge", piece(notched), grow=0, radius=0, inner=0)
        joined = run("shape.edge", piece(notched), grow=0, radius=0, inner=6)
        room = (joined.matte.shape[0] - 120) // 2
        middle = (slice(40 + room, 55 + room), slice(58 + room, 62 + room))
        assert joined.matte[middle].min() > 0.99
        assert apart.matte.sum() == pytest.approx(notched.sum(), rel=5e-3)

    def test_all_the_way_in_nothing_is_left(self) -> None:
        assert run("shape.edge", grow=-60, radius=0).matte.max() == 0


class TestBendByRelief:
    def test_a_flat_relief_bends_nothing(self) -> None:
        before = run("surface.made", opacity=1)
        assert run("surface.bend", before).face == pytest.approx(before.face, abs=1e-5)

    def test_streaks_flow_around_the_relief_without_tearing(self) -> None:
        before = run("relief.inflate", run("surface.made", opacity=1, blend="normal"))
        after = run("surface.bend", before, amount=30)
        assert np.abs(after.face - before.face).mean() > 0.02
        jumps = np.abs(np.diff(after.face[..., 0], axis=1))[after.matte[:, 1:] > 0.99]
        assert np.percentile(jumps, 99) < 0.25


def test_the_page_of_steps_is_up_to_date() -> None:
    page = (Path(__file__).resolve().parents[2] / "docs" / "steps.md").read_text()
    for entry in catalogue():
        assert f"(`{entry['step']}`)" in page
        for setting in entry["settings"]:
            assert f"| `{setting['name']}` |" in page
            assert setting["help"] in page
