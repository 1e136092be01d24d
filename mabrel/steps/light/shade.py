"""Light and shade on the relief so far."""

from typing import Literal

import numpy as np

from mabrel.colour import apply_table, curve_table, rgb_and_alpha
from mabrel.field import normals, softened
from mabrel.light import Light, RelativeShading, relative_shading
from mabrel.steps.kind import Scene, StepSettings, step
from mabrel.steps.painting import paint, paint_colours
from mabrel.steps.piece import Array, Piece
from mabrel.title import kinds
from mabrel.title.layers import BlendMode


class Shade(StepSettings):
    light: Literal["rig", "own"] = kinds.choice("rig", "The title's lights, or one of its own.")
    azimuth: float = kinds.angle(
        225, -3600, 3600, "Direction towards its own light.", when={"light": "own"}
    )
    elevation: float = kinds.angle(
        45, -90, 90, "How high its own light stands.", when={"light": "own"}
    )
    depth: float = kinds.number(1.0, 0, 10, "Makes the relief flatter or steeper for the light.")
    soften: float = kinds.length(0, 0, 400, "Rounds the relief before it is lit.")
    response: kinds.CurvePoints = kinds.curve(
        [(0.0, 0.0), (1.0, 1.0)], "From how much light falls there to how light it looks."
    )
    highlight_colour: kinds.Colour = kinds.colour("#ffffff", "Colour where light falls.")
    highlight_blend: BlendMode = kinds.choice("screen", "How highlights are laid on.")
    highlight_opacity: float = kinds.fraction(1.0, "How strong highlights are.")
    gloss: float = kinds.fraction(0.0, "A mirror highlight on top.", high=4)
    tightness: float = kinds.number(30, 1, 1000, "How small the mirror highlight is.")
    shade_colour: kinds.Colour = kinds.colour("#000000", "Colour where it is turned away.")
    shade_blend: BlendMode = kinds.choice("multiply", "How shade is laid on.")
    shade_opacity: float = kinds.fraction(1.0, "How strong shade is.")


@step("light.shade", "Shade", reads=("matte", "height", "face"), writes=("face",), lit=True)
def shade(piece: Piece, settings: Shade, scene: Scene) -> Piece:
    """Light the relief: parts that face the light get lighter, the others darker; flat parts
    stay as they are."""
    shading = relative_shading(
        _normals(piece, settings, scene), _lights(settings, scene), settings.tightness
    )
    tone = apply_table(shading.tone, curve_table(settings.response))
    scene.pause()
    colour, alpha = rgb_and_alpha(settings.shade_colour)
    dark = np.clip(1 - 2 * tone, 0, 1) * np.float32(settings.shade_opacity * alpha)
    piece = paint(piece, settings.shade_blend, colour, dark)
    return _highlit(piece, settings, shading, tone)


def _highlit(piece: Piece, settings: Shade, shading: RelativeShading, tone: Array) -> Piece:
    colour, alpha = rgb_and_alpha(settings.highlight_colour)
    bright = np.clip(2 * tone - 1, 0, 1) + np.float32(settings.gloss) * shading.gloss
    bright = np.clip(bright, 0, 1) * np.float32(settings.highlight_opacity * alpha)
    if shading.tint is None:
        return paint(piece, settings.highlight_blend, colour, bright)
    source = np.empty(piece.face.shape, np.float32)
    source[..., :3] = shading.tint * np.array(colour, np.float32) * bright[..., None]
    source[..., 3] = bright
    return paint_colours(piece, settings.highlight_blend, source)


def _lights(settings: Shade, scene: Scene) -> list[Light]:
    if settings.light == "own":
        return [Light(settings.azimuth, settings.elevation)]
    return list(scene.lights)


def _normals(piece: Piece, settings: Shade, scene: Scene) -> Array:
    height = softened(piece.height, piece.matte, settings.soften * scene.scale)
    return normals(height, piece.matte, settings.depth)
