"""An arrival run back is a departure, and the other way round."""

from typing import Any

from mabrel.title.arrival import Arrival, Motion
from mabrel.title.easing import InSteps
from mabrel.title.letters import InTurn
from mabrel.title.varying import Varying

_SOFT_START = (0.42, 0.0, 1.0, 1.0)
_ORDERS = {
    "forwards": "backwards",
    "backwards": "forwards",
    "from the middle": "to the middle",
    "to the middle": "from the middle",
}
_VALUES = ("x", "y", "turn", "scale", "opacity")


def backwards(arrival: Arrival) -> Arrival:
    """The same motion from its end to its beginning."""
    return arrival.model_copy(
        update={
            "way": "departure" if arrival.way == "arrival" else "arrival",
            "motions": [_motion_backwards(motion) for motion in arrival.motions],
            "in_turn": arrival.in_turn and in_turn_backwards(arrival.in_turn),
        }
    )


def ease_backwards(ease: Any) -> Any:
    """The easing of a piece that is run through from its end. What bounces or swings would do so
    before it has begun to move: it starts softly instead."""
    if isinstance(ease, tuple):
        x1, y1, x2, y2 = ease
        return tuple(round(1 - end, 6) for end in (x2, y2, x1, y1))
    return ease if ease == "hold" or isinstance(ease, InSteps) else _SOFT_START


def _motion_backwards(motion: Motion) -> Motion:
    pegs = motion.pegs[::-1]
    eases = [ease_backwards(peg.ease) for peg in motion.pegs[:-1]][::-1]
    turned = [
        peg.model_copy(update={"share": 1 - peg.share, "ease": ease})
        for peg, ease in zip(pegs, [*eases, pegs[0].ease], strict=True)
    ]
    return motion.model_copy(update={"pegs": turned})


def in_turn_backwards(in_turn: InTurn) -> InTurn:
    """The last letter goes first."""
    moving = [each for name in _VALUES if isinstance(each := getattr(in_turn, name), Varying)]
    end = max((peg.at for each in moving for peg in each.pegs or []), default=0.0)
    update: dict[str, Any] = {"order": _ORDERS.get(in_turn.order, in_turn.order)}
    for name in _VALUES:
        value = getattr(in_turn, name)
        if isinstance(value, Varying) and value.pegs:
            eases = [ease_backwards(peg.ease) for peg in value.pegs[:-1]][::-1]
            pegs = [
                peg.model_copy(update={"at": end - peg.at, "ease": ease})
                for peg, ease in zip(value.pegs[::-1], [*eases, value.pegs[0].ease], strict=True)
            ]
            update[name] = value.model_copy(update={"pegs": pegs})
    return in_turn.model_copy(update=update)
