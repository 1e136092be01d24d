"""How much sooner two workers make a clip than one: `python -m tools.bench_exports`.

Five seconds of FOGHORN and of TIDE TABLE at 1920 × 1080 and 25 frames a second as FFV1, by
processes of this machine and by a dask cluster on it. Each worker has one thread, so that two have
twice the means of one; their start is not counted, what each renders for the first time is.
"""

import sys
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from mabrel.export.making import make_pieces
from mabrel.export.order import Order
from mabrel.export.workers import Cluster, Means, Processes, Workers
from mabrel.title import Title, read_title

TITLES = Path(__file__).resolve().parent.parent / "demo" / "titles"
NAMES = ("foghorn", "tide-table")
SECONDS = 5.0


@contextmanager
def processes(count: int) -> Iterator[Workers]:
    workers = Processes(count, Means(threads=1))
    try:
        yield workers
    finally:
        workers.close()


@contextmanager
def cluster(count: int) -> Iterator[Workers]:
    from distributed import LocalCluster

    with _one_thread():
        made: Any = LocalCluster(n_workers=count, threads_per_worker=1, dashboard_address=None)
    workers = Cluster(made.scheduler_address)
    try:
        yield workers
    finally:
        workers.close()
        made.close()


@contextmanager
def _one_thread() -> Iterator[None]:
    """Processes that begin here have one thread for their kernels."""
    import os

    os.environ["NUMBA_NUM_THREADS"] = os.environ["OMP_NUM_THREADS"] = "1"
    yield


def took(title: Title, workers: Workers, seconds: float) -> float:
    """Seconds for all pieces, after the workers have begun."""
    with tempfile.TemporaryDirectory() as folder:
        warm = Path(folder) / "warm"
        warm.mkdir()
        small = Order(
            kind="clip", form="ffv1", scale=0.05, end=16 * workers.count / title.frame.fps
        )
        make_pieces(
            title.model_copy(update={"name": "warm"}).at_home(title.home), small, warm, workers
        )
        order = Order(kind="clip", form="ffv1", end=seconds)
        began = time.monotonic()
        make_pieces(title, order, Path(folder), workers)
        return time.monotonic() - began


def rows(seconds: float) -> Iterator[str]:
    """Lines of the table, each as soon as it is measured."""
    yield "| title | workers | one | two | as many times as fast |"
    yield "|---|---|---|---|---|"
    for name in NAMES:
        title = read_title(TITLES / f"{name}.title.json")
        for label, kind in (("processes", processes), ("dask", cluster)):
            times = []
            for count in (1, 2):
                with kind(count) as workers:
                    times.append(took(title, workers, seconds))
            one, two = times
            yield f"| {title.name} | {label} | {one:.1f} s | {two:.1f} s | {one / two:.2f} |"


def table(seconds: float = SECONDS) -> str:
    return "\n".join(rows(seconds))


def main() -> None:
    for row in rows(float(sys.argv[1]) if len(sys.argv) > 1 else SECONDS):
        print(row, flush=True)


if __name__ == "__main__":
    main()
