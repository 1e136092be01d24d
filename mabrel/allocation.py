"""How a process that renders keeps memory between its arrays.

A step makes arrays as large as its picture and lets go of them, one after the other. The C library
gives large ones back to the system at once, which clears their pages anew each time that it hands
them out: a fifth of the time that a short chain of steps takes over a whole frame.
"""

import ctypes
import sys

_TRIM_THRESHOLD, _MMAP_THRESHOLD = -1, -3  # as `malloc.h` numbers them
_LARGEST = 64 * 2**20
"""Bytes. Four numbers a pixel at 1920 × 1080 take half as much."""
_KEPT = 256 * 2**20


def keep_freed() -> None:
    """Keep memory that is free for the next arrays, up to 256 MB, and arrays of up to 64 MB among
    it; larger ones go back to the system as before. For a process that does nothing but render;
    nothing happens where the C library is not glibc.

    References
    ----------
    mallopt(3), https://man7.org/linux/man-pages/man3/mallopt.3.html

    Examples
    --------
    >>> keep_freed()
    """
    if sys.platform == "linux":
        mallopt = getattr(ctypes.CDLL(None), "mallopt", None)
        if mallopt is not None:
            mallopt(_MMAP_THRESHOLD, _LARGEST)
            mallopt(_TRIM_THRESHOLD, _KEPT)
