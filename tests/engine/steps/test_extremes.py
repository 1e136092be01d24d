"""Every setting at its ends, and every step at its defaults."""

import tracemalloc

import numba
import numpy as np
import pytest

from mabrel import RenderError, Window, render
from mabrel.steps import catalogue, kinds
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


def drawn_value(setting: dict, draw: np.random.Generator, end: str):
    """A value of a setting: its least, its greatest, or any between, often near its ends."""
    kind, low, high = setting["kind"], setting["low"], setting["high"]
    if kind == "choice":
        return setting["choices"][draw.integers(len(setting["choices"]))]
    if low is None:
        return setting["default"]
    if end in ("low", "high"):
        return low if end == "low" else high
    value = low + (high - low) * draw.beta(0.4, 0.4)
    return round(value) if kind in ("count", "seed") else value


def combinations() -> list[tuple[str, str, int]]:
    ends = [("low", 0), ("high", 0), *(("any", seed) for seed in range(2))]
    return [(entry["step"], end, seed) for entry in catalogue() for end, seed in ends]


@pytest.mark.parametrize(("kind", "end", "seed"), combinations())
def test_all_settings_at_once_neither_crash_nor_give_nan(kind: str, end: str, seed: int) -> None:
    entry = next(each for each in catalogue() if each["step"] == kind)
    draw = np.random.default_rng(seed)
    settings = {each["name"]: drawn_value(each, draw, end) for each in entry["settings"]}
    build = [step("relief.inflate"), step(kind, **settings)]
    title = titled(build, size=24, word="i", frame=(60, 40))
    try:
        pixels = render(title, scale=0.25).pixels
    except RenderError as error:
        refused = str(error)
    else:
        refused = ""
        assert np.isfinite(pixels).all()
        assert pixels[..., 3].max() <= 1 + 1e-4
    assert not refused or "GB" in refused or "pixels" in refused  # too large, and it says so


@pytest.mark.parametrize("kind", sorted(kinds()))
def test_every_step_is_the_same_in_any_part_of_the_frame(kind: str) -> None:
    title = titled([step("relief.inflate"), step(kind), step("light.shade")], size=80)
    whole = render(title).pixels
    part = render(title, window=Window(50, 30, 90, 80)).pixels
    assert np.array_equal(part, whole[30:110, 50:140])


@pytest.mark.skipif(numba.config.NUMBA_NUM_THREADS < 2, reason="this machine has one thread")
@pytest.mark.parametrize("kind", sorted(kinds()))
def test_every_step_gives_the_same_bytes_with_one_thread_and_with_two(kind: str) -> None:
    title = titled([step("relief.inflate"), step(kind), step("light.shade")], size=80)
    found = []
    for threads in (1, 2):
        numba.set_num_threads(threads)
        found.append(render(title).pixels)
    numba.set_num_threads(numba.config.NUMBA_NUM_THREADS)
    assert np.array_equal(*found)


TINY = [
    {"kind": "backdrop"},
    {"kind": "wash"},
    {"kind": "lettering", "source": {"text": "-", "size": 1}},
    {"kind": "lettering", "source": {"text": " ", "size": 9}},
]


@pytest.mark.parametrize("frame", [(1, 1), (1, 40), (40, 1), (2, 3)])
@pytest.mark.parametrize("kind", list(kinds()))
def test_every_step_works_on_a_frame_of_a_few_pixels(kind: str, frame: tuple[int, int]) -> None:
    for layer in TINY:
        build = [step("relief.inflate"), step(kind)]
        under = {"kind": "backdrop", "id": "under"}
        title = titled(frame=frame, layers=[under, layer | {"build": build}])
        assert np.isfinite(render(title).pixels).all()


def test_a_surface_pushed_far_beyond_its_border_is_mirrored_at_once() -> None:
    ramp = {"kind": "backdrop", "build": [step("surface.gradient"), step("relief.inflate"),
            step("surface.bend", amount=4000)]}  # fmt: skip
    pixels = render(titled(frame=(200, 2), layers=[ramp]), scale=4).pixels
    assert np.isfinite(pixels).all()


def test_a_line_too_long_to_be_looked_up_is_refused_in_words() -> None:
    with pytest.raises(RenderError, match="make it smaller"):
        render(titled(word="M" * 2000, size=60))


def test_a_turned_texture_on_a_long_thin_line_needs_no_more_than_the_line() -> None:
    build = [step("surface.made", turn=45, width=40, height=20)]
    tracemalloc.start()
    render(titled(build, word="-" * 1000, size=24, frame=(64, 64)))
    assert tracemalloc.get_traced_memory()[1] < 300e6
    tracemalloc.stop()
