"""The part of the frame that shows a title best: a strip around its lettering."""

import numpy as np

from mabrel.camera import card_at
from mabrel.compose.sizing import bounds_of, shapes_lines, trial_outline
from mabrel.render import Window
from mabrel.source import library_at
from mabrel.title import Layer, Lettering, Picture, Placed, Shapes, Title, value_at

Bounds = tuple[float, float, float, float]


def strip_window(title: Title, aspect: float, *, time: float = 0.0, room: float = 1.45) -> Window:
    """A window of this width to height around all visible lettering and pictures, in frame pixels.

    `room` is how much larger than the ink it is. It may reach beyond the frame, where nothing
    but the lettering is drawn; without lettering it is the middle of the frame.
    """
    frame = title.frame
    boxes = [_box(title, layer, time) for layer in title.layers if layer.visible]
    boxes = [box for box in boxes if box[2] > box[0]]
    if not boxes:
        width = min(float(frame.width), frame.height * aspect)
        height = width / aspect
        return Window((frame.width - width) / 2, (frame.height - height) / 2, width, height)
    left, top = min(box[0] for box in boxes), min(box[1] for box in boxes)
    right, bottom = max(box[2] for box in boxes), max(box[3] for box in boxes)
    width = max((right - left) * (1 + (room - 1) * 0.45), (bottom - top) * room * aspect)
    height = width / aspect
    x = (left + right) / 2 + frame.width / 2
    y = (top + bottom) / 2 + frame.height / 2 + 0.04 * height
    return Window(x - width / 2, y - height / 2, width, height)


def closeup_window(title: Title, layer_id: str, aspect: float, *, time: float = 0.0) -> Window:
    """A window around the middle of one layer's lettering, so near that steps can be told apart.

    For layers without lettering it is `strip_window`. Raises KeyError for an unknown layer.
    """
    layer = title.layer(layer_id)
    box = _box(title, layer, time)
    if box[2] <= box[0]:
        return strip_window(title, aspect, time=time)
    left, top, right, bottom = box
    height = min((bottom - top) * 1.75, (right - left) * 1.1 / aspect)
    height = max(height, (right - left) / (3.2 * aspect))
    x = (left + right) / 2 + title.frame.width / 2
    y = (top + bottom) / 2 + title.frame.height / 2 + 0.06 * height
    return Window(x - height * aspect / 2, y - height / 2, height * aspect, height)


def _box(title: Title, layer: Layer, time: float) -> tuple[float, float, float, float]:
    """Left, top, right, bottom of the ink as it is seen, from the frame's centre; zeros where a
    layer has none of its own."""
    library = library_at(title.home)
    if isinstance(layer, Lettering):
        size = value_at(layer.source.size, time)
        bounds = trial_outline(layer.source, library, size, time).bounds
    elif isinstance(layer, Shapes):
        bounds = bounds_of(shapes_lines(title, layer, time))
    elif isinstance(layer, Picture):
        half = value_at(layer.source.height, time) / 2
        bounds = (-half * 1.2, -half, half * 1.2, half)
    else:
        return 0.0, 0.0, 0.0, 0.0
    x, y = _seen(title, layer, bounds, time)
    return float(min(x)), float(min(y)), float(max(x)), float(max(y))


def seen_corners(title: Title, layer: Placed, time: float) -> np.ndarray:
    """(2, 4): where the corners of a layer's ink are seen, from the frame's centre; those of what
    shows others are guessed from the frame."""
    if isinstance(layer, Lettering):
        size = value_at(layer.source.size, time)
        bounds = trial_outline(layer.source, library_at(title.home), size, time).bounds
    else:
        half = title.frame.height / 4
        bounds = (-half, -half, half, half)
    return _seen(title, layer, bounds, time)


def _seen(title: Title, layer: Placed, bounds: Bounds, time: float) -> np.ndarray:
    """(2, 4); zeros where a corner lies behind the viewer."""
    card = card_at(layer.placement, title.camera, time, title.handle(layer.handle))
    left, top, right, bottom = bounds
    corners = np.array([[left, right, right, left], [top, top, bottom, bottom], [1.0] * 4])
    x, y, w = card.homography @ corners
    return np.zeros((2, 4)) if (w <= 0).any() else np.array([x / w, y / w])
