"""What is remembered of a shape outlasts the pieces that have it."""

import importlib
from typing import Any

import numpy as np
import pytest

from mabrel import Renderer, parse_title
from mabrel.render.cache import Cache
from mabrel.steps.memory import Memory

inflate_step = importlib.import_module("mabrel.steps.relief.inflate")
WORD = {"kind": "lettering", "source": {"text": "TERN", "size": 60}}
SHADE = {"step": "light.shade"}
BODY = {"step": "depth.extrude", "settings": {"towards": "back", "length": 30}}


def titled(height: float) -> dict:
    build = [{"step": "relief.inflate", "settings": {"height": height}}, SHADE, BODY]
    frame = {"width": 240, "height": 120}
    layer = WORD | {"build": build, "placement": {"turn_y": 20}}
    return {"mabrel": 1, "frame": frame, "layers": [layer]}


def counted(memory: Memory, name: str, key: int = 0) -> list[int]:
    made: list[int] = []

    def make() -> np.ndarray:
        made.append(key)
        return np.full(10, key, np.float32)

    assert (memory.remembered(name, key, make) == key).all()
    return made


def test_the_last_thing_of_a_name_is_made_once() -> None:
    memory = Memory()
    assert counted(memory, "distance") == [0]
    assert counted(memory, "distance") == []
    assert counted(memory, "distance", 1) == [1]
    assert counted(memory, "distance", 0) == [0]  # only the last one is kept


def test_the_same_shape_made_anew_knows_it_too() -> None:
    cache = Cache()
    first, second, other = Memory(), Memory(), Memory()
    assert counted(first, "early") == [0]  # before anybody keeps it
    first.kept_by(cache, "tern")
    assert counted(first, "late") == [0]
    assert counted(first.with_room(3), "late", 3) == [3]
    second.kept_by(cache, "tern")
    other.kept_by(cache, "skua")
    assert counted(second, "early") == counted(second, "late") == []
    assert counted(second.with_room(3), "late", 3) == []
    assert counted(second.with_room(4), "late", 4) == [4]
    assert counted(other, "late") == [0]
    assert counted(second, "late", 5) == [5]  # never what something else depends on


def test_room_made_before_a_store_is_known_is_kept_by_it() -> None:
    cache, memory, again = Cache(), Memory(), Memory()
    assert counted(memory.with_room(2), "hits") == [0]
    memory.kept_by(cache, "tern")
    again.kept_by(cache, "tern")
    assert counted(again.with_room(2), "hits") == []


def test_a_balloon_is_blown_up_once_for_its_shape(monkeypatch: pytest.MonkeyPatch) -> None:
    blown: list[tuple[int, ...]] = []
    plain = inflate_step.inflated

    def noted(matte: np.ndarray, *more: Any) -> np.ndarray:
        blown.append(matte.shape)
        return plain(matte, *more)

    monkeypatch.setattr(inflate_step, "inflated", noted)
    renderer = Renderer()
    pictures = [renderer.render(parse_title(titled(height))).pixels for height in (0.4, 0.8)]
    assert len(blown) == 1
    assert np.abs(pictures[0] - pictures[1]).max() > 0.01
    assert (pictures[1] == Renderer().render(parse_title(titled(0.8))).pixels).all()


def test_sides_outlast_a_drag_at_another_scale() -> None:
    """Of the source itself nothing is kept: it is quick to make, and large."""
    renderer = Renderer()
    renderer.render(parse_title(titled(0.5)))
    kept = renderer.cache
    sources = [node.key for node in renderer.made if node.kind == "source"]
    for key in sources:
        kept._drop(key)
    remembered = [key for key in kept._kept if key.startswith(tuple(sources))]
    assert any("silhouette" in key for key in remembered)
    costs = {key: kept._kept[key] for key in remembered}
    changed = parse_title(titled(0.7))
    picture = renderer.render(changed).pixels
    assert {node.kind for node in renderer.made} >= {"source"}  # the source was made anew
    assert all(kept._kept[key] is entry for key, entry in costs.items())  # and nothing else of it
    assert (picture == Renderer().render(changed).pixels).all()


def test_what_is_asked_for_again_beneath_a_layer_that_changes_is_kept() -> None:
    """A hand changes the lettering: what lies beneath it is laid together twice, and not again."""
    sky = {"kind": "backdrop", "build": [{"step": "surface.gradient"}]}
    mist = sky | {"opacity": 0.5}
    renderer, beneath = Renderer(), []
    for height in (0.4, 0.5, 0.6, 0.7):
        title = titled(height)
        title["layers"] = [sky, mist, *title["layers"]]
        picture = renderer.render(parse_title(title)).pixels
        beneath.append([node.kind for node in renderer.made].count("canvas"))
        assert (picture == Renderer().render(parse_title(title)).pixels).all()
    assert beneath == [4, 4, 1, 1]  # an empty one, and one for each layer


def put(cache: Cache, key: str) -> bool:
    """A kilobyte, asked for once; whether it stays."""
    cache.get(key)
    cache.put(key, np.zeros(256, np.float32), cost=1.0)
    return key in cache


def filled(cache: Cache, name: str) -> None:
    number = 0
    while put(cache, f"{name}{number}"):
        number += 1


def test_a_full_cache_takes_in_what_comes_once_only_for_a_picture_that_rests() -> None:
    cache = Cache(limit=2**16)
    filled(cache, "a")
    assert cache.nbytes == cache.limit
    assert not put(cache, "once")
    assert put(cache, "once")  # asked for twice
    filled(cache, "b")
    with cache.resting():
        assert put(cache, "rests")
    filled(cache, "c")
    with cache.resting(False):
        assert not put(cache, "moves")


def test_what_was_never_used_again_goes_first_and_what_rests_last() -> None:
    cache = Cache(limit=2**16)
    with cache.resting():
        cache.put("rests", np.zeros(256, np.float32), cost=1e-3)
    cache.put("used", np.zeros(256, np.float32), cost=1e-3)
    cache.get("used")
    for name in "abcdefgh":  # all of them dearer
        filled(cache, name)
        assert put(cache, f"{name} once more") or put(cache, f"{name} once more")
        assert {"rests", "used"} <= set(cache._kept)
        assert cache.nbytes <= cache.limit


@pytest.mark.parametrize("rests", [False, True])
def test_of_a_picture_that_rests_all_is_kept_whatever_was_there(rests: bool) -> None:
    renderer, title = Renderer(Cache(8 * 2**20)), parse_title(titled(0.3))
    for number in range(16):  # another title fills it, with what was dear to make
        renderer.cache.put(str(number), np.zeros(2**17, np.float32), cost=10.0)
    renderer.render(title, rests=rests)
    renderer.render(title)
    assert ("step" in {node.kind for node in renderer.made}) is not rests
