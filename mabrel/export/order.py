"""What is to be exported: one description for the command line, the API and the workers."""

from fractions import Fraction
from typing import Annotated, Literal, NamedTuple

from pydantic import Field, model_validator

from mabrel.export.clip_forms import CLIPS
from mabrel.export.frames import FrameTime, frame_times, rate_of
from mabrel.export.parts_forms import PARTS
from mabrel.export.stills import STILLS
from mabrel.title import Backdrop, Floor, Layer, Plate, Title
from mabrel.title.kinds import Colour, Model
from mabrel.title.motion import still_time
from mabrel.title.varying import LATEST

Kind = Literal["picture", "frames", "clip", "layers", "parts"]
Seconds = Annotated[float, Field(ge=0, le=LATEST)]


class Order(Model):
    """What of a title is exported, and how.

    A ``picture`` is one moment, in one of `STILLS`; ``layers`` is one as OpenRaster; ``parts`` are
    the title broken apart, in one of `PARTS`; ``frames`` are numbered pictures, a ``clip`` is one
    of `CLIPS`. `rate` is written as a fraction (``24000/1001``) or a number; without it the
    title's own, and without `end` all of it.
    """

    kind: Kind = "picture"
    form: Annotated[str, Field(max_length=32)] = "png"
    depth: Annotated[str, Field(max_length=8)] | None = None
    quality: Annotated[int, Field(ge=1, le=100)] = 90
    passes: Literal["none", "together", "apart"] = "none"
    """Light and data passes, in one OpenEXR file or in one each; see `mabrel.export.passes`."""
    hidden: Literal["cut", "whole"] = "cut"
    """Whether parts are cut away where others hide them, or kept whole beneath these."""
    scale: Annotated[float, Field(ge=0.05, le=4)] = 1.0
    time: Seconds | None = None
    """Of a picture, layers or parts; without it when the title stands."""
    start: Seconds = 0.0
    end: Seconds | None = None
    rate: Annotated[str, Field(max_length=24)] | None = None
    backdrop: bool = True
    """With backdrops and floors."""
    plate: bool = True
    """With the shot that it is made for."""
    ground: Colour = "#000000"
    """What it lies over in a format without alpha."""

    @model_validator(mode="after")
    def _fits(self) -> "Order":
        if self.kind == "layers" and self.form != "ora":
            raise ValueError("must have the form ora, where layers are asked for")
        if self.kind == "parts" and self.form not in PARTS:
            raise ValueError(f"must have one of these forms: {', '.join(PARTS)}")
        drawn = self.kind == "parts" and not PARTS[self.form].scales
        if drawn and self.scale != 1:
            raise ValueError("must have the scale 1, where parts are drawn in frame pixels")
        if self.hidden != "cut" and not drawn:
            raise ValueError("must be parts that are drawn, where hidden ones are kept whole")
        if self.kind == "clip" and self.form not in CLIPS:
            raise ValueError(f"must have one of these forms: {', '.join(CLIPS)}")
        if self.kind in ("picture", "frames") and self.form not in STILLS:
            raise ValueError(f"must have one of these forms: {', '.join(STILLS)}")
        if self.kind in ("picture", "frames"):
            depths = STILLS[self.form].depths
            if self.depth is not None and self.depth not in depths:
                raise ValueError(f"must have one of these depths: {', '.join(depths)}")
        if self.passes != "none" and (self.form != "exr" or self.kind not in ("picture", "frames")):
            raise ValueError("must have the form exr, as a picture or as frames, with passes")
        if self.end is not None and self.end <= self.start:
            raise ValueError("must end after it begins")
        if self.rate is not None:
            rate_of(self.rate)
        return self

    @property
    def moving(self) -> bool:
        """Whether it has several frames."""
        return self.kind in ("frames", "clip")

    @property
    def several(self) -> bool:
        """Whether it becomes several files, which go into a zip."""
        return self.kind == "frames" or self.passes == "apart"

    @property
    def suffix(self) -> str:
        """Of its file, or of each frame's."""
        if self.kind == "layers":
            return ".ora"
        if self.kind == "parts":
            return PARTS[self.form].suffix
        return CLIPS[self.form].suffix if self.kind == "clip" else STILLS[self.form].suffix

    @property
    def media(self) -> str:
        if self.kind == "layers":
            return "image/openraster"
        if self.kind == "parts":
            return PARTS[self.form].media
        return CLIPS[self.form].media if self.kind == "clip" else STILLS[self.form].media

    def rate_for(self, title: Title) -> Fraction:
        """Frames a second. Raises ClipError."""
        return rate_of(title.frame.fps if self.rate is None else self.rate)

    def frames(self, title: Title) -> list[FrameTime]:
        """Every frame of it; one for a picture. Raises ClipError."""
        if not self.moving:
            return [FrameTime(0, still_time(title) if self.time is None else self.time)]
        end = title.frame.duration if self.end is None else self.end
        return frame_times(self.start, end, self.rate_for(title))


class Preset(NamedTuple):
    """Settings for a purpose."""

    label: str
    says: str
    order: Order


PRESETS: dict[str, Preset] = {
    "over-a-shot": Preset(
        "Over a shot",
        "A clip with clean alpha for an editor, every frame as it is: FFV1 of 16 bits, without "
        "backdrop and plate.",
        Order(kind="clip", form="ffv1", backdrop=False, plate=False),
    ),
    "for-the-web": Preset(
        "For the web",
        "A small clip with alpha that browsers play: VP9 in WebM, without backdrop and plate.",
        Order(kind="clip", form="webm", backdrop=False, plate=False),
    ),
    "to-look-at": Preset(
        "To look at",
        "A clip with all that lies behind it, to send round: VP9 in WebM.",
        Order(kind="clip", form="webm-vp9"),
    ),
    "for-compositing": Preset(
        "For compositing",
        "Numbered OpenEXR in linear light, half float, with every pass in it, without backdrop and "
        "plate.",
        Order(
            kind="frames", form="exr", depth="half", passes="together", backdrop=False, plate=False
        ),
    ),
    "for-print": Preset(
        "For print",
        "One TIFF of 16 bits at twice the size, with its backdrop.",
        Order(kind="picture", form="tiff", depth="16", scale=2.0),
    ),
    "for-retouching": Preset(
        "For retouching",
        "One OpenRaster with a layer for each layer, and for what lies behind and before it.",
        Order(kind="layers", form="ora"),
    ),
    "for-drawing": Preset(
        "For drawing",
        "One SVG of every face, facet, side and shadow as a shape of its own.",
        Order(kind="parts", form="svg"),
    ),
}


def as_ordered(title: Title, order: Order) -> Title:
    """With the grounds that an order leaves out hidden, not taken away: others may show one or
    take its matte."""

    def left_out(layer: Layer) -> bool:
        if isinstance(layer, Plate):
            return not order.plate
        return isinstance(layer, Backdrop | Floor) and not order.backdrop

    layers = [
        each.model_copy(update={"visible": False}) if left_out(each) else each
        for each in title.layers
    ]
    return title.model_copy(update={"layers": layers}).at_home(title.home)
