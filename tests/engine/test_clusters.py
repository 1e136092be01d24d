"""Frames made by a dask cluster: the same as by this process, also where a worker is killed."""

import os
import threading
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from mabrel import parse_title
from mabrel.export.making import export
from mabrel.export.order import Order
from mabrel.export.workers import Cluster
from mabrel.title import Title
from tests.engine.test_clips import DOCUMENT

ORDER = Order(kind="clip", form="ffv1")


@pytest.fixture(scope="module")
def title() -> Title:
    return parse_title(DOCUMENT.replace('"duration": 0.2', '"duration": 3.2'))


@pytest.fixture(scope="module")
def cluster() -> Iterator[Any]:
    from distributed import LocalCluster

    made: Any = LocalCluster(n_workers=2, threads_per_worker=1, dashboard_address=None)
    yield made
    made.close()


def made(title: Title, folder: Path, workers: Any = None, done: Any = lambda frames: None) -> bytes:
    pieces, path = folder / "pieces", folder / "clip.mkv"
    pieces.mkdir(parents=True)
    export(title, ORDER, path, workers, folder=pieces, done=done)
    return path.read_bytes()


def test_a_cluster_makes_the_same_also_when_a_worker_is_killed(title, cluster, tmp_path) -> None:
    workers = Cluster(cluster.scheduler_address)
    killed = threading.Event()

    def kill(frames: int) -> None:
        if frames >= 8 and not killed.is_set():
            killed.set()
            os.kill(next(iter(cluster.workers.values())).pid, 9)

    try:
        assert workers.count == 2
        alone = made(title, tmp_path / "alone")
        assert made(title, tmp_path / "cluster", workers) == alone
        assert made(title, tmp_path / "killed", workers, kill) == alone
        assert killed.is_set()
    finally:
        workers.close()
