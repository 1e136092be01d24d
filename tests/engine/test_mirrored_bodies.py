"""Bodies that no plane of their card could hold: whole from all sides, in a mirror too."""

from typing import Any

import cv2
import numpy as np
import pytest

from mabrel import Renderer
from mabrel.colour import light_of
from mabrel.field import gaussian_blur
from mabrel.title import Title
from tests.engine.trial_titles import step, titled

FRAME = (360, 300)
FACE = step("surface.flat", colour="#e0a040")
MIRROR = step(
    "ground.reflection", opacity=1, blur=0, softer=0, fades_from=4000, gone_at=4000, tinted=0
)


OUTLINE = step("depth.outline", width=6, gap=0, colour="#101418")
ANGLES = (0.0, 40.0, 70.0, 79.0, 84.0, 90.0, 96.0, 130.0, 180.0, 270.0)


def alone(**settings: object) -> dict:
    """The image of all of it, and nothing else."""
    return MIRROR | {"settings": MIRROR["settings"] | {"show": "alone"} | settings}


def deep(length: float = 60, **settings: object) -> dict:
    return step("depth.extrude", towards="back", length=length, **settings)


def standing(angle: float, *build: dict, word: str = "HI", **more: object) -> Title:
    """A short word, seen from far away."""
    return titled(
        [FACE, *build],
        word=word,
        size=110,
        frame=FRAME,
        camera={"distance": 4000},
        lettering={"placement": {"turn_y": angle, **more}},
    )


def seen(title: Title) -> np.ndarray:
    return Renderer().render(title).pixels


def wide(pixels: np.ndarray) -> int:
    columns = np.flatnonzero((pixels[..., 3] > 0.5).any(axis=0))
    return int(columns[-1] - columns[0] + 1)


@pytest.mark.parametrize("word", ["I", "HI"])
@pytest.mark.parametrize("length", [60, 150])
def test_the_sides_of_a_short_word_are_never_cut_off(word: str, length: float) -> None:
    """On its card, sides of a word that is turned far would be many times as wide as that."""
    own = wide(seen(standing(0, word=word)))
    for angle in (50, 60, 70, 76, 79, 80.5, 81.5, 85):
        turn = np.radians(angle)
        whole = own * np.cos(turn) + length * np.sin(turn)
        pixels = seen(standing(angle, deep(length), word=word, x=length / 2 * np.sin(turn)))
        assert wide(pixels) == pytest.approx(whole, abs=0.03 * whole + 2), angle


def lowered(angle: float, *build: dict) -> Title:
    """The same with its foot, and so its floor, as high as the viewer: what a mirror shows is the
    picture upside down."""
    alone = seen(standing(angle, *build))
    foot = np.flatnonzero((alone[..., 3] > 0.5).any(axis=1))[-1] + 1
    return standing(angle, *build, MIRROR, y=FRAME[1] / 2 - float(foot))


@pytest.mark.parametrize("build", [[deep()], [deep(), OUTLINE]], ids=["bare", "outlined"])
@pytest.mark.parametrize("angle", ANGLES)
def test_a_mirror_shows_a_body_as_it_is(angle: float, build: list[dict]) -> None:
    pixels = seen(lowered(angle, *build))
    half = FRAME[1] // 2
    above, below = pixels[:half][::-1], pixels[half:]
    off = np.abs(above - below)[4:]  # beside its foot, body and image cover each other
    assert off.mean() < 0.012
    assert (off.max(axis=-1) > 0.35).mean() < 0.012
    assert below[..., 3].sum() > 2000


@pytest.mark.parametrize("angle", [30.0, 60.0, 84.0, 160.0])
def test_in_a_mirror_a_face_meets_its_sides_without_a_gap(angle: float) -> None:
    hard, soft = (seen(standing(angle, deep(), alone(blur=blur)))[..., 3] for blur in (0, 4))
    inside = cv2.erode(np.asarray(hard > 0.4, np.uint8), np.ones((3, 3))) > 0
    assert inside.sum() > 2000
    assert (hard[inside] < 0.9).mean() < 0.02
    whole = cv2.GaussianBlur(np.maximum(hard, inside), (0, 0), 4.0)
    assert soft == pytest.approx(whole, abs=0.06)


@pytest.mark.parametrize("angle", [60.0, 84.0, 90.0])
def test_in_a_mirror_the_near_end_of_a_long_word_begins_at_its_own_foot(angle: float) -> None:
    """However far the rest of it reaches behind."""
    short = alone(fades_from=0, gone_at=50)
    title = titled(
        [FACE, deep(), short],
        word="LANTERNS",
        size=60,
        frame=FRAME,
        camera={"distance": 700, "lift": -200},
        lettering={"placement": {"turn_y": angle, "y": -30}},
    )
    cover = seen(title)[..., 3]
    lowest = np.flatnonzero((cover > 0.5).any(axis=1))[-1]
    body = seen(title.model_copy(update={"layers": [_bare(title.layers[0])]}))[..., 3]
    foot = np.flatnonzero((body > 0.5).any(axis=1))[-1]
    assert lowest > foot + 8


def _bare(layer: Any) -> Any:
    return layer.model_copy(update={"build": layer.build[:-1]})


def test_in_a_mirror_a_body_is_graded_as_it_is() -> None:
    grey = step("lens.grade", saturation=0)
    for angle in (30.0, 90.0):
        red = seen(standing(angle, deep(colour="#c02020"), alone()))
        flat = seen(standing(angle, deep(colour="#c02020"), grey, alone()))
        assert (red[..., 0] - red[..., 1]).max() > 0.3
        assert np.abs(flat[..., 0] - flat[..., 1]).max() < 0.03


@pytest.mark.parametrize("join", ["round", "mitre", "bevel"])
def test_an_outline_around_a_body_goes_on_as_it_turns(join: str) -> None:
    """Drawn on the card, or in the picture beside it."""

    def line(angle: float) -> float:
        ringed = OUTLINE | {"settings": OUTLINE["settings"] | {"join": join}}
        both = seen(standing(angle, deep(), ringed))[..., 3].sum()
        return float(both - seen(standing(angle, deep()))[..., 3].sum())

    for before, after in ((80.7, 81.3), (278.7, 279.3)):
        assert line(after) == pytest.approx(line(before), rel=0.12)
    assert line(180) == pytest.approx(line(0), rel=0.06)
    assert line(90) > 0.25 * line(0)


def test_two_outlines_around_a_body_beside_its_card_lie_one_around_the_other() -> None:
    red = step("depth.outline", width=5, colour="#d02020")
    pixels = seen(standing(180, deep(), OUTLINE, red))
    reddish = (pixels[..., 0] - pixels[..., 1] > 0.5) & (pixels[..., 3] > 0.9)
    dark = (pixels[..., :3].max(axis=-1) < 0.15) & (pixels[..., 3] > 0.9)
    middle = pixels.shape[0] // 2
    assert reddish.sum() > 500
    assert np.flatnonzero(reddish[middle])[0] < np.flatnonzero(dark[middle])[0]


@pytest.mark.parametrize(("blur", "most"), [(1.0, 1e-3), (1.2, 0.08), (1.6, 0.04), (2.3, 0.025)])
@pytest.mark.parametrize("angle", [0, 40, 90])
def test_a_soft_image_is_the_sharp_one_softened(angle: float, blur: float, most: float) -> None:
    """Softer than a pixel it is looked at in coarser ones, by fewer rays."""
    sharp = light_of(seen(standing(angle, deep(), alone())))
    soft = light_of(seen(standing(angle, deep(), alone(blur=blur))))
    off = np.abs(soft - gaussian_blur(sharp, blur))[soft[..., 3] > 0.01]
    assert np.quantile(off, 0.99) < most
    assert off.mean() < most / 10
