"""Many titles rendered into one zip, in the background: with progress, and it can be stopped."""

import shutil
import threading
import time
import uuid
import zipfile
from dataclasses import dataclass, field
from pathlib import Path

from django.conf import settings

from mabrel import Title
from mabrel.export import png_bytes
from mabrel.render import Cancel, Renderer
from studio.preview.desk import Job, Urgency, desk

_KEPT = 3600  # seconds for which a finished zip can be fetched


@dataclass
class ZipJob:
    """One zip on its way. `fault` says why it ended early; `path` is there once it is done."""

    id: str
    titles: list[Title]
    scale: float
    bits: int
    done: int = 0
    fault: str = ""
    path: Path | None = None
    began: float = field(default_factory=time.monotonic)
    stopped: bool = False
    running: Job | None = None

    @property
    def remaining(self) -> float | None:
        """Seconds that are left, estimated from what it took so far."""
        if not self.done:
            return None
        return (time.monotonic() - self.began) / self.done * (len(self.titles) - self.done)

    def stop(self) -> None:
        self.stopped = True
        if self.running is not None:
            self.running.drop()


_jobs: dict[str, ZipJob] = {}


def folder() -> Path:
    return Path(settings.STATE_DIR) / "exports"


def start(titles: list[Title], scale: float, bits: int) -> ZipJob:
    """Begin a zip; ask `find` how far it is."""
    _sweep()
    job = ZipJob(uuid.uuid4().hex, titles, scale, bits)
    _jobs[job.id] = job
    threading.Thread(target=_run, args=(job,), name=f"zip {job.id}", daemon=True).start()
    return job


def find(job_id: str) -> ZipJob | None:
    return _jobs.get(job_id)


def _run(job: ZipJob) -> None:
    place = folder() / job.id
    try:
        place.mkdir(parents=True)
        with zipfile.ZipFile(place / "part", "w", zipfile.ZIP_STORED) as archive:
            for name, title in zip(file_names(job.titles), job.titles, strict=True):
                archive.writestr(name, _rendered(job, title))
                job.done += 1
        job.path = (place / "part").rename(place / "titles.zip")
    except Exception as error:  # noqa: BLE001 - it goes to the one who asked
        job.fault = "stopped" if job.stopped else str(error) or type(error).__name__
        shutil.rmtree(place, ignore_errors=True)


def _rendered(job: ZipJob, title: Title) -> bytes:
    def work(renderer: Renderer, cancel: Cancel) -> bytes:
        return png_bytes(renderer.render(title, scale=job.scale, cancel=cancel), job.bits)

    job.running = desk.submit(f"zip {job.id}", Urgency.EXPORT, work)
    if job.stopped:
        job.running.drop()
    return job.running.future.result()


def file_names(titles: list[Title]) -> list[str]:
    """A name for each, none twice, in the order of the list."""
    names: list[str] = []
    for number, title in enumerate(titles, start=1):
        stem = "".join("-" if c in '\\/:*?"<>|\0' or ord(c) < 32 else c for c in title.name).strip()
        stem = stem or "title"
        plain = f"{stem}.png"
        names.append(plain if plain not in names else f"{stem} {number}.png")
    return names


def _sweep() -> None:
    for job in [each for each in _jobs.values() if time.monotonic() - each.began > _KEPT]:
        if job.path is not None or job.fault:
            del _jobs[job.id]
            shutil.rmtree(folder() / job.id, ignore_errors=True)
