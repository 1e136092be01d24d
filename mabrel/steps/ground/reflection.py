"""The letters mirrored in the floor that they stand on."""

import math
from collections.abc import Iterator
from typing import Literal, NamedTuple

import cv2
import numpy as np

from mabrel.colour import from_code, light_of, over, picture_of
from mabrel.field import blur_margin
from mabrel.field.fractal import rough_noise
from mabrel.field.parts import letters, lines
from mabrel.field.varying_blur import varying_blur
from mabrel.steps.contact import lowest
from mabrel.steps.flattening import solid_picture
from mabrel.steps.ground.cast_shadow import floor_level
from mabrel.steps.kind import Scene, StepSettings, step
from mabrel.steps.onto import Matrix, laid_out, mirrored, reach_of, seen_on_card
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Margin, Region
from mabrel.title import kinds

_THIN = Margin(2, 2, 2, 2)  # what antialiasing leaves around the box of a letter
_FLAT = 0.18  # how much lower than wide ripples are


class Reflection(StepSettings):
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
    patches: float = kinds.fraction(0.0, "How much of it a floor that is partly dry hides.")
    size: float = kinds.length(70, 1, 4000, "How wide ripples and patches are.")
    seed: int = kinds.seed(1, "Another draw of them.")
    show: Literal["behind", "alone"] = kinds.choice(
        "behind", "Behind the letters, or the reflection alone."
    )


class Stand(NamedTuple):
    """A part of the letters: where it is (None for all of `box`), all that is solid of it, and how
    far down its floor lies, in render pixels."""

    inside: Array | None
    box: Region
    level: float


def _stands(piece: Piece, settings: Reflection, scene: Scene) -> Iterator[Stand]:
    offset = settings.offset * scene.scale
    if settings.touches == "lowest":
        level = floor_level(piece, scene)
        if level is not None:
            yield Stand(None, piece.region, level + offset)
        return
    solid = piece.solid
    for part in (lines if settings.touches == "lines" else letters)(solid):
        level = lowest(solid * part.inside, piece.region, scene.down)
        if level is not None:
            left, top, right, bottom = part.box
            box = Region(
                piece.region.left + left, piece.region.top + top, right - left, bottom - top
            )
            box = box.grown(_THIN).common(piece.region)
            level += max(-scene.down[2], 0) * piece.depth
            yield Stand(part.inside, box, level + offset)


def _matrix(settings: Reflection, scene: Scene, level: float) -> Matrix:
    slant = math.tan(math.radians(settings.slant))
    return seen_on_card(mirrored(scene, level, settings.height, slant), scene)


def _softest(settings: Reflection, scene: Scene) -> float:
    far = max(settings.gone_at, settings.fades_from) * scene.scale
    return settings.blur * scene.scale + settings.softer * 0.5 * far


def _room(piece: Piece, settings: Reflection, scene: Scene) -> Margin:
    spare = blur_margin(_softest(settings, scene)) + math.ceil(settings.ripples * scene.scale) + 2
    around = Margin(spare, spare, spare, spare)
    source = piece.region.grown(around)
    reaches = [
        reach_of(_matrix(settings, scene, stand.level), source, piece.region)
        for stand in _stands(piece, settings, scene)
    ]
    return Margin(*(max(sides) for sides in zip(*reaches, strict=True))) if reaches else Margin()


@step(
    "ground.reflection",
    "Reflection",
    words="mirror, wet floor, glossy floor, water, table, polished",
    reads=("matte", "face", "behind", "front"),
    writes=("behind",),
    viewed=True,
    room=_room,
)
def reflection(piece: Piece, settings: Reflection, scene: Scene) -> Piece:
    """Mirror the letters in the floor, from exactly where they touch it."""
    whole = light_of(solid_picture(piece))
    image = np.zeros_like(whole)
    for stand in _stands(piece, settings, scene):
        scene.pause()
        own = whole if stand.inside is None else whole * stand.inside[..., None]
        part = np.ascontiguousarray(own[stand.box.within(piece.region)])
        image = over(image, _mirrored(part, stand, piece.region, settings, scene))
    image = _broken(image, piece, settings, scene) * np.float32(settings.opacity)
    image = picture_of(_tinted(image, settings))
    if settings.show == "alone":
        empty = np.zeros_like(piece.matte)
        return piece.but(matte=empty, behind=image, front=None, body=empty, outline=None)
    return piece.but(behind=image if piece.behind is None else over(image, piece.behind))


def _mirrored(
    light: Array, stand: Stand, region: Region, settings: Reflection, scene: Scene
) -> Array:
    """Light over the stand's box, faded and softened on the card by the height over the floor,
    then laid out mirrored over `region`."""
    box = stand.box
    x = np.arange(box.width, dtype=np.float32) + (box.left + 0.5)
    y = np.arange(box.height, dtype=np.float32) + (box.top + 0.5)
    down = scene.down
    above = np.float32(stand.level) - (x[None, :] * down[0] + y[:, None] * down[1])
    above = np.asarray(np.maximum(above, 0), np.float32)
    start, end = settings.fades_from * scene.scale, settings.gone_at * scene.scale
    share = np.clip((above - start) / np.float32(max(end - start, 1e-3)), 0, 1)
    left = 1 - share * share * (3 - 2 * share)
    shown = light * np.asarray(left, np.float32)[..., None]
    softness = settings.softer * 0.5 * np.minimum(above, np.float32(max(end, start)))
    soft = np.asarray(settings.blur * scene.scale + softness, np.float32)
    spare = blur_margin(float(soft.max()))
    around = ((spare, spare), (spare, spare))
    wide, softer = np.pad(shown, (*around, (0, 0))), np.pad(soft, around, mode="edge")
    blurred = varying_blur(wide, softer, scene.pause)
    source = box.grown(Margin(spare, spare, spare, spare))
    scene.pause()
    return laid_out(blurred, _matrix(settings, scene, stand.level), source, region)


def _tinted(light: Array, settings: Reflection) -> Array:
    if settings.tinted == 0:
        return light
    tint = np.zeros((1, 1, 4), np.float32)
    tint[..., :4] = from_code(settings.tint)
    tint[..., 3] = 1
    floor = light_of(tint)[0, 0, :3]
    factor = 1 + np.float32(settings.tinted) * (floor - 1)
    return np.asarray(light * np.append(factor, 1).astype(np.float32), np.float32)


def _broken(light: Array, piece: Piece, settings: Reflection, scene: Scene) -> Array:
    """Displaced by ripples, and hidden in patches, both fixed to the layer."""
    if settings.ripples == 0 and settings.patches == 0:
        return light
    size = settings.size * scene.scale
    region = piece.region
    x, y = np.meshgrid(np.arange(region.width), np.arange(region.height))
    u, v = (x + region.left + 0.5) / size, (y + region.top + 0.5) / (size * _FLAT)

    def noise(number: int) -> Array:
        scene.pause()
        return rough_noise(u, v, settings.seed + 100 * number)

    if settings.ripples > 0:
        far = np.float32(settings.ripples * scene.scale)
        places = (x + noise(1) * far, y + noise(2) * far * np.float32(0.35))
        maps = [np.asarray(place, np.float32) for place in places]
        light = np.asarray(cv2.remap(light, maps[0], maps[1], cv2.INTER_LINEAR), np.float32)
    if settings.patches > 0:
        edge = np.float32(1.6 * settings.patches - 0.8)
        shown = np.clip((noise(3) - edge) / np.float32(0.35) + np.float32(0.5), 0, 1)
        light = light * np.asarray(shown, np.float32)[..., None]
    return light
