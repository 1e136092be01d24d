"""Beside a mitre only places are looked at that may be nearer."""

import numpy as np
import pytest
import shapely

from mabrel.steps.parts.areas import common
from mabrel.steps.parts.rims import _near_enough, _nearer, _nearest_to


@pytest.mark.parametrize("seed", range(8))
def test_places_left_out_change_nothing(seed):
    chance = np.random.default_rng(seed)
    area = shapely.box(*chance.uniform(40, 50, 2), *chance.uniform(55, 75, 2))
    places = np.stack([np.linspace(42, 60, 20), np.full(20, chance.uniform(46, 58))], axis=1)
    others = chance.uniform(0, 400, (1500, 2))
    box = np.reshape(area.bounds, (2, 2))
    assert 0 < len(_near_enough(box, places, others)) < len(others) / 4
    cells = _nearest_to(np.concatenate([places, others]))
    whole = common(area, shapely.coverage_union_all(cells[: len(places)]))
    found = _nearer(area, places, others)
    assert found.symmetric_difference(whole).area < 1e-6
    assert 1 < found.area < area.area - 1


def test_where_nothing_else_is_near_all_of_it_is_nearer():
    area = shapely.box(0, 0, 30, 20)
    found = _nearer(area, np.array([[1.0, 1.0]]), np.array([[900.0, 900.0], [901.0, 900.0]]))
    assert found.area == pytest.approx(600)
