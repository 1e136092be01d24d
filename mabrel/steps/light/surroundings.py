"""What the relief mirrors of the world around it."""

import numpy as np

from mabrel.field import normals, softened
from mabrel.light import mirrored, world_of
from mabrel.steps.faces.painting import paint_colours
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Piece
from mabrel.steps.scene import Scene
from mabrel.title import kinds
from mabrel.title.layers import BlendMode


class Surroundings(StepSettings):
    panorama: kinds.FileOrLayer = kinds.image(
        "shipped/harbour.hdr", "A picture all around, twice as wide as high."
    )
    turn: float = kinds.angle(0, -3600, 3600, "Turns the world around the lettering.")
    blur: float = kinds.fraction(0.06, "From a mirror to satin.")
    depth: float = kinds.number(1.0, 0, 10, "Makes the relief flatter or steeper for it.")
    soften: float = kinds.length(2, 0, 400, "Rounds the relief before.")
    strength: float = kinds.fraction(1.0, "How bright the world is.", high=8)
    blend: BlendMode = kinds.choice("hard-light", "How the mirror image is laid on.")
    opacity: float = kinds.fraction(0.8, "How much of it.")


@step(
    "light.surroundings",
    "Surroundings",
    words="reflection, chrome, mirror, metal, environment, panorama, hdr",
    reads=("matte", "height", "face"),
    writes=("face",),
    asks=lambda settings, scene: scene.turn,
)
def surroundings(piece: Piece, settings: Surroundings, scene: Scene) -> Piece:
    """Mirror a panorama in the relief: a harbour, a studio, a sky."""
    if not settings.panorama:
        return piece
    height = softened(piece.height, piece.matte, settings.soften * scene.scale)
    normal = normals(height, piece.matte, settings.depth)
    panorama, blur = scene.image(settings.panorama, 1024), settings.blur
    world = panorama.remembered("world", blur, lambda: world_of(panorama.pixels, blur))
    seen = mirrored(normal, world, turn=settings.turn, axes=np.array(scene.turn))
    seen = np.clip(seen * np.float32(settings.strength), 0, 4)
    source = np.empty(piece.face.shape, np.float32)
    source[..., :3] = seen * np.float32(settings.opacity)
    source[..., 3] = np.float32(settings.opacity)
    return paint_colours(piece, settings.blend, source)
