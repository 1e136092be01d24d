"""Write docs/steps.md from the catalogue, with a picture of each step on the demo word."""

from pathlib import Path

import cv2

from mabrel import Renderer, parse_title
from mabrel.steps import STAGES, catalogue

ROOT = Path(__file__).resolve().parent.parent
PICTURES = ROOT / "docs" / "steps"
COPPER = {"step": "surface.flat", "settings": {"colour": "#a8763e"}}
INFLATE = {"step": "relief.inflate", "settings": {"height": 0.6}}
STREAKS = {"step": "surface.made", "settings": {"opacity": 1, "blend": "normal"}}
SHADE = {"step": "light.shade"}


def main() -> None:
    PICTURES.mkdir(parents=True, exist_ok=True)
    renderer = Renderer()
    lines = [
        "# Steps",
        "",
        "Every step with its settings, made from the catalogue by `make steps`. The pictures show",
        "each one with its default settings on copper letters.",
    ]
    for stage in STAGES:
        entries = [entry for entry in catalogue() if entry["stage"] == stage]
        if entries:
            lines += ["", f"## {stage.capitalize()}"]
        for entry in entries:
            picture(renderer, entry["step"])
            lines += described(entry)
    (ROOT / "docs" / "steps.md").write_text("\n".join(lines) + "\n")


def described(entry: dict) -> list[str]:
    name = entry["step"]
    lines = ["", f"### {entry['label']} (`{name}`)", "", entry["help"], ""]
    lines += [f"![{entry['label']}](steps/{name}.png)", ""]
    lines += ["| setting | kind | default | range | |", "|---|---|---|---|---|"]
    for setting in entry["settings"]:
        span = "" if setting["low"] is None else f"{setting['low']:g} to {setting['high']:g}"
        choices = ", ".join(setting["choices"] or [])
        default = shown(setting["default"])
        kind = f"{setting['kind']} {setting['unit']}".strip()
        parts = [f"`{setting['name']}`", kind, default, span or choices, setting["help"]]
        lines.append(f"| {' | '.join(parts)} |")
    return lines


def shown(default: object) -> str:
    if isinstance(default, list) and default and isinstance(default[0], dict):
        return ", ".join(f"{each['colour']} at {place(each)}" for each in default)
    return str(default)


def place(each: dict) -> str:
    """Of a stop or a colour spot."""
    return f"{each['place']:g}" if "place" in each else f"{each['x']:g}, {each['y']:g}"


def build_for(step: str) -> list[dict]:
    this = {"step": step}
    if step == "relief.inflate":
        return [COPPER, this, SHADE]
    if step.startswith("shape."):
        return [COPPER, this, INFLATE, SHADE]
    if step.startswith("relief."):
        return [COPPER, INFLATE, this, SHADE]
    if step == "surface.bend":
        return [STREAKS, INFLATE, this]
    return [COPPER, INFLATE, SHADE, this]


def picture(renderer: Renderer, step: str) -> None:
    word = {
        "kind": "lettering",
        "source": {"text": "KELP", "size": 330},
        "placement": {"y": -24},
        "build": build_for(step),
    }
    ground = {"kind": "backdrop", "source": {"colour": "#7c868a"}}
    frame = {"width": 1020, "height": 420}
    title = parse_title({"mabrel": 1, "frame": frame, "layers": [ground, word]})
    pixels = renderer.render(title, scale=1 / 3).to_uint8()
    cv2.imwrite(str(PICTURES / f"{step}.png"), cv2.cvtColor(pixels, cv2.COLOR_RGBA2BGR))


if __name__ == "__main__":
    main()
