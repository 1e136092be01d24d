"""Every finish on any word: fat and thin, two lines, other scripts, small and large."""

from pathlib import Path

import cv2
import numpy as np
import pytest

from mabrel import Renderer, families, finishes, new_title, swap
from mabrel.compose import apply_finish, finish_named
from mabrel.steps import Array, kind_of
from mabrel.title import Layer, Placed, Title

RENDERER = Renderer()
FONTS = ("Titan One", "Chango", "Fredoka", "Archivo Black", "Alfa Slab One")
FRAME = (420, 180)
SMALL = (84, 170)  # a frame in which a capital is about 60 pixels high
DEMO = Path(__file__).resolve().parents[2] / "demo" / "titles"


def rendered(finish: str, text: str = "KELP", font: str = "Titan One", **how) -> Array:
    title = new_title(text, font=font, finish=finish, frame=FRAME, transparent=True)
    return RENDERER.render(title, **how).pixels


def inside(finish: str, **how) -> Array:
    """Straight colours of the face where the lettering is."""
    matte = rendered(finish, tap="matte", **how)[..., 0]
    return rendered(finish, tap="face", **how)[matte > 0.99][:, :3]


@pytest.mark.parametrize("finish", sorted(finishes()))
class TestFinish:
    @pytest.mark.parametrize("font", FONTS)
    def test_it_has_lights_and_darks_on_every_fat_font(self, finish: str, font: str) -> None:
        tones = inside(finish, font=font).mean(axis=1)
        assert np.isfinite(tones).all()
        assert np.percentile(tones, 97) - np.percentile(tones, 3) > 0.12

    def test_it_stands_out_from_its_ground(self, finish: str) -> None:
        title = new_title("KELP", finish=finish, frame=FRAME)
        picture = RENDERER.render(title).pixels[..., :3]
        matte = RENDERER.render(title, tap="matte").pixels[..., 0]
        rim = (matte > 0.5) & (matte < 0.99)
        letters, ground = picture[matte > 0.99], picture[(matte == 0) & ~rim]
        apart = np.abs(letters.mean(axis=0) - np.median(ground, axis=0)).max()
        assert apart + letters.std() > 0.12

    @pytest.mark.parametrize("text", ["شراع", "नाव", "Two\nlines", "i", "&?"])
    def test_no_setting_needs_a_change_for_other_words(self, finish: str, text: str) -> None:
        pixels = rendered(finish, text)
        assert np.isfinite(pixels).all()
        assert pixels[..., 3].max() == pytest.approx(1, abs=1e-3)

    def test_it_looks_the_same_on_small_and_on_large_letters(self, finish: str) -> None:
        """On 60, 300 and 900 px, scaled to the same size; whole scenes, which paint all of a
        frame and not only the letters, on 60, 180 and 300 px."""
        factors = (1, 5, 15) if finishes()[finish].camera is None else (1, 3, 5)

        def scaled_down(factor: int) -> Array:
            width, height = SMALL
            title = new_title("R", finish=finish, frame=(width * factor, height * factor))
            pixels = RENDERER.render(title).pixels
            return cv2.resize(pixels, SMALL, interpolation=cv2.INTER_AREA)

        small, middle, large = (scaled_down(factor) for factor in factors)
        assert np.abs(small - middle).mean() < 0.02
        assert np.abs(large - middle).mean() < 0.02

    @pytest.mark.parametrize("picture", ["gull.svg", "gull.png"])
    def test_it_goes_on_the_emblem_and_no_setting_needs_a_change(
        self, finish: str, picture: str
    ) -> None:
        title = new_title("KELP", finish=finish, frame=(360, 240), home=DEMO, transparent=True)
        emblem = swap(title, picture=picture)
        kinds = [step.step for step in lettering(emblem).build]
        assert kinds == [step.step for step in finish_named(finish).build]
        pixels = RENDERER.render(emblem).pixels
        matte = RENDERER.render(emblem, tap="matte").pixels[..., 0]
        assert np.isfinite(pixels).all()
        tones = pixels[matte > 0.99][:, :3].mean(axis=1)
        assert np.percentile(tones, 97) - np.percentile(tones, 3) > 0.12

    def test_all_of_its_light_comes_from_one_place(self, finish: str) -> None:
        title = new_title("KELP", finish=finish, frame=FRAME)
        turned = title.lights[0].model_copy(update={"azimuth": title.lights[0].azimuth + 90})
        other = title.model_copy(update={"lights": [turned]})
        lit = [kind_of(step.step) for step in lettering(title).build if kind_of(step.step).lit]
        taps = {tap for kind in lit for tap in kind.writes if tap in ("face", "behind")}
        assert taps or finish == "chart-ink", "all but flat ink are lit"
        for tap in taps:
            before, after = (RENDERER.render(each, tap=tap).pixels for each in (title, other))
            assert np.abs(after - before).max() > 0.05, tap

    def test_it_goes_on_other_lettering_and_survives_another_word(self, finish: str) -> None:
        title = new_title("RUST", finish="ship-brass", frame=FRAME)
        word = title.layers[-1].id
        there = swap(apply_finish(title, word, finish_named(finish)), text="SALT")
        kinds = [step.step for step in lettering(there).build]
        assert kinds == [step.step for step in finish_named(finish).build]
        assert np.isfinite(RENDERER.render(there).pixels).all()


def lettering(title: Title) -> Layer:
    """The layer that wears the finish, under the washes of a scene."""
    return next(layer for layer in reversed(title.layers) if isinstance(layer, Placed))


def hue(colours: Array) -> float:
    """Degrees of the mean colour about the grey axis; red is 0, green 120, blue 240."""
    red, green, blue = colours.mean(axis=0)
    return float(np.degrees(np.arctan2(np.sqrt(3) * (green - blue), 2 * red - green - blue)) % 360)


def strength(colours: Array) -> float:
    return float(np.ptp(colours.mean(axis=0)))


@pytest.mark.parametrize(
    ("finish", "low", "high"),
    [
        ("ship-brass", 15, 55),
        ("poured-gold", 30, 60),
        ("copper-pipe", 5, 35),
        ("blued-steel", 200, 260),
        ("enamel", 150, 190),
        ("ice", 185, 230),
        ("moulded-plastic", 20, 55),
    ],
)
def test_a_material_has_its_colour(finish: str, low: float, high: float) -> None:
    assert low < hue(inside(finish)) < high
    assert strength(inside(finish)) > 0.1


@pytest.mark.parametrize("finish", ["chrome-rail", "pewter", "brushed-steel", "embossed-plaster"])
def test_white_metals_and_plaster_are_nearly_grey(finish: str) -> None:
    assert strength(inside(finish)) < 0.1


def test_polished_metal_turns_between_dark_and_light_more_often_than_dull_metal() -> None:
    def turns(finish: str) -> float:
        tones = rendered(finish, "HHHH", tap="face")[..., :3].mean(axis=-1)
        matte = rendered(finish, "HHHH", tap="matte")[..., 0] > 0.99
        rises = np.sign(np.diff(np.round(tones, 2), axis=1))
        both = matte[:, 1:-1] & matte[:, 2:] & matte[:, :-2]
        return float((np.abs(np.diff(rises, axis=1)) > 1)[both].mean())

    assert turns("chrome-rail") > turns("enamel")


def test_no_two_finishes_look_alike() -> None:
    looks = {name: inside(name) for name in finishes()}
    names = sorted(looks)
    for i, one in enumerate(names):
        for other in names[i + 1 :]:
            if looks[one].shape == looks[other].shape:  # a finish may change the outline too
                assert np.abs(looks[one] - looks[other]).mean() > 0.04, (one, other)


def test_each_finish_is_shown_in_a_font_that_suits_it() -> None:
    """Not all in one; another font is taken where one is chosen."""
    suiting = {name: finish.font for name, finish in finishes().items()}
    assert set(suiting.values()) <= set(families())
    assert len(set(suiting.values())) >= 12
    plain = new_title("OAR", finish="neon-tube")
    assert plain.layers[1].source.font == suiting["neon-tube"] == "Pacifico"
    assert new_title("OAR", finish="neon-tube", font="Anton").layers[1].source.font == "Anton"
