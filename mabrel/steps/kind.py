"""What a step is: one protocol for all of them.

A step is a function ``(piece, settings, scene) -> piece`` in a file of its own under its stage,
declared with `@step`. Its settings are a model whose fields come from `mabrel.title.kinds`; its
docstring is its help. The catalogue finds it there: nothing else is edited to add one.
"""

import inspect
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, get_type_hints

from mabrel.steps.extent import Bound, Extent
from mabrel.steps.piece import Piece
from mabrel.steps.region import Margin
from mabrel.steps.scene import Scene, depends_on_lights
from mabrel.title.kinds import Model

STAGES = ("shape", "surface", "relief", "light", "tone", "depth", "ground", "lens")


class StepSettings(Model):
    """The settings of one kind of step, evaluated: plain values only."""


Room = Callable[[Any, Any, Scene], Margin]
After = Callable[[Bound, Margin, Any, Scene], Bound]
"""From the bound of a piece, and the room that is added to it, to that of the step's result."""
Asks = Callable[[Any, Scene], object]
"""With a step's settings, asks the scene for what will be needed of it."""


def _nothing(settings: Any, scene: Scene) -> None:
    """Nothing but settings is needed."""


@dataclass(frozen=True)
class MakesParts:
    """Which shapes a step makes of a lettering that is broken apart."""

    work: Callable[[Any, Any, Any, Scene], Any]
    """From what a lettering was broken into before, the piece that the step made (None where it is
    not traced), its settings and the scene to what it is broken into after
    (`mabrel.steps.parts.solid.Solid`)."""
    asks: Asks = _nothing
    """For all that `work` will ask."""
    traces: Callable[[Any, Scene], bool] = lambda settings, scene: False
    """Whether they are traced from the piece that the step made, which then must be there first;
    else they follow from the outline and the settings."""


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
    """How much room the step needs around an extent, so that nothing is cut at a box."""
    after: After | None
    reads: tuple[str, ...]
    writes: tuple[str, ...]
    asks: Asks
    """Asks the scene for all that the step will ask, before there is a piece."""
    words: str
    """What people look for when they need it, parted by commas."""
    finest: Callable[[Any], float]
    """How wide the finest thing is that it draws, in pixels of its settings; 0 where it may be as
    fine as pixels are. What is seen from afar need not be finer than that."""
    parts: MakesParts | None = None
    """Which shapes it makes of a lettering that is broken apart; None where it makes none."""

    @property
    def stage(self) -> str:
        return self.name.split(".")[0]

    @property
    def lit(self) -> bool:
        """Whether the result depends on the rig, as the step comes."""
        scene = Scene(1.0)
        self.asks(self.settings(), scene)
        return depends_on_lights(scene.asked)

    @property
    def falls_on_surroundings(self) -> bool:
        """Whether it paints on floors and walls, in the picture and not on the card."""
        return "cast" in self.writes

    @property
    def reshapes(self) -> bool:
        """Whether it changes what is solid."""
        return bool({"matte", "body"} & set(self.writes))

    def planned(self, bound: Bound, settings: StepSettings, scene: Scene, room: Margin) -> Bound:
        """What the result can't leave, with so much room around it. Whatever the step will ask of
        the scene, beside what told its room, is asked here too."""
        self.asks(settings, scene)
        if self.after is not None:
            return self.after(bound, room, settings, scene)
        return bound.reshaped(room) if self.reshapes else bound.grown(room)


def step(
    name: str,
    label: str,
    *,
    words: str,
    reads: tuple[str, ...],
    writes: tuple[str, ...],
    asks: Asks = _nothing,
    margin: Callable[[Any, Scene], Margin] = _no_margin,
    room: Room | None = None,
    after: After | None = None,
    finest: Callable[[Any], float] = lambda settings: 0.0,
    parts: MakesParts | None = None,
) -> Callable[[Callable[[Piece, Any, Scene], Piece]], StepKind]:
    """Declare a step. `name` is its stage and its word: ``relief.bevel``; `words` are what it is
    looked for by, such as "puffy".

    The room that it needs follows from its settings alone (`margin`), or from the extent of the
    piece too (`room`); how far its result reaches, where that isn't the same with more room, is
    told by `after`. What it asks of the scene beyond its scale is asked by `asks`: lights, the
    viewer, how the card is turned. Anything else can't be had when it is applied.
    """

    def follows(extent: Extent, settings: Any, scene: Scene) -> Margin:
        return margin(settings, scene)

    def declared(apply: Callable[[Piece, Any, Scene], Piece]) -> StepKind:
        help = inspect.cleandoc(apply.__doc__ or "").split("\n\n")[0].replace("\n", " ")
        settings = get_type_hints(apply)["settings"]
        return StepKind(
            name, label, help, settings, apply, room or follows, after, reads, writes, asks, words,
            finest, parts,
        )  # fmt: skip

    return declared
