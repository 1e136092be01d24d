"""The outline pushed aside by a picture's brightness."""

import math
from dataclasses import replace
from typing import Literal

import numpy as np

from mabrel.colour import brightness
from mabrel.field import gaussian_blur
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.outlines.warping import WRITES, looked_up
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Margin
from mabrel.steps.scene import Scene
from mabrel.steps.textures.tiling import Lies, laid_in, running, where_it_lies
from mabrel.title import kinds


class Displace(StepSettings):
    map: kinds.FileOrLayer = kinds.image("shipped/chart.png", "The picture that pushes.")
    map_down: kinds.FileOrLayer = kinds.image("", "Another one for up and down; none is the same.")
    fit: Literal["stretch", "cover", "tile", "mirror"] = kinds.choice(
        "cover", "How the picture lies over the lettering."
    )
    size: float = kinds.length(300, 4, 8000, "How wide one tile is.", when={"fit": "tile|mirror"})
    shift: tuple[float, float] = kinds.point((0, 0), "Moves the picture; tiles wrap around.")
    phase: float = kinds.number(
        0.0, -1000, 1000, "How many tiles it has run on.", when={"fit": "tile|mirror"}, cycle=1
    )
    grid: Literal["smooth", "blocky"] = kinds.choice(
        "smooth", "Smooth, or each pixel of the picture an even block that moves as a whole."
    )
    lies: Lies = kinds.choice(
        "lettering", "Over the lettering, or in the frame, where a picture behind it is."
    )
    across: float = kinds.length(34, -2000, 2000, "How far white pushes to the right.")
    down: float = kinds.length(14, -2000, 2000, "How far white pushes down.")
    soften: float = kinds.length(4, 0, 400, "Blurs the picture first.", when={"grid": "smooth"})


def _margin(settings: Displace, scene: Scene) -> Margin:
    x = math.ceil(abs(settings.across) / 2 * scene.scale) + 2
    y = math.ceil(abs(settings.down) / 2 * scene.scale) + 2
    return Margin(x, y, x, y)


@step(
    "shape.displace",
    "Displace",
    words="distort, torn, glass, ripple, glitch, broken, warp",
    reads=("matte", "face"),
    writes=WRITES,
    asks=lambda settings, scene: where_it_lies(settings.lies, scene),
    margin=_margin,
)
def displace(piece: Piece, settings: Displace, scene: Scene) -> Piece:
    """Push the letters apart by the brightness of a picture: torn, woven, under glass."""
    x = _push(piece, settings, settings.map, scene) * np.float32(settings.across * scene.scale)
    other = settings.map_down or settings.map
    y = _push(piece, settings, other, scene) * np.float32(settings.down * scene.scale)
    rows, columns = piece.matte.shape
    from_x = np.arange(columns, dtype=np.float32)[None, :] - x
    from_y = np.arange(rows, dtype=np.float32)[:, None] - y
    return looked_up(piece, (from_x, from_y))


def _push(piece: Piece, settings: Displace, name: str, scene: Scene) -> Array:
    """−½ where the picture is black, ½ where it is white, as feDisplacementMap has it (Filter
    Effects 1); 0 where it is transparent."""
    lay = running(settings.fit, settings.size, settings.shift, settings.phase, scene)
    blocky = settings.grid == "blocky"
    image = scene.image(name, max(piece.region[2:]))
    picture = laid_in(piece, image, replace(lay, blocky=blocky), scene, settings.lies)
    push = brightness(picture) - np.float32(0.5) * picture[..., 3]
    held = np.clip(push, -0.5, 0.5)
    return held if blocky else gaussian_blur(held, settings.soften * scene.scale)
