"""Edges of what is brighter than white: as smooth as any other."""

from dataclasses import replace

import numpy as np
import pytest

from mabrel import parse_title, render
from mabrel.export import png_bytes
from mabrel.source.pictures import decoded_picture
from mabrel.steps.faces.flattening import flattened
from mabrel.steps.piece import Piece
from mabrel.steps.region import Region


def slanted_edge(level: float) -> tuple[Piece, np.ndarray]:
    """A half plane of that brightness, and its true coverage."""
    y, x = np.indices((40, 60)) + 0.5
    cover = np.clip(0.5 + (x - 30 + 0.31 * (y - 20)) / 1.047, 0, 1).astype(np.float32)
    face = np.full((40, 60, 4), level, np.float32)
    face[..., 3] = 1
    piece = Piece(Region(0, 0, 60, 40), (0, 0, 60, 40), cover, face, np.zeros_like(cover))
    return piece, cover


@pytest.mark.parametrize("behind", [None, 0.0, 4.0])
def test_half_of_a_highlight_of_four_is_half_as_bright_as_all_of_it(behind: float | None) -> None:
    piece, cover = slanted_edge(4.0)
    if behind is not None:
        piece = replace(piece, behind=np.full((40, 60, 4), [behind] * 3 + [1], np.float32))
    seen = np.clip(flattened(piece)[..., 0], 0, 1)
    truth = cover if not behind else np.ones_like(cover)
    assert np.abs(seen - truth).max() <= 1 / 255
    assert flattened(piece)[..., 0].max() == 4  # the excess is kept for glow and glints


GLARING = {
    "kind": "lettering",
    "source": {"text": "SKIFF", "size": 150},
    "build": [
        {"step": "surface.flat", "settings": {"colour": "#ffffff"}},
        {"step": "surface.flat", "settings": {"colour": "#ffffff", "blend": "plus-lighter"}},
        {"step": "surface.flat", "settings": {"colour": "#ffffff", "blend": "plus-lighter"}},
    ],
}


@pytest.mark.parametrize("turned", [{}, {"turn_x": 30, "turn_y": -20}, {"turn_z": 7}])
@pytest.mark.parametrize("opacity", [1.0, 0.5])
def test_exported_edges_are_as_smooth_as_those_of_plain_white(
    turned: dict[str, float], opacity: float
) -> None:
    def exported(build: list) -> np.ndarray:
        layer = GLARING | {"build": build, "placement": turned, "opacity": opacity}
        ground = {"kind": "backdrop", "source": {"colour": "#000000"}}
        frame = {"width": 480, "height": 270}
        title = parse_title({"mabrel": 1, "frame": frame, "layers": [ground, layer]})
        return decoded_picture(png_bytes(render(title)), "x.png")[..., 0]

    plain, glaring = exported(GLARING["build"][:1]), exported(GLARING["build"])
    assert ((plain > 0.1) & (plain < 0.9 * plain.max())).mean() > 0.01
    assert np.abs(plain - glaring).max() <= 1.01 / 255
