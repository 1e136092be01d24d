"""What the exports' own process does: the frames of titles, in pieces that last."""

import os
from collections.abc import Callable, Sequence
from pathlib import Path

from mabrel.export.making import Stopped, export
from mabrel.export.order import Order
from mabrel.export.sets import Member, export_set
from mabrel.export.workers import Means, Workers, workers_at
from mabrel.steps import check_title
from mabrel.title import Title, parse_title
from studio.engine.limits import EXPORT_ADDRESS, EXPORT_PROCESSES, NICE, WORKER_BYTES

__all__ = ["Stopped", "exported", "exported_set", "workers"]


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
    *,
    means: Workers,
    folder: Path,
    done: Callable[[int], None],
    stopped: Callable[[], bool],
) -> None:
    """Export a document to `path`; pieces that lie in `folder` already are not made again.

    Raises Stopped, OSError, and ValueError that says what is wrong with the title.
    """
    export(_title(document, home), order, path, means, folder=folder, done=done, stopped=stopped)


def exported_set(
    members: Sequence[tuple[str, str]],
    home: Path,
    order: Order,
    path: Path,
    *,
    sheet: bool,
    means: Workers,
    folder: Path,
    done: Callable[[int], None],
    stopped: Callable[[], bool],
) -> None:
    """The same of many documents, by the names of their files, in one zip."""
    titles = [Member(name, _title(document, home)) for name, document in members]
    export_set(titles, order, path, means, folder=folder, sheet=sheet, done=done, stopped=stopped)


def _title(document: str, home: Path) -> Title:
    return check_title(parse_title(document).at_home(home))
