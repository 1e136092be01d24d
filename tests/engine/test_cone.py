"""Rays that run close together begin where all of them are clear: they meet what each would."""

import numpy as np
import pytest

from mabrel.field import signed_distance
from mabrel.field.body import Rays, Seen, march
from mabrel.source import LetteringStyle, coverage, outline_text

VIEWS = {
    "from before": ((60, -40, 500), [[1.0, 0, -60], [0, 1.0, 40], [0, 0, -500]]),
    "from behind": ((0, 30, -420), [[1.0, 0, 0], [0, 1.0, -30], [0, 0, 420]]),
    "from the side": ((300, 0, 60), [[0, 0, -300.0], [0, 1.0, 0], [1.0, 0, -90]]),
    "from beneath": ((10, 320, 40), [[1.0, 0, 0], [0, 0, -320.0], [0, 1.0, -70]]),
}
LENGTH = 70.0


def outline() -> np.ndarray:
    matte = coverage(outline_text("Rg8", LetteringStyle("Bevan", size=80)), (-120, -90, 240, 190))
    return signed_distance(np.pad(matte, 12))


def seen(order: np.ndarray, view: str, profile: np.ndarray) -> Seen:
    """One ray a pixel, in this order."""
    at, towards = VIEWS[view]
    start = np.zeros((3, 3))
    start[:, 2] = at
    across, down = np.meshgrid(np.arange(-130, 130.0), np.arange(-100, 100.0))
    distance = outline()
    corner = (-distance.shape[1] // 2, -distance.shape[0] // 2)
    return march(
        distance, distance, corner, length=LENGTH, profile=profile.astype(np.float32),
        rays=Rays(start, np.array(towards), 1e-6),
        pixels=(across.ravel()[order, None], down.ravel()[order, None]),
    )  # fmt: skip


@pytest.mark.parametrize("view", VIEWS)
@pytest.mark.parametrize("profile", [np.zeros(2), np.array([0, 5, 9, 5, 0]), np.linspace(0, -6, 9)])
def test_neighbours_meet_what_strangers_do(view: str, profile: np.ndarray) -> None:
    """Strangers lie too far apart to begin together."""
    order = np.arange(260 * 200)
    mixed = np.random.default_rng(1).permutation(order)
    together, alone = seen(order, view, profile), seen(mixed, view, profile)
    what = np.empty_like(together.what)
    depth = np.empty_like(together.depth)
    what[mixed], depth[mixed] = alone.what, alone.depth
    assert (what > 0).mean() > 0.05
    assert (what != together.what).mean() < 5e-4
    both = (what == together.what) & (what > 0)
    assert np.percentile(np.abs(depth - together.depth)[both], 99.9) < 0.02
