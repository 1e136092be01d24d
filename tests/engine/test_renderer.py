"""Rendering: nothing stale, the same bytes, giving up, and what is refused."""

import numba
import numpy as np
import pytest

from mabrel import Cancel, Cancelled, Renderer, RenderError, parse_title, render
from mabrel.render import TAPS, Cache
from tests.engine.trial_titles import ALL, step, titled


def test_the_same_title_gives_the_same_bytes_with_one_thread_and_with_two() -> None:
    title = titled(ALL, beneath=[{"kind": "backdrop", "build": [step("surface.gradient")]}])
    if numba.config.NUMBA_NUM_THREADS < 2:
        pytest.skip("this machine has one thread only")
    pictures = []
    for threads in (1, 2):
        numba.set_num_threads(threads)
        pictures.append(Renderer().render(title).to_uint16().tobytes())
    numba.set_num_threads(numba.config.NUMBA_NUM_THREADS)
    assert pictures[0] == pictures[1]


def test_what_is_in_the_cache_changes_nothing() -> None:
    renderer = Renderer()
    for settings in ({}, {"length": 12}, {}):
        title = titled([*ALL[:4], step("depth.extrude", **settings), ALL[5]])
        assert np.array_equal(renderer.render(title).pixels, render(title).pixels)


def test_a_changed_last_step_does_not_run_the_others_again() -> None:
    renderer = Renderer()
    renderer.render(titled(ALL))
    kept = len(renderer.cache)
    changed = [*ALL[:-1], step("lens.grain", amount=0.2)]
    renderer.render(titled(changed))
    assert len(renderer.cache) == kept + 1


def test_the_cache_stays_within_its_bytes() -> None:
    cache = Cache(limit=2_000_000)
    renderer = Renderer(cache)
    for angle in range(6):
        renderer.render(titled([step("depth.extrude", angle=angle * 50)]))
        assert cache.nbytes <= 2_000_000


def test_the_cache_keeps_longest_what_was_dear() -> None:
    cache = Cache(limit=10_000)
    cache.put("dear", np.zeros(500, np.float32), cost=5.0)
    for number in range(9):
        cache.put(f"cheap {number}", np.zeros(500, np.float32), cost=0.001)
    assert "dear" in cache
    assert "cheap 0" not in cache
    for number in range(20_000):  # but not for ever
        cache.put(f"newer {number}", np.zeros(500, np.float32), cost=1.0)
    assert "dear" not in cache


def test_what_is_asked_for_once_pushes_nothing_out_of_a_full_cache() -> None:
    cache = Cache(limit=10_000)
    for number in range(4):
        cache.put(f"known {number}", np.zeros(500, np.float32), cost=0.001)
    for number in range(50):  # a hand that drags: each of them is new
        assert cache.get(f"new {number}") is None
        cache.put(f"new {number}", np.zeros(500, np.float32), cost=1.0)
    assert "known 0" in cache
    assert cache.get("new 7") is None  # but what is asked for again comes in
    cache.put("new 7", np.zeros(500, np.float32), cost=1.0)
    assert "new 7" in cache


def test_an_array_that_results_share_counts_once() -> None:
    cache, shared = Cache(limit=10_000), np.zeros(1000, np.float32)
    for number in range(5):
        cache.put(str(number), shared)
    assert cache.nbytes == shared.nbytes
    assert len(cache) == 5


def test_a_plan_tells_what_a_picture_would_take() -> None:
    renderer = Renderer()
    title = titled(ALL)
    small, large = (renderer.expected(title, scale=scale) for scale in (0.5, 2.0))
    assert large.bytes > 8 * small.bytes
    assert large.seconds > 4 * small.seconds
    renderer.render(title)
    known = renderer.expected(title)
    assert known.seconds < Renderer(rates=renderer.rates).expected(title).seconds


def test_a_render_can_be_given_up() -> None:
    cancel = Cancel()
    cancel.cancel()
    with pytest.raises(Cancelled):
        Renderer().render(titled(ALL), cancel=cancel)


@pytest.mark.parametrize(
    ("how", "said"),
    [
        ({"scale": 0}, "scale"),
        ({"scale": float("nan")}, "scale"),
        ({"scale": 16, "frame": (3000, 2000)}, "million"),
        ({"tap": "smell"}, "tap"),
        ({"tap": "matte", "layer": "nobody"}, "'nobody'"),
        ({"until": "nothing"}, "'nothing'"),
    ],
)
def test_what_cannot_be_rendered_is_refused_in_words(how: dict, said: str) -> None:
    title = titled(ALL, frame=how.pop("frame", (240, 160)))
    with pytest.raises(RenderError, match=said):
        render(title, **how)


def test_more_memory_than_there_may_be_is_refused_before_it_is_taken() -> None:
    with pytest.raises(RenderError, match="smaller"):
        render(titled(size=8000, word="WWWWWWWW"))
    with pytest.raises(RenderError, match="GB"):
        render(titled([step("shape.edge", grow=1000)], size=300), scale=4)


def test_what_no_frame_shows_takes_no_memory() -> None:
    renderer = Renderer()
    renderer.render(titled([step("depth.extrude", length=4000)], size=300), scale=2)
    deep = next(node for node in renderer.made if node.name == "depth.extrude")
    flat = next(node for node in renderer.made if node.kind == "source")
    assert deep.region.area <= 2 * max(flat.region.area, 480 * 320 * 1.6)


def test_a_title_without_letters_or_layers_is_no_error() -> None:
    assert render(titled(ALL, word="")).pixels[..., 3].max() == 0
    assert render(titled(word="")).to_uint8().shape == (160, 240, 4)
    empty = parse_title({"mabrel": 1, "frame": {"width": 9, "height": 9}})
    assert render(empty).pixels.max() == 0


def test_the_work_after_a_step_leaves_out_the_later_ones() -> None:
    title = titled([step("surface.flat", colour="#ff0000"), step("surface.flat", colour="#0000ff")])
    first = title.layers[0].build[0].id
    pixels = render(title, until=first).to_uint8()
    assert pixels[pixels[..., 3] == 255][:, :3].tolist()[0] == [255, 0, 0]


@pytest.mark.parametrize("tap", TAPS)
def test_every_tap_shows_the_frame(tap: str) -> None:
    pixels = render(titled(ALL), tap=tap).pixels
    assert pixels.shape == (160, 240, 4)
    assert np.isfinite(pixels).all()
