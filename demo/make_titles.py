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
}


if __name__ == "__main__":
    main()
