"""All models of documents that say what they are, by name: what a page draws their fields from."""

from pydantic import BaseModel

from mabrel.title.describing import Setting, settings_of
from mabrel.title.layers import (
    Backdrop,
    Copy,
    Floor,
    Group,
    Lettering,
    Picture,
    Placement,
    Plate,
    Shapes,
    Step,
    Wash,
)
from mabrel.title.letters import InTurn
from mabrel.title.lights import DistantLight, PointLight, Rig, SpotLight
from mabrel.title.models import Blur, Camera, Frame
from mabrel.title.part_paints import Brush
from mabrel.title.playing import Play
from mabrel.title.shapes import Along, Shape
from mabrel.title.sources import (
    BackdropSource,
    ColourCut,
    CopySource,
    GroupSource,
    LetteringSource,
    PictureSource,
    PlateSource,
    ScreenCut,
    ShotLight,
)
from mabrel.title.where import Ellipse, HalfPlane, LayerMatte, Outline, Polygon, Rectangle, Tones

MODELS: dict[str, type[BaseModel]] = {
    "frame": Frame,
    "blur": Blur,
    "camera": Camera,
    "rig": Rig,
    "placement": Placement,
    "step": Step,
    "in_turn": InTurn,
    "layer.lettering": Lettering,
    "layer.picture": Picture,
    "layer.shapes": Shapes,
    "layer.group": Group,
    "layer.copy": Copy,
    "layer.backdrop": Backdrop,
    "layer.plate": Plate,
    "layer.floor": Floor,
    "layer.wash": Wash,
    "source.lettering": LetteringSource,
    "source.picture": PictureSource,
    "source.group": GroupSource,
    "source.copy": CopySource,
    "source.backdrop": BackdropSource,
    "source.plate": PlateSource,
    "source.floor": BackdropSource,
    "light.distant": DistantLight,
    "light.point": PointLight,
    "light.spot": SpotLight,
    "shape": Shape,
    "along": Along,
    "brush": Brush,
    "play": Play,
    "shot_light": ShotLight,
    "where.ellipse": Ellipse,
    "where.rectangle": Rectangle,
    "where.half": HalfPlane,
    "where.outline": Outline,
    "where.polygon": Polygon,
    "where.tones": Tones,
    "where.matte": LayerMatte,
    "cut.colours": ColourCut,
    "cut.screen": ScreenCut,
}


def told_models() -> dict[str, list[Setting]]:
    """The settings of each model, by its name."""
    return {name: list(settings_of(model)) for name, model in MODELS.items()}
