"""Many titles rendered into one zip, in the background: with progress, and it can be stopped.

One thread makes them, one after the other.
"""

import logging
import queue
import threading
import time
import uuid
import zipfile
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path

from studio.engine.asking import desk
from studio.engine.line import Job
from studio.engine.outcome import EngineFault, LimitReached, Refused, Superseded
from studio.engine.work import SET
from studio.passing import passing_place
from studio.titles.documents import home
from studio.web.disk import enough_disk

KEPT = 3600
"""Seconds for which a finished zip can be fetched."""
MOST_ZIPS = 20
"""Zips that are made or wait, with those that can still be fetched."""
_LOG = logging.getLogger(__name__)


@dataclass
class ZipJob:
    """One zip on its way. `fault` says why it ended early; `path` is there once it is done."""

    id: str
    documents: list[bytes]
    names: list[str]
    scale: float
    bits: int
    backdrop: bool
    done: int = 0
    fault: str = ""
    path: Path | None = None
    asked: float = field(default_factory=time.monotonic)
    began: float | None = None
    stopped: bool = False
    running: Job | None = None

    @property
    def ended(self) -> bool:
        return self.path is not None or bool(self.fault)

    @property
    def remaining(self) -> float | None:
        """Seconds that are left, estimated from what it took so far."""
        if not self.done or self.began is None:
            return None
        return (time.monotonic() - self.began) / self.done * (len(self.documents) - self.done)

    def stop(self) -> None:
        self.stopped = True
        if self.running is not None:
            desk().drop(self.running)


_jobs: dict[str, ZipJob] = {}
_waiting: "queue.SimpleQueue[ZipJob]" = queue.SimpleQueue()
_beginning = threading.Lock()
_thread: threading.Thread | None = None


def start(
    documents: list[bytes], titles: list[str], scale: float, bits: int, backdrop: bool
) -> ZipJob:
    """Begin a zip; ask `find` how far it is. Raises LimitReached."""
    global _thread
    enough_disk()
    with _beginning:
        _sweep()
        if len(_jobs) >= MOST_ZIPS:
            raise LimitReached(f"{MOST_ZIPS} sets are on their way already: wait for one of them.")
        names = list(file_names(titles))
        job = ZipJob(uuid.uuid4().hex, documents, names, scale, bits, backdrop)
        _jobs[job.id] = job
        _waiting.put(job)
        if _thread is None or not _thread.is_alive():
            _thread = threading.Thread(target=_work, name="sets", daemon=True)
            _thread.start()
    return job


def find(job_id: str) -> ZipJob | None:
    return _jobs.get(job_id)


def _work() -> None:
    while True:
        job = _waiting.get()
        if job.stopped:
            job.fault = "stopped"
            continue
        try:
            _make(job)
        except Exception as error:  # noqa: BLE001 - the next set must be made all the same
            _LOG.exception("a set could not be made")
            job.fault = job.fault or str(error) or "it could not be written"


def _make(job: ZipJob) -> None:
    job.began = time.monotonic()
    whole = passing_place(".zip")
    try:
        with zipfile.ZipFile(whole, "w", zipfile.ZIP_STORED) as archive:
            for name, document in zip(job.names, job.documents, strict=True):
                picture = _rendered(job, document)
                archive.write(picture, name)
                picture.unlink()
                job.done += 1
        job.path = whole
    except (Refused, LimitReached, EngineFault, Superseded, OSError) as error:
        job.fault = "stopped" if job.stopped else _said(error)
        whole.unlink(missing_ok=True)
    finally:
        job.documents = []


def _said(error: Exception) -> str:
    if isinstance(error, Refused | LimitReached):
        return str(error)
    _LOG.error("a set could not be made", exc_info=error)
    return "it could not be rendered or written"


def _rendered(job: ZipJob, document: bytes) -> Path:
    enough_disk()
    path = passing_place(".png")
    ask = {
        "document": document,
        "home": home(),
        "path": str(path),
        "scale": job.scale,
        "bits": job.bits,
        "backdrop": job.backdrop,
    }
    job.running = desk().submit(SET, "sets", f"zip {job.id}", ask)
    if job.stopped:
        desk().drop(job.running)
    try:
        job.running.future.result()
    except BaseException:
        path.unlink(missing_ok=True)
        raise
    return path


def file_names(titles: list[str]) -> Iterator[str]:
    """A name for each, none twice whatever the case, in the order of the list."""
    taken: set[str] = set()
    for title in titles:
        stem = "".join("-" if c in '\\/:*?"<>|' or ord(c) < 32 else c for c in title)
        stem = stem.strip(" .")[:150] or "title"
        name, number = f"{stem}.png", 2
        while name.casefold() in taken:
            name, number = f"{stem} {number}.png", number + 1
        taken.add(name.casefold())
        yield name


def _sweep() -> None:
    """Forget zips that nobody fetches any more: the old ones, and where there are too many the
    oldest."""
    ended = sorted((job for job in _jobs.values() if job.ended), key=lambda job: job.asked)
    for job in ended:
        if time.monotonic() - job.asked > KEPT or len(_jobs) >= MOST_ZIPS:
            del _jobs[job.id]
            if job.path is not None:
                job.path.unlink(missing_ok=True)
