"""What a title is: its models, values over time, finishes, and the files that hold them."""

from mabrel.title.drifting import Drift
from mabrel.title.errors import TitleError
from mabrel.title.files import parse_title, read_title, title_to_json, write_title
from mabrel.title.finish import Finish
from mabrel.title.layers import (
    Backdrop,
    Copy,
    Floor,
    Group,
    Handle,
    Layer,
    Lettering,
    Picture,
    Placed,
    Placement,
    Plate,
    Shapes,
    Step,
    Wash,
)
from mabrel.title.letters import InTurn
from mabrel.title.lights import DistantLight, PointLight, SpotLight, TitleLight
from mabrel.title.models import Blur, Camera, Frame, Title
from mabrel.title.playing import Play
from mabrel.title.shapes import Along, Shape, ShapesSource
from mabrel.title.sources import (
    ColourCut,
    CopySource,
    GroupSource,
    LetteringSource,
    PictureSource,
    ScreenCut,
)
from mabrel.title.varying import Moment, Peg, Value, Varying, value_at
from mabrel.title.where import (
    Ellipse,
    HalfPlane,
    LayerMatte,
    Outline,
    Polygon,
    Rectangle,
    Tones,
    Where,
)

__all__ = [
    "Along",
    "Backdrop",
    "Blur",
    "Camera",
    "ColourCut",
    "Copy",
    "CopySource",
    "DistantLight",
    "Drift",
    "Ellipse",
    "Finish",
    "Floor",
    "Frame",
    "Group",
    "GroupSource",
    "HalfPlane",
    "Handle",
    "InTurn",
    "Layer",
    "LayerMatte",
    "Lettering",
    "LetteringSource",
    "Moment",
    "Outline",
    "Peg",
    "Picture",
    "PictureSource",
    "Placed",
    "Placement",
    "Plate",
    "Play",
    "PointLight",
    "Polygon",
    "Rectangle",
    "ScreenCut",
    "Shape",
    "Shapes",
    "ShapesSource",
    "SpotLight",
    "Step",
    "Title",
    "TitleError",
    "TitleLight",
    "Tones",
    "Value",
    "Varying",
    "Wash",
    "Where",
    "parse_title",
    "read_title",
    "title_to_json",
    "value_at",
    "write_title",
]
