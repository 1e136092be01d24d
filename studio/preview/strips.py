"""Strips that can be kept: a word in each finish, and the titles on the shelf."""

from typing import Any

from studio.engine.kept import key_of
from studio.engine.outcome import Refused
from studio.library.files import version_named
from studio.titles.documents import home
from studio.titles.finishes import ChosenFinish
from studio.titles.models import Title


def of_finish(
    finish: ChosenFinish,
    text: str,
    font: str,
    frame: tuple[int, int],
    picture: str | None,
    size: tuple[int, int],
) -> tuple[str, dict[str, Any]]:
    """The key under which a strip of a finish is kept, and what the engine is asked for it."""
    key = key_of(
        "finish strip", finish.text, text, font, frame, size, _state(font), _state(picture)
    )
    ask = {
        "finish": finish.text.encode(),
        "home": home(),
        "text": text,
        "font": font,
        "frame": frame,
        "picture": picture,
        "width": size[0],
        "height": size[1],
    }
    return key, ask


def of_title(title: Title, size: tuple[int, int]) -> tuple[str, dict[str, Any]]:
    """The same of a title on the shelf."""
    key = key_of("title strip", title.document, size, [_state(name) for name in title.files])
    ask = {
        "document": title.document.encode(),
        "home": home(),
        "width": size[0],
        "height": size[1],
    }
    return key, ask


def _state(name: str | None) -> str:
    """Which content a name stands for; "" where it names no file."""
    if not name:
        return ""
    try:
        return f"{name} {version_named(name)}"
    except (Refused, OSError):
        return name
