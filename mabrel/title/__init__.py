"""What a title is: its models, values over time, finishes, and the files that hold them."""

from mabrel.title.errors import TitleError
from mabrel.title.files import parse_title, read_title, title_to_json, write_title
from mabrel.title.finish import Finish
from mabrel.title.layers import Backdrop, Layer, Lettering, LetteringSource, Placement, Step, Wash
from mabrel.title.lights import DistantLight
from mabrel.title.models import Camera, Frame, Title
from mabrel.title.varying import Drift, Peg, Value, Varying, value_at

__all__ = [
    "Backdrop",
    "Camera",
    "DistantLight",
    "Drift",
    "Finish",
    "Frame",
    "Layer",
    "Lettering",
    "LetteringSource",
    "Peg",
    "Placement",
    "Step",
    "Title",
    "TitleError",
    "Value",
    "Varying",
    "Wash",
    "parse_title",
    "read_title",
    "title_to_json",
    "value_at",
    "write_title",
]
