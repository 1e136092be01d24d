"""Pictures for layers: read, cut, trimmed to their ink."""

import numpy as np

from mabrel.colour import brightness, straight
from mabrel.render.planned import PicksPlan, PicturePlan, ScreenPlan
from mabrel.source import Image, PictureError, decoded_picture, is_drawing, picture_size
from mabrel.source.cutting import cut_by_colours, cut_from_screen
from mabrel.source.images import ink_box, ink_size
from mabrel.steps import Array

_TRIAL = 512  # pixels in which an SVG is drawn to see where its ink is


def cut_picture(plan: PicturePlan, content: bytes, scale: float = 1.0) -> Image:
    """The picture with its shape as alpha, cut and trimmed to its ink, at its own size; an SVG
    at `scale` times that. Raises PictureError."""
    pixels = decoded_picture(content, plan.file, scale)
    if isinstance(plan.cut, PicksPlan):
        pixels = cut_by_colours(
            pixels,
            plan.cut.picks,
            tolerance=plan.cut.tolerance,
            contiguous=plan.cut.contiguous,
            soft=plan.cut.soft * scale,
            rest=plan.cut.rest,
        )
    elif plan.cut is not None:
        pixels = _from_screen(pixels, plan.cut, plan.file)
    if plan.matte != "alpha":
        pixels = _by_brightness(pixels, plan.matte == "darkness")
    left, top, right, bottom = ink_box(pixels[..., 3])
    return Image(np.ascontiguousarray(pixels[top:bottom, left:right]))


def _from_screen(pixels: Array, cut: ScreenPlan, file: str) -> Array:
    try:
        return cut_from_screen(
            pixels, cut.colour, tolerance=cut.tolerance, softness=cut.softness, spill=cut.spill
        )
    except ValueError as grey:
        raise PictureError(file, f"can't be cut out: {grey}") from None


def _by_brightness(pixels: Array, dark: bool) -> Array:
    """With the brightness of the colours, where there are any, as alpha."""
    colour = straight(pixels)
    tone = np.clip(brightness(colour), 0, 1)
    alpha = (1 - tone if dark else tone) * pixels[..., 3]
    return np.asarray(np.dstack([colour * alpha[..., None], alpha]), np.float32)


def first_scale(content: bytes, name: str) -> float:
    """At which scale to draw an SVG for a first look; pixels have no other than their own."""
    if not is_drawing(content):
        return 1.0
    return _TRIAL / max(picture_size(content, name))


def drawn_scale(plan: PicturePlan, trial: Image) -> float:
    """How much larger than a first trial an SVG must be drawn for the height that is wanted."""
    return min(max(plan.height / ink_size(trial.pixels[..., 3])[1], 0.01), 64.0)
