"""File formats that a title is exported to."""

from mabrel.export.clip import write_clip
from mabrel.export.frames import ClipError, FrameTime, frame_times, numbered, rate_of
from mabrel.export.png import png_bytes

__all__ = [
    "ClipError",
    "FrameTime",
    "frame_times",
    "numbered",
    "png_bytes",
    "rate_of",
    "write_clip",
]
