"""A disc to try steps on, and running one step."""

from collections.abc import Sequence

import numpy as np

from mabrel.light import Light
from mabrel.source import Image, decoded_picture, library_at
from mabrel.steps import Piece, Region, Scene, Surroundings, kind_of
from tests.engine.shapes import centres, disc

SIZE = 120
RADIUS = 40.0


def shipped_image(name: str, size: float) -> Image:
    return Image(decoded_picture(library_at(None).read(name), name))


def scene(lights: Sequence[Light] = (Light(),), scale: float = 1.0) -> Scene:
    return Scene(scale, Surroundings(lights=lights), image=shipped_image)


def piece(matte: np.ndarray | None = None, grey: float = 0.5) -> Piece:
    """A disc in the middle, its centre at the origin, unless another matte is given."""
    matte = disc(RADIUS, SIZE, SIZE / 2 - 0.5, SIZE / 2 - 0.5) if matte is None else matte
    height, width = matte.shape
    face = np.full((height, width, 4), grey, np.float32)
    face[..., 3] = 1
    region = Region(-width // 2, -height // 2, width, height)
    box = (-RADIUS, -RADIUS, RADIUS, RADIUS)
    return Piece(region, box, matte, face, np.zeros_like(matte))


def run(name: str, before: Piece | None = None, where: Scene | None = None, **settings) -> Piece:
    """One step; what it casts on its surroundings is behind the letters, whose card is level."""
    kind = kind_of(name)
    given = kind.settings.model_validate(settings)
    where = where or scene()
    before = before or piece()
    before = before.grown(kind.room(before, given, where))
    return kind.apply(before, given, where).settled()


def inside(done: Piece) -> np.ndarray:
    return done.matte > 0.99


def from_edge(done: Piece) -> np.ndarray:
    """Distance inwards from the disc's edge, at each pixel."""
    x, y = centres(done.matte.shape)
    away = np.hypot(x + done.region.left + 0.5, y + done.region.top + 0.5)
    return RADIUS - away
