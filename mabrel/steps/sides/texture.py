"""What sides and backs show: the face, carried on or mirrored, a picture, noise."""

import numpy as np

from mabrel.colour import from_code
from mabrel.field.noise_at import rough_noise
from mabrel.steps.extent import Lines
from mabrel.steps.piece import Array, Piece
from mabrel.steps.scene import Scene
from mabrel.steps.sides.colouring import Texture
from mabrel.steps.sides.face import as_the_face, face_at
from mabrel.steps.sides.perimeter import Perimeter
from mabrel.steps.sides.settings import Extrude
from mabrel.steps.textures.tiling import tiled_at


def back_of(piece: Piece, places: Lines, settings: Extrude) -> Array:
    """Premultiplied colours (N, 4) of the back at places (N, 2)."""
    if settings.back == "face":
        return face_at(piece, places)
    *colour, alpha = from_code(settings.back_colour)
    own = np.array([*(channel * alpha for channel in colour), alpha], np.float32)
    return np.tile(own, (len(places), 1))


def textured(piece: Piece, settings: Extrude, scene: Scene, grown: Array | None) -> Texture | None:
    """Straight colours (N, 4) at places (N, 2) where sides begin, so deep (N), that run along the
    outline and into the depth. At even depths that is `grown`, in render pixels."""
    if settings.texture == "none" or settings.textured == 0:
        return None
    if settings.texture == "picture" and not settings.picture:
        return None
    length, share = settings.length * scene.scale, settings.textured
    if settings.texture == "face":
        return lambda places, depth: as_the_face(piece, places, depth * length, share)
    size = settings.size * scene.scale
    perimeter = Perimeter(piece, 0.0 if grown is None else float(np.abs(grown).max()))
    stretch = {"streaks": (1, 12), "layers": (20, 0.4), "clouds": (1, 1)}

    def laid(places: Lines, depth: Array) -> Array:
        run, around_all = perimeter.run(places), perimeter.length
        deep = depth * np.float32(length)
        # A whole number of tiles goes around, so that none is cut where the outline closes.
        run = run * np.float32(max(round(around_all / size), 1) * size / around_all)
        if settings.texture == "picture":
            image = scene.image(settings.picture, size)
            found = tiled_at(image, run / size, deep / size, size)
            return np.asarray(found * np.array([1, 1, 1, share], np.float32), np.float32)
        wide, high = stretch[settings.texture]
        noise = rough_noise(run / (size * wide), deep / (size * high), settings.seed)
        out = np.empty((len(noise), 4), np.float32)
        out[:, 3] = np.abs(noise) * share
        out[:, :3] = (noise > 0)[:, None]
        return out

    return laid
