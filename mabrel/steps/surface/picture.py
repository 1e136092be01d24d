"""A picture, or another layer, as texture."""

import numpy as np

from mabrel.colour import brightness, rgb_and_alpha
from mabrel.field import gaussian_blur
from mabrel.steps.faces.painting import paint_colours
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.scene import Scene
from mabrel.steps.textures.tiling import Fit, Lay, Lies, laid_in, where_it_lies
from mabrel.title import kinds
from mabrel.title.layers import BlendMode


class Picture(StepSettings):
    picture: kinds.FileOrLayer = kinds.image(
        "shipped/planks.jpg", "A picture, or a layer that is followed live."
    )
    fit: Fit = kinds.choice("cover", "How it lies over the lettering; tiles repeat, or mirror.")
    size: float = kinds.length(300, 4, 8000, "How wide one tile is.", when={"fit": "tile|mirror"})
    lies: Lies = kinds.choice(
        "lettering", "Over the lettering, or in the frame, where a picture behind it is."
    )
    scale: float = kinds.fraction(1.0, "Enlarges it.", low=0.02, high=20, grip="reach")
    turn: float = kinds.angle(
        0, -360, 360, "Turns it; its grain needs not run as it does behind.", grip="turn"
    )
    shift: tuple[float, float] = kinds.point((0, 0), "Moves it; tiles wrap around.")
    blur: float = kinds.length(0, 0, 400, "Blurs it.")
    saturation: float = kinds.fraction(1.0, "How colourful it is.", high=3)
    tint: kinds.Colour = kinds.colour("#ffffff", "Multiplies its colours.")
    blend: BlendMode = kinds.choice("normal", "How it is laid on the face.")
    opacity: float = kinds.fraction(1.0, "How much of it.")


@step(
    "surface.picture",
    "Picture",
    words="texture, photo, image, wood, stone, fill with picture",
    reads=("face",),
    writes=("face",),
    asks=lambda settings, scene: where_it_lies(settings.lies, scene),
)
def picture(piece: Piece, settings: Picture, scene: Scene) -> Piece:
    """Lay a picture or another layer on the face: fitted, covering, tiled or mirror-tiled."""
    if not settings.picture:
        return piece
    lay = Lay(
        settings.fit,
        settings.size * scene.scale,
        (settings.shift[0] * scene.scale, settings.shift[1] * scene.scale),
        settings.scale,
        settings.turn,
    )
    image = scene.image(settings.picture, max(piece.region.width, piece.region.height))
    source = laid_in(piece, image, lay, scene, settings.lies)
    if settings.blur > 0:
        source = gaussian_blur(source, settings.blur * scene.scale)
    source = _tinted(source, settings) * np.float32(settings.opacity)
    return paint_colours(piece, settings.blend, np.asarray(source, np.float32))


def _tinted(source: Array, settings: Picture) -> Array:
    tint, alpha = rgb_and_alpha(settings.tint)
    grey = brightness(source)[..., None]
    colour = grey + (source[..., :3] - grey) * np.float32(settings.saturation)
    out = source.copy()
    out[..., :3] = np.maximum(colour, 0) * np.array(tint, np.float32)
    return out * np.float32(alpha)
