"""Floors in bands: which rows of the picture each shows, and how finely it is painted."""

import itertools

import pytest

from mabrel.camera import floor_card
from mabrel.render.floors import Band, bands
from mabrel.steps import Region
from mabrel.title import Camera

FAR = 8000


def seen(scale: float, part: Region | None = None) -> list[Band]:
    width, height = round(1920 * scale), round(1080 * scale)
    frame = Region(-width // 2, -height // 2, width, height)
    card = floor_card(200, Camera(rise=6), 0)
    return list(bands(card, frame, part or frame, scale, FAR))


@pytest.mark.parametrize("scale", [0.04, 0.25, 1.0])
def test_they_follow_one_another_down_to_the_lower_edge(scale: float) -> None:
    found = seen(scale)
    for above, below in itertools.pairwise(found):
        assert above.rows.bottom == below.rows.top
    assert found[-1].rows.bottom >= round(540 * scale) - 1


def test_the_nearer_the_finer() -> None:
    assert all(above.scale < below.scale for above, below in itertools.pairwise(seen(1.0)))


def test_in_a_small_picture_few_rows_belong_to_the_next_nearer_band() -> None:
    small, large = seen(0.04), seen(1.0)
    assert 1 <= len(small) < len(large)
    assert all(band.rows.height >= 5 for band in small[:-1])


def test_a_part_of_the_picture_is_painted_as_finely_as_the_whole() -> None:
    whole = seen(0.1)
    part = Region(-20, whole[0].rows.top, 30, whole[0].rows.height + 3)
    found = seen(0.1, part)
    assert [band.scale for band in found] == [band.scale for band in whole[:2]]
    assert [band.rows.height for band in found] == [whole[0].rows.height, 3]
