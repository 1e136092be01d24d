"""A layer as it is planned: its card, and the node that makes its piece."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any, Protocol

from mabrel.camera import Card
from mabrel.render.node import Node
from mabrel.render.reading import Reader
from mabrel.render.view import View
from mabrel.source import Image
from mabrel.steps import Bound, Piece, Region
from mabrel.steps.kind import StepSettings
from mabrel.title import Layer, Moment, Step, Title
from mabrel.title.varying import Varying

if TYPE_CHECKING:
    from mabrel.render.setting import Setting


@dataclass(frozen=True)
class LayerPlan:
    """A layer at a time: where its card stands, and how it becomes a piece."""

    layer: Layer
    card: Card
    scale: float
    """Render pixels for a pixel of length in its settings."""
    origin: tuple[int, int]
    """Where its centre lies in the picture: whole render pixels from the frame's centre. Turned
    cards keep 0 and are moved by their homography."""
    shift: tuple[float, float]
    """What is left of it, below the pixel."""
    opacity: float
    face_opacity: float
    node: Node[Piece]
    """Makes its piece, after the last step that counts."""
    bound: Bound
    """What that piece can't leave."""
    placed_by: tuple[Varying[Any], ...] = ()
    """The values over time that put it where it is."""

    @property
    def place(self) -> dict[str, Any]:
        """All that tells where it is seen."""
        return {
            "origin": self.origin,
            "homography": self.card.homography,
            "scale": self.scale,
            "turned": self.card.turned,
        }


class Plans(Protocol):
    """What the parts of a plan ask of one another."""

    @property
    def title(self) -> Title: ...

    @property
    def time(self) -> Moment: ...

    @property
    def reader(self) -> Reader: ...

    @property
    def pause(self) -> Callable[[], None]:
        """To be called now and then by long calculations; raises to give up."""

    def settings(self, step: Step) -> StepSettings:
        """The settings of a step at the plan's time."""

    def varying(self, step: Step) -> Sequence[Varying[Any]]:
        """The values over time of a step: its settings, how strong it is and where."""

    def card(self, layer: Layer) -> Card:
        """Where a layer stands at the plan's time."""

    def layer(self, view: View, layer: Layer, card: Card | None = None) -> LayerPlan:
        """A layer and its build."""

    def setting(self, view: View, plan: LayerPlan) -> "Setting":
        """Where the steps of a layer's build work."""

    def image(self, view: View, layer: str, in_frame: bool) -> Node[Image]:
        """A layer as an image for a step: whole, whatever part of the frame is rendered; trimmed
        to its ink, or as large as the frame and where it lies `in_frame`."""

    def canvas(self, view: View, layers: Sequence[Layer]) -> Node[Any]:
        """Layers over one another, (H, W, 4) over the view's region."""

    def reach(self, view: View, layers: Sequence[Layer]) -> Region:
        """All that layers over one another can cover, wherever the frame ends."""
