"""The examples in the docstrings of the public face run and say what they say."""

import doctest
import importlib

import pytest

MODULES = [
    "mabrel",
    "mabrel.colour.blending",
    "mabrel.colour.gradients",
    "mabrel.field.blur",
    "mabrel.field.distance",
    "mabrel.field.inflate",
    "mabrel.field.noise",
    "mabrel.field.normals",
    "mabrel.light.shading",
]


@pytest.mark.parametrize("name", MODULES)
def test_the_examples_of_a_module(name: str) -> None:
    done = doctest.testmod(importlib.import_module(name))
    assert done.attempted > 0
    assert done.failed == 0
