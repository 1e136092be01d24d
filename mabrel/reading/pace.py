"""How fast things move, and whether the eye follows."""

import itertools

import numpy as np

from mabrel.camera import card_at
from mabrel.reading.said import Reading
from mabrel.reading.strip import seen_corners
from mabrel.title import Lettering, Placed, Title, value_at
from mabrel.title.varying import Moment

_ACROSS = 7.0
"""Seconds that an edge should take across the frame, or it is seen to jump from place to place: the
rule by which cameras are panned (American Cinematographer Manual, panning speeds)."""
_BLURRED = 90.0  # degrees of shutter from which a fast edge is drawn out enough


def pace_readings(title: Title, times: list[float]) -> list[Reading]:
    """The fastest way from frame to frame."""
    ways = [
        (way, layer, time)
        for layer in title.layers
        if isinstance(layer, Placed) and layer.visible
        for way, time in [_fastest(title, layer, times)]
    ]
    if not ways:
        return []
    way, layer, time = max(ways, key=lambda each: each[0])
    if way < 1:
        return []
    most = title.frame.width / (_ACROSS * title.frame.fps)
    name = layer.name or layer.kind
    said = f"The fastest edge, of {name}, moves {way:.0f} px from frame to frame"
    if way <= most or title.blur.angle >= _BLURRED:
        return [Reading("pace", f"{said}.", False, layer.id, time=time)]
    text = f"{said}: more than {most:.0f} px is seen to jump. Motion blur of 180° draws it out."
    return [Reading("pace", text, True, layer.id, time=time)]


def _fastest(title: Title, layer: Placed, times: list[float]) -> tuple[float, float]:
    """The longest way of a corner from one frame to the next, in frame pixels, and when."""
    places = [_corners(title, layer, time) for time in times]
    ways = [float(np.abs(b - a).max()) for a, b in itertools.pairwise(places)]
    if not ways:
        return 0.0, 0.0
    at = int(np.argmax(ways))
    return ways[at], times[at + 1]


def _corners(title: Title, layer: Placed, time: float) -> np.ndarray:
    """(2, N): where the corners of its ink, and what its letters have moved by, are seen."""
    corners = seen_corners(title, layer, time)
    if not isinstance(layer, Lettering) or layer.source.in_turn is None:
        return corners
    moment = Moment(time)
    own = (value_at(layer.source.in_turn.x, moment), value_at(layer.source.in_turn.y, moment))
    card = card_at(layer.placement, title.camera, time, title.handle(layer.handle))
    moved = np.array(own)[:, None] * card.magnification
    return np.hstack([corners, corners + moved])
