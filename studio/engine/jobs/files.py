"""Pictures and fonts: what is in them, and what they look like."""

import contextlib
import time
from collections.abc import Iterator, Sequence
from pathlib import Path, PurePosixPath
from typing import Any

import numpy as np

from mabrel import families
from mabrel.export import png_bytes
from mabrel.render import Picture
from mabrel.source import (
    Family,
    FontError,
    LetteringStyle,
    LibraryError,
    Moving,
    PictureError,
    animated_ending,
    axes_of,
    decoded_picture,
    family_for,
    is_drawing,
    is_font_file,
    library_at,
    moving,
    outline_text,
    picture_size,
    resampled,
    svg_path,
)
from mabrel.title.playing import Play, is_numbered, named_as_clip
from studio.engine.process import Tools

_READING = 2.5
"""Seconds that a word in all fonts may take to read one's own."""


class _Only:
    """A library of one file that is not kept yet."""

    def __init__(self, path: Path) -> None:
        self._path = path

    def read(self, name: str) -> bytes:
        return self._path.read_bytes()

    def version(self, name: str) -> str:
        return str(self._path)

    def path(self, name: str) -> Path:
        return self._path

    def members(self, name: str) -> list[str]:
        return [name]


def look_at(tools: Tools, *, path: str, name: str, home: str) -> dict[str, Any]:
    """What a file is, or what is wrong with it; see `facts_of` of the studio's library.

    It lies at `path` and is called `name`, by whose ending it is taken; numbered pictures lie in
    `home`.
    """
    file = _Only(Path(path))
    try:
        if is_font_file(name):
            family_for(name, file)
            return {"fault": ""}
        if is_numbered(name):
            run = moving(library_at(Path(home)), name)
            return _sized(run) | {"frames": run.count}
        if named_as_clip(name):
            return _of_clip(moving(file, name))
        content = file.read(name)
        width, height = picture_size(content, name)
        return {"width": width, "height": height, "fault": "", "called": animated_ending(content)}
    except (PictureError, FontError, LibraryError) as fault:
        return {"fault": str(fault)}


def _sized(clip: Moving) -> dict[str, Any]:
    return {"width": clip.width, "height": clip.height, "fault": ""}


def _of_clip(clip: Moving) -> dict[str, Any]:
    clip.frame(0)  # what can't be decoded at all is of no use
    seconds = clip.lasts(Play().rate)
    rate = clip.count / max(seconds, 1e-9)
    return _sized(clip) | {"frames": clip.count, "seconds": seconds, "rate": rate}


def picture(tools: Tools, *, home: str, name: str, side: int, text: str, frames: int = 1) -> bytes:
    """A picture as PNG, at most `side` pixels on a side; a word in a font, as SVG; of a clip so
    many frames beside one another, from its first on."""
    if is_font_file(name):
        return _word(name, Path(home), text)
    if named_as_clip(name):
        return _frames(tools, moving(library_at(Path(home)), name), side, frames)
    content = library_at(Path(home)).read(name)
    size = picture_size(content, name)
    share = side / max(size.width, size.height)
    if share >= 1 and not is_drawing(content):
        return png_bytes(Picture(decoded_picture(content, name)), level=3)
    drawn = decoded_picture(content, name, share)
    small = resampled(drawn, size.width * share, size.height * share)
    return png_bytes(Picture(small), level=3)


def _frames(tools: Tools, clip: Moving, side: int, frames: int) -> bytes:
    share = min(side / max(clip.width, clip.height), 1.0)
    shown = []
    for number in range(frames):
        tools.cancel.check()
        frame = clip.frame(clip.count * number // frames)
        shown.append(resampled(frame, clip.width * share, clip.height * share))
    return png_bytes(Picture(np.concatenate(shown, axis=1)), level=3)


def _word(name: str, home: Path, text: str) -> bytes:
    outline = outline_text(text, LetteringStyle(name, size=100), family_for(name, library_at(home)))
    left, top, right, bottom = outline.bounds
    box = f"{left:.1f} {top:.1f} {max(right - left, 1):.1f} {max(bottom - top, 1):.1f}"
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{box}">'
        f'<path d="{svg_path(outline)}"/></svg>'
    ).encode()


def fonts(tools: Tools, *, home: str, names: Sequence[str]) -> list[dict[str, Any]]:
    """Fonts of the library; one that was damaged since it was kept is left out."""
    found = []
    for name, family in _own_families(home, names):
        axes = axes_of(library_at(Path(home)).read(name), name)
        found.append(
            {
                "family": family.name,
                "kind": family.kind,
                "styles": list(family.styles),
                "axes": [
                    {"tag": tag, "low": low, "default": default, "high": high}
                    for tag, (low, default, high) in axes.items()
                ],
            }
        )
    return found


def font_samples(
    tools: Tools, *, home: str, names: Sequence[str], text: str
) -> list[dict[str, Any]]:
    """Outlines of a word in the library's own fonts and in those that ship, as SVG paths.

    Where there are more of one's own than can be read in time, the others come without outlines;
    the next time more of them are there.
    """
    end = time.monotonic() + _READING
    found = []
    for name in names:
        tools.cancel.check()
        if time.monotonic() > end:
            unread = PurePosixPath(name).name
            found.append({"family": unread, "path": "", "box": [0, 0, 1, 1], "complete": True})
            continue
        found += [_sample(family, text) for _, family in _own_families(home, [name])]
    for family in families().values():
        tools.cancel.check()
        found.append(_sample(family, text))
    return found


def _sample(family: Family, text: str) -> dict[str, Any]:
    outline = outline_text(text, LetteringStyle(family.name, size=100), family)
    return {
        "family": family.name,
        "path": svg_path(outline),
        "box": list(outline.bounds),
        "complete": not outline.notices,
    }


def _own_families(home: str, names: Sequence[str]) -> Iterator[tuple[str, Family]]:
    for name in names:
        with contextlib.suppress(FontError, LibraryError):
            yield name, family_for(name, library_at(Path(home)))
