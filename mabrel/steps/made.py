"""Made textures: what surface and relief steps share."""

import math
from typing import Literal

import cv2
import numpy as np

from mabrel.field.fractal import fractal_noise
from mabrel.field.patterns import checker, dots, stripes
from mabrel.steps.kind import Scene, StepSettings
from mabrel.steps.piece import Array, Piece
from mabrel.title import kinds


class Made(StepSettings):
    """Settings of a made texture."""

    pattern: Literal["clouds", "veins", "stripes", "checker", "dots"] = kinds.choice(
        "clouds", "Clouds become streaks when one of their sizes is much the larger."
    )
    width: float = kinds.length(260, 0.5, 8000, "How wide its parts are.")
    height: float = kinds.length(9, 0.5, 8000, "How high its parts are.")
    turn: float = kinds.angle(0, -360, 360, "Turns it.")
    octaves: int = kinds.count(4, 1, 8, "How many finer layers clouds and veins have.")
    contrast: float = kinds.fraction(1.0, "Further from middle grey, or nearer.", high=8)
    brightness: float = kinds.fraction(0.0, "Lighter or darker.", low=-1)
    phase: float = kinds.number(0.0, -1000, 1000, "Lets clouds and veins boil; shifts the others.")
    seed: int = kinds.seed(1, "Another draw of clouds and veins.")


def made_texture(piece: Piece, settings: Made, scene: Scene) -> Array:
    """The texture over the piece, (H, W), 0..1."""
    width, height = (max(s * scene.scale, 0.5) for s in (settings.width, settings.height))
    if settings.pattern in ("clouds", "veins") and settings.turn == 0:
        tones = _noise(piece, settings, width, height)
    else:
        tones = _turned(piece, settings, width, height)
    tones = (tones - 0.5) * settings.contrast + 0.5 + settings.brightness
    return np.asarray(np.clip(tones, 0, 1), np.float32)


def _noise(piece: Piece, settings: Made, width: float, height: float) -> Array:
    return fractal_noise(
        piece.matte.shape,
        (piece.region.left, piece.region.top),
        (width, height),
        octaves=settings.octaves,
        phase=settings.phase,
        seed=settings.seed,
        ridged=settings.pattern == "veins",
    )


def _turned(piece: Piece, settings: Made, width: float, height: float) -> Array:
    """In axes of its own: noise is made upright, large enough, and looked up."""
    turn = math.radians(settings.turn)
    x = np.arange(piece.region.width, dtype=np.float32) + (piece.region.left + 0.5)
    y = np.arange(piece.region.height, dtype=np.float32) + (piece.region.top + 0.5)
    across = x[None, :] * math.cos(turn) + y[:, None] * math.sin(turn)
    down = y[:, None] * math.cos(turn) - x[None, :] * math.sin(turn)
    if settings.pattern == "stripes":
        return stripes(across + np.float32(settings.phase * width), width)
    if settings.pattern == "checker":
        return checker(across + np.float32(settings.phase * width), down, width, height)
    if settings.pattern == "dots":
        return dots(across + np.float32(settings.phase * width), down, width, height, 0.6)
    return _looked_up(settings, width, height, across, down)


def _looked_up(settings: Made, width: float, height: float, across: Array, down: Array) -> Array:
    left, top = math.floor(across.min()) - 2, math.floor(down.min()) - 2
    shape = (math.ceil(down.max()) - top + 3, math.ceil(across.max()) - left + 3)
    upright = fractal_noise(
        shape,
        (left, top),
        (width, height),
        octaves=settings.octaves,
        phase=settings.phase,
        seed=settings.seed,
        ridged=settings.pattern == "veins",
    )
    place_x, place_y = (across - left).astype(np.float32), (down - top).astype(np.float32)
    return np.asarray(cv2.remap(upright, place_x, place_y, cv2.INTER_LINEAR), np.float32)
