"""What comes with the engine and is the same for everybody: its catalogue, finishes and fonts.

This is read in the web process, since nothing that anybody sent goes into it.
"""

import hashlib
from functools import cache
from pathlib import Path
from typing import Any

import mabrel
from mabrel import catalogue, families
from mabrel.colour import MODES
from mabrel.compose import finishes
from mabrel.render import TAPS
from mabrel.source import is_font_file, shipped_pictures
from mabrel.source.library import LARGEST_FILE, SHIPPED, SHIPPED_PREFIX
from mabrel.steps import STAGES
from mabrel.title import Finish
from mabrel.title.files import load_json

LARGEST_LIBRARY_FILE = LARGEST_FILE


@cache
def steps_and_choices() -> dict[str, Any]:
    """The catalogue of steps, with the names of stages, blend modes and taps."""
    return {
        "stages": list(STAGES),
        "steps": catalogue(),
        "blend_modes": list(MODES),
        "taps": list(TAPS),
    }


def shipped_families() -> list[dict[str, Any]]:
    return [
        {"family": each.name, "kind": each.kind, "styles": list(each.styles), "axes": []}
        for each in families().values()
    ]


@cache
def shipped_finishes() -> dict[str, Finish]:
    """By name; brass comes first."""
    ordered = sorted(finishes().values(), key=lambda each: (each.name != "ship-brass", each.label))
    return {finish.name: finish for finish in ordered}


@cache
def engine_version() -> str:
    """Changes with the engine's code, fonts and pictures: what was rendered by another one is not
    looked at again."""
    digest = hashlib.sha256()
    root = Path(mabrel.__file__).parent
    for path in sorted(root.rglob("*")):
        if path.suffix in (".py", ".json") and "__pycache__" not in path.parts:
            digest.update(path.read_bytes())
        elif path.suffix in (".ttf", ".png", ".jpg", ".exr", ".hdr", ".svg", ".webp"):
            digest.update(f"{path.name} {path.stat().st_size}".encode())
    return digest.hexdigest()


__all__ = [
    "LARGEST_LIBRARY_FILE",
    "SHIPPED",
    "SHIPPED_PREFIX",
    "engine_version",
    "is_font_file",
    "load_json",
    "shipped_families",
    "shipped_finishes",
    "shipped_pictures",
    "steps_and_choices",
]
