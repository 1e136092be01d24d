"""Over a title without backdrop, a wash leaves alone what is empty."""

import numpy as np
import pytest

from mabrel import Renderer, parse_title
from mabrel.steps import kinds

ADDING = {"lens.flare"}
"""They are there to add light beside what is seen."""
RENDERER = Renderer()


def corner(build: list) -> np.ndarray:
    layers = [
        {"kind": "lettering", "source": {"text": "Oi", "size": 60}},
        {"kind": "wash", "build": build},
    ]
    frame = {"width": 240, "height": 136}
    seen = RENDERER.render(parse_title({"mabrel": 1, "frame": frame, "layers": layers})).pixels
    return seen[:20, :20]


@pytest.mark.parametrize(
    "step", [s for s in kinds() if s.split(".")[0] in ("tone", "light", "lens") and s not in ADDING]
)
def test_a_wash_leaves_alone_what_is_empty(step: str) -> None:
    assert np.abs(corner([{"step": step}])).max() < 1e-9


@pytest.mark.parametrize(
    "settings",
    [
        {"exposure": 4, "contrast": 0},
        {"toned": 1, "shadows": "#0000ff", "contrast": 3},
        {"warmth": 1, "saturation": 3, "exposure": -6},
    ],
)
def test_a_grade_leaves_alone_what_is_empty_however_it_is_set(settings: dict) -> None:
    assert np.abs(corner([{"step": "lens.grade", "settings": settings}])).max() == 0


def test_light_without_cover_is_graded_without_a_step() -> None:
    """A glow that fades to nothing still fades evenly."""
    glow = {"step": "lens.glow", "settings": {"threshold": 0, "radius": 40}}
    row = np.abs(np.diff(corner([glow, {"step": "lens.grade", "settings": {"toned": 1}}]), axis=1))
    assert row.max() < 0.02
