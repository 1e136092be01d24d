"""What moves among the files of a library: clips, animated pictures, numbered pictures."""

import threading
from collections import OrderedDict
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from mabrel.source.animations import AnimatedWebp, looks_animated
from mabrel.source.clips import Clip, looks_like_apng
from mabrel.source.library import Library
from mabrel.source.numbered import Numbered
from mabrel.title.playing import ANIMATED, Play, is_numbered

Array = NDArray[np.float32]
_MOST_OPEN = 8  # a decoder holds some pictures


class Moving(Protocol):
    """Frames in time. `rate` is what frames a second a file that says none is taken to have."""

    name: str
    width: int
    height: int

    @property
    def count(self) -> int:
        """How many frames there are."""

    def lasts(self, rate: float) -> float:
        """Seconds."""

    def due(self, seconds: float, rate: float) -> int:
        """The number of the frame that is due, so long after the first one's time."""

    def frame(self, number: int) -> Array:
        """(H, W, 4), premultiplied and sRGB-encoded. Raises PictureError."""

    def close(self) -> None: ...


_open: "OrderedDict[str, Moving]" = OrderedDict()
_opening = threading.Lock()


def moving(library: Library, name: str) -> Moving:
    """What is called as clips are, kept open. Raises PictureError, LibraryError."""
    version = f"{name}:{library.version(name)}"
    with _opening:
        found = _open.get(version)
        if found is None:
            found = _open[version] = _opened(library, name)
            while len(_open) > _MOST_OPEN:
                _open.popitem(last=False)[1].close()
        _open.move_to_end(version)
        return found


def _opened(library: Library, name: str) -> Moving:
    if is_numbered(name):
        return Numbered(library, name)
    path = library.path(name)
    with path.open("rb") as file:
        animated = looks_animated(file.read(64))
    return AnimatedWebp(library.read(name), name) if animated else Clip(path, name)


def animated_ending(content: bytes) -> str:
    """What the name of a file should end with whose content moves though its name doesn't say so;
    "" for any other."""
    if looks_animated(content[:64]):
        return ANIMATED
    return ".apng" if looks_like_apng(content) else ""


def frame_due(clip: Moving, play: Play, seconds: float) -> int:
    """The number of the frame that is due at a time of the title."""
    return clip.due(play.time_at(seconds, clip.lasts(play.rate)), play.rate)
