"""Builds used again, and lights that follow the lettering."""

import numpy as np
import pytest

from mabrel import parse_title, render, swap
from mabrel.title import TitleError

BUILD = [
    {"step": "relief.inflate", "id": "puff"},
    {"step": "relief.bevel", "id": "rim"},
    {"step": "light.shade", "id": "lit", "settings": {"relief": "rim"}},
]


def word(text: str, build: list, **more: object) -> dict:
    source = {"text": text, "size": 100}
    return {"kind": "lettering", "source": source, "build": build, **more}


def titled(layers: list, **more: object):
    frame = {"width": 480, "height": 270}
    return parse_title({"mabrel": 1, "frame": frame, "layers": layers, **more})


def test_a_build_is_used_again_in_another_layer_as_it_is() -> None:
    twice = titled([word("AB", BUILD), word("CD", BUILD, placement={"y": 90})])
    first, second = twice.layers
    assert [step.id for step in first.build] == ["puff", "rim", "lit"]
    ids = [step.id for step in second.build]
    assert len(set(ids) | {"puff", "rim", "lit"}) == 6
    assert second.build[2].settings["relief"] == ids[1]
    again = parse_title(twice.model_dump(mode="json"))
    assert again.model_dump() == twice.model_dump()
    alone = titled([word("CD", BUILD, placement={"y": 90})])
    without = twice.model_copy(update={"layers": [second]})
    assert render(without).pixels == pytest.approx(render(alone).pixels, abs=1e-6)


def test_in_one_layer_an_id_stands_once() -> None:
    with pytest.raises(TitleError, match="'puff' twice"):
        titled([word("AB", [*BUILD, BUILD[0]])])


LAMP = {"kind": "point", "id": "lamp", "x": 90, "y": -60, "z": 120}


@pytest.mark.parametrize("at", [{}, {"x": 40, "y": -20}])
def test_a_swap_keeps_a_lamp_beside_the_lettering(at: dict) -> None:
    """A word that would leave the frame is set smaller, and its lamp comes as much nearer."""
    streak = {"step": "ground.cast_shadow", "settings": {"light": "one", "which": "lamp"}}
    before = titled([word("AB", [streak], placement=at)], lights=[LAMP])
    after = swap(before, text="FARTHERMOST")
    factor = after.layers[0].source.size / 100
    assert factor < 0.9
    lamp = after.lights[0]
    x, y = at.get("x", 0), at.get("y", 0)
    assert (lamp.x, lamp.y, lamp.z) == pytest.approx(
        (x + (90 - x) * factor, y + (-60 - y) * factor, 120 * factor)
    )
    assert swap(before, text="BA").lights[0] == before.lights[0]


def test_a_streak_follows_a_light_of_the_title() -> None:
    def cast(x: float) -> np.ndarray:
        settings = {"light": "one", "which": "lamp", "fade": 0, "reach": 90}
        streak = {"step": "ground.cast_shadow", "settings": settings}
        lamps = [{"azimuth": 0}, LAMP | {"x": x, "y": -90}]
        return render(titled([word("I", [streak])], lights=lamps)).pixels[..., 3]

    left, right = cast(-150), cast(150)
    columns = np.arange(480)
    assert (left[200:].sum(axis=0) @ columns) / left[200:].sum() > 250
    assert (right[200:].sum(axis=0) @ columns) / right[200:].sum() < 230


def test_a_streak_from_a_point_is_not_cut_by_a_rectangle() -> None:
    """Far parts are drawn out further than `reach`: the shadow ends where its copies end, in no
    straight line along the axes."""
    settings = {"light": "point", "point": [-100, -40], "reach": 80, "fade": 0, "blur": 0,
                "softer": 0, "opacity": 1}  # fmt: skip
    streak = {"step": "ground.cast_shadow", "settings": settings}
    seen = render(titled([word("OOO", [streak])])).pixels[..., 3]
    plain = render(titled([word("OOO", [])])).pixels[..., 3]
    right = np.nonzero(plain.max(axis=0) > 0.5)[0].max()
    middle = np.nonzero(plain.max(axis=0) > 0.5)[0].mean()
    place = 240 - 100
    wanted = right + (right - place) * 80 / np.hypot(middle - place, 40)
    last = np.nonzero(seen.max(axis=0) > 0.5)[0].max()
    assert last == pytest.approx(min(wanted, 479), abs=6)
    assert last > right + 80
