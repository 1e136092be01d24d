"""Make the demo titles: cards of "The Skerry Line", a made-up series about an island ferry."""

from pathlib import Path

from mabrel import Title, new_title, parse_title, swap, write_title

FOLDER = Path(__file__).parent / "titles"


def main() -> None:
    FOLDER.mkdir(exist_ok=True)
    for name, make in TITLES.items():
        write_title(make(), FOLDER / f"{name}.title.json")


def foghorn() -> Title:
    """Cast brass, extruded: the opening."""
    return new_title("FOGHORN")


def galley() -> Title:
    """Enamel, upright."""
    return new_title("GALLEY", font="Lilita One", finish="enamel", frame=(1080, 1350))


def buoy() -> Title:
    """Inflated and glossy, before the sky."""
    return new_title("BUOY", font="Fredoka", finish="buoy")


def lantern() -> Title:
    """Poured gold on a high-contrast serif, at night."""
    document = new_title("LANTERN", font="Abril Fatface", finish="poured-gold").model_dump(
        mode="json"
    )
    ground = document["layers"][0]
    ground["name"] = "Night"
    stops = [{"place": 0, "colour": "#243347"}, {"place": 1, "colour": "#080c14"}]
    ground["build"][0]["settings"]["stops"] = stops
    return parse_title(document)


def mooring() -> Title:
    """Brushed steel, in a wide frame."""
    return new_title("MOORING", font="Anton", finish="brushed-steel", frame=(3840, 2160))


def salt() -> Title:
    """Chrome."""
    return new_title("SALT", font="Bungee", finish="chrome-rail")


def driftwood() -> Title:
    """Cut into weathered boards."""
    return new_title("DRIFTWOOD", font="Bungee", finish="driftwood")


def undertow() -> Title:
    """Ink on a sea chart, pushed aside by its depths."""
    return new_title("UNDERTOW", font="Abril Fatface", finish="chart-ink")


def gull() -> Title:
    """The emblem of the line in poured gold: a picture in the place of a word."""
    return swap(lantern().at_home(FOLDER), picture="gull.svg").model_copy(update={"name": "Gull"})


TITLES = {
    "foghorn": foghorn,
    "buoy": buoy,
    "mooring": mooring,
    "lantern": lantern,
    "galley": galley,
    "salt": salt,
    "driftwood": driftwood,
    "undertow": undertow,
    "gull": gull,
}


if __name__ == "__main__":
    main()
