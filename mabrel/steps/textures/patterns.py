"""Made textures: what surface and relief steps share."""

import math
from typing import Literal

import cv2
import numpy as np

from mabrel.field import materials
from mabrel.field.fractal import fractal_noise
from mabrel.field.patterns import checker, dots, stripes
from mabrel.steps.kind import Scene, StepSettings
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Region
from mabrel.title import kinds

_REGULAR = ("stripes", "checker", "dots")
_TILE = 512  # pixels: a turned one needs twice its area, whatever the piece's own shape


class Made(StepSettings):
    """Settings of a made texture."""

    pattern: Literal[
        "clouds", "veins", "wood", "marble", "plaster", "stripes", "checker", "dots"
    ] = kinds.choice("clouds", "Clouds become streaks when one of their sizes is much the larger.")
    width: float = kinds.length(260, 0.5, 8000, "How wide its parts are.")
    height: float = kinds.length(9, 0.5, 8000, "How high its parts are.")
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
        "Lets it boil, or shifts what is regular. After 64 it is the same again: seamless.",
    )
    seed: int = kinds.seed(1, "Another draw of what is irregular.")


def made_texture(piece: Piece, settings: Made, scene: Scene) -> Array:
    """The texture over the piece, (H, W), 0..1; tile by tile, since it follows from the place."""
    size = (max(settings.width * scene.scale, 0.5), max(settings.height * scene.scale, 0.5))
    tones = np.empty(piece.matte.shape, np.float32)
    for part in piece.region.tiles(_TILE):
        scene.pause()
        tones[part.within(piece.region)] = _tones(part, settings, *size)
    tones = (tones - 0.5) * settings.contrast + 0.5 + settings.brightness
    return np.asarray(np.clip(tones, 0, 1), np.float32)


def _tones(part: Region, settings: Made, width: float, height: float) -> Array:
    if settings.pattern in _REGULAR:
        return _regular(part, settings, width, height)
    if settings.turn == 0:
        return _upright(part, settings, width, height)
    return _looked_up(part, settings, width, height)


def _regular(part: Region, settings: Made, width: float, height: float) -> Array:
    across, down = _turned(part, settings)
    along = across + np.float32(settings.phase * width)
    if settings.pattern == "stripes":
        return stripes(along, width)
    if settings.pattern == "checker":
        return checker(along, down, width, height)
    return dots(along, down, width, height, 0.6)


def _upright(part: Region, settings: Made, width: float, height: float) -> Array:
    how = {"octaves": settings.octaves, "phase": settings.phase, "seed": settings.seed}
    shape, origin, size = (part.height, part.width), (part.left, part.top), (width, height)
    material = {
        "wood": materials.wood,
        "marble": materials.marble,
        "plaster": materials.plaster,
    }.get(settings.pattern)
    if material is not None:
        return material(shape, origin, size, **how)  # type: ignore[arg-type]
    ridged = settings.pattern == "veins"
    if settings.grid == "smooth":
        return fractal_noise(shape, origin, size, ridged=ridged, **how)  # type: ignore[arg-type]
    # One value for each cell, of noise whose largest blobs are four cells wide.
    left, top = math.floor(part.left / width) - 1, math.floor(part.top / height) - 1
    cells = (math.ceil(part.height / height) + 4, math.ceil(part.width / width) + 4)
    noise = fractal_noise(cells, (left, top), (4, 4), ridged=ridged, **how)  # type: ignore[arg-type]
    return materials.cells(shape, origin, size, noise, (left, top))


def _turned(part: Region, settings: Made) -> tuple[Array, Array]:
    """Pixel centres in the texture's own axes."""
    turn = math.radians(settings.turn)
    x = np.arange(part.width, dtype=np.float32) + (part.left + 0.5)
    y = np.arange(part.height, dtype=np.float32) + (part.top + 0.5)
    across = x[None, :] * math.cos(turn) + y[:, None] * math.sin(turn)
    down = y[:, None] * math.cos(turn) - x[None, :] * math.sin(turn)
    return across.astype(np.float32), down.astype(np.float32)


def _looked_up(part: Region, settings: Made, width: float, height: float) -> Array:
    """Made upright, large enough, and looked up in axes of its own."""
    across, down = _turned(part, settings)
    left, top = math.floor(across.min()) - 2, math.floor(down.min()) - 2
    around = Region(left, top, math.ceil(across.max()) - left + 3, math.ceil(down.max()) - top + 3)
    upright = _upright(around, settings, width, height)
    place_x, place_y = across - np.float32(left + 0.5), down - np.float32(top + 0.5)
    return np.asarray(cv2.remap(upright, place_x, place_y, cv2.INTER_LINEAR), np.float32)
