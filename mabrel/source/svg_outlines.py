"""The outline of a drawing: its own paths, exact at every size, in the place of pixels."""

import functools
import json
import subprocess
import sys
from pathlib import Path

import numpy as np

from mabrel.source.drawing import skia
from mabrel.source.flatten import Lines, straight_lines

LARGEST = 2**20
"""Bytes: of a larger drawing the pixels are used."""
_LONGEST = 4  # seconds of computing
_PATIENCE = 20  # seconds altogether, on a machine that is busy with other things
_MOST_MEMORY = 2 * 2**30
_MOST_SEGMENTS = 20_000
_WORKER = Path(__file__).with_name("svg_outline_worker.py")


def drawing_outline(content: bytes, height: float) -> Lines | None:
    """The closed outlines (N, 4) of all that a drawing paints, `height` pixels high, with the
    centre of their box at the origin; None for one that is more than opaque paths.

    The drawing must have been searched before (`svg.svg_size`).
    """
    segments = _segments(content)
    if not segments:
        return None
    path = _path(segments)
    box = path.computeTightBounds()
    if box.height() <= 0 or box.width() <= 0:
        return None
    scale = height / box.height()
    place = skia.Matrix.Translate(-box.centerX(), -box.centerY())
    place.postScale(scale, scale)
    path.transform(place)
    lines = straight_lines(path)
    return lines if len(lines) else None


@functools.lru_cache(maxsize=24)
def _segments(content: bytes) -> tuple[tuple[str | float, ...], ...]:
    if len(content) > LARGEST:
        return ()
    command = [sys.executable, "-P", str(_WORKER), str(_MOST_MEMORY), str(_LONGEST)]
    try:
        done = subprocess.run(
            command, input=content, capture_output=True, timeout=_PATIENCE, check=False
        )
    except subprocess.TimeoutExpired:
        return ()
    if done.returncode:
        return ()
    found = json.loads(done.stdout)
    numbers = [part for segment in found for part in segment[1:]]
    if len(found) > _MOST_SEGMENTS or not np.isfinite(numbers).all():
        return ()
    return tuple(tuple(segment) for segment in found)


def _path(segments: tuple[tuple[str | float, ...], ...]) -> "skia.Path":
    path = skia.Path()
    add = {"M": path.moveTo, "L": path.lineTo, "Q": path.quadTo, "C": path.cubicTo}
    for letter, *numbers in segments:
        if letter == "Z":
            path.close()
        else:
            add[str(letter)](*numbers)
    return path
