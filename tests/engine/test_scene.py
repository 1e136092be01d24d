"""The scene: camera, handles, floors, what stands on them, and washes over all of it."""

import numpy as np
import pytest

from mabrel import Renderer, finishes, new_title, parse_title
from mabrel.camera import card_at, floor_card
from mabrel.reading.agreement import light_readings
from mabrel.render import Window
from mabrel.source import families
from mabrel.steps import check_title
from mabrel.title import Camera, Handle, Placement, TitleError
from tests.engine.trial_titles import step, titled

BACK = {"towards": "back", "length": 30}


def brightness(pixels: np.ndarray) -> np.ndarray:
    return pixels[..., :3] @ np.array([0.2126, 0.7152, 0.0722], np.float32)


def seen(card, x: float, y: float) -> np.ndarray:
    point = card.homography @ [x, y, 1]
    return point[:2] / point[2]


class TestCamera:
    def test_going_around_to_the_right_is_turning_everything_to_the_left(self) -> None:
        swung = card_at(Placement(x=90, z=-40), Camera(swing=25), 0)
        hung = card_at(
            Placement(x=90, z=-40), Camera(), 0, Handle(id="all", placement=Placement(turn_y=-25))
        )
        for x, y in ((0, 0), (80, -30), (-50, 60)):
            assert seen(swung, x, y) == pytest.approx(seen(hung, x, y))

    def test_from_above_one_looks_down_on_the_floor(self) -> None:
        near, far = (seen(floor_card(100, Camera(rise=20), 0), 0, z)[1] for z in (300, -300))
        level = [seen(floor_card(100, Camera(), 0), 0, z)[1] for z in (300, -300)]
        assert near - far > 3 * (level[0] - level[1]) > 0

    def test_lights_turn_with_the_scene_and_keep_their_angle_to_a_card(self) -> None:
        build = [step("relief.bevel", width=9, height=9), step("light.shade")]
        settings = {"tap": "face"}
        plain = Renderer().render(titled(build), **settings).pixels
        around = Renderer().render(titled(build, camera={"swing": 30}), **settings).pixels
        tones = [brightness(each)[each[..., 3] > 0.99].mean() for each in (plain, around)]
        assert tones[0] == pytest.approx(tones[1], abs=0.02)

    def test_a_backdrop_stays_where_it_is(self) -> None:
        ground = {"kind": "backdrop", "build": [step("surface.gradient", angle=0)]}
        beneath = [ground]
        plain = Renderer().render(titled(word="", beneath=beneath)).pixels
        around = Renderer().render(titled(word="", beneath=beneath, camera={"swing": 40})).pixels
        assert np.array_equal(plain, around)


class TestHandle:
    def test_what_hangs_on_it_turns_about_it_as_one(self) -> None:
        handle = Handle(id="rig", placement=Placement(x=50, turn_z=90, scale=2))
        card = card_at(Placement(x=30, y=10), Camera(), 0, handle)
        assert card.place[:2] == pytest.approx((50 - 20, 60))
        assert card.scale == 2
        assert seen(card, 10, 0) == pytest.approx([30, 80])

    def test_one_that_is_not_there_is_refused_with_its_place(self) -> None:
        with pytest.raises(TitleError, match=r"layers\[0\].handle: there is no handle 'rig'"):
            check_title(titled(lettering={"handle": "rig"}))


class TestFloor:
    CHECKER = step(
        "surface.made", pattern="checker", width=100, height=100, opacity=1, blend="normal"
    )

    def floor(self, **more) -> dict:
        return {"kind": "floor", "id": "floor", "build": [self.CHECKER], **more}

    def picture(self, **more) -> np.ndarray:
        title = titled(
            word="",
            frame=(400, 300),
            beneath=[self.floor(level=100, **more)],
            camera={"distance": 800, "lift": -60},
        )
        return Renderer().render(title).pixels

    def test_it_ends_below_the_horizon_which_is_as_high_as_the_viewer(self) -> None:
        pixels = self.picture(far=1e6)
        covered = np.nonzero(pixels[..., 3].max(axis=1) > 0.5)[0]
        assert covered[0] == pytest.approx(150 - 60, abs=2)
        assert covered[-1] == 299

    def test_its_pattern_lies_where_perspective_puts_it(self) -> None:
        tone = brightness(self.picture(far=1e6))
        card = floor_card(100, Camera(distance=800, lift=-60), 0)
        for z in (150, 50, -50, -150):
            x, y = seen(card, 50, z)
            other = seen(card, 50, z - 100)
            here, there = (
                tone[int(row + 150), int(column + 200)] for column, row in ((x, y), other)
            )
            assert abs(here - there) > 0.2

    def test_it_fades_away_in_the_distance(self) -> None:
        alpha = self.picture(far=4000)[..., 3].mean(axis=1)
        card = floor_card(100, Camera(distance=800, lift=-60), 0)
        gone, there = (int(seen(card, 0, 800 - away)[1] + 150) for away in (4000, 1200))
        assert alpha[gone - 1] < 0.02
        assert alpha[there] == pytest.approx(1, abs=0.01)

    def test_without_a_level_it_lies_where_the_letters_touch_it(self) -> None:
        """A reflection meets the letters where a floor of that level would."""
        floor = {"kind": "floor", "id": "floor", "source": {"colour": "#ff0000"}, "far": 1e6}
        camera = {"distance": 800, "lift": -400}
        title = titled(word="H", frame=(240, 240), beneath=[floor], camera=camera)
        lowest = Renderer().box(title, "word")[3]
        fixed = titled(
            word="H", frame=(240, 240), camera=camera, beneath=[floor | {"level": lowest}]
        )
        by_itself, told = (Renderer().render(each).pixels for each in (title, fixed))
        assert np.abs(by_itself - told).mean() < 0.01

    def test_a_viewer_below_it_sees_none_of_it(self) -> None:
        title = titled(word="", beneath=[self.floor(level=10)], camera={"lift": 50})
        assert Renderer().render(title).pixels[..., 3].max() == 0


def turned(angle: float, axis: str = "turn_y", build: tuple = ()) -> np.ndarray:
    """A word turned about an axis, its sides alone: white on nothing."""
    sides = step("depth.extrude", **BACK, colour="#ffffff", fade=0, lit=0.5)
    face = step("surface.flat", colour="#000000")
    lights = [{"id": "key", "azimuth": 200, "elevation": 40}]
    title = titled([face, sides], size=110, frame=(420, 260), lights=lights,
                   lettering={"placement": {axis: angle}})  # fmt: skip
    return Renderer().render(title).pixels


@pytest.mark.parametrize("axis", ["turn_y", "turn_x"])
def test_turning_shows_no_jump_gap_or_flicker_on_the_sides(axis: str) -> None:
    """From −60 to 60 degrees in steps of 5, area and mean tone of the sides move smoothly.

    At 0 the one side gives way to the other; each way is looked at by itself. Next to it a side
    is a pixel wide: it has an area, but no tone worth the name.
    """
    for sign in (-1, 1):
        areas, tones = [], []
        for angle in range(5, 61, 5):
            pixels = turned(sign * angle, axis)
            light = brightness(pixels)
            areas.append(float((pixels[..., 3] * np.clip(light * 4, 0, 1)).sum()))
            tones.append(float(light[light > 0.02].mean()))
        grown, toned = np.diff(areas) / max(areas), np.diff(tones)
        assert (grown > 0).all(), "the further it turns, the more one sees of them"
        assert grown.max() < 0.19
        assert np.abs(np.diff(grown)).max() < 0.065
        assert np.abs(toned[1:]).max() < 0.13
        assert np.abs(np.diff(toned[1:])).max() < 0.065


def test_sides_have_no_holes_at_any_angle() -> None:
    """Face and sides together are one piece: what is inside the silhouette is covered."""
    for angle in (-60, -35, 20, 45, 60):
        alpha = turned(angle)[..., 3]
        block = titled([step("depth.extrude", **BACK)], word="I", size=150, frame=(300, 300),
                       lettering={"placement": {"turn_y": angle}})  # fmt: skip
        alpha = Renderer().render(block).pixels[..., 3]
        for row in alpha[110:190]:
            inside = np.nonzero(row > 0.5)[0]
            assert row[inside[0] + 1 : inside[-1]].min() > 0.98, angle


REFLECTION = {
    "opacity": 1,
    "blur": 0,
    "softer": 0,
    "fades_from": 900,
    "gone_at": 1000,
    "tinted": 0,
}


def gap(font: str, placement: dict) -> float:
    """Pixels between the letters and their reflection, where they are nearest."""
    build = [step("surface.flat", colour="#ffffff")]
    common = {"word": "Rago8", "size": 80, "frame": (420, 300)}
    lettering = {"placement": placement, "source": {"text": "Rago8", "size": 80, "font": font}}
    letters = Renderer().render(titled(build, lettering=lettering, **common)).pixels[..., 3]
    alone = [*build, step("ground.reflection", **REFLECTION, show="alone")]
    mirrored = Renderer().render(titled(alone, lettering=lettering, **common)).pixels[..., 3]
    gaps = []
    for x in range(letters.shape[1]):
        if letters[:, x].max() > 0.6 and mirrored[:, x].max() > 0.6:
            bottom = np.nonzero(letters[:, x] > 0.5)[0][-1]
            top = np.nonzero(mirrored[:, x] > 0.5)[0][0]
            # Between the rows: what is covered of the last ones.
            edge = bottom + letters[bottom, x] + letters[bottom + 1, x]
            gaps.append(top + 1 - mirrored[top, x] - mirrored[top - 1, x] - edge)
    return float(min(gaps))


@pytest.mark.parametrize("font", sorted(families()))
def test_a_reflection_touches_the_letters_of_every_font(font: str) -> None:
    for placement in ({}, {"turn_x": 30}, {"turn_y": -35}, {"turn_z": 9, "turn_x": -20}):
        assert abs(gap(font, placement)) <= 0.5, placement


class TestAgreement:
    @pytest.mark.parametrize("azimuth", [200, 250, 320])
    @pytest.mark.parametrize("finish", ["mooring-quay", "tide-table", "galley-wall", "ship-brass"])
    def test_light_shadow_sides_and_reflection_follow_the_gnomon(
        self, finish: str, azimuth: float
    ) -> None:
        title = new_title("KELP", finish=finish, frame=(480, 270))
        key = title.lights[0].model_copy(update={"azimuth": azimuth})
        moved = title.model_copy(update={"lights": [key, *title.lights[1:]]})
        assert not [said for said in light_readings(moved) if said.warns]

    def test_one_step_set_apart_is_named(self) -> None:
        build = [
            step("relief.inflate"),
            step("light.shade"),
            step("depth.extrude"),
            step("ground.cast_shadow", onto="floor", light="own", bearing=100) | {"id": "apart"},
        ]
        title = titled(build, lights=[{"id": "key", "azimuth": 225, "elevation": 30}])
        [warning] = [said for said in light_readings(title) if said.warns]
        assert warning.step == "apart"
        assert "Cast shadow" in warning.text

    def test_sides_are_bright_and_shadows_lie_where_the_light_says(self) -> None:
        """One light from the left, then from the right: the picture is mirrored."""
        build = [
            step("surface.flat", colour="#808080"),
            step("depth.extrude", towards="back", length=60, fade=0, lit=1, colour="#808080"),
            step("ground.cast_shadow", onto="wall", light="key", gap=90, opacity=1),
        ]

        def halves(azimuth: float) -> tuple[float, float]:
            lights = [{"id": "key", "azimuth": azimuth, "elevation": 35}]
            title = titled(build, word="O", size=120, frame=(400, 240), lights=lights)
            behind = Renderer().render(title, tap="behind").pixels
            dark = behind[..., 3] - brightness(behind)
            return float(dark[:, :200].sum()), float(dark[:, 200:].sum())

        from_left, from_right = halves(180), halves(0)
        assert from_left[1] > 1.3 * from_left[0]
        assert from_right[0] > 1.3 * from_right[1]


GLOWS = [
    step("lens.glow", radius=60, strength=3, threshold=0.1),
    step(
        "ground.drop_shadow", blur=40, spread=30, offset=0, blend="plus-lighter", colour="#ff8020"
    ),
    step("lens.glints", length=300, threshold=0.3),
    step("lens.streak", threshold=0.1, length=300),
    step("ground.cast_shadow", onto="wall", light="own", angle=30, gap=60, blur=20),
    step("lens.sparkles", size=120, threshold=0.2),
]


@pytest.mark.parametrize("glow", GLOWS, ids=lambda each: each["step"])
def test_nothing_is_cut_at_a_box(glow: dict) -> None:
    """A small frame shows what a large one shows there: what is left out beyond the frame is
    never seen. And in the large one it has faded before it ends."""
    build = [step("surface.flat", colour="#ffffff"), glow]
    small = Renderer().render(titled(build, size=70, frame=(200, 120))).pixels
    large = Renderer().render(titled(build, size=70, frame=(900, 700))).pixels
    part = large[290:410, 350:550]
    assert np.abs(small - part).max() < 2 / 255
    around = np.abs(large).max(axis=2)
    edges = np.concatenate([around[0], around[-1], around[:, 0], around[:, -1]])
    assert edges.max() < 2 / 255


WASH = [
    step("lens.glow", radius=12),
    step("lens.flare", size=20, length=90),
    step("lens.vignette"),
]


class TestWash:
    def scene(self, build: list) -> object:
        layers = [{"kind": "wash", "id": "lens", "build": build}]
        title = titled([step("relief.inflate"), step("light.shade")], size=90).model_dump(
            mode="json"
        )
        ground = {"kind": "backdrop", "source": {"colour": "#203040"}}
        return parse_title(title | {"layers": [ground, *title["layers"], *layers]})

    def test_changing_only_the_lens_costs_only_the_lens(self) -> None:
        renderer = Renderer()
        renderer.render(self.scene(WASH))
        changed = self.scene([step("lens.glow", radius=20), *WASH[1:]])
        again = renderer.render(changed).pixels
        made = [node.name for node in renderer.made if node.kind == "step"]
        assert made == ["lens.glow", "lens.flare", "lens.vignette"]
        assert not [node for node in renderer.made if node.kind == "card"]
        assert np.array_equal(again, Renderer().render(changed).pixels)

    def test_changing_its_last_step_costs_that_alone(self) -> None:
        renderer = Renderer()
        renderer.render(self.scene(WASH))
        renderer.render(self.scene([*WASH[:-1], step("lens.vignette", amount=0.9)]))
        made = [node.name for node in renderer.made if node.kind == "step"]
        assert made == ["lens.vignette"]

    def test_a_part_of_the_frame_is_the_same_part_of_the_whole(self) -> None:
        title = self.scene(WASH)
        whole = Renderer().render(title, scale=2).pixels
        part = Renderer().render(title, scale=2, window=Window(60, 40, 90, 70)).pixels
        assert np.abs(part - whole[80:220, 120:300]).max() < 3 / 255


@pytest.mark.parametrize("name", [n for n, each in finishes().items() if each.camera is not None])
class TestSceneFinish:
    def test_it_brings_ground_floor_lens_and_camera(self, name: str) -> None:
        title = new_title("KELP", finish=name, frame=(480, 270))
        kinds = [layer.kind for layer in title.layers]
        assert kinds == ["backdrop", "floor", "lettering", "wash"]
        assert title.camera.distance < 2000

    def test_it_looks_the_same_in_a_small_and_a_large_frame(self, name: str) -> None:
        small, large = (
            Renderer().render(new_title("KELP", finish=name, frame=frame), scale=scale).pixels
            for frame, scale in (((480, 270), 1.0), ((1920, 1080), 0.25))
        )
        assert np.abs(brightness(small) - brightness(large)).mean() < 0.03


FLOOR = {"kind": "floor", "id": "floor", "build": [step("relief.grain", amount=6)]}


class TestFloorAlone:
    def test_its_fields_lie_in_perspective_too(self) -> None:
        title = titled(word="H", frame=(240, 160), beneath=[FLOOR], camera={"lift": -200})
        alpha = Renderer().render(title, layer="floor", alone=True).pixels[..., 3]
        matte = Renderer().render(title, layer="floor", tap="matte").pixels[..., 0]
        assert np.abs(alpha - matte).max() < 0.02
        height = Renderer().fields(title, "floor").height
        assert 0.5 < np.abs(height[alpha > 0.9]).max() < 12

    @pytest.mark.parametrize(
        "layer",
        [
            {"matte_from": "floor"},
            {"build": [step("surface.picture", picture="layer:floor") | {"id": "it"}]},
            {"build": [step("surface.flat") | {"where": {"kind": "matte", "layer": "floor"}}]},
        ],
    )
    def test_it_is_not_shown_elsewhere(self, layer: dict) -> None:
        title = titled(beneath=[FLOOR], lettering=layer)
        with pytest.raises(TitleError, match=r"layers\[1\].*must not be a floor"):
            check_title(title)
