"""What depth, ground and lens cost: ratios, and the memory of a build that has all of them."""

import re
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from mabrel.bench import FRAME, Row, in_turn, word_coverage
from mabrel.field import signed_distance
from mabrel.field.extrusion import silhouette
from mabrel.render import Renderer
from mabrel.steps import kinds
from mabrel.title import Title, parse_title

COPIES = 2000
MOST_MEMORY = 1536
"""Megabytes that a build with every step of these stages may take at 1920 × 1080."""
_LENGTH = 90.0


def scene_rows() -> list[Row]:
    """Comparisons of the last three stages."""
    return [_extrude_row(), _glow_row(), _lens_row()]


def _extrude_row() -> Row:
    matte = word_coverage()
    distance = signed_distance(matte)

    def copies() -> NDArray[np.float32]:
        union = matte.copy()
        rows, columns = matte.shape
        for away in np.linspace(0, _LENGTH, COPIES):
            move = np.array([[1, 0, 0.6 * away], [0, 1, 0.8 * away]])
            np.maximum(union, cv2.warpAffine(matte, move, (columns, rows)), out=union)
        return union

    ours, other = in_turn(
        lambda: silhouette(distance, towards=(0.6, 0.8), length=_LENGTH), copies, 1
    )
    return Row("silhouette of a body, with its depth", ours, f"{COPIES} stacked copies", other, 0.1)


def _washed(build: list[dict[str, object]]) -> Title:
    source = {"text": "FOGHORN", "size": 315}
    steps = [{"step": "surface.gradient"}, {"step": "relief.inflate"}, {"step": "light.shade"}]
    layers = [
        {"kind": "backdrop"},
        {"kind": "lettering", "source": source, "build": [*steps, {"step": "depth.extrude"}]},
        {"kind": "wash", "build": build},
    ]
    frame = {"width": FRAME[0], "height": FRAME[1]}
    return parse_title({"mabrel": 1, "frame": frame, "layers": layers})


def _glow(radius: float, strength: float) -> dict[str, object]:
    return {"step": "lens.glow", "settings": {"radius": radius, "strength": strength}}


def _changing(renderer: Renderer, radius: float) -> Callable[[], object]:
    strengths = iter(np.linspace(0.3, 1.3, 1000).tolist())
    return lambda: renderer.render(_washed([_glow(radius, next(strengths))]))


def _glow_row() -> Row:
    renderer = Renderer()
    ours, other = in_turn(_changing(renderer, 300), _changing(renderer, 8), 5)
    return Row("a glow of radius 300 over the frame", ours, "one of radius 8", other, 1.2)


def _lens_row() -> Row:
    def whole() -> None:
        Renderer().render(_washed([_glow(30, 0.7)]))

    ours, other = in_turn(_changing(Renderer(), 30), whole, 3)
    return Row("a change to the lens alone", ours, "the whole title", other, None)


def full_title() -> Title:
    """A title in whose layer and wash every step of depth, ground and lens is at work."""
    stages = ("depth", "ground", "lens")
    build = [{"step": "surface.gradient"}, {"step": "relief.inflate"}, {"step": "light.shade"}]
    late: list[dict[str, object]] = [
        {"step": kind.name} for stage in stages for kind in kinds().values() if kind.stage == stage
    ]
    washes = [each for each in late if str(each["step"]).startswith("lens.")]
    layers = [
        {"kind": "backdrop"},
        {"kind": "floor", "build": [{"step": "surface.made"}]},
        {
            "kind": "lettering",
            "source": {"text": "FOGHORN", "size": 315},
            "build": [*build, *late],
            "placement": {"turn_y": 20},
        },
        {"kind": "wash", "build": washes},
    ]
    frame = {"width": FRAME[0], "height": FRAME[1]}
    camera = {"lift": -120}
    return parse_title({"mabrel": 1, "frame": frame, "camera": camera, "layers": layers})


def peak_memory() -> float:
    """Megabytes that a process takes at most to render `full_title`, everything included."""
    code = "from mabrel.bench_scene import measured; print(measured())"
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    return float(done.stdout.split()[-1])


def measured() -> float:
    """Render it here, and say the most megabytes that this process ever took."""
    Renderer().render(full_title())
    return most_memory()


def most_memory() -> float:
    """The most megabytes that this process ever took; what it was started from doesn't count."""
    status = Path("/proc/self/status").read_text()
    return float(re.findall(r"VmHWM:\s+(\d+) kB", status)[0]) / 1024


def memory_text() -> str:
    taken = peak_memory()
    met = "met" if taken <= MOST_MEMORY else "not met"
    return (
        f"Peak memory of a build with every step of depth, ground and lens at {FRAME[0]} × "
        f"{FRAME[1]}, caches and libraries included: {taken:.0f} MB (must {MOST_MEMORY}: {met})."
    )
