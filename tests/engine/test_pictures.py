"""The picture that comes out: eight bits, dither, codes and edges."""

import numpy as np
import pytest

from mabrel import parse_title, render
from tests.engine.trial_titles import step, titled


def test_a_slow_gradient_does_not_band_in_eight_bits() -> None:
    stops = [{"place": 0, "colour": "#202428"}, {"place": 1, "colour": "#2a2e33"}]
    ground = {"kind": "backdrop", "build": [step("surface.gradient", angle=0, stops=stops)]}
    title = parse_title({"mabrel": 1, "frame": {"width": 900, "height": 60}, "layers": [ground]})
    picture = render(title)
    levels = picture.to_uint8()[..., 0].astype(float)
    error = levels - picture.pixels[..., 0] * 255
    # Averaged over a small patch nothing of the steps is left.
    patches = error.reshape(3, 20, 45, 20).mean(axis=(1, 3))
    assert np.abs(patches).max() < 0.12
    assert np.abs(error).max() < 1.01


def test_a_flat_colour_is_not_dithered() -> None:
    title = parse_title(
        {"mabrel": 1, "frame": {"width": 40, "height": 30},
         "layers": [{"kind": "backdrop", "source": {"colour": "#7b3f21"}}]}
    )  # fmt: skip
    assert np.unique(render(title).to_uint8().reshape(-1, 4), axis=0).tolist() == [
        [123, 63, 33, 255]
    ]


def test_colour_codes_of_a_face_come_out_as_typed() -> None:
    pixels = render(titled([step("surface.flat", colour="#b4471f")])).to_uint8()
    solid = pixels[pixels[..., 3] == 255]
    assert np.unique(solid, axis=0).tolist() == [[0xB4, 0x47, 0x1F, 255]]


def test_edges_have_the_colour_of_the_face_and_no_fringe() -> None:
    pixels = render(titled([step("surface.flat", colour="#ffcc00")])).pixels
    edge = (pixels[..., 3] > 0.02) & (pixels[..., 3] < 0.98)
    straight = pixels[..., :3][edge] / pixels[..., 3:][edge]
    assert straight == pytest.approx(np.tile([1, 0.8, 0], (edge.sum(), 1)), abs=1e-3)
