"""Which rays look at a body through a pixel, and what those meet that aren't followed."""

import numpy as np
import pytest

from mabrel.field import signed_distance
from mabrel.field.body import FACE, NOTHING, SIDE, Rays, Seen, march, met_between
from mabrel.steps.sides.rays import BETWEEN, EDGE, FEW, LEFT_OUT, MARCHED, beside, looked_at

LENGTH = 40.0


def disc(size: int = 120, radius: float = 30) -> np.ndarray:
    y, x = np.mgrid[:size, :size] - (size - 1) / 2
    return signed_distance(np.clip(radius + 0.5 - np.hypot(x, y), 0, 1).astype(np.float32))


def seen_at(columns: np.ndarray, rows: np.ndarray) -> Seen:
    """Along the sides of a disc that leans down and to the right."""
    way = np.zeros((3, 3))
    way[:, 2] = (-0.6 * LENGTH, -0.8 * LENGTH, -LENGTH)
    return march(
        disc(), disc(), (0, 0), length=LENGTH, profile=np.zeros(2, np.float32),
        rays=Rays(np.diag([1.0, 1.0, 0.0]), way), pixels=(columns + 0.5, rows + 0.5),
    )  # fmt: skip


def middles() -> Seen:
    across, down = np.meshgrid(*[np.arange(120.0)] * 2)
    return seen_at(across, down)


@pytest.mark.parametrize("count", [5, 17])
def test_each_ray_of_a_pixel_has_a_row_and_a_column_of_its_own(count: int) -> None:
    places = np.concatenate([beside(count), np.zeros((1, 2))])
    assert len(places) == count
    for axis in places.T:
        assert np.sort(axis) * count == pytest.approx(np.arange(count) - count // 2)
    turned = places @ np.array([[0, 1], [-1, 0]])  # so an edge is as smooth whichever way it runs
    assert {tuple(each) for each in np.round(turned, 9)} == {tuple(p) for p in np.round(places, 9)}


def test_more_rays_are_sent_where_neighbours_differ_and_nowhere_else() -> None:
    seen = middles()
    same = np.zeros((120, 120, 4), np.float32)
    same[seen.what == SIDE] = 0.5
    every = np.ones((120, 120), np.bool_)
    how = looked_at(seen.what, seen.place, same, every, every, False)
    across = (seen.what[1:-1, 1:-1] != seen.what[1:-1, 2:]) | (
        seen.what[1:-1, 1:-1] != seen.what[2:, 1:-1]
    )
    assert (how[1:-1, 1:-1][across] == EDGE).all()
    assert (how[(seen.what == SIDE) & (how != MARCHED) & (how != EDGE)] == LEFT_OUT).all()
    assert how[5, 5] == how[60, 60] == LEFT_OUT
    assert (seen.what[5, 5], seen.what[60, 60]) == (NOTHING, FACE)
    textured = looked_at(seen.what, seen.place, same, every, every, True)
    assert (textured[seen.what == SIDE] != LEFT_OUT).all()
    assert (textured == BETWEEN + FEW).sum() > 0.7 * (seen.what == SIDE).sum()
    none = np.zeros_like(every)
    assert not looked_at(seen.what, seen.place, same, none, every, True).any()


@pytest.mark.parametrize(("apart", "few"), [(0.1, True), (0.3, False)])
def test_few_rays_do_where_neighbours_hardly_differ(apart: float, few: bool) -> None:
    seen = middles()
    every = np.ones((120, 120), np.bool_)
    checked = np.indices((120, 120)).sum(axis=0) % 2
    colours = np.repeat((0.4 + apart * checked)[..., None], 4, axis=2).astype(np.float32)
    how = looked_at(seen.what, seen.place, colours, every, every, False)
    again = how[(how != LEFT_OUT) & (how != EDGE)]
    assert len(again) > 1000
    assert ((again & FEW > 0) == few).mean() > 0.95  # not at the border of what is known


def test_rays_between_even_places_meet_what_followed_ones_meet() -> None:
    seen = middles()
    every = np.ones((120, 120), np.bool_)
    blank = np.zeros((120, 120, 4), np.float32)
    how = looked_at(seen.what, seen.place, blank, every, every, True)
    y, x = np.nonzero(how == BETWEEN + FEW)
    places = beside(5)
    columns, rows = x[:, None] + places[:, 0], y[:, None] + places[:, 1]
    between = met_between(
        seen.what[y, x], seen.place, disc(), (0, 0), length=LENGTH, pixels=(columns, rows)
    )
    followed = seen_at(columns, rows)
    met = followed.what == SIDE
    assert met.mean() > 0.999
    assert np.abs(between.place - followed.place)[met].max() < 0.25
    assert np.abs(between.depth - followed.depth)[met].max() * LENGTH < 0.25
    facing = (between.normal * followed.normal).sum(axis=-1)[met]
    assert facing.min() > 0.99
