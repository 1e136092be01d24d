"""What a step is: one protocol for all of them.

A step is a function ``(piece, settings, scene) -> piece`` in a file of its own under its stage,
declared with `@step`. Its settings are a model whose fields come from `mabrel.title.kinds`; its
docstring is its help. The catalogue finds it there: nothing else is edited to add one.
"""

import inspect
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, get_type_hints

import numpy as np
from numpy.typing import NDArray

from mabrel.light import Light
from mabrel.source import Image, LibraryError
from mabrel.steps.piece import Piece
from mabrel.steps.region import Margin, Region
from mabrel.title.kinds import Model

_LEVEL = ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))
STAGES = ("shape", "surface", "relief", "light", "tone", "depth", "ground", "lens")


class StepSettings(Model):
    """The settings of one kind of step, evaluated: plain values only."""


def _no_image(name: str, size: float) -> Image:
    raise LibraryError(f"there is no file {name!r}")


@dataclass(frozen=True)
class Scene:
    """What a step may know besides its piece and settings."""

    scale: float
    """Render pixels for one pixel of length in the settings."""
    lights: Sequence[Light]
    """The rig, turned into the card's own frame; the first is the key light."""
    pause: Callable[[], None]
    """To be called now and then by long calculations; raises to give up."""
    image: Callable[[str, float], Image] = _no_image
    """What an image setting names; drawings are drawn about that many pixels large."""
    turn: tuple[tuple[float, float, float], ...] = _LEVEL
    """Rotation from the card's axes to those of the frame, row by row."""
    viewer: tuple[float, float, float] = (0.0, 0.0, 2000.0)
    """Where the viewer stands: render pixels from the layer's centre, in the card's axes."""
    stand: tuple[tuple[float, float, float], ...] = _LEVEL
    """Rotation from the card's axes to those of the scene, row by row, whatever the camera does:
    in the card's axes, what runs to the right, where things fall, what comes nearer."""
    overview: Callable[[], tuple[NDArray[np.float32], Region]] | None = None
    """For what treats the whole frame though only a part of it is rendered: all that lies
    beneath, coarse ((H, W, 4)), and the region in this render's pixels that it covers."""
    visible: Region | None = None
    """All of the layer's plane that the frame can show, where that is known."""

    @property
    def down(self) -> tuple[float, float, float]:
        """Unit vector in the card's axes: where things fall."""
        return self.stand[1]

    @property
    def key(self) -> Light | None:
        return self.lights[0] if self.lights else None


Room = Callable[[Piece, Any, Scene], Margin]


def _no_margin(settings: Any, scene: Scene) -> Margin:
    return Margin()


@dataclass(frozen=True)
class StepKind:
    """One kind of step, as the catalogue knows it."""

    name: str
    label: str
    help: str
    settings: type[StepSettings]
    apply: Callable[[Piece, Any, Scene], Piece]
    room: Room
    """How much room the step needs around the piece, so that nothing is cut at a box."""
    reads: tuple[str, ...]
    writes: tuple[str, ...]
    lit: bool
    """Whether the result depends on the rig."""
    viewed: bool
    """Whether it depends on where the viewer is and how the card is turned."""
    words: str
    """What people look for when they need it, parted by commas."""

    @property
    def stage(self) -> str:
        return self.name.split(".")[0]


def step(
    name: str,
    label: str,
    *,
    words: str,
    reads: tuple[str, ...],
    writes: tuple[str, ...],
    lit: bool = False,
    viewed: bool = False,
    margin: Callable[[Any, Scene], Margin] = _no_margin,
    room: Room | None = None,
) -> Callable[[Callable[[Piece, Any, Scene], Piece]], StepKind]:
    """Declare a step. `name` is its stage and its word: ``relief.bevel``; `words` are what it is
    looked for by, such as "puffy".

    The room that it needs follows from its settings alone (`margin`), or from the piece too
    (`room`).
    """

    def follows(piece: Piece, settings: Any, scene: Scene) -> Margin:
        return margin(settings, scene)

    def declared(apply: Callable[[Piece, Any, Scene], Piece]) -> StepKind:
        help = inspect.cleandoc(apply.__doc__ or "").split("\n\n")[0].replace("\n", " ")
        settings = get_type_hints(apply)["settings"]
        return StepKind(
            name, label, help, settings, apply, room or follows, reads, writes, lit, viewed, words
        )

    return declared
