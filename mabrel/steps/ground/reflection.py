"""The letters mirrored in the floor that they stand on."""

import functools
import math
from collections.abc import Iterator
from typing import ClassVar, Literal

import cv2
import numpy as np

from mabrel.colour import from_code, light_of, over, picture_of
from mabrel.field import blur_margin
from mabrel.field.coarse import finer
from mabrel.field.fading import fade
from mabrel.field.lowest import lowest
from mabrel.field.parts import letters, lines
from mabrel.field.ripples import Ripples, patched, rippled
from mabrel.field.varying_blur import varying_blur
from mabrel.steps.cast import Cast
from mabrel.steps.extent import Bound
from mabrel.steps.faces.flattening import solid_picture
from mabrel.steps.ground.mirroring import (
    Floor,
    Mirror,
    Stand,
    body_seen,
    heights,
    heights_of_body,
    mirror_of,
)
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.planes.projections import along, floor_level, shown
from mabrel.steps.region import Margin, Region
from mabrel.steps.scene import Scene
from mabrel.steps.sides.apart import is_edge_on
from mabrel.title import kinds
from mabrel.title.phases import ROUND

_THIN = Margin(2, 2, 2, 2)  # what antialiasing leaves around the box of a letter
_SOFT = 1.1  # σ in pixels from which on a mirror image is looked at in pixels twice as wide


class Reflection(StepSettings):
    GROUPS: ClassVar[dict[str, tuple[str, ...]]] = {
        "Fading": ("fades_from", "gone_at", "blur", "softer"),
        "Form": ("height", "slant"),
        "Tint": ("tint", "tinted"),
        "Wet floor": ("ripples", "phase", "around", "patches", "thinning", "size", "seed"),
    }

    touches: Literal["lowest", "lines", "letters"] = kinds.choice(
        "lowest", "Meets the lowest ink of all, of each line, or of each letter."
    )
    offset: float = kinds.length(
        0, -2000, 2000, "Moves the floor down from the letters, or up.", grip="contact"
    )
    opacity: float = kinds.fraction(0.55, "How much the floor mirrors.")
    fades_from: float = kinds.length(
        0, 0, 4000, "Height above the floor from which it fades.", grip="fade"
    )
    gone_at: float = kinds.length(260, 0, 4000, "Height at which it is gone.", grip="fade")
    blur: float = kinds.length(0.5, 0, 200, "How soft it is where it touches.")
    softer: float = kinds.fraction(0.06, "How much softer it grows with the height.")
    height: float = kinds.fraction(1.0, "How high the mirror image is.", low=0.05, high=3)
    slant: float = kinds.angle(0, -80, 80, "Leans it to a side.")
    tint: kinds.Colour = kinds.colour("#8fa0a8", "The floor's colour, in which it is tinted.")
    tinted: float = kinds.fraction(0.25, "How strongly.")
    ripples: float = kinds.length(0, 0, 400, "How far a wet floor breaks it up.")
    phase: float = kinds.number(0.0, -1000, 1000, "Lets the ripples run.", cycle=1, around="around")
    around: int = kinds.count(
        ROUND,
        1,
        ROUND,
        "After so much phase they are the same again; of a title that loops it follows by itself.",
    )
    patches: float = kinds.fraction(0.0, "How much of it a floor that is partly dry hides.")
    thinning: float = kinds.fraction(
        0.0, "How much more of it is hidden the further it is from where the letters stand."
    )
    size: float = kinds.length(70, 1, 4000, "How wide ripples and patches are.")
    seed: int = kinds.seed(1, "Another draw of them.")
    show: Literal["behind", "alone"] = kinds.choice(
        "behind", "Behind the letters, or the reflection alone."
    )


def _stands(piece: Piece, settings: Reflection, scene: Scene) -> Iterator[Stand]:
    offset = settings.offset * scene.scale
    if settings.touches == "lowest":
        level = floor_level(piece, scene)
        if level is not None:
            yield Stand(None, piece.region, level + offset)
        return
    solid = piece.solid
    for part in (lines if settings.touches == "lines" else letters)(solid):
        level = lowest(solid * part.inside, piece.region[:2], scene.down)
        if level is not None:
            left, top, right, bottom = part.box
            box = Region(
                piece.region.left + left, piece.region.top + top, right - left, bottom - top
            )
            box = box.grown(_THIN).common(piece.region)
            level += max(-scene.down[2], 0) * piece.depth
            yield Stand(part.inside, box, level + offset)


def _after(bound: Bound, room: Margin, settings: Reflection, scene: Scene) -> Bound:
    """No part of the letters is mirrored further down than by the floor under the lowest ink."""
    level = floor_level(bound, scene)
    if level is None:
        return bound
    stand = Stand(None, bound.region, level + settings.offset * scene.scale)
    mirror = mirror_of(stand, bound, bound.outgrown, _floor(settings, scene), scene)
    return bound if mirror is None else bound.casting(mirror.target)


@step(
    "ground.reflection",
    "Reflection",
    words="mirror, wet floor, glossy floor, water, table, polished",
    reads=("matte", "face", "behind", "front"),
    writes=("cast", "matte", "behind", "front", "body"),
    asks=lambda settings, scene: (
        scene.upright,
        scene.seen,
        scene.frame,
        scene.viewer,
    ),
    after=_after,
)
def reflection(piece: Piece, settings: Reflection, scene: Scene) -> Piece:
    """Mirror the letters in the floor, from exactly where they touch it."""
    seen = [
        mirror
        for stand in _stands(piece, settings, scene)
        if (mirror := _mirrored(piece, stand, settings, scene)) is not None
    ]
    if not seen:
        return piece if settings.show == "behind" else piece.only_cast(_nothing())
    region = functools.reduce(Region.joined, (each.region for each in seen))
    light = functools.reduce(over, (each.grown_to(region).pixels for each in seen))
    thrown = Cast(region, _finished(light, region, settings, scene))
    return piece.only_cast(thrown) if settings.show == "alone" else piece.casting(thrown)


def _nothing() -> Cast:
    return Cast(Region(0, 0, 1, 1), np.zeros((1, 1, 4), np.float32))


def _floor(settings: Reflection, scene: Scene) -> Floor:
    far = max(settings.gone_at, settings.fades_from) * scene.scale
    blurred = blur_margin(settings.blur * scene.scale + settings.softer * 0.5 * far)
    slant = math.tan(math.radians(settings.slant))
    broken = math.ceil(settings.ripples * scene.scale)
    return Floor(settings.height, slant, far, blurred, broken)


def _mirrored(piece: Piece, stand: Stand, settings: Reflection, scene: Scene) -> Cast | None:
    """Light of one stand, faded and softened by the height over the floor."""
    floor = _floor(settings, scene)
    known = piece.body_known if floor.is_plain and settings.touches == "lowest" else None
    mirror = mirror_of(stand, piece, 0 if known is None else known.outgrown, floor, scene)
    if mirror is None:
        return None
    above = None
    if known is None:
        seen = _of_card(piece, stand, mirror, floor, settings, scene)
    else:
        scene.pause()
        coarse = mirror.coarser(_coarseness(settings.blur * scene.scale, scene))
        found = known.seen(coarse.rays, coarse.target, scene.pause)
        above = heights_of_body(found, stand, floor, scene)
        light = body_seen(piece, found, coarse, stand, scene)
        seen = _softened(light, above, floor, settings, scene, coarse.apart)
        seen, above = (_in_pixels(each, mirror.target, coarse.apart) for each in (seen, above))
    if settings.patches > 0 or settings.thinning > 0:
        scene.pause()
        above = heights(stand, mirror, floor, scene) if above is None else above
        further = above / np.float32(max(floor.far, 1.0))
        share = np.float32(settings.patches) + np.float32(settings.thinning) * further
        origin = (mirror.target.left, mirror.target.top)
        seen = patched(seen, origin, np.minimum(share, 1.2), _ripples(settings, scene))
    return Cast(mirror.target, seen)


def _of_card(
    piece: Piece, stand: Stand, mirror: Mirror, floor: Floor, settings: Reflection, scene: Scene
) -> Array:
    """Light (H, W, 4) of what is on the card, faded and softened there."""
    box, spare = mirror.box, floor.blurred
    own = solid_picture(piece, box)
    if stand.inside is not None:
        own = own * stand.inside[box.within(piece.region)][..., None]
    part = box.grown(Margin(spare, spare, spare, spare))
    above = np.maximum(np.float32(stand.level) - along(part, np.array(scene.down)), 0)
    light = np.zeros((part.height, part.width, 4), np.float32)
    light[box.within(part)] = light_of(own)
    blurred = _softened(light, above, floor, settings, scene)
    scene.pause()
    return shown(blurred, mirror.matrix, part, mirror.target)


def _coarseness(least: float, scene: Scene) -> int:
    """In pixels how many times as wide a mirror image is looked at that is softened by σ so wide
    at `least`. Of a card seen from its edge, letters are too narrow for that."""
    return 2 if least >= _SOFT and not is_edge_on(scene) else 1


def _in_pixels(picture: Array, target: Region, apart: int) -> Array:
    return finer(picture, (target.left, target.top), (target.height, target.width), apart)


def _softened(
    light: Array, above: Array, floor: Floor, settings: Reflection, scene: Scene, apart: int = 1
) -> Array:
    """Light (H, W, 4), which is changed, faded and softened by how high it is `above` the floor.

    Where its pixels are `apart`, what it is softened by that already is left out: as wide as they
    are, and what lies between them on a straight line."""
    fade(light, above, *_fading(settings, scene))
    further = np.float32(settings.softer * 0.5) * np.minimum(above, np.float32(floor.far))
    scene.pause()
    soft = np.asarray(np.float32(settings.blur * scene.scale) + further, np.float32)
    if apart > 1:
        already = (1 - 1 / apart**2) / 12 + 1 / 6  # variances of a box, and of a triangle
        left = np.square(soft / np.float32(apart)) - np.float32(already)
        soft = np.sqrt(np.maximum(left, np.float32(0)))
    return varying_blur(light, soft, scene.pause)


def _fading(settings: Reflection, scene: Scene) -> tuple[float, float]:
    """The height over the floor at which it begins to fade, and over how much of it it is gone."""
    start, end = settings.fades_from * scene.scale, settings.gone_at * scene.scale
    return start, max(end - start, 1e-3)


def _ripples(settings: Reflection, scene: Scene) -> Ripples:
    size = settings.size * scene.scale
    return Ripples(size, settings.seed, settings.phase, settings.around)


def _finished(light: Array, region: Region, settings: Reflection, scene: Scene) -> Array:
    """Broken up by the floor, in its colour and as strong as it mirrors."""
    if settings.ripples > 0:
        scene.pause()
        reach, origin = settings.ripples * scene.scale, (region.left, region.top)
        light = rippled(light, origin, reach, _ripples(settings, scene))
    tint = _tint(settings) * np.float32(settings.opacity)
    return picture_of(np.asarray(cv2.multiply(light, tint.astype(np.float64)), np.float32))


def _tint(settings: Reflection) -> Array:
    """(4): what each channel of the light is multiplied by."""
    tint = np.ones((1, 1, 4), np.float32)
    tint[..., :3] = from_code(settings.tint)[:3]
    floor = light_of(tint)[0, 0]
    return np.asarray(1 + np.float32(settings.tinted) * (floor - 1), np.float32)
