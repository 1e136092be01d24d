"""What moves: letters in turn, a floor that hides, motion blur, and running round."""

import numpy as np
import pytest

from mabrel import Renderer, new_title, parse_title
from mabrel.colour.spaces import to_linear
from mabrel.title import Camera, Floor, LetteringSource, PictureSource, Placement
from mabrel.title.letters import InTurn, delays
from mabrel.title.scaling import scaled

LINEAR = (0.0, 0.0, 1.0, 1.0)
FLOOR = {"kind": "floor", "source": {"colour": "#00000000"}, "hides": True}
FLAT = {"step": "surface.flat", "settings": {"colour": "#ffffff"}}


def moving(*pairs, ease=LINEAR) -> dict:
    return {"pegs": [{"at": at, "value": value, "ease": ease} for at, value in pairs]}


def title(*layers, width=320, height=160, **fields):
    frame = {"width": width, "height": height} | fields.pop("frame", {})
    return parse_title({"mabrel": 1, "frame": frame, "layers": list(layers)} | fields)


def lettering(text="HHH", size=60, build=(FLAT,), placement=None, **source) -> dict:
    return {
        "kind": "lettering",
        "source": {"text": text, "font": "Anton", "size": size, **source},
        "placement": placement or {},
        "build": list(build),
    }


def alpha(renderer: Renderer, of, time: float) -> np.ndarray:
    return renderer.render(of, time=time).pixels[..., 3]


def columns(matte: np.ndarray) -> tuple[int, int]:
    found = np.flatnonzero(matte.max(axis=0) > 0.5)
    return int(found[0]), int(found[-1])


class TestLettersInTurn:
    @pytest.mark.parametrize(
        ("order", "wanted"),
        [
            ("forwards", [0, 1, 2, 3]),
            ("backwards", [3, 2, 1, 0]),
            ("from the middle", [1, 0, 0, 1]),
            ("to the middle", [0, 1, 1, 0]),
        ],
    )
    def test_each_waits_for_its_turn(self, order: str, wanted: list[float]) -> None:
        assert delays(InTurn(order=order, delay=0.5), 4) == pytest.approx(np.array(wanted) * 0.5)

    def test_by_chance_every_letter_has_a_turn_of_its_own_and_a_seed_another_order(self) -> None:
        drawn = [delays(InTurn(order="by chance", seed=seed, delay=1), 9) for seed in (1, 2)]
        assert sorted(drawn[0]) == sorted(drawn[1]) == list(range(9))
        assert drawn[0] != drawn[1]

    def test_one_letter_after_the_other_arrives_and_then_stands_where_it_is_set(self) -> None:
        renderer = Renderer()
        falls = {"delay": 1.0, "y": moving((0, -400), (1, 0))}
        still, falling = title(lettering()), title(lettering(in_turn=falls))
        whole = alpha(renderer, still, 0)
        left, right = columns(whole)
        first = columns(alpha(renderer, falling, 1.0))
        assert first[0] == left
        assert first[1] < left + (right - left) / 3
        np.testing.assert_allclose(alpha(renderer, falling, 3.0), whole, atol=1e-4)

    def test_words_and_lines_move_as_wholes(self) -> None:
        renderer = Renderer()
        for by, text in (("word", "HI HI"), ("line", "HIHI\nHIHI")):
            there = {"by": by, "delay": 1.0, "opacity": moving((0, 0), (0.5, 1))}
            matte = alpha(renderer, title(lettering(text, 50, in_turn=there)), 0.6)
            whole = alpha(renderer, title(lettering(text, 50)), 0)
            assert matte.sum() == pytest.approx(whole.sum() / 2, rel=0.01)

    def test_what_is_half_there_is_half_covered_and_letters_are_one_matte(self) -> None:
        half = {"opacity": 0.5}
        for word in (
            lettering("H", in_turn=half),
            lettering("HH", letter_spacing=-40, in_turn=half),
        ):
            matte = alpha(Renderer(), title(word), 0)
            assert matte.max() == pytest.approx(0.5, abs=1e-3)

    def test_they_are_turned_and_scaled_about_their_own_foot(self) -> None:
        renderer = Renderer()
        whole = alpha(renderer, title(lettering("H")), 0)
        small = alpha(renderer, title(lettering("H", in_turn={"scale": 0.5})), 0)
        feet = [int(np.flatnonzero(each.max(axis=1) > 0.5)[-1]) for each in (whole, small)]
        assert abs(feet[0] - feet[1]) <= 1
        assert small.sum() == pytest.approx(whole.sum() / 4, rel=0.02)

    def test_the_plan_knows_when_the_last_letter_has_arrived(self) -> None:
        falls = {"delay": 1.0, "y": moving((0, -40), (1, 0))}
        plan = Renderer().plan(title(lettering(in_turn=falls)))
        assert plan.changes(2.5, 2.9)
        assert not plan.changes(3.0, 9.0)

    def test_their_ways_are_lengths_like_all_others(self) -> None:
        source = LetteringSource(text="A", in_turn=InTurn(x=10, y=moving((0, -40), (1, 0))))
        larger = scaled(source.in_turn, 2)
        assert larger.x == 20
        assert larger.y.pegs[0].value == -80
        assert larger.turn == 0

    def test_joined_letters_are_not_torn_apart(self) -> None:
        renderer = Renderer()
        there = {"delay": 1.0, "opacity": moving((0, 0), (0.5, 1))}
        word = lettering("\u0633\u0644\u0627\u0645", in_turn=there) | {}
        word["source"]["font"] = "Lalezar"
        matte = alpha(renderer, title(word), 0.6)
        bare = lettering("\u0633\u0644\u0627\u0645")
        bare["source"]["font"] = "Lalezar"
        np.testing.assert_allclose(matte, alpha(renderer, title(bare), 0), atol=1e-4)


class TestAFloorThatHides:
    def rising(self, **floor):
        rises = {"y": moving((0, 80), (1, 0))}
        return title(FLOOR | floor, lettering("H", placement=rises))

    def test_nothing_is_seen_of_what_reaches_below_its_level(self) -> None:
        renderer = Renderer()
        for time in (0.0, 0.3, 0.7, 0.8):
            matte = alpha(renderer, self.rising(level=10), time)
            assert matte[91:].max(initial=0) == 0  # the level, from the frame's centre at 80
            assert (matte[:88].max() > 0.9) == (time > 0.5)

    def test_without_a_level_it_lies_where_the_letters_come_to_stand(self) -> None:
        renderer = Renderer()
        whole = alpha(renderer, title(lettering("H")), 0)
        foot = int(np.flatnonzero(whole.max(axis=1) > 0.5)[-1])
        np.testing.assert_allclose(alpha(renderer, self.rising(), 1.0), whole, atol=0.02)
        half_way = alpha(renderer, self.rising(), 0.6)
        assert half_way[foot + 2 :].max() == 0
        assert half_way[foot - 3].max() == pytest.approx(1.0)

    def test_the_cut_is_antialiased(self) -> None:
        matte = alpha(Renderer(), self.rising(level=10.25), 0.75)
        assert matte[90].max() == pytest.approx(0.25, abs=0.02)

    def test_reflections_begin_at_the_floor_and_not_at_what_is_hidden(self) -> None:
        mirrored = {"step": "ground.reflection", "settings": {"fades_from": 300, "gone_at": 400}}
        rises = {"y": moving((0, 80), (1, 0))}
        word = lettering("H", build=[FLAT, mirrored], placement=rises)
        matte = alpha(Renderer(), title(FLOOR | {"level": 10}, word), 0.75)
        assert matte[92].max() > 0.1

    def test_a_card_that_lies_flat_is_there_or_not(self) -> None:
        renderer = Renderer()
        for y, seen in ((5, True), (15, False)):
            lying = {"y": y, "turn_x": 90, "z": 0}
            of = title(FLOOR | {"level": 10}, lettering("H", placement=lying), camera={"lift": -60})
            assert (alpha(renderer, of, 0).max() > 0.1) == seen


class TestMotionBlur:
    def test_a_moving_edge_is_the_integral_of_its_coverage(self) -> None:
        """Over nothing, a wide bar that moves evenly: the mean of shifted copies, in closed form a
        ramp as wide as the way."""
        blur = {"angle": 360, "samples": 32, "by_motion": False}
        way = {"x": moving((0, -40), (1, 40))}
        frame = {"fps": 4.0}  # 20 pixels a frame
        of = title(lettering("I", 120, placement=way), frame=frame, blur=blur)
        row = alpha(Renderer(), of, 0.5)[80]
        still = title(lettering("I", 120))
        sharp = alpha(Renderer(), still, 0)[80]
        edges = np.concatenate([[0.0], np.cumsum(sharp, dtype=np.float64)])
        place = np.arange(len(row), dtype=np.float64)
        whole = lambda x: np.interp(x, np.arange(len(edges)), edges)  # noqa: E731
        integral = np.zeros_like(place)
        for k in range(400):  # the same pixels, shifted evenly
            shift = 20 * ((k + 0.5) / 400 - 0.5)
            integral += (whole(place + 1 - shift) - whole(place - shift)) / 400
        np.testing.assert_allclose(row, integral, atol=1 / 255)

    def test_it_is_the_mean_of_light_and_not_of_codes(self) -> None:
        flickers = moving((0, "#000000"), (0.5, "#ffffff"), ease="hold")
        of = title(
            {"kind": "backdrop", "source": {"colour": flickers}},
            frame={"fps": 1.0},
            blur={"angle": 360, "samples": 2, "by_motion": False},
        )
        pixels = Renderer().render(of, time=0.5).pixels
        assert float(to_linear(pixels[0, 0, 0])) == pytest.approx(0.5, abs=1e-3)

    def test_where_nothing_moves_one_picture_is_made(self) -> None:
        renderer = Renderer()
        still = title(lettering("H"))
        blurred = title(lettering("H"), blur={"angle": 180})
        np.testing.assert_array_equal(alpha(renderer, still, 0), alpha(renderer, blurred, 0))
        assert not any(node.name == "exposed" for node in renderer.made)

    def test_it_takes_as_many_pictures_as_things_move(self) -> None:
        renderer = Renderer()

        def pictures(way: float) -> int:
            moves = {"x": moving((0, -way), (1, way))}
            of = title(
                lettering("H", placement=moves), frame={"fps": 25.0},
                blur={"angle": 180, "samples": 32},
            )  # fmt: skip
            renderer.render(of, time=0.5)
            return sum(1 for node in renderer.made if node.name == "exposed")

        assert pictures(50) == 4
        assert pictures(500) == 20

    def test_a_frame_is_the_same_alone_and_after_others(self) -> None:
        moves = {"x": moving((0, -40), (1, 40)), "turn_z": moving((0, 0), (1, 30))}
        build = [FLAT, {"step": "relief.inflate"}, {"step": "light.shade"}]
        of = title(lettering("HO", build=build, placement=moves), blur={"angle": 180, "samples": 8})
        alone = Renderer().render(of, time=0.44).to_uint8()
        renderer = Renderer()
        for frame in range(9, 13):
            after = renderer.render(of, time=frame / 25).to_uint8()
            if frame == 11:
                np.testing.assert_array_equal(alone, after)


def test_running_noise_comes_round_in_a_title_that_loops() -> None:
    running = {
        "step": "surface.made",
        "settings": {"phase": moving((0, 0), (2, 3.1)), "opacity": 1},
    }
    layer = lettering("H", build=[running])
    renderer = Renderer()
    for loops in (True, False):
        of = title(layer, frame={"duration": 2.0, "loops": loops})
        first, last = (renderer.render(of, time=time).pixels for time in (0.0, 2.0))
        assert np.allclose(first, last, atol=1e-4) == loops


def test_what_scales_follows_from_the_kind_alone() -> None:
    placement = scaled(Placement(x=10, turn_y=20, scale=0.5), 2)
    assert (placement.x, placement.turn_y, placement.scale) == (20, 20, 0.5)
    assert scaled(Camera(distance=1000, swing=5), 2).model_dump() == (
        Camera(distance=2000, swing=5).model_dump()
    )
    assert scaled(Floor(level=None, far=1000), 2).far == 2000
    assert scaled(PictureSource(picture="a.png", height=100), 3).height == 300


@pytest.mark.parametrize("size", [0.2, 0.6, 1.3])
@pytest.mark.parametrize("finish", ["ship-brass", "lacquer-gloss", "copper-pipe"])
def test_a_word_that_is_scaled_keeps_its_look(finish: str, size: float) -> None:
    """Bevels, sides, shadows and glow go with it: rendered larger by as much it is the same."""
    made = new_title("Oar", finish=finish, frame=(360, 200))
    word = next(layer for layer in made.layers if layer.kind == "lettering")
    whole = made.model_copy(update={"layers": [word]})
    placement = word.placement.model_copy(update={"scale": size * word.placement.scale})
    small = made.model_copy(update={"layers": [word.model_copy(update={"placement": placement})]})
    renderer = Renderer()
    own = renderer.render(whole, time=0, scale=1).pixels
    its = renderer.render(small, time=0, scale=1 / size).pixels
    (h, w), (tall, wide) = own.shape[:2], its.shape[:2]
    high, broad = min(h, tall) // 2 - 2, min(w, wide) // 2 - 2
    crops = [
        each[each.shape[0] // 2 - high : each.shape[0] // 2 + high,
             each.shape[1] // 2 - broad : each.shape[1] // 2 + broad]
        for each in (own, its)
    ]  # fmt: skip
    assert crops[0][..., 3].max() > 0.9
    assert np.abs(crops[0] - crops[1]).mean() < 2 / 255
