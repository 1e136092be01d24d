"""A layer and its steps evaluated at a time, ready to be rendered."""

import hashlib
import json
from dataclasses import asdict, dataclass
from typing import Any

from mabrel.colour import Rgb
from mabrel.light import Light
from mabrel.render.camera import Card
from mabrel.source import LetteringStyle
from mabrel.steps import Region, StepKind, StepSettings
from mabrel.title import Layer, Where


@dataclass(frozen=True)
class PlannedStep:
    """A step with its settings evaluated; `key` stands for its whole result."""

    id: str
    kind: StepKind
    settings: StepSettings
    strength: float
    where: Where | None
    keeps_relief: bool
    """Whether a later step asks for what this one added to the height."""
    key: str


@dataclass(frozen=True)
class WordsPlan:
    """Words to be set."""

    text: str
    style: LetteringStyle
    axes: tuple[tuple[str, float], ...]
    font_version: str


@dataclass(frozen=True)
class GroundPlan:
    """A colour that fills the frame; None is what a wash treats."""

    colour: str | None


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


@dataclass(frozen=True)
class PicturePlan:
    """A picture to be read, cut and scaled; `height` is that of its ink in render pixels."""

    file: str
    version: str
    """Changes with what is in the file."""
    height: float
    matte: str
    cut: PicksPlan | ScreenPlan | None

    @property
    def cut_key(self) -> str:
        """Stands for the picture after cutting, at its own size."""
        cut = self.cut and [type(self.cut).__name__, asdict(self.cut)]
        return key_of({"picture": self.version, "cut": cut, "matte": self.matte})


@dataclass(frozen=True)
class GroupPlan:
    """Layers drawn together, from back to front."""

    members: tuple["PlannedLayer", ...]


@dataclass(frozen=True)
class CopyPlan:
    """What another layer's build made."""

    layer: "PlannedLayer"
    take: str


SourcePlan = WordsPlan | GroundPlan | PicturePlan | GroupPlan | CopyPlan


@dataclass(frozen=True)
class PlannedLayer:
    """A layer evaluated at a time, ready to be rendered."""

    layer: Layer
    opacity: float
    face_opacity: float
    card: Card
    scale: float
    """Render pixels for a pixel of length in its settings."""
    origin: tuple[int, int]
    """Where the layer's centre lies in the picture: whole render pixels from the frame's
    centre. Turned cards keep 0 and are moved by their homography."""
    shift: tuple[float, float]
    """What is left of it, below the pixel."""
    lights: tuple[Light, ...]
    visible: Region | None
    """All of its plane that the frame can show; None where that is not known or not wanted."""
    source: SourcePlan
    key: str
    steps: tuple[PlannedStep, ...]

    @property
    def fills_frame(self) -> bool:
        """Whether it has no edge of its own: backdrops, floors and washes."""
        return isinstance(self.source, GroundPlan)

    @property
    def tracks_added(self) -> bool:
        return self.face_opacity < 1

    @property
    def viewer(self) -> tuple[float, float, float]:
        """Where the viewer stands: render pixels from the layer's centre, in the card's axes."""
        x, y, z = self.card.seen_from
        return x * self.scale, y * self.scale, z * self.scale

    @property
    def result_key(self) -> str:
        """Stands for the piece after the last step."""
        return self.steps[-1].key if self.steps else self.key

    @property
    def picture_key(self) -> str:
        """Stands for the layer as it looks, without its place, opacity and blending."""
        return key_of({"result": self.result_key, "face": self.face_opacity})


def key_of(seen: dict[str, Any]) -> str:
    """A key from everything that a result depends on."""
    text = json.dumps(seen, sort_keys=True, default=_plain)
    return hashlib.sha256(text.encode()).hexdigest()


def _plain(value: Any) -> Any:
    return value.tolist() if hasattr(value, "tolist") else asdict(value)
