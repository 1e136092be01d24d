"""What is known of the library's files. The engine looks into each once; that is kept."""

import json
from pathlib import Path
from typing import Any

from studio.engine.asking import answer_now
from studio.engine.kept import kept_on_disk, key_of
from studio.engine.outcome import LimitReached
from studio.engine.shipped import is_numbered, named_as_clip
from studio.engine.work import CLIP_FILE, FILE, FONTS
from studio.library.files import own_fonts, version_named, version_of
from studio.titles.documents import home


def facts_of(name: str, path: Path) -> dict[str, Any]:
    """What is known of a file that lies at `path`, kept or not; of numbered pictures of all that
    are kept: `fault` says what is wrong with it, or "". Of a picture `width` and `height`; of a
    clip also `frames`, `seconds` and `rate`; `called` is what its name should end with."""
    version = version_named(name) if is_numbered(name) else version_of(path)
    key = key_of("file", name, version)
    known = kept_on_disk().get(key)
    if known is not None:
        return dict(json.loads(known))
    work = CLIP_FILE if named_as_clip(name) else FILE
    try:
        found = dict(answer_now(work, path=str(path), name=name, home=home()))
    except LimitReached as limit:
        return {"fault": str(limit)}
    kept_on_disk().put(key, json.dumps(found).encode())
    return found


def font_facts() -> list[dict[str, Any]]:
    """The fonts of the library that can be used, with their axes."""
    names = own_fonts()
    if not names:
        return []
    key = key_of("fonts", *map(version_named, names))
    known = kept_on_disk().get(key)
    if known is not None:
        return list(json.loads(known))
    found = list(answer_now(FONTS, home=home(), names=names))
    kept_on_disk().put(key, json.dumps(found).encode())
    return found
