"""Cards turned all the way round: what they cast is bounded by what the frame can show."""

import numpy as np
import pytest

from mabrel import Renderer
from mabrel.render import Window
from mabrel.title import Title
from tests.engine.trial_titles import step, titled

SIDES = step("depth.extrude", towards="back", length=30, fade=0)
GROUND = {
    "shadow": step("ground.cast_shadow", onto="floor", light="own", bearing=40),
    "wall": step("ground.cast_shadow", onto="wall"),
    "streak": step("ground.cast_shadow", onto="streak"),
    "contact": step("ground.contact"),
    "mirror": step("ground.reflection", ripples=3),
    "drop": step("ground.drop_shadow"),
}
LIGHTS = [{"id": "key", "azimuth": 215, "elevation": 40}]


def turned(axis: str, angle: float, *build: dict) -> Title:
    return titled(
        [step("surface.flat", colour="#c08040"), *build],
        word="KELP",
        size=70,
        frame=(320, 200),
        lights=LIGHTS,
        camera={"distance": 500, "lift": -60},
        lettering={"placement": {axis: angle}},
    )


def pixels_made(title: Title) -> int:
    """The pixels of all results that a render takes, those beside the card too."""
    renderer = Renderer()
    renderer.render(title)
    total = 0
    for node in renderer.made:
        if node.kind != "step":
            continue
        piece = renderer.cache.get(node.key)
        assert piece is not None, "too large to be kept"
        total += piece.region.area + (piece.cast.region.area if piece.cast else 0)
    return total


@pytest.mark.parametrize("name", GROUND)
@pytest.mark.parametrize("axis", ["turn_x", "turn_y", "turn_z"])
def test_no_angle_costs_more_than_twice_as_much_as_none(axis: str, name: str) -> None:
    flat = pixels_made(turned(axis, 0, SIDES, GROUND[name]))
    angles = (30, 60, 75, 85, 89, 90, 91, 120, 180, 240, 270, 300)
    costs = {angle: pixels_made(turned(axis, angle, SIDES, GROUND[name])) for angle in angles}
    # What can't be less: the frame that a turned card's shadow may fill, which a level one can't.
    allowed = 2 * max(flat, (320 + 64) * (200 + 64))
    assert max(costs.values()) <= allowed, (flat, costs)


@pytest.mark.parametrize("name", ["shadow", "contact", "mirror"])
@pytest.mark.parametrize("angle", [90.0, 270.0])
def test_seen_from_its_edge_a_card_tints_no_half_of_the_frame(angle: float, name: str) -> None:
    pixels = Renderer().render(turned("turn_y", angle, GROUND[name])).pixels
    assert np.isfinite(pixels).all()
    assert (pixels[..., 3] > 0.02).mean() < 0.25


@pytest.mark.parametrize("name", ["shadow", "mirror"])
def test_what_it_casts_moves_smoothly_as_it_turns(name: str) -> None:
    """Through the edge and on: no angle shows a shadow or a mirror image that jumps."""

    def cover(angle: float) -> float:
        title = turned("turn_y", angle, GROUND[name])
        return float(Renderer().render(title, tap="behind").pixels[..., 3].sum())

    covers = [cover(angle) for angle in range(60, 121, 10)]
    steps = np.abs(np.diff(covers))
    assert steps.max() < 0.6 * max(covers) + 30, covers


def test_a_part_of_the_frame_is_that_part_of_the_whole() -> None:
    title = turned("turn_y", 25, SIDES, GROUND["shadow"], GROUND["mirror"])
    made, lens = step("surface.made", width=40, height=40), step("lens.glow", radius=12)
    floor = {"kind": "floor", "id": "floor", "build": [made]}
    wash = {"kind": "wash", "id": "lens", "build": [lens, step("lens.grade")]}
    layers = [floor, *title.model_dump(mode="json")["layers"], wash]
    title = Title.model_validate(title.model_dump(mode="json") | {"layers": layers})
    whole = Renderer().render(title).pixels
    for left, top, width, height in ((0, 0, 90, 200), (130, 60, 100, 80), (200, 120, 120, 80)):
        part = Renderer().render(title, window=Window(left, top, width, height)).pixels
        assert np.abs(part - whole[top : top + height, left : left + width]).max() < 1e-4
