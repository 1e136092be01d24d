"""Arrivals and departures: ready motion that any layer can take."""

from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from mabrel.title.drifting import Drift
from mabrel.title.easing import Ease
from mabrel.title.kinds import Model
from mabrel.title.layers import Step
from mabrel.title.letters import InTurn

Way = Literal["arrival", "departure"]


class MotionPeg(Model):
    """A value at a `share` of the motion's length: `times` what it rests at, and `plus` on top,
    in the units of its motion; or `to`, whatever it rests at."""

    share: Annotated[float, Field(ge=0, le=1)]
    times: Annotated[float, Field(ge=-100, le=100)] = 1.0
    plus: Annotated[float, Field(ge=-100_000, le=100_000)] = 0.0
    to: Any = None
    ease: Ease = (0.42, 0.0, 0.58, 1.0)


class Motion(Model):
    """How one setting of a layer, of a step in it, or of the title moves.

    `place` is a path in the layer (``placement.scale``), in a step by its kind
    (``depth.extrude/length``), or in the title (``title/camera.swing``). `plus` counts in `unit`:
    in letters it is times their height, in ink times the height of all of them.
    """

    place: Annotated[str, Field(pattern=r"^[a-z_.]+(/[a-z_.]+)?$", max_length=128)]
    unit: Literal["plain", "letters", "ink"] = "plain"
    pegs: Annotated[list[MotionPeg], Field(min_length=1, max_length=100)]
    drift: Drift | None = None


class Arrival(Model):
    """Motion with a name. It rests where the layer rests: an arrival ends there, a departure
    begins there.

    `steps` are added to the build where it has none of that kind; `in_turn` makes letters move
    apart, its times counted from the beginning; with `floor` the layer stands on a floor that
    hides what is beneath it, and one is laid where there is none; with `fills` the steps that
    colour the face come in from one side.
    """

    mabrel_arrival: Literal[1] = 1
    name: Annotated[str, Field(pattern=r"^[a-z0-9]+(-[a-z0-9]+)*$", max_length=64)]
    label: Annotated[str, Field(min_length=1, max_length=100)]
    help: Annotated[str, Field(max_length=400)] = ""
    way: Way = "arrival"
    length: Annotated[float, Field(gt=0, le=60)]
    letter_height: Annotated[float, Field(gt=0, le=8000)] = 200.0
    motions: Annotated[list[Motion], Field(max_length=64)] = Field(default=[])
    steps: Annotated[list[Step], Field(max_length=20)] = Field(default=[])
    in_turn: InTurn | None = None
    floor: bool = False
    fills: bool = False

    @model_validator(mode="after")
    def _moves_something(self) -> "Arrival":
        if not (self.motions or self.in_turn or self.fills):
            raise ValueError("must move something")
        for motion in self.motions:
            shares = [peg.share for peg in motion.pegs]
            if sorted(set(shares)) != shares:
                raise ValueError(f"must have the pegs of {motion.place} in order of their share")
        return self
