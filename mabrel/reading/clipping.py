"""Tone that is lost: burnt out to white, or crushed to black."""

import itertools
from collections.abc import Callable

import numpy as np

from mabrel.colour import straight
from mabrel.reading.said import Reading, label_of
from mabrel.render import Cancel, Fields, Renderer
from mabrel.title import Placed, Step, Title

CLIPPED = 0.08
"""Share of the lettering that may be white before it is said."""
CRUSHED = 0.22
"""Share that may be black; metal has dark stripes."""
_WHITE, _BLACK = 252 / 255, 4 / 255
_SCALE = 0.25


def clipped_and_crushed(fields: Fields) -> tuple[float, float]:
    """Shares (0..1) of the lettering whose face is white, and black, in every channel."""
    inside = fields.matte > 0.95
    if not inside.any():
        return 0.0, 0.0
    colours = straight(fields.face)[inside][:, :3]
    white = float(np.mean(colours.min(axis=1) >= _WHITE))
    return white, float(np.mean(colours.max(axis=1) <= _BLACK))


def tone_readings(
    renderer: Renderer, title: Title, layer: Placed, cancel: Cancel | None = None
) -> list[Reading]:
    """What is lost on this layer, and the step that loses most of it."""
    scale = min(_SCALE, 480 / title.frame.width)

    def lost(before: str | None) -> tuple[float, float]:
        return clipped_and_crushed(
            renderer.fields(title, layer.id, scale=scale, before=before, cancel=cancel)
        )

    clipped, crushed = lost(None)
    found = []
    if clipped > CLIPPED:
        culprit = _culprit(layer.build, lambda before: lost(before)[0])
        found.append(_said(layer, f"{clipped:.0%}", "burnt out to white", culprit))
    if crushed > CRUSHED:
        culprit = _culprit(layer.build, lambda before: lost(before)[1])
        found.append(_said(layer, f"{crushed:.0%}", "black", culprit))
    return found


def _said(layer: Placed, share: str, what: str, culprit: Step | None) -> Reading:
    by = f", most of it by {label_of(culprit).lower()}" if culprit else ""
    text = f"{share} of {layer.name or layer.kind} is {what}{by}."
    return Reading("tone", text, True, layer.id, culprit.id if culprit else None)


def _culprit(build: list[Step], lost: Callable[[str | None], float]) -> Step | None:
    """The step behind which most more is lost than before it."""
    on = [step for step in build if step.on]
    shares = [lost(step.id) for step in on] + [lost(None)]
    rises = [after - before for before, after in itertools.pairwise(shares)]
    if not rises or max(rises) <= 0:
        return None
    return on[int(np.argmax(rises))]
