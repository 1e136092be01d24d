"""Every setting at its ends, and every step at its defaults."""

import numpy as np
import pytest

from mabrel import render
from mabrel.steps import kinds
from tests.engine.trial_titles import step, titled


def extremes() -> list[tuple[str, str, object]]:
    found = []
    for kind in kinds().values():
        properties = kind.settings.model_json_schema()["properties"]
        for name, schema in properties.items():
            found += [
                (kind.name, name, schema[end]) for end in ("minimum", "maximum") if end in schema
            ]
            found += [(kind.name, name, choice) for choice in schema.get("enum", [])]
    return found


@pytest.mark.parametrize(("kind", "name", "value"), extremes())
def test_extremes_of_every_setting_neither_crash_nor_give_nan(kind, name, value) -> None:
    build = [step("relief.inflate"), step(kind, **{name: value})]
    pixels = render(titled(build, size=24, word="i", frame=(60, 40)), scale=0.5).pixels
    assert np.isfinite(pixels).all()


def test_the_defaults_of_every_step_change_the_demo_word() -> None:
    copper = step("surface.flat", colour="#b87333")
    relief, light = step("relief.inflate"), step("light.shade")
    before = render(titled([copper, relief, light], size=80)).pixels
    for kind in kinds():
        early = kind.split(".")[0] in ("shape", "relief")
        build = (
            [copper, relief, step(kind), light] if early else [copper, relief, light, step(kind)]
        )
        assert np.abs(render(titled(build, size=80)).pixels - before).mean() > 4e-4, kind
