"""A picture, or another layer, as texture."""

import numba
import numpy as np

from mabrel.colour import rgb_and_alpha
from mabrel.colour.spaces import LUMA
from mabrel.field import gaussian_blur
from mabrel.kernels import kernel
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
    return paint_colours(piece, settings.blend, _tinted(source, settings))


def _tinted(source: Array, settings: Picture) -> Array:
    """More or less colourful, in its tint, as much of it as is laid on."""
    tint, alpha = rgb_and_alpha(settings.tint)
    gains = np.array([*tint, 1], np.float32) * np.float32(alpha * settings.opacity)
    out = np.empty_like(source)
    _tint(source, np.array(LUMA, np.float32), np.float32(settings.saturation), gains, out)
    return out


@kernel(parallel=True)
def _tint(source, luma, saturation, gains, out):  # type: ignore[no-untyped-def]
    none = np.float32(0)
    red, green, blue = luma
    for line in numba.prange(out.shape[0]):
        y = np.int64(line)
        for x in range(out.shape[1]):
            pixel = source[y, x]
            grey = pixel[0] * red + pixel[1] * green + pixel[2] * blue
            for c in range(3):
                out[y, x, c] = max(grey + (pixel[c] - grey) * saturation, none) * gains[c]
            out[y, x, 3] = pixel[3] * gains[3]
