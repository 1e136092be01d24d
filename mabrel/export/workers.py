"""Those who make the frames: this process, processes of this machine, or those of a cluster."""

import os
import resource
import signal
from collections.abc import Callable
from concurrent.futures import Future, ProcessPoolExecutor
from dataclasses import dataclass
from multiprocessing import get_context
from typing import Any, Protocol

from mabrel.compose.bundle import LARGEST_SENT, bundled
from mabrel.export.worker import AtHome
from mabrel.processes import end_with, step_back
from mabrel.title import Title, title_to_json

Job = Callable[..., bytes]


class Workers(Protocol):
    """Whoever makes pieces, over the interface of `concurrent.futures`."""

    @property
    def count(self) -> int:
        """How many pieces are made at a time."""

    def share(self, title: Title) -> Any:
        """What stands for a title in what is submitted. Raises LibraryError, TitleError."""

    def submit(self, job: Job, *args: Any) -> "Future[bytes]":
        """Begin a piece."""

    def renew(self) -> None:
        """After a worker has died: others take its place."""

    def close(self) -> None: ...


class Here:
    """Pieces are made in this process, one when its result is asked for."""

    count = 1

    def share(self, title: Title) -> Any:
        return _at_home(title)

    def submit(self, job: Job, *args: Any) -> "Future[bytes]":
        future: Future[bytes] = Future()
        try:
            future.set_result(job(*args))
        except Exception as error:  # noqa: BLE001 - it is raised where the result is asked for
            future.set_exception(error)
        return future

    def renew(self) -> None:
        pass

    def close(self) -> None:
        pass


@dataclass(frozen=True)
class Means:
    """What a process of a pool may take: `memory` in bytes, and `nice`, how far it steps back."""

    threads: int
    memory: int | None = None
    nice: int = 0


class Processes:
    """Processes of this machine; they end with the one that began them."""

    def __init__(self, count: int, means: Means | None = None) -> None:
        self.count = count
        self._means = means or Means(max((os.cpu_count() or 1) // count, 1))
        self._pool = self._new()

    def _new(self) -> ProcessPoolExecutor:
        return ProcessPoolExecutor(
            self.count, get_context("spawn"), _begin, (self._means, os.getpid())
        )

    def share(self, title: Title) -> Any:
        return _at_home(title)

    def submit(self, job: Job, *args: Any) -> "Future[bytes]":
        return self._pool.submit(job, *args)

    def renew(self) -> None:
        """One that hangs is killed too."""
        before, self._pool = self._pool, self._new()
        for process in list((before._processes or {}).values()):
            process.kill()
        before.shutdown(wait=False, cancel_futures=True)

    def close(self) -> None:
        for process in list((self._pool._processes or {}).values()):
            process.kill()
        self._pool.shutdown(wait=False, cancel_futures=True)


class Cluster:
    """The workers of a dask.distributed cluster, by the address of its scheduler."""

    def __init__(self, address: str) -> None:
        from distributed import Client  # only where a cluster is used

        connect: Any = Client
        try:
            self._client = connect(address, timeout="10s", set_as_default=False)
        except OSError as error:
            raise OSError(f"no scheduler answers at {address}: {error}") from None
        self._pool = self._client.get_executor(pure=False, retries=0)

    @property
    def count(self) -> int:
        return max(len(self._client.scheduler_info(-1)["workers"]), 1)

    def share(self, title: Title) -> Any:
        """As a bundle, sent to every worker that there is; one that comes later fetches it from
        another."""
        # Under a name of its own: one that is let go of would take its likeness with it.
        return self._client.scatter(bundled(title, LARGEST_SENT), broadcast=True, hash=False)

    def submit(self, job: Job, *args: Any) -> "Future[bytes]":
        future: Future[bytes] = self._pool.submit(job, *args)
        return future

    def renew(self) -> None:
        """The cluster replaces its own workers."""

    def close(self) -> None:
        self._client.close()


def _at_home(title: Title) -> AtHome:
    return AtHome(title_to_json(title).encode(), title.home)


def workers_at(address: str | None, count: int, means: Means | None = None) -> Workers:
    """Those of a cluster, or `count` processes; with 1 and no `means`, this process. Raises
    OSError where no scheduler answers."""
    if address:
        return Cluster(address)
    return Processes(count, means) if count > 1 or means else Here()


def _begin(means: Means, parent: int) -> None:
    """The first thing that a process of the pool does."""
    import cv2
    import numba

    end_with(parent)
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    if means.nice:
        step_back(means.nice)
    numba.set_num_threads(min(means.threads, numba.config.NUMBA_NUM_THREADS))
    cv2.setNumThreads(means.threads)
    if means.memory is not None:
        resource.setrlimit(resource.RLIMIT_DATA, (means.memory, means.memory))
