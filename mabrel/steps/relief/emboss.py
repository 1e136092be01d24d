"""Relief from the brightness of a picture or of the surface."""

from typing import Literal

import numpy as np

from mabrel.colour import brightness
from mabrel.field import gaussian_blur
from mabrel.steps.extent import Bound
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Margin
from mabrel.steps.scene import Scene
from mabrel.steps.textures.tiling import Fit, Lies, laid_in, running, where_it_lies
from mabrel.title import kinds


class Emboss(StepSettings):
    source: Literal["picture", "surface"] = kinds.choice(
        "picture", "A picture or layer, or the brightness of the face as it is."
    )
    picture: kinds.FileOrLayer = kinds.image(
        "shipped/planks.jpg", "A picture, or a layer.", when={"source": "picture"}
    )
    fit: Fit = kinds.choice("cover", "How it lies over the lettering.", when={"source": "picture"})
    size: float = kinds.length(300, 4, 8000, "How wide one tile is.", when={"fit": "tile|mirror"})
    shift: tuple[float, float] = kinds.point(
        (0, 0), "Moves it; tiles wrap around.", when={"source": "picture"}
    )
    phase: float = kinds.number(
        0.0, -1000, 1000, "How many tiles it has run on.", when={"fit": "tile|mirror"}, cycle=1
    )
    lies: Lies = kinds.choice(
        "lettering",
        "Over the lettering, or in the frame, where a picture behind it is.",
        when={"source": "picture"},
    )
    amount: float = kinds.length(7, -400, 400, "How far white rises above black.")
    soften: float = kinds.length(1.5, 0, 400, "Blurs it first.")


def _after(bound: Bound, room: Margin, settings: Emboss, scene: Scene) -> Bound:
    return bound.grown(room).raised(settings.amount * scene.scale)


@step(
    "relief.emboss",
    "Emboss",
    words="emboss, carve, wood, texture, bump, relief from picture",
    reads=("height", "face"),
    writes=("height",),
    asks=lambda settings, scene: where_it_lies(settings.lies, scene),
    after=_after,
)
def emboss(piece: Piece, settings: Emboss, scene: Scene) -> Piece:
    """Raise what is bright and lower what is dark, in a picture or in the surface itself."""
    # About nought, as what lies beyond the border counts in the blur.
    tone = _tone(piece, settings, scene) - np.float32(0.5)
    rise = gaussian_blur(tone, settings.soften * scene.scale)
    return piece.with_height(piece.height + rise * np.float32(settings.amount * scene.scale))


def _tone(piece: Piece, settings: Emboss, scene: Scene) -> Array:
    """(H, W), 0..1; what is transparent counts as middle grey, which neither rises nor sinks."""
    if settings.source == "surface":
        return np.clip(brightness(piece.face), 0, 1)
    if not settings.picture:
        return np.full(piece.matte.shape, 0.5, np.float32)
    image = scene.image(settings.picture, max(piece.region.width, piece.region.height))
    lay = running(settings.fit, settings.size, settings.shift, settings.phase, scene)
    picture = laid_in(piece, image, lay, scene, settings.lies)
    tone = brightness(picture) + np.float32(0.5) * (1 - picture[..., 3])
    return np.asarray(np.clip(tone, 0, 1), np.float32)
