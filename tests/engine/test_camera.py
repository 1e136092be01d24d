"""Cards and the viewer: perspective, and lights as the card sees them."""

import numpy as np
import pytest

from mabrel.camera import card_at
from mabrel.light import Light
from mabrel.title import Camera, Placement


def card(camera: dict | None = None, **placement):
    return card_at(Placement(**placement), Camera(**(camera or {})), 0.0)


def seen(homography: np.ndarray, x: float, y: float) -> np.ndarray:
    point = homography @ [x, y, 1]
    return point[:2] / point[2]


def test_a_card_in_the_frames_plane_is_seen_as_it_is() -> None:
    flat = card(x=30, y=-20)
    assert not flat.turned
    assert flat.magnification == 1
    assert flat.centre == (30, -20)
    assert seen(flat.homography, 7, 9) == pytest.approx([37, -11])


def test_nearer_is_larger_by_the_rule_of_thirds() -> None:
    near = card({"distance": 1000}, z=500, x=10)
    assert near.magnification == pytest.approx(2)
    assert near.centre == pytest.approx((20, 0))
    assert seen(near.homography, 5, 0) == pytest.approx([30, 0])


def test_the_viewers_place_is_the_vanishing_point() -> None:
    far = card({"distance": 1000, "pan": 100, "lift": -50}, z=-1e5)
    assert far.centre == pytest.approx((100, -50), abs=1.1)


def test_behind_the_viewer_nothing_is_seen() -> None:
    assert card({"distance": 1000}, z=1500).magnification == 0


@pytest.mark.parametrize(
    "turns", [{"turn_y": 40}, {"turn_x": -30}, {"turn_z": 25}, {"turn_x": 20, "turn_y": 50}]
)
def test_a_turned_card_is_projected_point_by_point(turns: dict) -> None:
    turned = card({"distance": 900, "pan": 12, "lift": 7}, x=40, y=-30, z=60, scale=1.3, **turns)
    viewer = np.array(turned.viewer)
    for x, y in ((0, 0), (100, 0), (-40, 70)):
        place = np.array(turned.place) + turned.turn @ np.array([x, y, 0]) * turned.scale
        share = viewer[2] / (viewer[2] - place[2])
        truth = viewer[:2] + (place[:2] - viewer[:2]) * share
        assert seen(turned.homography, x, y) == pytest.approx(truth)


def test_a_right_edge_turned_away_is_smaller_than_the_left_one() -> None:
    away = card(turn_y=45).homography
    edges = [seen(away, x, 50)[1] - seen(away, x, -50)[1] for x in (-200, 200)]
    assert edges[0] != pytest.approx(edges[1], rel=0.05)


def test_a_turn_about_z_turns_the_light_the_other_way() -> None:
    [light] = card(turn_z=30).lights([Light(100, 40)])
    assert light.azimuth == pytest.approx(70)
    assert light.elevation == pytest.approx(40)


def test_light_keeps_its_angle_to_the_card_whatever_the_turn() -> None:
    light = Light(210, 35, (1, 0.9, 0.8), 0.7)
    turned = card(turn_x=33, turn_y=-48)
    [there] = turned.lights([light])
    normal = turned.turn[:, 2]
    assert np.sin(np.radians(there.elevation)) == pytest.approx(normal @ np.array(light.direction))
    assert (there.colour, there.strength) == (light.colour, light.strength)
