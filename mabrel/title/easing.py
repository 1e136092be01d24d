"""How a value goes from one peg to the next."""

import math
from typing import Annotated, Any, Literal

from pydantic import Discriminator, Field, Tag

from mabrel.title.kinds import Model

_Unit = Annotated[float, Field(ge=0, le=1)]
_Overshoot = Annotated[float, Field(ge=-4, le=5)]

Bezier = tuple[_Unit, _Overshoot, _Unit, _Overshoot]
_RESTITUTION = 0.5  # of its speed, that what bounces keeps
_DAMPING = 4.0  # how soon a spring comes to rest: it is within a fiftieth at the end


class InSteps(Model):
    """In so many equal steps, the last one at the later peg (CSS `steps()`, jump-end)."""

    steps: Annotated[int, Field(ge=1, le=240)]


class Bounce(Model):
    """Falls to the later value and bounces off it so many times, each time a quarter as high."""

    bounce: Annotated[int, Field(ge=1, le=8)]


class Spring(Model):
    """Swings about the later value so many times and comes to rest on it."""

    spring: Annotated[int, Field(ge=1, le=12)]


def _form(raw: Any) -> str:
    if isinstance(raw, str):
        return "hold"
    if isinstance(raw, dict):
        return next((name for name in ("steps", "bounce", "spring") if name in raw), "bezier")
    names: dict[type, str] = {InSteps: "steps", Bounce: "bounce", Spring: "spring"}
    return names.get(type(raw), "bezier")


Ease = Annotated[
    Annotated[Bezier, Tag("bezier")]
    | Annotated[Literal["hold"], Tag("hold")]
    | Annotated[InSteps, Tag("steps")]
    | Annotated[Bounce, Tag("bounce")]
    | Annotated[Spring, Tag("spring")],
    Discriminator(_form),
]
"""The cubic Bézier (x1, y1, x2, y2) of CSS Easing Functions 1, ``"hold"`` until the later peg,
``{"steps": n}``, ``{"bounce": n}`` or ``{"spring": n}``."""


def eased(ease: Any, share: float) -> float:
    """Progress (0 to 1, may overshoot) at a `share` of the time from one peg to the next."""
    if isinstance(ease, InSteps):
        return math.floor(share * ease.steps + 1e-9) / ease.steps
    if isinstance(ease, Bounce):
        return _bounced(ease.bounce, share)
    if isinstance(ease, Spring):
        return _sprung(ease.spring, share)
    return 0.0 if ease == "hold" else _curved(ease, share)


def _curved(ease: tuple[float, float, float, float], share: float) -> float:
    x1, y1, x2, y2 = ease
    low, high = 0.0, 1.0
    for _ in range(48):  # x is monotone in the parameter, so bisection can't fail
        middle = (low + high) / 2
        if _bezier(x1, x2, middle) < share:
            low = middle
        else:
            high = middle
    return _bezier(y1, y2, (low + high) / 2)


def _bezier(first: float, second: float, t: float) -> float:
    s = 1 - t
    return 3 * s * s * t * first + 3 * s * t * t * second + t * t * t


def _bounced(times: int, share: float) -> float:
    """A ball let go above a floor: parabolas, each as long and as fast as the floor gave back."""
    whole = 1 + 2 * sum(_RESTITUTION**k for k in range(1, times + 1))
    place = share * whole
    if place < 1:
        return place * place
    place -= 1
    for k in range(1, times + 1):
        half = _RESTITUTION**k
        if place < 2 * half:
            return 1 - (half * half - (place - half) ** 2)
        place -= 2 * half
    return 1.0


def _sprung(times: int, share: float) -> float:
    """A damped spring let go at rest (x'' + 2ax' + (a² + w²)x = 0), its end drawn in to rest."""
    turn = 2 * math.pi * times
    away = math.cos(turn * share) + _DAMPING / turn * math.sin(turn * share)
    return 1 - math.exp(-_DAMPING * share) * away * (1 - share * share)
