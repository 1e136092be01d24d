"""Clips: frames that lie on the disk as one file."""

from collections.abc import Iterator, Sequence
from fractions import Fraction
from pathlib import Path

import cv2
import numpy as np

from mabrel.export import write_clip
from studio.engine.process import Tools


def encode(tools: Tools, *, frames: Sequence[str], rate: tuple[int, int], path: str) -> None:
    """Write frames (PNG) as a clip to `path`."""

    def pictures() -> Iterator[np.ndarray]:
        for frame in frames:
            tools.cancel.check()
            pixels = cv2.imread(frame, cv2.IMREAD_UNCHANGED)
            if pixels is None:
                raise FileNotFoundError(frame)
            yield cv2.cvtColor(pixels, cv2.COLOR_BGRA2RGBA)

    write_clip(Path(path), pictures(), Fraction(*rate))
