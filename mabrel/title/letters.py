"""Letters in turn: the parts of a lettering that move apart, one after the other."""

from collections.abc import Sequence
from typing import Annotated, Any, Literal

from pydantic import Field

from mabrel.title.drifting import chance
from mabrel.title.kinds import Fraction, Model, told
from mabrel.title.varying import Value, Varying, later

_Way = Annotated[float, Field(ge=-100_000, le=100_000)]
_Turn = Annotated[float, Field(ge=-3600, le=3600)]


class InTurn(Model):
    """How each letter, word or line moves by itself.

    All of them go the same way, each `delay` seconds after the one before it in `order`. `x` and
    `y` move a part from where it is set; it is turned and scaled about the middle of its own
    `about`. They stay one matte: the steps see what stands there at that time.
    """

    by: Literal["letter", "word", "line"] = told(
        "choice", "letter", "What moves by itself.", label="Apart"
    )
    order: Literal["forwards", "backwards", "from the middle", "to the middle", "by chance"] = told(
        "choice", "forwards", "Which goes first."
    )
    seed: Annotated[int, Field(ge=0, le=999_999)] = told(
        "seed", 1, "Another chance.", when={"order": "by chance"}
    )
    delay: Annotated[float, Field(ge=0, le=60)] = told(
        "number", 0.1, "From one to the next.", unit="s", usual=(0, 1)
    )
    about: Literal["foot", "middle", "top"] = told(
        "choice", "foot", "What it is turned and scaled about."
    )
    x: Value[_Way] = told("length", 0.0, "To the right.", label="Across", usual=(-1000, 1000))
    y: Value[_Way] = told("length", 0.0, "Down.", label="Down", usual=(-1000, 1000))
    turn: Value[_Turn] = told("angle", 0.0, "Clockwise.", usual=(-180, 180))
    scale: Value[Annotated[float, Field(ge=0, le=100)]] = told(
        "fraction", 1.0, "Larger or smaller.", usual=(0, 3)
    )
    opacity: Value[Fraction] = told("fraction", 1.0, "How much of it is there.")


def delays(in_turn: InTurn, count: int) -> list[float]:
    """Seconds that each of so many parts waits for its turn."""
    away = [abs(place - (count - 1) / 2) for place in range(count)]
    turns: dict[str, Sequence[float]] = {
        "forwards": range(count),
        "backwards": range(count - 1, -1, -1),
        "from the middle": [each - min(away, default=0) for each in away],
        "to the middle": [max(away, default=0) - each for each in away],
        "by chance": _drawn(count, in_turn.seed),
    }
    return [in_turn.delay * turn for turn in turns[in_turn.order]]


def _drawn(count: int, seed: int) -> list[int]:
    drawn = sorted(range(count), key=lambda place: (chance(place, seed), place))
    return [drawn.index(place) for place in range(count)]


def varying_in_turn(in_turn: InTurn, count: int) -> list[Varying[Any]]:
    """The values that change, as each part has them at its time."""
    values = (in_turn.x, in_turn.y, in_turn.turn, in_turn.scale, in_turn.opacity)
    moving = [each for each in values if isinstance(each, Varying)]
    waits = sorted(set(delays(in_turn, count)))
    return [later(each, wait) for each in moving for wait in waits]
