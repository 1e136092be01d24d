"""Distances with room around them, pictures through maps, light that fades."""

import numpy as np
import pytest

from mabrel.field import signed_distance
from mabrel.field.fading import fade
from mabrel.field.mapped import spanned
from mabrel.field.room import with_room


def disc(size: int, radius: float) -> np.ndarray:
    y, x = np.mgrid[:size, :size] - (size - 1) / 2
    return np.clip(radius + 0.5 - np.hypot(x, y), 0, 1).astype(np.float32)


@pytest.mark.parametrize("margin", [(0, 0, 0, 0), (9, 0, 30, 5), (40, 40, 40, 40)])
def test_room_is_never_farther_than_the_ink(margin: tuple[int, int, int, int]) -> None:
    left, top, right, bottom = margin
    shape = disc(64, 24)
    near = signed_distance(shape)
    wide = with_room(near, margin)
    assert wide is not None
    truth = signed_distance(np.pad(shape, ((top, bottom), (left, right))))
    inside = np.s_[top : top + 64, left : left + 64]
    assert np.array_equal(wide[inside], near)
    assert (wide <= truth + 1e-3).all()
    around = np.ones(wide.shape, bool)
    around[inside] = False
    assert (wide[around] >= 1).all()


def test_ink_that_ends_at_the_border_needs_another_look() -> None:
    assert with_room(signed_distance(disc(64, 33)), (4, 4, 4, 4)) is None


def places(rows: int, columns: int, step: float = 1.0, first: float = 0.0):
    y, x = np.mgrid[:rows, :columns].astype(np.float32)
    return x * np.float32(step) + np.float32(first), y * np.float32(step) + np.float32(first)


def test_a_map_that_moves_nothing_changes_nothing() -> None:
    picture = np.random.default_rng(2).random((20, 30, 4)).astype(np.float32)
    assert np.array_equal(spanned(picture, *places(20, 30), 4), picture)


def test_a_pixel_is_the_mean_of_what_it_spans() -> None:
    stripes = np.zeros((40, 40, 4), np.float32)
    stripes[:, ::2] = 1
    looked = spanned(stripes, *places(10, 10, step=4, first=1.5), 4)
    assert looked[1:-1, 1:-1] == pytest.approx(np.full((8, 8, 4), 0.5), abs=1e-6)
    once = spanned(stripes, *places(10, 10, step=4, first=2), 1)
    assert (once == 1).all()  # one look a pixel meets white alone


@pytest.mark.parametrize("size", [1, 2, 7])
def test_a_picture_is_mirrored_beyond_its_border(size: int) -> None:
    row = np.arange(size, dtype=np.float32)
    picture = np.repeat(row[None, :, None], 4, axis=2)
    across = np.arange(-3 * size, 4 * size, dtype=np.float32)[None]
    looked = spanned(picture, across, np.zeros_like(across), 1)[0, :, 0]
    mirrored = np.pad(row, 3 * size, mode="reflect") if size > 1 else np.zeros(7)
    assert looked == pytest.approx(mirrored)


def test_light_fades_from_a_height_on_and_is_gone_above() -> None:
    light = np.ones((1, 5, 4), np.float32)
    fade(light, np.array([[0, 10, 20, 30, 90]], np.float32), 10, 20)
    assert light[0, :, 0] == pytest.approx([1, 1, 0.5, 0, 0])
