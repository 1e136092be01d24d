"""Measure whole titles: the first picture of each demo title, against the SVG chain in Chromium.

Each is rendered in a process of its own, whose kernels are loaded already, by a renderer that
keeps nothing yet; so is the most memory that the process takes, at twice the size too.
"""

import json
import subprocess
import sys
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from tools.lost_time import Lost, quietest

ROOT = Path(__file__).resolve().parent.parent
SCENES = ("galley", "lantern", "mooring", "salt", "tide-table")
"""Those with a floor, a camera and a lens; the others are single words."""
_MOST = {True: 5.0, False: 2.0}  # times the chain
_MOST_MB, _MOST_MB_DOUBLE = 1200, 4000
_REPEATS = 3

MEASURE = """
import json, sys, time
from mabrel import Renderer, read_title
from mabrel.allocation import keep_freed
from mabrel.bench_scene import most_memory
from mabrel.title.motion import still_time
keep_freed()
title, width, repeats = read_title(sys.argv[1]), float(sys.argv[2]), int(sys.argv[3])
scale = width / max(title.frame.width, title.frame.height * 16 / 9)
times = []
for _ in range(repeats + 1):
    began = time.perf_counter()
    Renderer().render(title, time=still_time(title), scale=scale)
    times.append(time.perf_counter() - began)
print(json.dumps([sorted(times[1:] or times)[len(times[1:]) // 2], most_memory()]))
"""


@dataclass(frozen=True)
class Measured:
    """`seconds` of the first picture at the width of 1920, milliseconds of the chain right before,
    what others took meanwhile, and megabytes at that size and at twice that."""

    name: str
    seconds: float
    chain_ms: float
    to_others: Lost
    memory: float
    double: float


def measured_title(name: str, filter_ms: Callable[[], float]) -> Measured:
    path = ROOT / "demo" / "titles" / f"{name}.title.json"
    (chain_ms, (seconds, _)), to_others = quietest(
        lambda: (filter_ms(), _run(path, 1920, _REPEATS))
    )
    (_, memory), (_, double) = (_run(path, width, 0) for width in (1920, 3840))
    return Measured(name, seconds, chain_ms, to_others, memory, double)


def _run(path: Path, width: int, repeats: int) -> tuple[float, float]:
    call = [sys.executable, "-c", MEASURE, str(path), str(width), str(repeats)]
    done = subprocess.run(call, capture_output=True, text=True, check=True, cwd=ROOT)
    seconds, memory = json.loads(done.stdout.splitlines()[-1])
    return float(seconds), float(memory)


def table(filter_ms: Callable[[], float]) -> str:
    """Every demo title against the chain, which `filter_ms` measures in turn with them."""
    lines = [
        "| title | first picture, ms | the chain, ms | taken by others | × the chain | must | "
        "MB | must | MB at 3840 | must | |",
        "|---|---|---|---|---|---|---|---|---|---|---|",
    ]
    for path in sorted((ROOT / "demo" / "titles").glob("*.title.json")):
        found = measured_title(path.name.removesuffix(".title.json"), filter_ms)
        most = _MOST[found.name in SCENES]
        ratio = found.seconds * 1000 / found.chain_ms
        met = ratio <= most and found.memory <= _MOST_MB and found.double <= _MOST_MB_DOUBLE
        lines.append(
            f"| {found.name} | {found.seconds * 1000:.0f} | {found.chain_ms:.0f} | "
            f"{found.to_others} | {ratio:.1f} | ≤ {most:g} | "
            f"{found.memory:.0f} | ≤ {_MOST_MB} | {found.double:.0f} | ≤ {_MOST_MB_DOUBLE} | "
            f"{'met' if met else 'not met'} |"
        )
    return "\n".join(lines)
