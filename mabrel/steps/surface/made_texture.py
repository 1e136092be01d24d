"""Textures that are calculated."""

from typing import Literal

from mabrel.steps.faces.painting import paint_tones
from mabrel.steps.faces.stops import colour_stops, least_gap
from mabrel.steps.kind import step
from mabrel.steps.piece import Piece
from mabrel.steps.scene import Scene
from mabrel.steps.textures.patterns import Made, finest_part, made_texture
from mabrel.title import kinds
from mabrel.title.kinds import Stop
from mabrel.title.layers import BlendMode

_STOPS = [Stop(place=0, colour="#000000"), Stop(place=1, colour="#ffffff")]


class MadeSurface(Made):
    stops: kinds.Stops = kinds.stops(_STOPS, "Its colours, from the darkest place to the lightest.")
    mix: Literal["srgb", "oklab"] = kinds.choice("srgb", "Where neighbouring colours mix.")
    blend: BlendMode = kinds.choice("overlay", "How it is laid on the face.")
    opacity: float = kinds.fraction(0.5, "How much of it.")


def _finest(settings: MadeSurface) -> float:
    """Contrast and stops that lie close together make edges of what was soft."""
    part = finest_part(settings, settings.width, settings.height)
    return part * least_gap(settings.stops) / max(settings.contrast, 1.0)


@step(
    "surface.made",
    "Made texture",
    words="texture, noise, brushed metal, wood, marble, plaster, stripes, dots, checker, clouds",
    reads=("face",),
    writes=("face",),
    finest=_finest,
)
def made(piece: Piece, settings: MadeSurface, scene: Scene) -> Piece:
    """Lay a made texture on the face: clouds, brushed streaks, veins, stripes, fields or dots."""
    tones = made_texture(piece, settings, scene)
    stops = colour_stops(settings.stops)
    return paint_tones(piece, settings.blend, tones, stops, settings.mix, settings.opacity)
