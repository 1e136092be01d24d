"""A sheet: all titles of a set side by side, as one picture."""

import math
from collections.abc import Sequence

import cv2
import numpy as np

from mabrel.render import Cancel, Picture, Renderer
from mabrel.title import Title
from mabrel.title.motion import still_time

_WIDE = 480  # pixels that each is wide
_GAP = 12


def sheet_of(
    renderer: Renderer, titles: Sequence[Title], *, cancel: Cancel | None = None
) -> Picture:
    """Titles in rows, about as many as columns, over nothing, each as it stands. Raises what
    `Renderer.render` raises, and ValueError where there is none."""
    if not titles:
        raise ValueError("a sheet shows at least one title")
    shown = [_small(renderer, title, cancel) for title in titles]
    columns = math.ceil(math.sqrt(len(shown)))
    rows = math.ceil(len(shown) / columns)
    tall = max(each.shape[0] for each in shown)
    sheet = np.zeros((rows * (tall + _GAP) + _GAP, columns * (_WIDE + _GAP) + _GAP, 4), np.float32)
    for place, pixels in enumerate(shown):
        row, column = divmod(place, columns)
        top = _GAP + row * (tall + _GAP) + (tall - pixels.shape[0]) // 2
        left = _GAP + column * (_WIDE + _GAP) + (_WIDE - pixels.shape[1]) // 2
        sheet[top : top + pixels.shape[0], left : left + pixels.shape[1]] = pixels
    return Picture(sheet)


def _small(renderer: Renderer, title: Title, cancel: Cancel | None) -> np.ndarray:
    """Rendered larger, and made small: edges are smooth."""
    frame = title.frame
    share = min(_WIDE / frame.width, _WIDE / frame.height)
    time = still_time(title)
    picture = renderer.render(title, time=time, scale=min(2 * share, 1.0), cancel=cancel)
    size = (max(round(frame.width * share), 1), max(round(frame.height * share), 1))
    return np.asarray(cv2.resize(picture.pixels, size, interpolation=cv2.INTER_AREA), np.float32)
