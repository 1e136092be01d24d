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
from mabrel.compose import arrivals, finishes
from mabrel.export.frames import ClipError, frame_times, rate_of
from mabrel.render import TAPS
from mabrel.source import is_font_file, shipped_pictures
from mabrel.source.library import LARGEST_FILE, SHIPPED, SHIPPED_PREFIX
from mabrel.steps import STAGES
from mabrel.title import Finish
from mabrel.title.arrival import Arrival
from mabrel.title.files import load_json
from mabrel.title.models import LARGEST_AREA, LARGEST_SIDE
from mabrel.title.told import told_models
from mabrel.title.usual import FRAMES, RATES
from studio.engine.outcome import Refused

LARGEST_LIBRARY_FILE = LARGEST_FILE


@cache
def steps_and_choices() -> dict[str, Any]:
    """The catalogue of steps, with the names of stages, blend modes and taps, and what all other
    models of a title say of themselves."""
    return {
        "stages": list(STAGES),
        "steps": catalogue(),
        "blend_modes": list(MODES),
        "taps": list(TAPS),
        "models": {name: [each._asdict() for each in told] for name, told in told_models().items()},
        "frames": {"largest_side": LARGEST_SIDE, "largest_area": LARGEST_AREA, "usual": FRAMES},
        "rates": list(RATES),
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


def shipped_arrivals() -> dict[str, Arrival]:
    """By name; arrivals come before departures."""
    return arrivals()


def clip_times(start: float, end: float, fps: float) -> tuple[tuple[int, int], list[float]]:
    """The exact rate of a clip, as a fraction, and the times of its frames. Raises Refused."""
    try:
        rate = rate_of(fps)
        times = [frame.time for frame in frame_times(start, end, rate)]
    except ClipError as error:
        raise Refused("", str(error)) from None
    return (rate.numerator, rate.denominator), times


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
    "clip_times",
    "engine_version",
    "is_font_file",
    "load_json",
    "shipped_arrivals",
    "shipped_families",
    "shipped_finishes",
    "shipped_pictures",
    "steps_and_choices",
]
