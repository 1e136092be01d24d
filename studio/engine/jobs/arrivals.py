"""Arrivals and departures: of one's own, and what each looks like on a title."""

import json

import cv2
import numpy as np

from mabrel.compose import arrival_of, lay, parse_arrival
from mabrel.export import png_bytes
from mabrel.reading import strip_window
from mabrel.render import Picture
from mabrel.title import Placed
from mabrel.title.arrival import Arrival, Way
from mabrel.title.motion import still_time
from studio.engine.jobs.pictures import layer_of
from studio.engine.process import Tools


def check(tools: Tools, *, arrival: bytes) -> str:
    """One from elsewhere, as it is kept. Raises TitleError."""
    return _text(parse_arrival(arrival))


def _text(arrival: Arrival) -> str:
    return json.dumps(arrival.model_dump(mode="json"), ensure_ascii=False)


def from_layer(
    tools: Tools,
    *,
    document: bytes,
    home: str,
    layer: str,
    name: str,
    label: str,
    way: Way,
    start: float,
    end: float,
) -> str:
    """One made of how a layer moves. Raises TitleError."""
    title = tools.title(document, home)
    chosen = layer_of(title, layer, Placed)
    made = arrival_of(title, chosen.id, name=name, label=label, way=way, start=start, end=end)
    return _text(made)


def film(
    tools: Tools,
    *,
    document: bytes,
    home: str,
    layer: str,
    arrival: bytes,
    run_back: bool,
    frames: int,
    width: int,
    height: int,
) -> bytes:
    """A title while a layer of it arrives or departs: its pictures side by side, as PNG."""
    title = tools.title(document, home)
    chosen = layer_of(title, layer, Placed)
    found = parse_arrival(arrival)
    window = strip_window(title, width / height, time=still_time(title), room=2.0)
    moving = lay(title, chosen.id, found, run_back=run_back)
    sharp = moving.model_copy(update={"blur": moving.blur.model_copy(update={"angle": 0.0})})
    shown = []
    for number in range(frames):
        time = found.length * (number + 0.5) / frames
        picture = tools.renderer.render(
            sharp.at_home(title.home), time=time, scale=width / window.width, window=window,
            cancel=tools.cancel,
        )  # fmt: skip
        shown.append(cv2.resize(picture.pixels, (width, height), interpolation=cv2.INTER_AREA))
    return png_bytes(Picture(np.hstack(shown)), level=1)
