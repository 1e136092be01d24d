"""No setting does nothing: each one changes what its step makes."""

import numpy as np
import pytest

from mabrel import Renderer, parse_title
from mabrel.steps import catalogue

RENDERER = Renderer()
LIGHTS = [
    {"azimuth": 200, "elevation": 40, "id": "key"},
    {"azimuth": 20, "elevation": 20, "id": "fill", "colour": "#ff8060", "strength": 0.6},
]
BEFORE = [
    {"step": "surface.gradient", "settings": {"angle": 30}},
    {"step": "relief.bevel", "settings": {"width": 8, "height": 6}},
    {"step": "relief.inflate", "id": "puff", "settings": {"height": 0.7}},
    {"step": "light.shade", "settings": {"shoulder": 0.2, "gloss": 1}},
]
BLUE_TO_YELLOW = [{"place": 0, "colour": "#0000ff"}, {"place": 1, "colour": "#ffff00"}]
ON_A_SIDE = {
    "words": "Rg",
    "inks": [{"colour": "#20ff40"}],
    "letters": [{"side": {"facing": 90, "place": [0.2, 1]}, "rows": ["aa", "aa"]}],
}
# Where a setting only counts beside certain values of others, these are they.
BESIDE = {
    ("relief.bevel", "combine"): {"height": 30},
    ("light.shade", "tightness"): {"gloss": 1},
    ("light.shade", "which"): {"light": "one", "which": "key"},
    ("surface.gradient", "angle"): {"shape": "linear"},
    ("surface.made", "octaves"): {"width": 60, "height": 60},
    ("relief.grain", "octaves"): {"width": 60, "height": 60},
    ("surface.made", "around"): {"phase": 3.5},
    ("surface.made", "duty"): {"pattern": "stripes", "width": 20},
    ("relief.grain", "around"): {"phase": 3.5},
    ("shape.wobble", "around"): {"phase": 3.5},
    ("tone.gradient_map", "mix"): {"stops": BLUE_TO_YELLOW},
    ("surface.gradient", "mix"): {"stops": BLUE_TO_YELLOW},
    ("surface.made", "mix"): {"stops": BLUE_TO_YELLOW},
    ("surface.cells", "rise"): {"rise": 0},
    ("surface.cells", "second_rise"): {"second_rise": 0},
    ("surface.cells", "softness"): {"rise": 12, "pattern": "noise"},
    ("surface.cells", "side_shading"): {"painted": ON_A_SIDE},
    ("surface.parts", "picture"): {"paints": {"parts": [{"kind": "front", "fill": "picture"}]}},
    ("surface.parts", "on"): {"by": "facing"},
    ("depth.extrude", "edge_shape"): {"edge": 10},
    ("depth.extrude", "gloss"): {"edge": 12},
    ("depth.extrude", "up"): {"angle": 270},
    ("depth.extrude", "corners"): {"taper": -14},
    ("depth.extrude", "tightness"): {"edge": 12, "gloss": 1},
    ("depth.extrude", "metal"): {"edge": 12, "gloss": 1},
    ("ground.reflection", "phase"): {"ripples": 8},
    ("ground.reflection", "around"): {"ripples": 8, "phase": 3.5},
    ("depth.outline", "gap_colour"): {"gap": 10},
    ("ground.reflection", "size"): {"ripples": 8},
    ("ground.reflection", "seed"): {"ripples": 8},
    ("tone.duotone", "mix"): {"dark": "#0000ff", "light": "#ffff00"},
}
FROM_BEHIND = {("depth.extrude", "back"), ("depth.extrude", "back_colour")}
REFERENCES = {
    "image": "layer:chequer",
    "step": "puff",
    "light": "fill",
    "painted": {
        "words": "Rg",
        "inks": [{"colour": "#20ff40"}],
        "letters": [{"top": -8, "rows": ["aa", "aa", "aa", "aa"]}],
    },
    "part paints": {"parts": [{"kind": "front", "colour": "#20ff40"}]},
    "spots": [{"x": 0.5, "y": 0.5, "colour": "#20ff40"}],
}
# Where the next value is not one that shows on letters of this size, these are.
OTHERS = {
    ("surface.made", "around"): 2,
    ("relief.grain", "around"): 2,
    ("shape.wobble", "around"): 2,
    ("ground.reflection", "around"): 2,
    ("ground.cast_shadow", "light"): "own",
    ("relief.emboss", "fit"): "tile",
    ("relief.level", "floor"): 12,
    ("relief.level", "ceiling"): 5,
    ("light.shade", "tightness"): 4,
    ("ground.reflection", "touches"): "letters",
    ("ground.reflection", "fades_from"): 90,
    ("lens.sparkles", "count"): 2,
    ("lens.sparkles", "threshold"): 1.0,
}


def cases() -> list[tuple[str, dict]]:
    return [(entry["step"], setting) for entry in catalogue() for setting in entry["settings"]]


def another(setting: dict):
    """A value clearly other than the default."""
    kind, default = setting["kind"], setting["default"]
    if kind in REFERENCES:
        return REFERENCES[kind]
    low, high = setting["low"], setting["high"]
    if kind == "choice":
        others = [choice for choice in setting["choices"] if choice != default]
        # White laid on by "normal" is white laid on by "screen": only this is unlike all.
        return "difference" if "difference" in others else others[0]
    if kind == "colour":
        return "#3050e0"
    if kind == "point":
        return [default[0] + 25, default[1] - 30]
    if kind == "curve":
        return [[0, 0.6], [0.5, 0.1], [1, 0.8]]
    if kind == "stops":
        return [{"place": 0, "colour": "#104080"}, {"place": 1, "colour": "#e0f0a0"}]
    if kind in ("count", "seed"):
        return default + 1 if default + 1 <= high else default - 1
    step = {"length": 9 + abs(default), "angle": 37, "fraction": 0.35, "number": 1.3}[kind]
    return default + step if default + step <= high else max(default - step, low)


def picture(kind: str, settings: dict, turn: float = 0) -> np.ndarray:
    this = {"step": kind, "settings": settings}
    build = [*BEFORE, this]
    if kind.startswith(("shape.", "relief.")) or "rise" in settings or "second_rise" in settings:
        build = [*BEFORE[:-1], this, BEFORE[-1]]
    if kind.startswith("shape."):
        build = [BEFORE[0], this]
    if kind == "depth.outline" or "side_shading" in settings:
        build = [*BEFORE, {"step": "depth.extrude"}, this]
    word = {"kind": "lettering", "source": {"text": "Rg", "size": 90}, "build": build}
    word["placement"] = {"turn_y": turn}
    ground = {"kind": "backdrop", "source": {"colour": "#8090a0"}}
    pattern = {"pattern": "checker", "width": 20, "height": 20, "opacity": 1, "blend": "normal"}
    chequer = ground | {
        "id": "chequer",
        "visible": False,
        "build": [{"step": "surface.made", "settings": pattern}],
    }
    frame = {"width": 260, "height": 190}
    document = {"mabrel": 1, "frame": frame, "lights": LIGHTS, "layers": [ground, chequer, word]}
    return RENDERER.render(parse_title(document)).pixels


def named(part: str | dict) -> str:
    return part if isinstance(part, str) else part["name"]


@pytest.mark.parametrize(("kind", "setting"), cases(), ids=named)
def test_a_setting_changes_the_picture(kind: str, setting: dict) -> None:
    when = {name: value.split("|")[0] for name, value in (setting["when"] or {}).items()}
    beside = {**when, **BESIDE.get((kind, setting["name"]), {})}
    turn = 160 if (kind, setting["name"]) in FROM_BEHIND else 0
    before = picture(kind, beside, turn)
    value = OTHERS.get((kind, setting["name"]), another(setting))
    after = picture(kind, beside | {setting["name"]: value}, turn)
    assert np.abs(after - before).max() > 2 / 255
