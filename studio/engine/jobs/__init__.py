"""What engine processes do: plain functions of the tools and of what was asked.

Only these modules, and `studio.engine.shipped`, may use the engine's calculations.
"""

from collections.abc import Callable
from typing import Any

from studio.engine.jobs import (
    arrivals,
    bundles,
    documents,
    exports,
    files,
    finishes,
    looks,
    parts,
    pictures,
    warming,
)

JOBS: dict[str, Callable[..., Any]] = {
    "preview": pictures.preview,
    "export": pictures.export,
    "estimate": exports.estimate,
    "build_pictures": pictures.build_pictures,
    "strip": pictures.strip,
    "finish_strip": pictures.finish_strip,
    "section": looks.section,
    "tones": looks.tones,
    "relief": looks.relief,
    "boxes": looks.boxes,
    "cells": looks.cells,
    "parts": parts.parts,
    "readings": looks.said,
    "check": documents.check,
    "make": documents.make,
    "swap": documents.swapped,
    "resize": documents.resized,
    "add_step": documents.with_step_added,
    "add_layer": documents.with_layer_added,
    "arrive": documents.arrived,
    "finish": documents.finished,
    "words": documents.words,
    "replace": documents.replaced,
    "check_arrival": arrivals.check,
    "keep_arrival": arrivals.from_layer,
    "arrival_film": arrivals.film,
    "motion": looks.motion,
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
