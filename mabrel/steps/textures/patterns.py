"""Made textures: what surface and relief steps share."""

import math
from functools import partial
from typing import ClassVar, Literal

import cv2
import numba
import numpy as np

from mabrel.field import materials
from mabrel.field.fractal import fractal_noise
from mabrel.field.patterns import checker, dots, grid, stripes
from mabrel.kernels import kernel
from mabrel.steps.kind import StepSettings
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Region
from mabrel.steps.scene import Scene
from mabrel.title import kinds
from mabrel.title.phases import ROUND

_REGULAR = ("stripes", "checker", "dots", "grid")
_FINE_ENOUGH = 6.0  # pixels of the grid across the finest part of a pattern
_COARSEST = 16
_TILE = 256  # pixels: a turned one needs twice its area, whatever the piece's own shape


WIDE = {
    "pattern": {
        "wood": "Grain", "marble": "Veins across", "plaster": "Patches across",
        "stripes": "Stripe", "checker": "Field across", "dots": "Field across",
        "grid": "Field across",
    }
}  # fmt: skip
HIGH = {
    "pattern": {
        "wood": "Grain line", "marble": "Veins down", "plaster": "Patches down",
        "checker": "Field down", "dots": "Field down", "grid": "Field down",
    }
}  # fmt: skip
"""What width and height are called, by what one sees of a pattern."""


class Made(StepSettings):
    """Settings of a made texture."""

    GROUPS: ClassVar[dict[str, tuple[str, ...]]] = {
        "Noise": ("octaves", "grid", "phase", "around", "seed"),
        "Regular": ("duty", "line"),
    }

    pattern: Literal[
        "clouds", "veins", "wood", "marble", "plaster", "stripes", "checker", "dots", "grid"
    ] = kinds.choice("clouds", "Clouds become streaks when one of their sizes is much the larger.")
    width: float = kinds.length(260, 0.5, 8000, "How wide its parts are.", called=WIDE)
    height: float = kinds.length(9, 0.5, 8000, "How high its parts are.", called=HIGH)
    shift: tuple[float, float] = kinds.point((0, 0), "Moves it; where regular patterns begin.")
    duty: float = kinds.fraction(
        0.5, "The share that is light.", when={"pattern": "stripes|checker|dots"}
    )
    line: float = kinds.length(
        3, 0.1, 1000, "How thick the lines of a grid are.", when={"pattern": "grid"}
    )
    turn: float = kinds.angle(0, -360, 360, "Turns it.")
    octaves: int = kinds.count(4, 1, 8, "How many finer layers it has, where it is irregular.")
    grid: Literal["smooth", "blocky"] = kinds.choice(
        "smooth", "Smooth, or in flat cells.", when={"pattern": "clouds|veins"}
    )
    contrast: float = kinds.fraction(1.0, "Further from middle grey, or nearer.", high=8)
    brightness: float = kinds.fraction(0.0, "Lighter or darker.", low=-1)
    phase: float = kinds.number(
        0.0,
        -1000,
        1000,
        "Lets it boil, or shifts what is regular.",
        cycle=1,
        around="around",
    )
    around: int = kinds.count(
        ROUND,
        1,
        ROUND,
        "After so much phase it is the same again; of a title that loops it follows by itself.",
    )
    seed: int = kinds.seed(1, "Another draw of what is irregular.")


def made_texture(piece: Piece, settings: Made, scene: Scene) -> Array:
    """The texture over the piece, (H, W), 0..1; tile by tile, since it follows from the place.

    What is much coarser than the pixels is made on a coarser grid, fixed to the layer's centre.
    """
    size = (max(settings.width * scene.scale, 0.5), max(settings.height * scene.scale, 0.5))
    factor = _coarseness(settings, *size)
    # Moved by whole pixels: between them only what is regular is moved.
    across, down = (axis * scene.scale for axis in settings.shift)
    region = piece.region.moved(-round(across), -round(down))
    rest = (across - round(across), down - round(down))
    if factor == 1:
        tones = _tiled(region, settings, size, 0.0, scene, rest)
    else:
        left, top = region.left // factor - 2, region.top // factor - 2
        right, bottom = -(-region.right // factor) + 2, -(-region.bottom // factor) + 2
        part = Region(left, top, right - left, bottom - top)
        small = (size[0] / factor, size[1] / factor)
        # Patterns count from the corner of a pixel; coarse ones stand for the middle of several.
        coarse = _tiled(part, settings, small, 0.5 - 0.5 / factor, scene)
        wide = (part.width * factor, part.height * factor)
        fine = cv2.resize(coarse, wide, interpolation=cv2.INTER_CUBIC)
        tones = fine[region.within(Region(left * factor, top * factor, *wide))]
    out = np.empty(tones.shape, np.float32)
    lift = 0.5 - 0.5 * settings.contrast + settings.brightness
    _held(tones, np.float32(settings.contrast), np.float32(lift), out)
    return out


@kernel(parallel=True)
def _held(tones, contrast, lift, out):  # type: ignore[no-untyped-def]
    for line in numba.prange(out.shape[0]):
        y = np.int64(line)
        for x in range(out.shape[1]):
            tone = tones[y, x] * contrast + lift
            out[y, x] = min(max(tone, np.float32(0)), np.float32(1))


def finest_part(settings: Made, width: float, height: float) -> float:
    """How wide the finest part of a pattern of that size is; 0 where it has sharp edges."""
    if settings.grid == "blocky" and settings.pattern in ("clouds", "veins"):
        return 0.0
    least = min(width, height)
    parts = {
        "clouds": least / 2 ** (settings.octaves - 1),
        "veins": least / 2 ** (settings.octaves - 1) / 4,  # folded: its ridges are sharp
        "marble": least * 0.55 / 2 ** max(settings.octaves - 1, 2) / 4,
        "plaster": least * 0.35 / 2 ** max(settings.octaves - 4, 2),
    }
    return float(parts.get(settings.pattern, 0.0))


def _coarseness(settings: Made, width: float, height: float) -> int:
    """How many pixels of the picture one pixel of the grid may span: a power of two."""
    factor = finest_part(settings, width, height) / _FINE_ENOUGH
    return min(int(2 ** max(math.floor(math.log2(max(factor, 1.0))), 0)), _COARSEST)


def _tiled(
    region: Region,
    settings: Made,
    size: tuple[float, float],
    shift: float,
    scene: Scene,
    rest: tuple[float, float] = (0.0, 0.0),
) -> Array:
    tones = np.empty((region.height, region.width), np.float32)
    for part in region.tiles(_TILE):
        scene.pause()
        tones[part.within(region)] = _tones(part, settings, *size, shift, scene.scale, rest)
    return tones


def _tones(
    part: Region,
    settings: Made,
    width: float,
    height: float,
    shift: float,
    scale: float,
    rest: tuple[float, float],
) -> Array:
    if settings.pattern in _REGULAR:
        return _regular(part, settings, width, height, scale, rest)
    if settings.turn == 0:
        return _upright(part, settings, width, height, shift)
    return _looked_up(part, settings, width, height, shift)


def _regular(
    part: Region,
    settings: Made,
    width: float,
    height: float,
    scale: float,
    rest: tuple[float, float],
) -> Array:
    across, down = _turned(part, settings, rest)
    along = across + np.float32(settings.phase * width)
    if settings.pattern == "stripes":
        return stripes(along, width, settings.duty)
    if settings.pattern == "checker":
        return checker(along, down, width, height, settings.duty)
    if settings.pattern == "grid":
        return grid(along, down, width, height, settings.line * scale)
    return dots(along, down, width, height, 1.2 * settings.duty)


def _upright(part: Region, settings: Made, width: float, height: float, shift: float) -> Array:
    run: materials.Running = {"phase": settings.phase, "around": settings.around}
    octaves, seed = settings.octaves, settings.seed
    shape, size = (part.height, part.width), (width, height)
    origin = (part.left + shift, part.top + shift)
    material = {
        "wood": materials.wood,
        "marble": materials.marble,
        "plaster": materials.plaster,
    }.get(settings.pattern)
    if material is not None:
        return material(shape, origin, size, octaves=octaves, run=run, seed=seed)
    ridged = settings.pattern == "veins"
    noise = partial(fractal_noise, octaves=octaves, seed=seed, ridged=ridged, **run)
    if settings.grid == "smooth":
        return noise(shape, origin, size)
    # One value for each cell, of noise whose largest blobs are four cells wide.
    left, top = math.floor(part.left / width) - 1, math.floor(part.top / height) - 1
    cells = (math.ceil(part.height / height) + 4, math.ceil(part.width / width) + 4)
    return materials.cells(shape, origin, size, noise(cells, (left, top), (4, 4)), (left, top))


def _turned(
    part: Region, settings: Made, rest: tuple[float, float] = (0.0, 0.0)
) -> tuple[Array, Array]:
    """Pixel centres in the texture's own axes."""
    turn = math.radians(settings.turn)
    cos, sin = np.float32(math.cos(turn)), np.float32(math.sin(turn))
    x = np.arange(part.width, dtype=np.float32) + np.float32(part.left + 0.5 - rest[0])
    y = np.arange(part.height, dtype=np.float32) + np.float32(part.top + 0.5 - rest[1])
    across = (x * cos)[None, :] + (y * sin)[:, None]
    down = (y * cos)[:, None] - (x * sin)[None, :]
    return across, down


def _looked_up(part: Region, settings: Made, width: float, height: float, shift: float) -> Array:
    """Made upright, large enough, and looked up in axes of its own; by quarter turns, as it is."""
    if settings.turn % 90 == 0:
        return _turned_upright(part, settings, width, height, shift)
    across, down = _turned(part, settings)
    left, top = math.floor(across.min()) - 2, math.floor(down.min()) - 2
    around = Region(left, top, math.ceil(across.max()) - left + 3, math.ceil(down.max()) - top + 3)
    upright = _upright(around, settings, width, height, shift)
    place_x, place_y = across - np.float32(left + 0.5), down - np.float32(top + 0.5)
    return np.asarray(cv2.remap(upright, place_x, place_y, cv2.INTER_LINEAR), np.float32)


def _turned_upright(
    part: Region, settings: Made, width: float, height: float, shift: float
) -> Array:
    """By a number of quarter turns: no pixel lies between others."""
    quarters = round(settings.turn / 90) % 4
    left, top, right, bottom = part.left, part.top, part.right, part.bottom
    there = {
        0: part,
        1: Region(top, -right, part.height, part.width),
        2: Region(-right, -bottom, part.width, part.height),
        3: Region(-bottom, left, part.height, part.width),
    }[quarters]
    return np.rot90(_upright(there, settings, width, height, shift), -quarters)
