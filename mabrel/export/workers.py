"""Those who make the frames: this process, processes of this machine, or those of a cluster."""

import os
import resource
from collections.abc import Callable
from concurrent.futures import Executor, Future, ProcessPoolExecutor
from multiprocessing import get_context
from typing import Any, Protocol

Job = Callable[..., bytes]


class Workers(Protocol):
    """Whoever makes pieces, over the interface of `concurrent.futures`."""

    @property
    def count(self) -> int:
        """How many pieces are made at a time."""

    def share(self, bundle: bytes) -> Any:
        """What stands for a bundle in what is submitted: it goes to each worker once."""

    def submit(self, job: Job, *args: Any) -> "Future[bytes]":
        """Begin a piece."""

    def renew(self) -> None:
        """After a worker has died: others take its place."""

    def close(self) -> None: ...


class Here:
    """Pieces are made in this process, one when its result is asked for."""

    count = 1

    def share(self, bundle: bytes) -> Any:
        return bundle

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


class Processes:
    """Processes of this machine, each with its share of the cores and a limit of memory."""

    def __init__(
        self, count: int, *, memory: int | None = None, threads: int | None = None
    ) -> None:
        self.count = count
        self._threads = threads or max((os.cpu_count() or 1) // count, 1)
        self._memory = memory
        self._pool = self._new()

    def _new(self) -> Executor:
        return ProcessPoolExecutor(
            self.count, get_context("spawn"), _begin, (self._threads, self._memory)
        )

    def share(self, bundle: bytes) -> Any:
        return bundle

    def submit(self, job: Job, *args: Any) -> "Future[bytes]":
        return self._pool.submit(job, *args)

    def renew(self) -> None:
        self._pool.shutdown(wait=False, cancel_futures=True)
        self._pool = self._new()

    def close(self) -> None:
        self._pool.shutdown(cancel_futures=True)


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

    def share(self, bundle: bytes) -> Any:
        """Sent to every worker that there is; one that comes later fetches it from another."""
        return self._client.scatter(bundle, broadcast=True, hash=True)

    def submit(self, job: Job, *args: Any) -> "Future[bytes]":
        future: Future[bytes] = self._pool.submit(job, *args)
        return future

    def renew(self) -> None:
        """The cluster replaces its own workers."""

    def close(self) -> None:
        self._client.close()


def workers_at(address: str | None, count: int, memory: int | None = None) -> Workers:
    """Those of a cluster, or `count` processes; with 1 and no address, this process. Raises
    OSError where no scheduler answers."""
    if address:
        return Cluster(address)
    return Processes(count, memory=memory) if count > 1 else Here()


def _begin(threads: int, memory: int | None) -> None:
    """The first thing that a process of the pool does."""
    import cv2
    import numba

    numba.set_num_threads(min(threads, numba.config.NUMBA_NUM_THREADS))
    cv2.setNumThreads(threads)
    if memory is not None:
        resource.setrlimit(resource.RLIMIT_DATA, (memory, memory))
