"""Pictures for layers: read, cut, trimmed to their ink."""

from dataclasses import asdict, dataclass

import numpy as np

from mabrel.colour import Rgb, brightness, rgb_and_alpha, straight
from mabrel.render.node import key_of
from mabrel.source import (
    Image,
    Library,
    PictureError,
    decoded_picture,
    frame_due,
    is_drawing,
    library_at,
    moving,
    picture_size,
)
from mabrel.source.cutting import cut_by_colours, cut_from_screen
from mabrel.source.images import ink_box, ink_size
from mabrel.steps import Array
from mabrel.title import ColourCut, Picture, ScreenCut, Title, value_at
from mabrel.title.playing import named_as_clip

_TRIAL = 512  # pixels in which an SVG is drawn to see where its ink is


@dataclass(frozen=True)
class PicksPlan:
    """Cut out by picked colours; see `cut_by_colours`."""

    picks: tuple[tuple[float, float], ...]
    tolerance: float
    contiguous: bool
    soft: float
    rest: bool


@dataclass(frozen=True)
class ScreenPlan:
    """Cut out from before a backdrop of one colour; see `cut_from_screen`."""

    colour: Rgb
    tolerance: float
    softness: float
    spill: float
    balance: float
    choke: float
    inside: float


@dataclass(frozen=True)
class PicturePlan:
    """A picture to be read, cut and scaled; `height` is that of its ink in render pixels."""

    file: str
    version: str
    """Changes with what is in the file."""
    height: float
    matte: str
    cut: PicksPlan | ScreenPlan | None
    frame: int | None = None
    """Of a clip, which."""

    @property
    def cut_key(self) -> str:
        """Stands for the picture after cutting, at its own size."""
        cut = self.cut and [type(self.cut).__name__, asdict(self.cut)]
        return key_of(picture=self.version, cut=cut, matte=self.matte, frame=self.frame)


def cutout_at(cut: ColourCut | ScreenCut, time: float) -> PicksPlan | ScreenPlan:
    tolerance = value_at(cut.tolerance, time)
    if isinstance(cut, ColourCut):
        picks = tuple((pick.x, pick.y) for pick in cut.picks)
        soft, rest = value_at(cut.soft, time), value_at(cut.keep, time) == "rest"
        return PicksPlan(picks, tolerance, value_at(cut.contiguous, time), soft, rest)
    colour, _ = rgb_and_alpha(value_at(cut.colour, time))
    ways = (cut.softness, cut.spill, cut.balance, cut.choke, cut.inside)
    return ScreenPlan(colour, tolerance, *(value_at(each, time) for each in ways))


def picture_plan(layer: Picture, library: Library, time: float, unit: float) -> PicturePlan:
    """A picture layer's picture at `time` seconds, `unit` render pixels for one of its own.
    Raises LibraryError."""
    source = layer.source
    height = value_at(source.height, time) * unit
    file = value_at(source.picture, time)
    cut = cutout_at(source.cut, time) if source.cut else None
    version = library.version(file)
    frame = None
    if named_as_clip(file):
        frame = frame_due(moving(library, file), source.play, time)
    return PicturePlan(file, version, height, value_at(source.matte, time), cut, frame)


def picture_ink(title: Title, layer: Picture) -> Image:
    """A picture layer's picture, cut and trimmed, at a size of its own. Raises PictureError and
    LibraryError."""
    library = library_at(title.home)
    plan = picture_plan(layer, library, 0.0, 1.0)
    return cut_picture(plan, library)


def cut_picture(plan: PicturePlan, library: Library, scale: float | None = None) -> Image:
    """The picture with its shape as alpha, cut and trimmed to its ink, at its own size; an SVG
    at `scale` times that, without one as large as a first look needs. Raises PictureError and
    LibraryError."""
    if plan.frame is None:
        content = library.read(plan.file)
        scale = first_scale(content, plan.file) if scale is None else scale
        pixels = decoded_picture(content, plan.file, scale)
    else:
        scale = 1.0
        pixels = moving(library, plan.file).frame(plan.frame)
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
    if plan.frame is not None:  # what moves in it must not move it
        return Image(pixels, framed=True)
    left, top, right, bottom = ink_box(pixels[..., 3])
    return Image(np.ascontiguousarray(pixels[top:bottom, left:right]))


def _from_screen(pixels: Array, cut: ScreenPlan, file: str) -> Array:
    try:
        return cut_from_screen(pixels, **asdict(cut))
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
