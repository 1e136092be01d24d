"""What the page's own tests are held to: the models' settings, and values over time as the engine
has them. `make fixtures` writes them; a test sees that they are up to date."""

import json
from pathlib import Path
from typing import Any

from mabrel.title import Moment, value_at
from mabrel.title.easing import eased
from mabrel.title.kinds import Colour, CurvePoints, Spots, Stops
from mabrel.title.told import told_models
from mabrel.title.varying import varying_type

FOLDER = Path(__file__).resolve().parent.parent / "frontend" / "tests" / "fixtures"
TIMES = [-0.5, 0, 0.13, 0.5, 0.77, 1, 1.5, 1.999, 2, 3.3]
EASES: list[Any] = [
    [0.42, 0, 0.58, 1], [0.3, 0, 0.3, 1.55], "hold", {"steps": 5}, {"bounce": 3}, {"spring": 2},
]  # fmt: skip
TWO = [
    {"place": 0, "colour": "#000000", "midpoint": 0.5},
    {"place": 1, "colour": "#ffffff", "midpoint": 0.5},
]
THREE = [TWO[0], {"place": 0.7, "colour": "#c04020", "midpoint": 0.3}, TWO[1]]
SPOTS = [{"x": 0, "y": 0.5, "colour": "#102030"}, {"x": 1, "y": 0.2, "colour": "#f0e0d0"}]
KINDS: dict[str, tuple[Any, list[Any]]] = {
    "number": (float, [10.0, -20.0, 35.5]),
    "colour": (Colour, ["#102030", "#f0c0a0", "#80808040"]),
    "point": (tuple[float, float], [[0, 10], [40, -20], [5, 5]]),
    "points": (
        list[tuple[float, float]],
        [[[0, 0], [10, 0], [10, 10]], [[0, 0], [20, 0], [20, 8], [0, 9]], [[1, 1], [2, 0], [3, 3]]],
    ),
    "curve": (CurvePoints, [[[0, 0], [1, 1]], [[0, 0.2], [0.3, 0.9], [1, 0.4]], [[0, 1], [1, 0]]]),
    "stops": (Stops, [TWO, THREE, TWO]),
    "spots": (Spots, [SPOTS[:1], SPOTS, SPOTS[1:]]),
    "choice": (str, ["raised", "sunk", "flat"]),
}


def main() -> None:
    FOLDER.mkdir(exist_ok=True)
    for name, content in fixtures().items():
        (FOLDER / name).write_text(content)


def fixtures() -> dict[str, str]:
    """The files by their names."""
    told = {name: [each._asdict() for each in each_of] for name, each_of in told_models().items()}
    return {"told.json": _text(told), "values.json": _text(_values())}


def _text(content: Any) -> str:
    return json.dumps(content, ensure_ascii=False, separators=(",", ":")) + "\n"


def _values() -> dict[str, Any]:
    shares = [share / 8 for share in range(8)]
    eases = [{"ease": ease, "at": [_eased(ease, share) for share in shares]} for ease in EASES]
    values = [
        _value(kind, plain, values, ease)
        for kind, (plain, values) in KINDS.items()
        for ease in (EASES[0], EASES[1])
    ]
    return {"shares": shares, "eases": eases, "times": TIMES, "values": values, "drift": _drift()}


def _eased(ease: Any, share: float) -> float:
    peg = varying_type(float).model_validate({"pegs": [{"at": 0, "value": 0, "ease": ease}]})
    return round(eased(peg.pegs[0].ease, share), 6)  # type: ignore[index]


def _value(kind: str, plain: Any, values: list[Any], ease: Any) -> dict[str, Any]:
    pegs = [{"at": at, "value": value, "ease": ease} for at, value in enumerate(values)]
    varying = varying_type(plain).model_validate({"pegs": pegs})
    found = [_written(value_at(varying, time)) for time in TIMES]
    return {"kind": kind, "pegs": pegs, "at": found}


def _drift() -> list[dict[str, Any]]:
    found = []
    for kind, base in (("number", 5.0), ("colour", "#406080"), ("point", [10.0, -4.0])):
        drift = {"amount": 0.2 if kind == "colour" else 3.0, "rate": 1.3, "seed": 7}
        varying = varying_type(KINDS[kind][0]).model_validate({"value": base, "drift": drift})
        for loop in (None, 3.0):
            at = [_written(value_at(varying, Moment(time, loop))) for time in TIMES]
            found.append({"kind": kind, "value": base, "drift": drift, "loop": loop, "at": at})
    return found


def _written(value: Any) -> Any:
    if hasattr(value, "model_dump"):
        value = value.model_dump()
    if isinstance(value, dict):
        return {name: _written(each) for name, each in value.items()}
    if isinstance(value, list | tuple):
        return [_written(each) for each in value]
    return round(value, 6) if isinstance(value, float) else value


if __name__ == "__main__":
    main()
