"""All that the engine has to say about a title, seen from one layer."""

from typing import NamedTuple

from mabrel.compose.freezing import frozen
from mabrel.reading.agreement import light_readings
from mabrel.reading.clipping import tone_readings
from mabrel.reading.flat import laid_flat
from mabrel.reading.framing import frame_readings
from mabrel.reading.legibility import legibility_readings
from mabrel.reading.mirroring import mirror_readings
from mabrel.reading.plate import plate_readings
from mabrel.reading.said import Reading
from mabrel.reading.strokes import StrokeWidths, stroke_readings
from mabrel.reading.tilt import tilt_readings
from mabrel.render import Cancel, Renderer
from mabrel.steps import check_title
from mabrel.title import Placed, Title


class Readings(NamedTuple):
    """Warnings first. `strokes` is None for a layer without a shape of its own."""

    said: list[Reading]
    strokes: StrokeWidths | None


def readings(
    renderer: Renderer,
    title: Title,
    layer: str,
    cancel: Cancel | None = None,
    *,
    time: float = 0.0,
) -> Readings:
    """Sentences about strokes, light, tone, frame, legibility, tilt and reflections of a title as
    it stands at `time` seconds, and about the shot that it is made for.

    `layer` is an id or name. Raises KeyError where there is none, and what `Renderer.render`
    raises.
    """
    title = frozen(check_title(title), time)
    chosen = title.layer(layer)
    said = light_readings(title)
    strokes = None
    if isinstance(chosen, Placed):
        flat = laid_flat(renderer, title, chosen, cancel)
        strokes, of_strokes = stroke_readings(flat)
        said = [*of_strokes, *said, *legibility_readings(flat)]
        if chosen.visible:
            said += frame_readings(renderer, title, chosen, cancel)
            said += mirror_readings(renderer, title, chosen, cancel)
            said += plate_readings(renderer, title, chosen, cancel)
        if strokes is not None:
            said += tilt_readings(title, chosen, flat, strokes)
        said += tone_readings(renderer, title, chosen, cancel)
    return Readings(sorted(said, key=lambda each: not each.warns), strokes)
