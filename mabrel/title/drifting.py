"""Drift: smooth random wandering."""

import math
from typing import Annotated, Any

from pydantic import Field

from mabrel.title.kinds import Model
from mabrel.title.mixing import channels, code_of

DRIFTS = ("number", "colour", "point")
"""What may drift."""


class Drift(Model):
    """Smooth random wandering of ± `amount` around the value, about `rate` turns a second.

    In a title that loops the rate is the nearest at which it closes on itself.
    """

    amount: Annotated[float, Field(ge=0, le=100_000)]
    rate: Annotated[float, Field(gt=0, le=100)] = 1.0
    seed: Annotated[int, Field(ge=0, le=999_999)] = 0


def drifted(base: Any, drift: Drift, time: float, loop: float | None) -> Any:
    """A number, colour or point after it wandered; after `loop` seconds it is where it was."""
    if isinstance(base, str):
        *hues, alpha = channels(base)
        moved = [hue + 255 * _way(drift, time, loop, salt) for salt, hue in enumerate(hues)]
        return code_of([*moved, alpha])
    if isinstance(base, list | tuple):
        return tuple(part + _way(drift, time, loop, salt) for salt, part in enumerate(base))
    return base + _way(drift, time, loop, 0)


def _way(drift: Drift, time: float, loop: float | None, salt: int) -> float:
    seed = drift.seed + 7919 * salt
    if loop is None:
        return drift.amount * wander(time * drift.rate, seed)
    turns = max(round(drift.rate * loop), 1)
    return drift.amount * wander(time / loop * turns, seed, turns)


def wander(place: float, seed: int, turns: int | None = None) -> float:
    """Gradient noise in one dimension (Perlin 2002), scaled to −1..1; the same again after so
    many `turns`."""
    cell = math.floor(place)
    t = place - cell
    fade = t * t * t * (t * (6 * t - 15) + 10)
    left, right = (cell, cell + 1) if turns is None else (cell % turns, (cell + 1) % turns)
    before, after = chance(left, seed) * t, chance(right, seed) * (t - 1)
    return max(-1.0, min(1.0, 2 * (before + (after - before) * fade)))


def chance(cell: int, seed: int) -> float:
    """A number from −1 to 1 for each whole one: the integer hash of Wellons (2018)."""
    x = (cell * 0x9E3779B1 + seed * 0x85EBCA6B) & 0xFFFFFFFF
    x = ((x ^ (x >> 16)) * 0x7FEB352D) & 0xFFFFFFFF
    x = ((x ^ (x >> 15)) * 0x846CA68B) & 0xFFFFFFFF
    return ((x ^ (x >> 16)) / 0xFFFFFFFF) * 2 - 1
