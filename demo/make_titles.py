"""Make the demo titles: cards of "The Skerry Line", a made-up series about an island ferry."""

from pathlib import Path
from typing import Any

from mabrel import Title, new_title, parse_title, swap, write_title
from mabrel.compose import arrival_named, lay

FOLDER = Path(__file__).parent / "titles"


def main() -> None:
    FOLDER.mkdir(exist_ok=True)
    for name, make in TITLES.items():
        write_title(make(), FOLDER / f"{name}.title.json")


def arriving(title: Title, *motions: tuple[str, float, float]) -> Title:
    """The front lettering with arrivals or departures: each a name, its start and its length."""
    word = next(layer for layer in reversed(title.layers) if layer.kind == "lettering")
    for name, at, length in motions:
        title = lay(title, word.id, arrival_named(name), at=at, length=length)
    return title


def sliding(title: Title) -> Title:
    """Its stops slide once there and back while glints come and go; it runs round."""
    document = title.model_dump(mode="json")
    document["frame"] |= {"duration": 6.0, "loops": True}
    length = document["frame"]["duration"]
    for layer in document["layers"]:
        for step in layer["build"]:
            if step["step"] == "tone.gradient_map":
                step["settings"]["slide"] = _evenly((0, 0.0), (length, 2.0))
        if layer["kind"] == "wash":
            layer["build"].insert(1, {"step": "lens.glints", "settings": _glinting()})
    return parse_title(document)


def _glinting() -> dict[str, Any]:
    return {
        "threshold": 0.97,
        "length": 70,
        "strength": {"value": 0.1, "drift": {"amount": 0.1, "rate": 1.0, "seed": 4}},
    }


def _evenly(*pegs: tuple[float, float]) -> dict[str, Any]:
    return {"pegs": [{"at": at, "value": value, "ease": [0, 0, 1, 1]} for at, value in pegs]}


def foghorn() -> Title:
    """Cast brass, extruded: the opening."""
    return arriving(new_title("FOGHORN"), ("swells-up", 0.0, 1.2), ("light-comes-round", 0.4, 2.8))


def galley() -> Title:
    """Glossy enamel before a tiled wall, upright."""
    return new_title("GALLEY", font="Lilita One", finish="galley-wall", frame=(1080, 1350))


def galley_wide() -> Title:
    """The same for a wide frame."""
    return new_title("GALLEY", font="Lilita One", finish="galley-wall")


def buoy() -> Title:
    """Inflated and glossy, before the sky."""
    return arriving(new_title("BUOY", font="Fredoka", finish="buoy"), ("letters-fall", 0.0, 1.6))


def lantern() -> Title:
    """Poured gold on a high-contrast serif, by lantern light."""
    title = new_title("LANTERN", font="Abril Fatface", finish="lantern-night")
    return arriving(title, ("flickers-on", 0.3, 1.4))


def mooring() -> Title:
    """Brushed steel on a quay, pushed back in space, in a wide frame."""
    title = new_title("MOORING", font="Anton", finish="mooring-quay", frame=(3840, 2160))
    return arriving(title, ("camera-swings-in", 0.0, 3.2))


def tide_table() -> Title:
    """On a wet floor at night."""
    title = new_title("TIDE TABLE", font="Archivo Black", finish="tide-table")
    return arriving(title, ("rises-through-the-floor", 0.2, 2.2))


def salt() -> Title:
    """Chrome with coloured reflections, on a salt flat."""
    return sliding(new_title("SALT", font="Bungee", finish="salt-flat"))


def driftwood() -> Title:
    """Cut into weathered boards."""
    return new_title("DRIFTWOOD", font="Bungee", finish="driftwood")


def undertow() -> Title:
    """Ink on a sea chart, pushed aside by its depths."""
    return new_title("UNDERTOW", font="Abril Fatface", finish="chart-ink")


def gull() -> Title:
    """The emblem of the line in poured gold: a picture in the place of a word."""
    gold = new_title("LANTERN", font="Abril Fatface", finish="poured-gold")
    return swap(gold.at_home(FOLDER), picture="gull.svg").model_copy(update={"name": "Gull"})


def depth_40() -> Title:
    """Blocks that lie aslant, overgrown from below by cells that were painted by hand."""
    document = new_title("DEPTH 40", font="Press Start 2P", finish="block-letters").model_dump(
        mode="json"
    )
    word = next(each for each in document["layers"] if each["kind"] == "lettering")
    word["placement"] |= {"turn_y": 24, "turn_x": -8}
    word["build"].insert(4, {"step": "surface.cells", "settings": _overgrown()})
    return parse_title(document)


def beacon() -> Title:
    """A bevelled extrusion broken apart and filled by hand, as if cut out of coloured glass."""
    build = [
        {"step": "surface.flat", "settings": {"colour": "#d8cfb8"}},
        {"step": "relief.bevel", "settings": {
            "width": 27, "height": 20, "corners": "mitred", "profile": [[0, 0], [1, 1]]}},
        {"step": "light.shade", "settings": {"gloss": 0.35, "tightness": 60}},
        {"step": "depth.extrude", "settings": {
            "towards": "direction", "angle": 58, "length": 92, "fade": 0.3, "lit": 0.7}},
        {"step": "surface.parts", "id": "glass", "settings": {
            "by": "none", "paints": {"parts": _GLASS}}},
        {"step": "depth.outline", "settings": {"width": 7, "colour": "#0d1620"}},
        {"step": "ground.drop_shadow", "settings": {"offset": 26, "blur": 30, "opacity": 0.5}},
    ]  # fmt: skip
    document = new_title("BEACON", font="Archivo Black").model_dump(mode="json")
    backdrop = next(each for each in document["layers"] if each["kind"] == "backdrop")
    backdrop["source"] = {"colour": "#efe3c8"}
    backdrop["build"] = []
    word = next(each for each in document["layers"] if each["kind"] == "lettering")
    word["build"] = build
    word["placement"] = {"x": -30, "y": -20}
    document["layers"] = [backdrop, word]
    return parse_title(document)


def _wide(kind: str, facing: float | None, colour: str, **more: Any) -> dict[str, Any]:
    return {"kind": kind, "facing": facing, "colour": colour, **more}


_GLASS = [
    _wide("front", None, "#f4b942", fill="gradient", second="#e2662f", angle=90, shading=0.6),
    _wide("facet", None, "#dd9a56"),
    _wide("side", None, "#1f6676"),
    _wide("facet", 270, "#ffe6a3"),
    _wide("facet", 225, "#ffe6a3"),
    _wide("facet", 180, "#f7c873"),
    _wide("facet", 0, "#b8402a"),
    _wide("facet", 45, "#8f2d2b"),
    _wide("facet", 90, "#7c2232"),
    _wide("side", 0, "#2b7f8c"),
    _wide("side", 90, "#155063"),
    {"kind": "front", "letter": "O1", "fill": "gradient", "colour": "#fff3cf", "second": "#f7b733",
     "angle": 90, "shading": 0.6},
]  # fmt: skip


def squall() -> Title:
    """A glossy word on a splash of paint, before a swirl that turns."""
    document = new_title("SQUALL", font="Fredoka", finish="moulded-plastic").model_dump(mode="json")
    document["frame"] |= {"duration": 6.0, "loops": True}
    word = next(at for at, each in enumerate(document["layers"]) if each["kind"] == "lettering")
    turning = _evenly((0, -20.0), (6, 340.0))
    swirl = _shaped(
        "Swirl",
        [
            {
                "form": "swirl",
                "width": 1010,
                "height": 1010,
                "points": 9,
                "inner": 0.34,
                "twist": 150,
            }
        ],
        [
            {"step": "surface.flat", "settings": {"colour": "#ffd166"}},
            {"step": "relief.bevel", "settings": {"width": 14, "height": 8}},
            {"step": "light.shade", "settings": {"gloss": 0.4}},
            {"step": "ground.drop_shadow", "settings": {"offset": 16, "opacity": 0.35}},
        ],
    )
    swirl["source"]["shapes"][0]["turn"] = turning
    splash = _shaped(
        "Splash",
        [
            {"form": "ellipse", "width": 1420, "height": 470},
            {"form": "splash", "width": 1900, "height": 980, "points": 19, "seed": 4, "twist": 12},
        ],
        [
            {
                "step": "surface.gradient",
                "settings": {"angle": 90, "mix": "oklab", "stops": _PAINT},
            },
            {"step": "relief.bevel", "settings": {"width": 46, "height": 26, "soften": 6}},
            {"step": "light.shade", "settings": {"gloss": 0.55, "tightness": 46}},
            {"step": "ground.drop_shadow", "settings": {"offset": 24, "blur": 16}},
        ],
    )
    document["layers"][word:word] = [swirl, splash]
    return parse_title(document)


_PAINT = [{"place": 0, "colour": "#2f5fd0"}, {"place": 1, "colour": "#16286b"}]


def _shaped(name: str, shapes: list[dict[str, Any]], build: list[dict[str, Any]]) -> dict[str, Any]:
    return {"kind": "shapes", "name": name, "source": {"shapes": shapes}, "build": build}


_WEED = """
.....b......................
....bab...............b.....
b...aab......bb......bab....
ab.baaab....baab....baaab..b
aabaaaaab..baaaab.bbaaaaabba
aaaaaaaaabbaaaaaabaaaaaaaaaa
"""


def _overgrown() -> dict[str, Any]:
    """The same weed on every letter, each time begun at another column."""
    rows = _WEED.split()
    letters = []
    for letter in range(7):
        by = letter * 11 % 28
        shifted = [row[by:] + row[:by] for row in rows]
        letters.append({"letter": letter, "divided": 4, "left": 0, "top": -10, "rows": shifted})
    inks = [{"colour": "#1f6b55"}, {"colour": "#63c08a", "height": 2}]
    painted = {"words": "DEPTH40", "inks": inks, "letters": letters}
    return {"painted": painted, "pattern": "none", "opacity": 1}


TITLES = {
    "foghorn": foghorn,
    "buoy": buoy,
    "mooring": mooring,
    "lantern": lantern,
    "galley": galley,
    "salt": salt,
    "tide-table": tide_table,
    "driftwood": driftwood,
    "undertow": undertow,
    "gull": gull,
    "depth-40": depth_40,
    "squall": squall,
    "beacon": beacon,
}


if __name__ == "__main__":
    main()
