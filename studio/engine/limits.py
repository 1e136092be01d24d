"""The engine's limits, read from the environment in one place."""

import os

from studio.engine.process import Limits
from studio.engine.work import Role

_MB = 2**20


def _megabytes(name: str, default: int) -> int:
    return int(os.environ.get(name, default)) * _MB


WORKER_BYTES = _megabytes("MABREL_WORKER_MB", 6144)
"""What one engine process may take; the system refuses it more."""
CACHE_BYTES = _megabytes("MABREL_CACHE_MB", 1024)
"""What the process for the hand keeps for the next picture; the others keep half and a third."""
NICE = 15
"""How far the background steps back for everything else."""

MOST_WAITING = 600
"""Requests that may wait for the engine, from all pages together."""
MOST_OF_A_PAGE = 80
PREVIEW_PIXELS = 8_300_000
"""What the largest usual screen shows: 3840 × 2160."""

LIMITS = {
    Role.HAND: Limits(WORKER_BYTES, CACHE_BYTES),
    Role.CLERK: Limits(WORKER_BYTES, CACHE_BYTES // 3),
    Role.BACKGROUND: Limits(WORKER_BYTES, CACHE_BYTES // 2, NICE),
}

EXPORT_ADDRESS = os.environ.get("MABREL_FRAMES") or None
"""The scheduler of a cluster that makes the frames of exports; without one, this machine does."""
EXPORT_PROCESSES = max(int(os.environ.get("MABREL_EXPORT_PROCESSES", "0")), 0) or max(
    (os.cpu_count() or 1) // 2, 1
)
"""Processes of this machine that make frames, each with its share of the cores."""
