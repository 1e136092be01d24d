"""Demo titles with something changed at random."""

import copy
import json
import random
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from mabrel.steps import kinds
from tests.studio.attacks import TO_DOCUMENTS
from tools.fuzzing.sending import Request

DEMO = Path(__file__).resolve().parents[2] / "demo" / "titles"
_JUNK: list[Any] = [
    None, True, False, 0, -1, 1, 0.5, 1e-12, 1e12, -1e12, 2**31, 2**63, 10**40, "", "x", "layer-1",
    "#fff", "#12", "layer:word", "layer:nobody", "../x.png", "shipped/harbour.hdr", "gull.svg",
    "A\u2066B\u202e", "\u0000", "漢字" * 40, "x" * 3000, [], {}, [1], [[0, 0]], {"pegs": []},
    {"pegs": [{"at": 0, "value": 1}]}, {"value": 1, "drift": {"amount": 5}},
    {"pegs": [{"at": 1, "value": "x"}, {"at": 0, "value": 2}]}, [{"place": 0, "colour": "#000"}],
]  # fmt: skip
# So small that thousands can be sent; what is large is attacked elsewhere.
_SMALL: dict[str, dict[str, Any]] = {
    "/preview": {"scale": 0.2},
    "/export": {"scale": 0.5},
    "/section": {"samples": 32},
    "/relief": {"scale": 0.1},
    "/tones": {"scale": 0.1},
    "/build-pictures": {"width": 40, "height": 24},
    "/strip": {"width": 100, "height": 28},
}
_FRAMES = [(320, 180), (160, 90), (90, 160), (1, 1), (640, 2), (200, 200)]


def mutated_titles(draw: random.Random) -> Iterator[Request]:
    """Requests with such titles to everything that takes a document, without end."""
    whole = [json.loads(path.read_text()) for path in sorted(DEMO.glob("*.title.json"))]
    while True:
        document = copy.deepcopy(draw.choice(whole))
        width, height = draw.choice(_FRAMES)
        document["frame"] = {"width": width, "height": height}
        for _ in range(draw.choice((1, 1, 2, 5))):
            _change(document, draw)
        yield _asked(document, draw)


def _asked(document: dict[str, Any], draw: random.Random) -> Request:
    path, ask = draw.choice(list(TO_DOCUMENTS.items()))
    ask = ask | _SMALL.get(path, {})
    layers = document.get("layers")
    layers = [each for each in layers if isinstance(each, dict)] if isinstance(layers, list) else []
    layer = draw.choice(layers or [{}])
    named = {"layer": layer.get("id", "layer-1"), "session": f"page {draw.randrange(4)}"}
    ask = ask | {name: value for name, value in named.items() if name in ask}
    if "layers" in ask:
        ask = ask | {"layers": [str(named["layer"])]}
    if draw.random() < 0.05:
        path, ask = "/titles/set", {"documents": [document]}
        return _post(path, ask)
    return _post(path, ask | {"document": document})


def _post(path: str, body: dict[str, Any]) -> Request:
    return Request("POST", f"/api{path}", json.dumps(body).encode())


def _change(document: Any, draw: random.Random) -> None:
    """One change, somewhere."""
    layers = document.get("layers")
    if draw.random() < 0.25 and isinstance(layers, list) and layers:
        layer = draw.choice(layers)
        if isinstance(layer, dict) and isinstance(layer.setdefault("build", []), list):
            place = draw.randrange(len(layer["build"]) + 1)
            layer["build"].insert(place, _random_step(draw))
            return
    inner, key = _place(document, draw)
    if key is None:
        return
    value = inner[key]
    how = draw.random()
    if how < 0.15 and isinstance(inner, dict):
        del inner[key]
    elif how < 0.3 and isinstance(inner, list):
        inner.insert(key, copy.deepcopy(value))
    elif how < 0.6 and isinstance(value, int | float) and not isinstance(value, bool):
        inner[key] = value * draw.choice((-1, 0, 0.01, 0.5, 2, 10, 1000)) + draw.choice((0, 0, 1))
    else:
        inner[key] = copy.deepcopy(draw.choice(_JUNK))


def _place(document: Any, draw: random.Random) -> tuple[Any, Any]:
    """Some part of it, and a key or index in that."""
    inner, key = document, None
    for _ in range(draw.choice((1, 3, 4, 5, 6, 8))):
        step = inner if key is None else inner[key]
        if not isinstance(step, dict | list) or not step:
            break
        inner = step
        key = draw.choice(list(step)) if isinstance(step, dict) else draw.randrange(len(step))
    return inner, key


def _random_step(draw: random.Random) -> dict[str, Any]:
    kind = draw.choice(list(kinds().values()))
    settings: dict[str, Any] = {}
    for name, schema in kind.settings.model_json_schema()["properties"].items():
        if draw.random() < 0.5:
            continue
        ends = [schema[end] for end in ("minimum", "maximum") if end in schema]
        if ends:
            settings[name] = draw.choice([*ends, sum(ends) / len(ends)])
        elif "enum" in schema:
            settings[name] = draw.choice(schema["enum"])
        elif draw.random() < 0.2:
            settings[name] = draw.choice(_JUNK)
    return {"step": kind.name, "settings": settings, "strength": draw.choice((1, 1, 0.5))}
