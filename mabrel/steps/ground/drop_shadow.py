"""A soft shadow on what lies behind."""

import math
from typing import Literal

import numpy as np
import shapely.affinity

from mabrel.colour import rgb_and_alpha
from mabrel.field import blur_margin, gaussian_blur, signed_distance
from mabrel.field.shift import shifted
from mabrel.steps.faces.painting import beneath, light_beneath
from mabrel.steps.kind import MakesParts, StepSettings, step
from mabrel.steps.parts.solid import Shape, Solid
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Margin
from mabrel.steps.scene import Scene
from mabrel.title import kinds

_LONGEST = 4.0  # a light near the horizon would throw the shadow out of sight


class DropShadow(StepSettings):
    light: Literal["key", "own"] = kinds.choice(
        "key", "Falls away from the key light, or in a direction of its own."
    )
    angle: float = kinds.angle(
        45,
        -360,
        360,
        "Direction in which it falls.",
        when={"light": "own"},
        direction="away from the light",
        grip="turn",
    )
    offset: float = kinds.length(
        26,
        0,
        2000,
        "How far it falls; with the key light, at 45° of its elevation.",
        grip="tip",
    )
    blur: float = kinds.length(14, 0, 1000, "How soft it is: the standard deviation of its blur.")
    spread: float = kinds.length(0, -400, 400, "Grows or shrinks the shape that throws it.")
    colour: kinds.Colour = kinds.colour("#05070a", "Its colour.")
    opacity: float = kinds.fraction(0.6, "How dark it is.")
    blend: Literal["normal", "plus-lighter"] = kinds.choice(
        "normal", "Darkens what lies behind, or adds its light to it: a glow behind."
    )


def _fall(settings: DropShadow, scene: Scene) -> tuple[float, float]:
    """Where it falls, in render pixels: as far as a post's shadow, length · cot(elevation)."""
    reach = settings.offset * scene.scale
    key = scene.key if settings.light == "key" else None
    if key is None:
        turn = math.radians(settings.angle)
        return math.cos(turn) * reach, math.sin(turn) * reach
    x, y, z = key.direction
    flat = math.hypot(x, y)
    if flat < 1e-6:
        return 0.0, 0.0
    reach *= min(flat / max(z, 1e-6), _LONGEST)
    return -x / flat * reach, -y / flat * reach


def _parts(solid: Solid, piece: Piece | None, settings: DropShadow, scene: Scene) -> Solid:
    x, y = _fall(settings, scene)
    thrown = solid.silhouette.buffer(settings.spread * scene.scale)
    return solid.with_parts(Shape("shadow", shapely.affinity.translate(thrown, x, y)))


def _margin(settings: DropShadow, scene: Scene) -> Margin:
    x, y = _fall(settings, scene)
    room = blur_margin(settings.blur * scene.scale) + max(
        math.ceil(settings.spread * scene.scale) + 1, 0
    )
    return Margin(
        room + math.ceil(max(-x, 0)),
        room + math.ceil(max(-y, 0)),
        room + math.ceil(max(x, 0)),
        room + math.ceil(max(y, 0)),
    )


@step(
    "ground.drop_shadow",
    "Drop shadow",
    words="shadow, lift, float, depth, glow behind",
    reads=("matte", "behind"),
    writes=("behind",),
    asks=_fall,
    margin=_margin,
    parts=MakesParts(_parts, _fall),
)
def drop_shadow(piece: Piece, settings: DropShadow, scene: Scene) -> Piece:
    """Throw a soft shadow of face and sides on what lies behind."""
    x, y = _fall(settings, scene)
    shape = shifted(_spread(piece.solid, settings.spread * scene.scale), x, y)
    scene.pause()
    soft = gaussian_blur(shape, settings.blur * scene.scale)
    colour, alpha = rgb_and_alpha(settings.colour)
    share = np.clip(soft, 0, 1) * np.float32(settings.opacity * alpha)
    if settings.blend == "plus-lighter":
        return light_beneath(piece, colour, share)
    return beneath(piece, colour, share)


def _spread(shape: Array, amount: float) -> Array:
    if abs(amount) < 0.01:
        return shape
    grown = np.float32(0.5 + amount) - signed_distance(shape)
    return np.asarray(np.clip(grown, 0, 1), np.float32)
