"""Light and shade on the relief."""

from typing import ClassVar, Literal

import numpy as np

from mabrel.colour import apply_table, curve_table, rgb_and_alpha
from mabrel.field import normals, softened
from mabrel.light import SHOULDER, Light, RelativeShading, Relief, relative_shading
from mabrel.steps.faces.painting import paint, paint_colours
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.light.highlights import highlights
from mabrel.steps.piece import Array, Piece
from mabrel.steps.scene import Scene
from mabrel.title import kinds
from mabrel.title.layers import BlendMode


class Shade(StepSettings):
    GROUPS: ClassVar[dict[str, tuple[str, ...]]] = {
        "Relief": ("relief", "depth", "soften", "parts"),
        "Tone": ("ambient", "diffuse", "wrap", "shoulder", "response"),
        "Highlight": (
            "highlight_colour",
            "highlight_blend",
            "highlight_opacity",
            "metal",
            "gloss",
            "tightness",
        ),
        "Shade": ("shade_colour", "shade_blend", "shade_opacity"),
    }

    light: Literal["rig", "one", "own"] = kinds.choice(
        "rig", "The title's lights, one of them, or one of the step's own."
    )
    which: kinds.Reference = kinds.light_reference(
        "Which light; none is the key light.", when={"light": "one"}
    )
    azimuth: float = kinds.angle(
        225,
        -3600,
        3600,
        "Direction towards its own light.",
        when={"light": "own"},
        direction="towards the light",
    )
    elevation: float = kinds.angle(
        45, -90, 90, "How high its own light stands.", when={"light": "own"}
    )
    relief: kinds.Reference = kinds.step_reference(
        "Lights what one earlier step added to the relief; none is all of it."
    )
    depth: float = kinds.number(1.0, 0, 10, "Makes the relief flatter or steeper for the light.")
    soften: float = kinds.length(0, 0, 400, "Rounds the relief before it is lit.")
    ambient: float = kinds.fraction(0.0, "Light from everywhere: the shade gets lighter.", high=2)
    diffuse: float = kinds.fraction(
        1.0, "How much the surface answers the lights, in light and shade.", high=3
    )
    wrap: float = kinds.fraction(
        0.0, "How far light reaches around to what is turned away, as on wax, skin and cloth."
    )
    shoulder: float = kinds.fraction(
        SHOULDER, "How far the picture comes back where lights add up; at 0 it burns out."
    )
    response: kinds.CurvePoints = kinds.curve(
        [(0.0, 0.0), (1.0, 1.0)], "From how much light falls there to how light it looks."
    )
    parts: Literal["both", "highlights", "shade"] = kinds.choice(
        "both", "Highlights and shade, or only one of them: a rim light adds no shade."
    )
    highlight_colour: kinds.Colour = kinds.colour("#ffffff", "Colour where light falls.")
    highlight_blend: BlendMode = kinds.choice("screen", "How highlights are laid on.")
    highlight_opacity: float = kinds.fraction(1.0, "How strong highlights are.")
    metal: float = kinds.fraction(
        0.0, "How much highlights take the surface's own hue, as on gold and copper."
    )
    gloss: float = kinds.fraction(0.0, "A mirror highlight on top.", high=4)
    tightness: float = kinds.number(30, 1, 1000, "How small the mirror highlight is.")
    shade_colour: kinds.Colour = kinds.colour("#000000", "Colour where it is turned away.")
    shade_blend: BlendMode = kinds.choice("multiply", "How shade is laid on.")
    shade_opacity: float = kinds.fraction(1.0, "How strong shade is.")


@step(
    "light.shade",
    "Shade",
    words="light, shading, highlight, gloss, plastic, specular, rim light, 3d",
    reads=("matte", "height", "face"),
    writes=("face",),
    asks=lambda settings, scene: _lights(settings, scene),
)
def shade(piece: Piece, settings: Shade, scene: Scene) -> Piece:
    """Light the relief: parts that face the light get lighter, the others darker; flat parts
    stay as they are."""
    height = _relief(piece, settings, scene)
    shading = relative_shading(
        normals(height, piece.matte, settings.depth),
        _lights(settings, scene),
        settings.tightness,
        ambient=settings.ambient,
        diffuse=settings.diffuse,
        wrap=settings.wrap,
        shoulder=settings.shoulder,
        relief=Relief(height, (piece.region.left + 0.5, piece.region.top + 0.5)),
    )
    tone = apply_table(shading.tone, curve_table(settings.response))
    scene.pause()
    lit = piece
    if settings.parts != "highlights":
        colour, alpha = rgb_and_alpha(settings.shade_colour)
        dark = np.clip(1 - 2 * tone, 0, 1) * np.float32(settings.shade_opacity * alpha)
        lit = paint(lit, settings.shade_blend, colour, dark)
    if settings.parts != "shade":
        lit = _highlit(lit, piece.face, settings, shading, tone)
    return lit


def _highlit(
    piece: Piece, face: Array, settings: Shade, shading: RelativeShading, tone: Array
) -> Piece:
    colour, alpha = rgb_and_alpha(settings.highlight_colour)
    opacity = settings.highlight_opacity * alpha
    if shading.tint is None and settings.metal == 0:
        shine = np.float32(settings.gloss) * shading.gloss
        cover = np.clip(np.clip(2 * tone - 1, 0, 1) + shine, 0, 1) * np.float32(opacity)
        return paint(piece, settings.highlight_blend, colour, cover)
    source = highlights(
        face, tone, shading,
        colour=colour, opacity=opacity, gloss=settings.gloss, metal=settings.metal,
    )  # fmt: skip
    return paint_colours(piece, settings.highlight_blend, source)


def _lights(settings: Shade, scene: Scene) -> list[Light]:
    if settings.light == "own":
        return [Light(settings.azimuth, settings.elevation)]
    if settings.light == "one":
        only = scene.light(settings.which)
        return [] if only is None else [only]
    return list(scene.lights)


def _relief(piece: Piece, settings: Shade, scene: Scene) -> Array:
    height = piece.height
    if settings.relief:  # a step that is off added nothing
        height = piece.reliefs.get(settings.relief, np.zeros_like(piece.height))
    return softened(height, piece.matte, settings.soften * scene.scale)
