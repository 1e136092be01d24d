"""The rim darkened, as where dirt, soot or shadow gathers."""

import numpy as np

from mabrel.colour import rgb_and_alpha
from mabrel.steps.faces.painting import paint
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.outlines.offsets import inwards
from mabrel.steps.piece import Piece
from mabrel.steps.scene import Scene
from mabrel.title import kinds
from mabrel.title.layers import BlendMode


class DarkEdge(StepSettings):
    width: float = kinds.length(18, 0.5, 2000, "How far it reaches inwards.")
    falloff: float = kinds.number(1.6, 0.2, 8, "Higher: it clings to the edge.")
    colour: kinds.Colour = kinds.colour("#140a04", "Its colour.")
    blend: BlendMode = kinds.choice("multiply", "How it is laid on.")
    opacity: float = kinds.fraction(0.7, "How strong it is.")


@step(
    "light.dark_edge",
    "Dark edge",
    words="vignette, burnt edge, occlusion, dark rim, dirt",
    reads=("matte", "face"),
    writes=("face",),
)
def dark_edge(piece: Piece, settings: DarkEdge, scene: Scene) -> Piece:
    """Darken the letters towards their edge on all sides, whatever the light."""
    share = 1 - inwards(piece, settings.width * scene.scale)
    colour, alpha = rgb_and_alpha(settings.colour)
    cover = share ** np.float32(settings.falloff) * np.float32(settings.opacity * alpha)
    return paint(piece, settings.blend, colour, np.asarray(cover, np.float32))
