"""Make the demo titles: cards of "The Skerry Line", a made-up series about an island ferry."""

from pathlib import Path

from mabrel import Title, new_title, parse_title, write_title

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
    document = new_title("BUOY", font="Fredoka", finish="enamel").model_dump(mode="json")
    ground, word = document["layers"]
    ground["name"] = "Morning sky"
    ground["build"] = [radial("#a9c6cd", "#5f8fa0")]
    for step in word["build"]:
        settings = step["settings"]
        if step["step"] == "surface.gradient":
            settings["stops"] = stops("#f2573f", "#c92a1c")
        elif step["step"] == "relief.inflate":
            settings["height"] = 0.95
        elif step["step"] == "light.shade":
            settings |= {"highlight_colour": "#fff3ea", "shade_colour": "#5a0a08"}
        elif step["step"] == "depth.extrude":
            settings |= {"colour": "#8e1d14", "fade_colour": "#2a0605", "length": 40}
        elif step["step"] == "ground.drop_shadow":
            settings |= {"colour": "#12303a", "opacity": 0.45}
    return parse_title(document)


def lantern() -> Title:
    """Brass on a high-contrast serif, at night."""
    document = new_title("LANTERN", font="Abril Fatface").model_dump(mode="json")
    ground = document["layers"][0]
    ground["name"] = "Night"
    ground["build"] = [radial("#243347", "#080c14")]
    return parse_title(document)


def stops(*colours: str) -> list[dict]:
    return [{"place": i / (len(colours) - 1), "colour": code} for i, code in enumerate(colours)]


def radial(inner: str, outer: str) -> dict:
    settings = {"shape": "radial", "mix": "oklab", "stops": stops(inner, outer)}
    return {"step": "surface.gradient", "settings": settings}


TITLES = {"foghorn": foghorn, "galley": galley, "buoy": buoy, "lantern": lantern}


if __name__ == "__main__":
    main()
