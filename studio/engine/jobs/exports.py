"""What an export would take, tried on a few of its frames."""

import time
from typing import Any

from mabrel.export.frames import FrameTime
from mabrel.export.making import pieces_of
from mabrel.export.order import Order
from mabrel.export.worker import piece_bytes
from mabrel.title import Title
from studio.engine.limits import EXPORT_PROCESSES
from studio.engine.process import Tools

_TRIED = 5  # frames after the first one


def estimate(tools: Tools, *, document: bytes, home: str, order: dict[str, Any]) -> dict[str, Any]:
    """Frames, seconds and bytes, from what the frame in the middle takes, and a few after it."""
    title, ordered = tools.title(document, home), Order.model_validate(order)
    frames = ordered.frames(title)
    middle = frames[len(frames) // 2 :][: _TRIED + 1]
    first, first_took = _tried(tools, title, ordered, middle[:1])
    if len(middle) < 2:
        return _told(len(frames), first_took * len(frames), first * len(frames))
    all_tried, took = _tried(tools, title, ordered, middle)
    more = max(all_tried - first, 0) / (len(middle) - 1)
    pieces = len(pieces_of(title, ordered))
    others = len(frames) - pieces
    each = took / len(middle)
    seconds = first_took * min(EXPORT_PROCESSES, pieces) + each * len(frames)
    return _told(len(frames), seconds, first * pieces + more * others)


def _tried(tools: Tools, title: Title, order: Order, frames: list[FrameTime]) -> tuple[int, float]:
    """How large frames are that are encoded together, and how many seconds it took."""
    began = time.monotonic()
    content = piece_bytes(tools.renderer, title, order, frames, tools.cancel)
    return len(content), time.monotonic() - began


def _told(frames: int, seconds: float, size: float) -> dict[str, Any]:
    return {"frames": frames, "seconds": round(seconds, 1), "bytes": round(size)}
