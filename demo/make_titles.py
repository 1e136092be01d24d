"""Make the demo titles: cards of "The Skerry Line", a made-up series about an island ferry."""

from pathlib import Path

from mabrel import Title, new_title, swap, write_title

FOLDER = Path(__file__).parent / "titles"


def main() -> None:
    FOLDER.mkdir(exist_ok=True)
    for name, make in TITLES.items():
        write_title(make(), FOLDER / f"{name}.title.json")


def foghorn() -> Title:
    """Cast brass, extruded: the opening."""
    return new_title("FOGHORN")


def galley() -> Title:
    """Glossy enamel before a tiled wall, upright."""
    return new_title("GALLEY", font="Lilita One", finish="galley-wall", frame=(1080, 1350))


def galley_wide() -> Title:
    """The same for a wide frame."""
    return new_title("GALLEY", font="Lilita One", finish="galley-wall")


def buoy() -> Title:
    """Inflated and glossy, before the sky."""
    return new_title("BUOY", font="Fredoka", finish="buoy")


def lantern() -> Title:
    """Poured gold on a high-contrast serif, by lantern light."""
    return new_title("LANTERN", font="Abril Fatface", finish="lantern-night")


def mooring() -> Title:
    """Brushed steel on a quay, pushed back in space, in a wide frame."""
    return new_title("MOORING", font="Anton", finish="mooring-quay", frame=(3840, 2160))


def tide_table() -> Title:
    """On a wet floor at night."""
    return new_title("TIDE TABLE", font="Archivo Black", finish="tide-table")


def salt() -> Title:
    """Chrome with coloured reflections, on a salt flat."""
    return new_title("SALT", font="Bungee", finish="salt-flat")


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
