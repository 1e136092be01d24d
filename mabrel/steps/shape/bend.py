"""Lettering on an arc, swollen, waved or twisted."""

import math
from typing import Literal

import numpy as np

from mabrel.steps.extent import Bound, Extent
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.outlines.warping import WRITES, Map, bound_of, room_for, warped
from mabrel.steps.piece import Piece
from mabrel.steps.region import Margin
from mabrel.steps.scene import Scene
from mabrel.title import kinds

_Box = tuple[float, float, float, float]


class Bend(StepSettings):
    form: Literal["arc", "swell", "wave", "twist"] = kinds.choice(
        "arc", "Along a part of a circle, thicker in the middle, in waves, or turned like a rope."
    )
    amount: float = kinds.angle(
        50,
        -340,
        340,
        "The part of a circle; below 0 it bends down.",
        when={"form": "arc"},
        grip="pull",
    )
    swell: float = kinds.fraction(
        0.35, "How much higher the middle is than the ends.", low=-0.95, high=3,
        when={"form": "swell"}, grip="pull",
    )  # fmt: skip
    height: float = kinds.length(
        26, -2000, 2000, "How high the waves are.", when={"form": "wave"}, grip="pull"
    )
    length: float = kinds.length(420, 10, 8000, "How long a wave is.", when={"form": "wave"})
    phase: float = kinds.angle(
        0, -36000, 36000, "Lets the waves run.", when={"form": "wave"}, cycle=360
    )
    twist: float = kinds.angle(
        38,
        -80,
        80,
        "How far the ends are turned against each other.",
        when={"form": "twist"},
        grip="pull",
    )


def _room(piece: Extent, settings: Bend, scene: Scene) -> Margin:
    return room_for(piece.box, _maps(piece.box, settings, scene)[0])


def _after(bound: Bound, room: Margin, settings: Bend, scene: Scene) -> Bound:
    return bound_of(bound, room, _maps(bound.box, settings, scene)[0])


@step(
    "shape.bend",
    "Bend",
    words="arc, arch, curve, wave, bulge, twist, flag, warp",
    reads=("matte", "face"),
    writes=WRITES,
    room=_room,
    after=_after,
)
def bend(piece: Piece, settings: Bend, scene: Scene) -> Piece:
    """Set the lettering on an arc, let it swell, run it in waves or twist it."""
    forward, inverse = _maps(piece.box, settings, scene)
    return warped(piece, forward, inverse)


def _maps(box: _Box, settings: Bend, scene: Scene) -> tuple[Map, Map]:
    if settings.form == "swell":
        return _swell(box, settings.swell)
    if settings.form == "wave":
        return _wave(settings, scene)
    if settings.form == "twist":
        return _twist(box, settings.twist)
    return _arc(box, settings.amount)


def _arc(box: _Box, amount: float) -> tuple[Map, Map]:
    """Lengths along the middle line stay; the centre of the circle lies below for `amount` > 0."""
    left, top, right, bottom = box
    angle = math.radians(amount)
    width, middle, across = max(right - left, 1.0), (left + right) / 2, (top + bottom) / 2
    if abs(angle) < 1e-3:
        return _still, _still
    radius = width / angle
    sign = math.copysign(1.0, radius)

    def forward(x: np.ndarray, y: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        turn = (x - middle) / radius
        out = np.maximum((radius - (y - across)) * sign, 0) * sign
        return middle + out * np.sin(turn), across + radius - out * np.cos(turn)

    def inverse(x: np.ndarray, y: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        dx, dy = (x - middle) * sign, (across + radius - y) * sign
        turn = np.arctan2(dx, dy)
        out = np.hypot(dx, dy) * sign
        return middle + turn * radius, across + radius - out

    return forward, inverse


def _swell(box: _Box, amount: float) -> tuple[Map, Map]:
    left, top, right, bottom = box
    middle, across = (left + right) / 2, (top + bottom) / 2
    half = max((right - left) / 2, 0.5)

    def larger(x: np.ndarray) -> np.ndarray:
        share = np.clip((x - middle) / half, -1, 1)
        return np.asarray(1 + amount * np.cos(share * (math.pi / 2)) ** 2)

    return (
        lambda x, y: (x, across + (y - across) * larger(x)),
        lambda x, y: (x, across + (y - across) / larger(x)),
    )


def _wave(settings: Bend, scene: Scene) -> tuple[Map, Map]:
    height = settings.height * scene.scale
    length = max(settings.length * scene.scale, 0.1)
    phase = math.radians(settings.phase)

    def shift(x: np.ndarray) -> np.ndarray:
        return np.asarray(height * np.sin(x * (2 * math.pi / length) + phase))

    return lambda x, y: (x, y + shift(x)), lambda x, y: (x, y - shift(x))


def _twist(box: _Box, amount: float) -> tuple[Map, Map]:
    """Each end is seen turned about the middle line, nearer at its top or at its bottom."""
    left, top, right, bottom = box
    middle, across = (left + right) / 2, (top + bottom) / 2
    half = max((right - left) / 2, 0.5)
    far = max(bottom - top, 1.0) * 1.15

    def parts(x: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        turn = np.radians(amount) * np.clip((x - middle) / half, -1.5, 1.5)
        turn = np.clip(turn, -1.5, 1.5)
        return np.cos(turn), np.sin(turn) / far

    def forward(x: np.ndarray, y: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        cos, sin = parts(x)
        off = y - across
        return x, across + off * cos / np.maximum(1 - off * sin, 0.05)

    def inverse(x: np.ndarray, y: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        cos, sin = parts(x)
        off = y - across
        return x, across + off / np.maximum(cos + off * sin, 0.02)

    return forward, inverse


def _still(x: np.ndarray, y: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    return x, y
