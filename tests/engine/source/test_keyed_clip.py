"""A keyed clip against the truth: the figure as it was drawn, frame after frame."""

from pathlib import Path

import numpy as np
import pytest

from demo import make_shots
from mabrel.export.clip import write_clip
from mabrel.source.clips import Clip
from mabrel.source.cutting import cut_from_screen

FRAMES = range(20, 28)
KEY = {
    "tolerance": 0.1, "softness": 1.0, "spill": 1.0, "balance": 0.5, "choke": 0.0, "inside": 0.0,
}  # fmt: skip
SCREEN = (0x0D / 255, 0xA8 / 255, 0x3D / 255)


def drawn(share: float, screen: tuple[float, float, float]) -> np.ndarray:
    before, make_shots.GREEN = make_shots.GREEN, screen
    try:
        return make_shots._figure(share)
    finally:
        make_shots.GREEN = before


def truth(share: float) -> np.ndarray:
    """(H, W): how much of each pixel the figure covers, by what shows through it."""
    over_white, over_black = drawn(share, (1, 1, 1)), drawn(share, (0, 0, 0))
    screen = np.linspace(1.06, 0.9, make_shots.TALL * 2).reshape(-1, 2).mean(axis=1)
    through = (over_white - over_black).mean(axis=-1) / screen[:, None]
    return np.clip(1 - through, 0, 1)


@pytest.fixture(scope="module")
def keyed(tmp_path_factory: pytest.TempPathFactory) -> list[tuple[np.ndarray, np.ndarray]]:
    """Frames of the demo shot, as VP9 has them, cut from their screen; and the truth of each."""
    count = int(make_shots.RATE * make_shots.SECONDS)
    path: Path = tmp_path_factory.mktemp("keyed") / "walking-by.webm"
    shown = (make_shots._picture(make_shots._figure(n / count)) for n in FRAMES)
    write_clip(path, shown, make_shots.RATE, "webm-vp9")
    clip = Clip(path, path.name)
    return [
        (cut_from_screen(clip.frame(at), SCREEN, **KEY), truth(number / count))
        for at, number in enumerate(FRAMES)
    ]


def band(alpha: np.ndarray) -> np.ndarray:
    return (alpha > 0.02) & (alpha < 0.98)


def test_the_matte_is_near_the_truth_and_steady(keyed: list) -> None:
    """In the band along the edge, mostly hair, after 8 bits and half the chroma: off by less than
    a quarter in the mean; what the edge gains changes by less than 4.5 % from frame to frame."""
    off = [np.abs(cut[..., 3] - true)[band(true)].mean() for cut, true in keyed]
    assert max(off) < 0.25
    bias = np.array([(cut[..., 3] - true)[band(true)].mean() for cut, true in keyed])
    assert np.abs(np.diff(bias)).max() < 0.045
    flat = [np.abs(cut[..., 3] - true)[~band(true)] for cut, true in keyed]
    assert max(each.mean() for each in flat) < 0.002


def test_no_green_is_left_in_the_hair_and_along_the_edge(keyed: list) -> None:
    for cut, _ in keyed:
        covered = cut[..., 3] > 0.1
        colour = cut[..., :3][covered] / cut[..., 3:][covered]
        green = colour[:, 1] - np.maximum(colour[:, 0], colour[:, 2])
        assert green.max() < 1e-3
