"""A shadow that falls on the floor, on a wall, or streaks away."""

import math
from typing import Literal

import numpy as np

from mabrel.colour import rgb_and_alpha
from mabrel.field import blur_margin, signed_distance
from mabrel.field.extrusion import extrude
from mabrel.field.varying_blur import varying_blur
from mabrel.light import Light
from mabrel.steps.contact import lowest
from mabrel.steps.kind import Scene, StepSettings, step
from mabrel.steps.onto import (
    Matrix,
    Plane,
    Vector,
    floor_plane,
    laid_out,
    own_light,
    reach_of,
    shadow_on,
    wall_plane,
)
from mabrel.steps.painting import beneath
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Margin, Region
from mabrel.title import kinds

_LONGEST = 4.0  # a light near the horizon would throw the shadow out of sight
_STEEPEST = 0.2  # sine of a light's height over the card below which its body adds no more


class CastShadow(StepSettings):
    onto: Literal["floor", "wall", "streak"] = kinds.choice(
        "streak",
        "On the floor that the letters stand on, on a wall behind them, or as a streak in the "
        "picture plane.",
    )
    light: Literal["key", "own", "point"] = kinds.choice(
        "key", "Falls away from the key light, in a direction of its own, or from a point."
    )
    angle: float = kinds.angle(
        35,
        -360,
        360,
        "Direction in which it falls.",
        when={"light": "own", "onto": "wall|streak"},
        direction="away from the light",
        grip="turn",
    )
    bearing: float = kinds.angle(
        60,
        -360,
        360,
        "Direction in which it falls on the floor: 0° to the right, 90° towards the viewer.",
        when={"light": "own", "onto": "floor"},
        direction="away from the light on the floor",
        grip="turn",
    )
    length: float = kinds.fraction(
        1.2,
        "Its length for each pixel of height, or of its distance from the wall.",
        high=8,
        when={"light": "own", "onto": "floor|wall"},
        grip="reach",
    )
    point: tuple[float, float] = kinds.point(
        (0, -700), "Where its light stands, from the lettering's centre.", when={"light": "point"}
    )
    nearer: float = kinds.length(
        200,
        -4000,
        4000,
        "How far before the lettering that point is.",
        when={"light": "point", "onto": "floor|wall"},
    )
    gap: float = kinds.length(
        80, 0, 4000, "How far behind the letters the wall is.", when={"onto": "wall"}
    )
    reach: float = kinds.length(
        240, 0, 4000, "How long the streak is.", when={"onto": "streak"}, grip="tip"
    )
    blur: float = kinds.length(3, 0, 400, "How soft it is where it begins.")
    softer: float = kinds.fraction(0.1, "How much softer it grows with the distance.")
    fade: float = kinds.fraction(0.75, "How far it has faded at its far end.")
    colour: kinds.Colour = kinds.colour("#05070a", "Its colour.")
    opacity: float = kinds.fraction(0.6, "How dark it is.")


def _light(settings: CastShadow, scene: Scene) -> Light | None:
    if settings.light == "key":
        return scene.key
    if settings.light == "point":
        x, y = settings.point
        return Light(place=(x * scene.scale, y * scene.scale, settings.nearer * scene.scale))
    if settings.onto == "floor":
        return own_light(scene, settings.bearing, settings.length)
    return Light(settings.angle + 180, math.degrees(math.atan2(1, settings.length)))


def _plane(piece: Piece, settings: CastShadow, scene: Scene) -> Plane | None:
    if settings.onto == "wall":
        return wall_plane(scene, settings.gap * scene.scale)
    level = floor_level(piece, scene)
    return None if level is None else floor_plane(scene, level)


def floor_level(piece: Piece, scene: Scene) -> float | None:
    """Where the lowest ink of face, sides and body meets the floor."""
    reach = lowest(piece.solid, piece.region, scene.down)
    return None if reach is None else reach + max(-scene.down[2], 0) * piece.depth


def _matrix(piece: Piece, settings: CastShadow, scene: Scene) -> Matrix | None:
    light, plane = _light(settings, scene), _plane(piece, settings, scene)
    return None if light is None or plane is None else shadow_on(plane, light, scene)


def _streak(settings: CastShadow, scene: Scene) -> tuple[tuple[float, float], float, bool]:
    """Where the streak runs (a direction, or away from a place in render pixels), how far, and
    whether that is a place."""
    reach = settings.reach * scene.scale
    if settings.light == "point":
        x, y = settings.point
        return (x * scene.scale, y * scene.scale), reach, True
    if settings.light == "own" or scene.key is None:
        turn = math.radians(settings.angle)
        return (math.cos(turn), math.sin(turn)), reach, False
    x, y, z = scene.key.direction
    flat = math.hypot(x, y)
    if flat < 1e-6:
        return (0.0, 1.0), 0.0, False
    return (-x / flat, -y / flat), reach * min(flat / max(z, 1e-6), _LONGEST), False


def _softest(settings: CastShadow, reach: float, scene: Scene) -> float:
    return settings.blur * scene.scale + settings.softer * reach * 0.3


def _room(piece: Piece, settings: CastShadow, scene: Scene) -> Margin:
    left, top, right, bottom = piece.box
    tall = math.hypot(right - left, bottom - top)
    spare = blur_margin(_softest(settings, tall, scene)) + 2
    if settings.onto == "streak":
        _way, reach, _ = _streak(settings, scene)
        spare = blur_margin(_softest(settings, reach, scene)) + math.ceil(reach) + 2
        return Margin(spare, spare, spare, spare)
    matrix = _matrix(piece, settings, scene)
    if matrix is None:
        return Margin()
    source = piece.region.grown(Margin(spare, spare, spare, spare))
    return reach_of(matrix, source, piece.region)


@step(
    "ground.cast_shadow",
    "Cast shadow",
    words="shadow, floor, wall, long shadow, perspective, streak, stand",
    reads=("matte", "behind"),
    writes=("behind",),
    lit=True,
    viewed=True,
    room=_room,
)
def cast_shadow(piece: Piece, settings: CastShadow, scene: Scene) -> Piece:
    """Let the letters throw their shadow on the floor, on a wall, or as a streak."""
    dark = (
        _streaked(piece, settings, scene)
        if settings.onto == "streak"
        else _fallen(piece, settings, scene)
    )
    if dark is None:
        return piece
    colour, alpha = rgb_and_alpha(settings.colour)
    return beneath(piece, colour, np.clip(dark, 0, 1) * np.float32(settings.opacity * alpha))


def _fallen(piece: Piece, settings: CastShadow, scene: Scene) -> Array | None:
    """Coverage (H, W) of the shadow on a plane: softened and faded on the card by how far each
    place is from the plane, then laid out in one resampling."""
    matrix, plane = _matrix(piece, settings, scene), _plane(piece, settings, scene)
    light = _light(settings, scene)
    if matrix is None or plane is None or light is None:
        return None
    shape = _thrower(piece, light, scene)
    away = plane.level - _along(piece.region, plane.normal)
    highest = max(float(away[shape > 0.1].max(initial=0)), 1.0)
    if settings.onto == "wall":
        softness = settings.softer * settings.gap * scene.scale
        soft = np.full_like(shape, settings.blur * scene.scale + softness)
        faded = shape
    else:
        share = np.clip(away / np.float32(highest), 0, 1)
        softer = np.float32(settings.softer * 0.3)
        soft = np.float32(settings.blur * scene.scale) + softer * np.clip(away, 0, highest)
        faded = shape * (1 - np.float32(settings.fade) * share)
    scene.pause()
    # The blur needs room on the card, whatever part of the floor or wall is seen.
    spare = blur_margin(float(soft.max()))
    wide, spread = np.pad(faded, spare), np.pad(soft, spare, mode="edge")
    blurred = varying_blur(wide, spread, scene.pause)
    source = piece.region.grown(Margin(spare, spare, spare, spare))
    return laid_out(blurred, matrix, source, piece.region)


def _along(region: Region, normal: Vector) -> Array:
    """(H, W): normal · P for each pixel of the card."""
    x = np.arange(region.width, dtype=np.float32) + (region.left + 0.5)
    y = np.arange(region.height, dtype=np.float32) + (region.top + 0.5)
    return np.asarray(x[None, :] * normal[0] + y[:, None] * normal[1], np.float32)


def _thrower(piece: Piece, light: Light, scene: Scene) -> Array:
    """What throws the shadow, as one outline on the card: a body that reaches back behind it is
    pushed along the light onto the card."""
    x, y, z = light.direction
    flat = math.hypot(x, y)
    if piece.depth <= 0 or abs(z) < _STEEPEST or flat < 1e-3:
        return piece.solid if piece.depth <= 0 else piece.matte
    sign = math.copysign(1.0, z)
    found = extrude(
        piece.distance,
        towards=(sign * x / flat, sign * y / flat),
        length=piece.depth * flat / abs(z),
        pause=scene.pause,
    )
    return found.coverage


def _streaked(piece: Piece, settings: CastShadow, scene: Scene) -> Array | None:
    (x, y), reach, from_point = _streak(settings, scene)
    if reach < 0.01:
        return None
    shape = piece.solid
    distance = piece.distance if shape is piece.matte else signed_distance(shape)
    if from_point:
        left, top, right, bottom = piece.box
        away = max(math.hypot((left + right) / 2 - x, (top + bottom) / 2 - y), 1.0)
        place = (x - piece.region.left - 0.5, y - piece.region.top - 0.5)
        sides = extrude(distance, towards=place, shrink=-reach / away, pause=scene.pause)
    else:
        sides = extrude(distance, towards=(x, y), length=reach, pause=scene.pause)
    share = np.asarray(np.where(shape > 0.5, 0, sides.depth), np.float32)
    soft = settings.blur * scene.scale + np.float32(settings.softer * 0.3 * reach) * share
    faded = sides.coverage * (1 - np.float32(settings.fade) * share)
    return varying_blur(np.asarray(faded, np.float32), np.asarray(soft, np.float32))
