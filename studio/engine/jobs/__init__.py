"""What engine processes do: plain functions of the tools and of what was asked.

Only these modules, and `studio.engine.shipped`, may use the engine's calculations.
"""

from collections.abc import Callable
from typing import Any

from studio.engine.jobs import bundles, documents, files, finishes, looks, pictures, warming

JOBS: dict[str, Callable[..., Any]] = {
    "preview": pictures.preview,
    "export": pictures.export,
    "build_pictures": pictures.build_pictures,
    "strip": pictures.strip,
    "finish_strip": pictures.finish_strip,
    "section": looks.section,
    "tones": looks.tones,
    "relief": looks.relief,
    "boxes": looks.boxes,
    "readings": looks.said,
    "check": documents.check,
    "make": documents.make,
    "swap": documents.swapped,
    "resize": documents.resized,
    "finish": documents.finished,
    "words": documents.words,
    "replace": documents.replaced,
    "check_finish": finishes.check,
    "keep_finish": finishes.from_layer,
    "file": files.look_at,
    "file_picture": files.picture,
    "font_samples": files.font_samples,
    "fonts": files.fonts,
    "pack": bundles.pack,
    "unpack": bundles.unpack,
    "warm": warming.warm,
}
