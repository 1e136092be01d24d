"""Drawn sparkles that find the highlights by themselves."""

import math
from typing import Literal

import numpy as np

from mabrel.kernels import kernel
from mabrel.steps.faces.flattening import flattened, own_part
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.lens_light.added import linear_colour, with_light
from mabrel.steps.lens_light.brightest import brightest_places
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Margin
from mabrel.steps.scene import Scene
from mabrel.title import kinds

_ARMS = {"four": 4, "six": 6, "eight": 8, "round": 0, "ring": -1}


class Sparkles(StepSettings):
    shape: Literal["four", "six", "eight", "round", "ring"] = kinds.choice(
        "four", "Stars with four, six or eight arms, soft dots or rings."
    )
    count: int = kinds.count(9, 1, 400, "How many there are at most.")
    size: float = kinds.length(46, 1, 2000, "How large they are, from the middle to a tip.")
    uneven: float = kinds.fraction(0.6, "How much smaller some are.")
    turn: float = kinds.angle(0, -360, 360, "Turns them.")
    threshold: float = kinds.fraction(0.7, "How bright a place must be.")
    strength: float = kinds.fraction(1.0, "How bright they are.", high=8)
    contrast: float = kinds.fraction(
        0.5, "How much what lies around one is dimmed, so that it is seen on bright metal too."
    )
    colour: kinds.Colour = kinds.colour("#ffffff", "Their colour.")
    seed: int = kinds.seed(1, "Other highlights.")


def _margin(settings: Sparkles, scene: Scene) -> Margin:
    if scene.fills_frame:  # over the whole frame, it needs to know nothing beside it
        return Margin()
    room = math.ceil(settings.size * scene.scale) + 2
    return Margin(room, room, room, room)


@step(
    "lens.sparkles",
    "Sparkles",
    words="stars, twinkle, glitter, diamond, highlights, magic",
    reads=("matte", "face", "behind", "front"),
    writes=("front",),
    asks=lambda settings, scene: scene.overview() if scene.fills_frame else None,
    margin=_margin,
)
def sparkles(piece: Piece, settings: Sparkles, scene: Scene) -> Piece:
    """Set drawn stars on the brightest highlights."""
    size = settings.size * scene.scale
    seen = scene.overview() if scene.fills_frame else own_part(piece)
    places = brightest_places(
        *seen,
        settings.count,
        apart=size * 0.7,
        threshold=settings.threshold,
        seed=settings.seed,
    )
    if not len(places):
        return piece
    smaller = np.random.default_rng(settings.seed).random(len(places)) * settings.uneven
    sizes = size * (1 - 0.85 * smaller)
    light = np.zeros((*piece.matte.shape, 3), np.float32)
    dim = np.zeros(piece.matte.shape, np.float32)
    turn, colour = math.radians(settings.turn), linear_colour(settings.colour)
    for (x, y, _), each in zip(places, sizes, strict=True):
        place = (x - piece.region.left - 0.5, y - piece.region.top - 0.5)
        _draw(light, *place, each, turn, _ARMS[settings.shape], colour * settings.strength)
        _dim(dim, *place, each, settings.contrast)
    dimmed = piece if settings.contrast == 0 else _dimmed(piece, dim)
    return with_light(dimmed, flattened(dimmed), light)


def _dimmed(piece: Piece, dim: Array) -> Piece:
    """Dark over what is there, as far as it covers anything."""
    dark = np.zeros((*dim.shape, 4), np.float32)
    dark[..., 3] = dim * np.clip(flattened(piece)[..., 3], 0, 1)
    return piece.in_front(dark)


@kernel()
def _dim(dim, x, y, size, most):  # type: ignore[no-untyped-def]
    """Dark around one sparkle: nearly `most` beside its core, nothing at its tips."""
    rows, columns = dim.shape
    for row in range(max(int(y - size), 0), min(int(y + size) + 2, rows)):
        for column in range(max(int(x - size), 0), min(int(x + size) + 2, columns)):
            share = math.sqrt((column - x) ** 2 + (row - y) ** 2) / size
            if share < 1:
                fall = (1 - share * share) ** 2
                dim[row, column] = max(dim[row, column], most * fall)


@kernel()
def _draw(light, x, y, size, turn, arms, colour):  # type: ignore[no-untyped-def]
    """Add one sparkle: a core and thin arms that taper to nothing at `size`."""
    rows, columns = light.shape[:2]
    core = max(size * 0.07, 0.45)
    for row in range(max(int(y - size), 0), min(int(y + size) + 2, rows)):
        for column in range(max(int(x - size), 0), min(int(x + size) + 2, columns)):
            dx, dy = column - x, row - y
            away = math.sqrt(dx * dx + dy * dy)
            if away > size:
                continue
            share = away / size
            fall = (1 - share) ** 2
            if arms < 0:
                value = math.exp(-(((share - 0.6) / 0.07) ** 2)) * 0.8
            else:
                value = math.exp(-((away / core) ** 2)) + 0.12 * fall * fall
            if arms > 0:
                step = 2 * math.pi / arms
                angle = math.atan2(dy, dx) - turn
                off = angle - round(angle / step) * step
                width = max(size * 0.028 * (1 - share), 0.5)
                beside = away * math.sin(min(abs(off), math.pi / 2))
                value += fall * math.exp(-((beside / width) ** 2))
            elif arms == 0:
                value += 0.5 * fall * fall
            for c in range(3):
                light[row, column, c] += value * colour[c]
