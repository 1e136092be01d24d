"""Make the engine's fonts from the @fontsource packages in frontend/node_modules.

Run with `make fonts` when a package is updated; the results are committed. Each family gets a
folder with one TTF per style and subset, its licence, and a line in fonts.json.
"""

import json
import shutil
from pathlib import Path

from fontTools.ttLib import TTFont

ROOT = Path(__file__).resolve().parent.parent
PACKAGES = ROOT / "frontend" / "node_modules" / "@fontsource"
FONTS = ROOT / "mabrel" / "source" / "fonts"

# package, family, what it is, weight -> style, subsets
FAMILIES = [
    ("titan-one", "Titan One", "fat", {400: "Regular"}),
    ("lilita-one", "Lilita One", "fat", {400: "Regular"}),
    ("chango", "Chango", "fat", {400: "Regular"}),
    ("fredoka", "Fredoka", "round", {700: "Bold", 500: "Medium"}),
    ("baloo-2", "Baloo 2", "round, Devanagari", {800: "ExtraBold"}),
    ("modak", "Modak", "fat, Devanagari", {400: "Regular"}),
    ("lalezar", "Lalezar", "fat, Arabic", {400: "Regular"}),
    ("archivo-black", "Archivo Black", "sans", {400: "Regular"}),
    ("anton", "Anton", "condensed", {400: "Regular"}),
    ("bebas-neue", "Bebas Neue", "condensed", {400: "Regular"}),
    ("bungee", "Bungee", "block", {400: "Regular"}),
    ("alfa-slab-one", "Alfa Slab One", "slab", {400: "Regular"}),
    ("bevan", "Bevan", "slab, fat", {400: "Regular"}),
    ("abril-fatface", "Abril Fatface", "high-contrast serif", {400: "Regular"}),
    ("playfair-display", "Playfair Display", "high-contrast serif", {900: "Black"}),
    ("pacifico", "Pacifico", "script", {400: "Regular"}),
    ("lobster", "Lobster", "script", {400: "Regular"}),
    ("press-start-2p", "Press Start 2P", "pixel", {400: "Regular"}),
]
SUBSETS = ("latin", "latin-ext", "arabic", "devanagari")


def main() -> None:
    shutil.rmtree(FONTS, ignore_errors=True)
    entries = [make_family(*family) for family in FAMILIES]
    text = json.dumps(entries, indent=1) + "\n"
    (FONTS / "fonts.json").write_text(text)


def make_family(package: str, family: str, kind: str, weights: dict[int, str]) -> dict:
    folder = FONTS / package
    folder.mkdir(parents=True)
    shutil.copy(PACKAGES / package / "LICENSE", folder / "LICENSE.txt")
    styles = {
        style: [
            convert(
                PACKAGES / package / "files" / f"{package}-{subset}-{weight}-normal.woff2", folder
            )
            for subset in SUBSETS
            if (PACKAGES / package / "files" / f"{package}-{subset}-{weight}-normal.woff2").exists()
        ]
        for weight, style in weights.items()
    }
    return {"family": family, "kind": kind, "folder": package, "styles": styles}


def convert(woff2: Path, folder: Path) -> str:
    font = TTFont(woff2)
    font.flavor = None
    name = woff2.stem + ".ttf"
    font.save(folder / name)
    return name


if __name__ == "__main__":
    main()
