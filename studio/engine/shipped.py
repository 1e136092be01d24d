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
from mabrel.export.clip_forms import CLIPS
from mabrel.export.frames import ClipError, frame_times, rate_of
from mabrel.export.order import PRESETS, Order
from mabrel.export.parts_forms import PARTS
from mabrel.export.stills import STILLS
from mabrel.render import TAPS
from mabrel.source import is_font_file, shipped_pictures
from mabrel.source.library import LARGEST_CLIP, LARGEST_FILE, SHIPPED, SHIPPED_PREFIX
from mabrel.steps import STAGES
from mabrel.title import Finish
from mabrel.title.arrival import Arrival
from mabrel.title.files import load_json
from mabrel.title.models import LARGEST_AREA, LARGEST_SIDE
from mabrel.title.playing import ENDINGS as CLIP_ENDINGS
from mabrel.title.playing import is_numbered, named_as_clip, numbers_of
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


def export_frames(order: Order, duration: float, fps: float) -> int:
    """How many frames an export of a title of this duration and rate has. Raises Refused."""
    if not order.moving:
        return 1
    try:
        rate = rate_of(fps if order.rate is None else order.rate)
        return len(frame_times(order.start, duration if order.end is None else order.end, rate))
    except ClipError as error:
        raise Refused("end", str(error)) from None


@cache
def export_forms() -> dict[str, Any]:
    """The formats of pictures and clips, and the presets by purpose."""
    stills = [
        {"name": each.name, "label": each.label, "ending": each.suffix, "depths": list(each.depths),
         "alpha": each.alpha, "lossy": each.lossy}
        for each in STILLS.values()
    ]  # fmt: skip
    clips = [
        {"name": each.name, "label": each.label, "ending": each.suffix, "depths": [],
         "alpha": each.alpha, "lossy": not each.lossless}
        for each in CLIPS.values()
    ]  # fmt: skip
    parts = [
        {"name": each.name, "label": each.label, "ending": each.suffix, "depths": [],
         "alpha": True, "lossy": False, "scales": each.scales}
        for each in PARTS.values()
    ]  # fmt: skip
    presets = [
        {"name": name, "label": each.label, "says": each.says, "order": each.order.model_dump()}
        for name, each in PRESETS.items()
    ]
    return {"stills": stills, "clips": clips, "parts": parts, "presets": presets}


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
    "CLIP_ENDINGS",
    "LARGEST_CLIP",
    "LARGEST_LIBRARY_FILE",
    "SHIPPED",
    "SHIPPED_PREFIX",
    "Order",
    "engine_version",
    "export_forms",
    "export_frames",
    "is_font_file",
    "is_numbered",
    "load_json",
    "named_as_clip",
    "numbers_of",
    "shipped_arrivals",
    "shipped_families",
    "shipped_finishes",
    "shipped_pictures",
    "steps_and_choices",
]
