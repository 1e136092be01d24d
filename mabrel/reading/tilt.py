"""How far a card may turn before the eye sees that its relief is painted on."""

import math
from typing import NamedTuple

import numpy as np

from mabrel.camera import Card, card_at
from mabrel.reading.flat import Flat
from mabrel.reading.said import Reading, px
from mabrel.reading.strokes import StrokeWidths
from mabrel.steps import settings_at
from mabrel.title import Placed, Title

WIDEST, LEAST = 60.0, 20.0
"""Degrees: turned further, a face is seen at less than half its width, whatever its relief; and
so far every card may turn."""
_MISSED = 0.5
"""Share of a stroke by which its relief may miss the place where it should be seen."""
_TURNED = 3.0
_LATE = ("depth", "ground", "lens")  # stages that leave the relief as it is
_ALONG = 0.15  # share of a stroke that sides which don't turn along may miss


class Fake(NamedTuple):
    """What gives a turned card away: `limit` in degrees, and why."""

    limit: float
    why: str
    step: str | None


def tilt_readings(title: Title, layer: Placed, flat: Flat, strokes: StrokeWidths) -> list[Reading]:
    """How far the layer may turn, and whether it has turned too far."""
    turned = angle_of(card_at(layer.placement, title.camera, 0.0, title.handle(layer.handle)))
    fake = _fake(layer, _relief(flat), strokes)
    if turned > fake.limit:
        text = f"Turned by {turned:.0f}°: beyond {fake.limit:.0f}° {fake.why}."
        return [Reading("tilt", text, True, layer.id, fake.step)]
    if turned < _TURNED:
        return []
    text = f"Turned by {turned:.0f}°; up to {fake.limit:.0f}° its depth holds."
    return [Reading("tilt", text, layer=layer.id, step=fake.step)]


def angle_of(card: Card) -> float:
    """Degrees between the way a card faces and the way to the viewer."""
    x, y, z = card.seen_from
    return math.degrees(math.acos(min(max(z / max(math.hypot(x, y, z), 1e-9), -1.0), 1.0)))


def _relief(flat: Flat) -> float:
    """How high the relief is, in frame pixels; stray peaks don't count."""
    late = (step.id for step in flat.layer.build if step.step.split(".")[0] in _LATE)
    fields = flat.renderer.fields(
        flat.title,
        flat.layer.id,
        scale=flat.scale,
        window=flat.window,
        before=next(late, None),
        cancel=flat.cancel,
    )
    inside = np.abs(fields.height[fields.matte > 0.5])
    return float(np.quantile(inside, 0.95)) if inside.size else 0.0


def _fake(layer: Placed, relief: float, strokes: StrokeWidths) -> Fake:
    """A place that is h high and seen at the angle θ should be seen h · tan θ (in the card's own
    plane) beside where it is painted."""
    steps = [(step, settings_at(step, 0.0)) for step in layer.build if step.on]
    leans = any(
        step.step == "depth.parallax" and getattr(settings, "view", "") == "camera"
        for step, settings in steps
    )
    for step, settings in steps:
        if step.step == "depth.extrude" and getattr(settings, "towards", "") != "back":
            deep = float(getattr(settings, "length", 0.0))
            limit = math.degrees(math.atan(_ALONG * strokes.median / max(deep, 1e-3)))
            why = (
                "its sides stay where they are while the card turns; let Extrude run straight back"
            )
            return Fake(min(max(limit, 5.0), LEAST), why, step.id)
    if leans or relief < 1:
        return Fake(WIDEST, "its face is seen at less than half its width", None)
    limit = math.degrees(math.atan(_MISSED * strokes.median / relief))
    raised = next((step.id for step, _ in reversed(steps) if step.step.startswith("relief.")), None)
    why = (
        f"relief {px(relief)} high on strokes {px(strokes.median)} wide shows as flat; "
        "Parallax with the camera's view holds longer"
    )
    if limit >= WIDEST:
        return Fake(WIDEST, "its face is seen at less than half its width", None)
    return Fake(max(limit, LEAST), why, raised)
