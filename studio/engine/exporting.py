"""What the exports' own process does: the frames of a title, in pieces that last."""

import os
from collections.abc import Callable
from pathlib import Path

from mabrel.export.making import Stopped, export
from mabrel.export.order import Order
from mabrel.export.workers import Means, Workers, end_with, workers_at
from mabrel.steps import check_title
from mabrel.title import parse_title
from studio.engine.limits import EXPORT_ADDRESS, EXPORT_PROCESSES, NICE, WORKER_BYTES

__all__ = ["Stopped", "end_with", "exported", "workers"]


def workers() -> Workers:
    """Those of the cluster at ``MABREL_FRAMES``, or processes of this machine. Raises OSError
    where no scheduler answers."""
    threads = max((os.cpu_count() or 1) // EXPORT_PROCESSES, 1)
    means = Means(threads, WORKER_BYTES, NICE)
    return workers_at(EXPORT_ADDRESS, EXPORT_PROCESSES, means)


def exported(
    document: str,
    home: Path,
    order: Order,
    path: Path,
    folder: Path,
    means: Workers,
    done: Callable[[int], None],
    stopped: Callable[[], bool],
) -> None:
    """Export a document to `path`; pieces that lie in `folder` already are not made again.

    Raises Stopped, OSError, and ValueError that says what is wrong with the title.
    """
    title = check_title(parse_title(document).at_home(home))
    export(title, order, path, means, folder=folder, done=done, stopped=stopped)
