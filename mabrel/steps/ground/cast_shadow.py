"""A shadow that falls on the floor, on a wall, or streaks away."""

import math
from typing import ClassVar, Literal

import numpy as np

from mabrel.colour import rgb_and_alpha
from mabrel.field import blur_margin, gaussian_blur
from mabrel.field.coarse import coarseness
from mabrel.field.varying_blur import varying_blur
from mabrel.light import Light
from mabrel.steps.extent import Bound, Extent, reach_of
from mabrel.steps.faces.painting import beneath, darkened
from mabrel.steps.ground.falling import Fall, fall_on
from mabrel.steps.ground.thrower import thrower
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.outlines.offsets import clipped
from mabrel.steps.outlines.streaks import Softness, Streak, streak_of
from mabrel.steps.piece import Array, Piece
from mabrel.steps.planes.projections import (
    Plane,
    along,
    floor_level,
    floor_plane,
    own_light,
    shown,
    source_of,
    wall_plane,
)
from mabrel.steps.region import Margin
from mabrel.steps.scene import Scene
from mabrel.title import kinds

_LONGEST = 4.0  # a light near the horizon would throw the shadow out of sight
_BETWEEN = 0.8  # σ, as a share of what is between them, by which they run into one another


class CastShadow(StepSettings):
    GROUPS: ClassVar[dict[str, tuple[str, ...]]] = {
        "Softness": ("blur", "softer", "fade", "reach"),
    }

    onto: Literal["floor", "wall", "streak"] = kinds.choice(
        "streak",
        "On the floor that the letters stand on, on a wall behind them, or as a streak in the "
        "picture plane.",
    )
    light: Literal["key", "one", "own", "point"] = kinds.choice(
        "key",
        "Falls away from the key light, another light of the title, in a direction of its own, or "
        "from a point.",
    )
    which: kinds.Reference = kinds.light_reference(
        "Which light; none is the key light.", when={"light": "one"}
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
    if settings.light == "one":
        return scene.light(settings.which)
    if settings.light == "point":
        x, y = settings.point
        return Light(place=(x * scene.scale, y * scene.scale, settings.nearer * scene.scale))
    if settings.onto == "floor":
        return own_light(scene, settings.bearing, settings.length)
    return Light(settings.angle + 180, math.degrees(math.atan2(1, settings.length)))


def _plane(extent: Extent, settings: CastShadow, scene: Scene) -> Plane | None:
    if settings.onto == "wall":
        return wall_plane(scene, settings.gap * scene.scale)
    level = floor_level(extent, scene)
    return None if level is None else floor_plane(scene, level)


def _asks(settings: CastShadow, scene: Scene) -> object:
    if settings.onto == "streak":
        return _streak(settings, scene)
    stands = scene.turn if settings.onto == "wall" else scene.down
    return _light(settings, scene), stands, scene.seen, scene.frame


def _streak(settings: CastShadow, scene: Scene) -> Streak:
    reach = settings.reach * scene.scale
    if settings.light == "point":
        x, y = settings.point
        return Streak((x * scene.scale, y * scene.scale), reach, True)
    key = _light(settings, scene) if settings.light in ("key", "one") else None
    if key is not None and key.place is not None:
        return Streak(key.place[:2], reach, True)
    if key is None:
        turn = math.radians(settings.angle)
        return Streak((math.cos(turn), math.sin(turn)), reach)
    x, y, z = key.direction
    flat = math.hypot(x, y)
    if flat < 1e-6:
        return Streak((0.0, 1.0), 0.0)
    return Streak((-x / flat, -y / flat), reach * min(flat / max(z, 1e-6), _LONGEST))


def _after(bound: Bound, room: Margin, settings: CastShadow, scene: Scene) -> Bound:
    fall = None if settings.onto == "streak" else _fall(bound, settings, scene)
    return bound.grown(room) if fall is None else bound.casting(fall.target)


def _room(extent: Extent, settings: CastShadow, scene: Scene) -> Margin:
    if settings.onto != "streak":  # what falls on floor and wall needs no room on the card
        return Margin()
    streak = _streak(settings, scene)
    (x, y), reach, _ = streak
    spare = blur_margin(settings.blur * scene.scale + settings.softer * reach * 0.3) + 2
    if streak.from_place:
        return _from_place(extent, streak, spare)
    ways = (max(-x, 0), max(-y, 0), max(x, 0), max(y, 0))
    return Margin(*(spare + math.ceil(way * reach) for way in ways))


def _from_place(extent: Extent, streak: Streak, spare: int) -> Margin:
    """All that its copies reach, which grow away from the place."""
    (x, y), region = streak.way, extent.region
    grow = streak.grow(extent.box)
    sides = ((region.left, x, -1), (region.top, y, -1), (region.right, x, 1), (region.bottom, y, 1))
    beyond = (max((side - place) * sign * grow, 0.0) for side, place, sign in sides)
    return Margin(*(spare + math.ceil(each) for each in beyond))


@step(
    "ground.cast_shadow",
    "Cast shadow",
    words="shadow, floor, wall, long shadow, perspective, streak, stand",
    reads=("matte", "behind"),
    writes=("behind", "cast"),
    asks=_asks,
    room=_room,
    after=_after,
)
def cast_shadow(piece: Piece, settings: CastShadow, scene: Scene) -> Piece:
    """Let the letters throw their shadow on the floor, on a wall, or as a streak."""
    colour, alpha = rgb_and_alpha(settings.colour)
    strength = np.float32(settings.opacity * alpha)
    if settings.onto == "streak":
        streak = _streak(settings, scene)
        if streak.reach < 0.01:
            return piece
        scale = scene.scale
        soft = Softness(settings.blur * scale, settings.softer * 0.3 * streak.reach, settings.fade)
        dark = clipped(streak_of(piece, streak, soft, scene.pause))
        return beneath(piece, colour, dark * strength)
    fall = _fall(piece, settings, scene)
    if fall is None:
        return piece
    dark = _dark(piece, fall, settings, scene)
    return darkened(piece, colour, dark * strength, fall.target)


def _fall(extent: Extent, settings: CastShadow, scene: Scene) -> Fall | None:
    plane, light = _plane(extent, settings, scene), _light(settings, scene)

    def softest(highest: float) -> float:
        return _softest(settings, highest, scene)

    return fall_on(plane, light, extent, softest, scene)


def _dark(piece: Piece, fall: Fall, settings: CastShadow, scene: Scene) -> Array:
    """Coverage (H, W) of the shadow; that of a body follows from its outline and is kept while that
    stays."""

    def made() -> Array:
        return clipped(_fallen(piece, fall, settings, scene))

    reach = reach_of(piece)
    if reach is None:
        return made()
    plane, matrices = fall.plane, (fall.matrix, *fall.slices)
    key = (
        settings, scene.scale, reach, fall.light, plane.level, plane.normal.tobytes(),
        fall.highest, fall.source, fall.target, *(each.tobytes() for each in matrices),
    )  # fmt: skip
    return piece.remembered("cast shadow", key, made)


def _fallen(piece: Piece, fall: Fall, settings: CastShadow, scene: Scene) -> Array:
    """Coverage (H, W) of the shadow in its part of the picture: softened and faded on the card by
    how far each place is from the plane, then projected.

    Soft shadows are made on a coarser grid, on which they still are soft.
    """
    least = (
        settings.blur * scene.scale if settings.onto == "floor" else _softest(settings, 0, scene)
    )
    factor = coarseness(least)
    shape, region = thrower(piece, fall, factor, scene.pause)
    matrix = fall.matrix @ np.diag([factor, factor, 1.0])
    spare = math.ceil(fall.spare / factor)
    part = source_of(matrix, region.grown(Margin(spare, spare, spare, spare)), fall.target, spare)
    thrown = np.zeros((part.height, part.width), np.float32)
    common = part.common(region)
    thrown[common.within(part)] = shape[common.within(region)]
    if settings.onto == "floor":
        level = fall.plane.level - float(fall.plane.normal[:2] @ fall.shift)
        away = np.clip(level - along(part, fall.plane.normal * factor), 0, fall.highest)
        thrown *= 1 - np.float32(settings.fade / fall.highest) * away
        soft = np.float32(least) + np.float32(settings.softer * 0.3) * away
    else:
        soft = np.full_like(thrown, least)
    scene.pause()
    blurred = varying_blur(thrown, np.asarray(soft / np.float32(factor), np.float32), scene.pause)
    seen = shown(blurred, matrix, part, fall.target)
    for behind in fall.slices:
        scene.pause()
        coarse = behind @ np.diag([factor, factor, 1.0])
        np.maximum(seen, shown(blurred, coarse, part, fall.target), out=seen)
    if fall.slices:  # each may be thinner than a pixel, and all of them fill what lies between
        seen = gaussian_blur(seen, max(_BETWEEN * fall.gap, 1.0))
        darkest, thinnest = float(blurred.max()), float(seen.max())
        seen *= np.float32(darkest / max(thinnest, 0.02 * darkest, 1e-6))
    return seen


def _softest(settings: CastShadow, highest: float, scene: Scene) -> float:
    """The σ of the shadow where it is softest, in render pixels."""
    if settings.onto == "wall":
        return (settings.blur + settings.softer * settings.gap) * scene.scale
    return settings.blur * scene.scale + settings.softer * 0.3 * highest
