"""Frames and rates that are usual."""

from typing import NamedTuple


class FrameSize(NamedTuple):
    """A common size of frames, in pixels; sizes of one sort belong together."""

    sort: str
    label: str
    width: int
    height: int


FRAMES = (
    FrameSize("Video", "HD", 1280, 720),
    FrameSize("Video", "Full HD", 1920, 1080),
    FrameSize("Video", "Cinema 2K", 2048, 1080),
    FrameSize("Video", "Ultra HD", 3840, 2160),
    FrameSize("Social", "Upright", 1080, 1920),
    FrameSize("Social", "Portrait", 1080, 1350),
    FrameSize("Social", "Square", 1080, 1080),
    FrameSize("Social", "Link picture", 1200, 630),
    FrameSize("Print, 300 dpi", "A5 landscape", 2480, 1748),
    FrameSize("Print, 300 dpi", "A4", 2480, 3508),
    FrameSize("Print, 300 dpi", "A4 landscape", 3508, 2480),
)
RATES = (24.0, 25.0, 30.0, 50.0, 60.0, 24000 / 1001, 30000 / 1001, 60000 / 1001)
"""Frames a second."""
