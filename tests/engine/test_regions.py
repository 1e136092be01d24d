"""Where things lie: nothing cut, windows, scales."""

import numpy as np
import pytest

from mabrel import Renderer, Window, render
from tests.engine.trial_titles import ALL, step, titled


@pytest.mark.parametrize(
    "last",
    [
        step("ground.drop_shadow", offset=40, blur=20, opacity=1, light="own", angle=200),
        step("ground.drop_shadow", spread=25, blur=0, opacity=1),
        step("depth.extrude", length=70, angle=250, fade=0),
        step("depth.extrude", towards="point", point=[-300, -200], length=400, fade=0),
    ],
)
def test_nothing_is_cut_at_a_box(last: dict) -> None:
    """Whatever a step puts around the letters is gone before the piece ends."""
    renderer = Renderer()
    renderer.render(titled([last], frame=(900, 700)))
    piece = renderer.cache.get([n.key for n in renderer.made if n.kind == "step"][-1])
    border = np.concatenate(
        [
            piece.behind[0, :, 3],
            piece.behind[-1, :, 3],
            piece.behind[:, 0, 3],
            piece.behind[:, -1, 3],
        ]
    )
    assert piece.behind[..., 3].max() > 0.4
    assert border.max() < 1 / 255


def test_a_shadow_from_beyond_the_frame_falls_into_it() -> None:
    shadow = step("ground.drop_shadow", light="own", angle=180, offset=150, blur=2, opacity=1)
    outside = {"lettering": {"placement": {"x": 220}}}
    pixels = render(titled([shadow], **outside)).pixels
    assert pixels[..., 3].max() > 0.9


@pytest.mark.parametrize("scale", [0.5, 2])
def test_a_render_at_another_scale_is_the_same_picture(scale: float) -> None:
    title = titled(ALL[:-1], size=90)
    whole, other = render(title).pixels, render(title, scale=scale).pixels
    assert other.shape == (round(160 * scale), round(240 * scale), 4)
    small, large = (other, whole) if scale < 1 else (whole, other)
    mean = large.reshape(small.shape[0], 2, small.shape[1], 2, 4).mean(axis=(1, 3))
    assert np.abs(mean - small).mean() < 0.02


def test_a_window_is_a_part_of_the_whole() -> None:
    title = titled(ALL, beneath=[{"kind": "backdrop", "build": [step("surface.gradient")]}])
    whole = render(title).pixels
    part = render(title, window=Window(60, 40, 100, 70)).pixels
    assert np.array_equal(part, whole[40:110, 60:160])
