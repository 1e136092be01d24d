"""Out of focus."""

from mabrel.colour.spaces import light_of, picture_of
from mabrel.field import blur_support, gaussian_blur
from mabrel.steps.faces.flattening import flattened
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.piece import Piece
from mabrel.steps.region import Margin
from mabrel.steps.scene import Scene
from mabrel.title import kinds

_LEAST = 0.05  # pixels of σ below which a picture stays as it is


class Defocus(StepSettings):
    radius: float = kinds.length(12, 0, 1000, "How far each place spreads: its deviation.")


def _margin(settings: Defocus, scene: Scene) -> Margin:
    sigma = settings.radius * scene.scale
    room = blur_support(sigma) if sigma > _LEAST else 0
    return Margin(room, room, room, room)


@step(
    "lens.defocus",
    "Defocus",
    words="blur, focus, soft, out of focus, dream",
    reads=("matte", "face", "behind", "front"),
    writes=("matte", "behind", "front", "body"),
    margin=_margin,
)
def defocus(piece: Piece, settings: Defocus, scene: Scene) -> Piece:
    """Take all of it out of focus, in light: bright parts stay bright as they spread."""
    sigma = settings.radius * scene.scale
    if sigma <= _LEAST:
        return piece
    origin = (piece.region.left, piece.region.top)
    light = gaussian_blur(light_of(flattened(piece)), sigma, origin)
    return piece.as_picture(picture_of(light))
