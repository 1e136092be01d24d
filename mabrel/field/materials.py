"""Wood, marble and plaster, made of noise."""

from typing import TypedDict

import cv2
import numba
import numpy as np
from numpy.typing import NDArray

from mabrel.field.fractal import fractal_noise
from mabrel.kernels import kernel

Array = NDArray[np.float32]
Pair = tuple[float, float]


class Running(TypedDict):
    """How far the noise has run, and after how much it comes round; see `fractal_noise`."""

    phase: float
    around: int


def wood(
    shape: tuple[int, int], origin: Pair, size: Pair, *, octaves: int, run: Running, seed: int
) -> Array:
    """Boards with grain along them and burnt patches: (H, W), 0..1.

    `size` is how long a wave of the grain is and how wide one line of it; a board is 22 lines
    wide. The grain is a sine over a warped plane, as in Perlin's "An image synthesizer" (1985).
    Lines finer than pixels fade to their mean.
    """
    long, line = size
    board_width = 22 * line
    warp = fractal_noise(
        shape, origin, (long * 1.6, board_width * 1.3), octaves=3, **run, seed=seed
    )
    fibre = fractal_noise(shape, origin, (long, line * 0.7), octaves=octaves, **run, seed=seed + 1)
    burnt = fractal_noise(
        shape, origin, (long * 0.9, board_width * 0.8), octaves=3, **run, seed=seed + 2
    )
    rows = np.arange(shape[0], dtype=np.float32) + np.float32(origin[1] + 0.5)
    seen = np.float32(np.clip(2.6 * line / 2 - 0.8, 0, 1))
    tone = np.empty(shape, np.float32)
    _wood(warp, fibre, burnt, rows, np.float32(line), seen, np.float32(seed), tone)
    return tone


@kernel(parallel=True)
def _wood(warp, fibre, burnt, rows, line, seen, seed, tone):  # type: ignore[no-untyped-def]
    zero, one, half = np.float32(0), np.float32(1), np.float32(0.5)
    board_width = np.float32(22) * line
    wave = np.float32(2 * np.pi) / (np.float32(2.6) * line)
    for row in numba.prange(tone.shape[0]):
        y = np.int64(row)
        place = rows[y] / board_width
        board = np.floor(place)
        # Each board is cut from another part of the tree: its own shift along the grain.
        shift = line * np.float32(37) * np.sin(board * np.float32(12.9898) + seed)
        lighter = np.float32(0.07) * np.sin(board * np.float32(78.233) + seed)
        joint = min(place - board, one - (place - board)) * board_width
        joint = joint / max(np.float32(0.09) * board_width, one) + np.float32(0.25)
        joint = min(max(joint, zero), one)
        for x in range(tone.shape[1]):
            turns = (rows[y] + shift + (warp[y, x] - half) * np.float32(26) * line) * wave
            rings = half + half * np.sin(turns) * seen
            value = np.float32(0.56) + np.float32(0.22) * (rings * np.sqrt(rings) - np.float32(0.4))
            value += half * (fibre[y, x] - half) + lighter
            char = (burnt[y, x] - np.float32(0.60)) * np.float32(3)
            value *= one - min(max(char, zero), np.float32(0.65))
            tone[y, x] = value * joint


def marble(
    shape: tuple[int, int], origin: Pair, size: Pair, *, octaves: int, run: Running, seed: int
) -> Array:
    """A light stone with dark veins of several widths: (H, W), 0..1; veins are `size` apart."""
    cloud = fractal_noise(
        shape, origin, (size[0] * 1.3, size[1] * 1.3), octaves=octaves, **run, seed=seed
    )
    tone = 0.80 + 0.42 * (cloud - 0.5)
    for number, (share, weight, sharp) in enumerate(((1.0, 0.62, 5.0), (0.55, 0.34, 7.0))):
        veins = fractal_noise(
            shape,
            origin,
            (size[0] * share, size[1] * share),
            octaves=max(octaves, 3),
            roughness=0.46,
            **run,
            seed=seed + 7 + number,
            ridged=True,
        )
        patchy = fractal_noise(
            shape, origin, (size[0] * 1.7, size[1] * 1.7), octaves=2, **run,
            seed=seed + 17 + number,
        )  # fmt: skip
        tone -= weight * veins ** np.float32(sharp) * np.clip((patchy - 0.28) * 2.4, 0, 1)
    return np.asarray(tone, np.float32)


def plaster(
    shape: tuple[int, int], origin: Pair, size: Pair, *, octaves: int, run: Running, seed: int
) -> Array:
    """Dry plaster: broad unevenness, strokes of the trowel, pits: (H, W), 0..1."""
    broad = fractal_noise(
        shape, origin, (size[0] * 3, size[1] * 3), octaves=octaves, **run, seed=seed
    )
    strokes = fractal_noise(
        shape, origin, (size[0] * 2.2, size[1] * 0.35), octaves=3, **run, seed=seed + 3
    )
    fine = fractal_noise(
        shape, origin, (size[0] * 0.22, size[1] * 0.22), octaves=2, **run, seed=seed + 5
    )
    pits = fractal_noise(
        shape, origin, (size[0] * 0.5, size[1] * 0.5), octaves=2, **run, seed=seed + 9
    )
    tone = np.empty(shape, np.float32)
    _plaster(broad, strokes, fine, pits, tone)
    return tone


@kernel(parallel=True)
def _plaster(broad, strokes, fine, pits, tone):  # type: ignore[no-untyped-def]
    half = np.float32(0.5)
    for row in numba.prange(tone.shape[0]):
        y = np.int64(row)
        for x in range(tone.shape[1]):
            value = np.float32(0.62) + np.float32(0.35) * (broad[y, x] - half)
            value += np.float32(0.28) * (strokes[y, x] - half)
            value += np.float32(0.22) * (fine[y, x] - half)
            pit = (pits[y, x] - np.float32(0.72)) * np.float32(5)
            tone[y, x] = value - np.float32(0.55) * min(max(pit, np.float32(0)), np.float32(1))


def cells(shape: tuple[int, int], origin: Pair, size: Pair, noise: Array, corner: Pair) -> Array:
    """Noise in flat cells of `size` pixels, their edges antialiased: (H, W).

    `noise` has one value for each cell, from the cell `corner` (column, row) on. Cells smaller
    than two pixels fade to middle grey.
    """
    across = _steps(shape[1], origin[0], size[0]) - np.float32(corner[0])
    down = _steps(shape[0], origin[1], size[1]) - np.float32(corner[1])
    maps = np.meshgrid(across.astype(np.float32), down.astype(np.float32))
    tone = cv2.remap(noise, maps[0], maps[1], cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE)
    shown = np.float32(np.clip(min(size) - 1, 0, 1))
    return np.asarray(0.5 + (tone - 0.5) * shown, np.float32)


def _steps(count: int, origin: float, size: float) -> Array:
    """Cell places that rest in each cell and pass to the next within a pixel."""
    place = (np.arange(count, dtype=np.float64) + origin + 0.5) / size - 0.5
    whole = np.floor(place)
    share = np.clip((place - whole - 0.5) * size + 0.5, 0, 1)
    return np.asarray(whole + share, np.float32)
