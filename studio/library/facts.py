"""What is known of the library's files. The engine looks into each once; that is kept."""

import json
from pathlib import Path
from typing import Any

from studio.engine.asking import answer_now
from studio.engine.kept import kept_on_disk, key_of
from studio.engine.outcome import LimitReached
from studio.engine.work import FILE, FONTS
from studio.library.files import own_fonts, place_of, version_of
from studio.titles.documents import home


def facts_of(name: str, path: Path) -> dict[str, Any]:
    """`width` and `height` of a picture, and `fault`: what is wrong with the file, or ""."""
    key = key_of("file", name, version_of(path))
    known = kept_on_disk().get(key)
    if known is not None:
        return dict(json.loads(known))
    try:
        found = dict(answer_now(FILE, path=str(path), name=name))
    except LimitReached as limit:
        return {"fault": str(limit)}
    kept_on_disk().put(key, json.dumps(found).encode())
    return found


def font_facts() -> list[dict[str, Any]]:
    """The fonts of the library that can be used, with their axes."""
    names = own_fonts()
    if not names:
        return []
    key = key_of("fonts", *(version_of(place_of(name)) for name in names))
    known = kept_on_disk().get(key)
    if known is not None:
        return list(json.loads(known))
    found = list(answer_now(FONTS, home=home(), names=names))
    kept_on_disk().put(key, json.dumps(found).encode())
    return found
