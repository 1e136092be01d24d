"""Where the steps of a build work, and what may be asked there."""

from dataclasses import dataclass
from typing import Any

from mabrel.render.layer import LayerPlan
from mabrel.render.node import Node
from mabrel.render.view import View
from mabrel.steps import Region, Surroundings
from mabrel.title.varying import Varying


@dataclass(frozen=True)
class Setting:
    """Where the steps of a build work: their layer's place and all that may be asked there."""

    plan: LayerPlan
    """The layer as far as it is planned."""
    view: View
    around: Surroundings
    level: Surroundings
    """The same before a card that lies as the frame does."""
    visible: Region | None
    """As much of the card's plane as the frame shows; None where nothing is left out."""
    varies: dict[str, tuple[Varying[Any], ...]]
    """By what can be asked, the values over time that it comes from."""
    overview: Node[Any] | None = None
    beneath: bool = False
    """Whether it treats what lies beneath: then each step treats all that the last one made."""
