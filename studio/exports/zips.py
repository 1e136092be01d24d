"""Many titles rendered into one zip, in the background."""

import zipfile
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path

from studio.engine.work import SET
from studio.exports.background import Making, Workshop
from studio.passing import passing_place
from studio.titles.documents import home
from studio.web.disk import enough_disk

MOST_ZIPS = 20
"""Zips that are made or wait, with those that can still be fetched."""


@dataclass
class ZipJob(Making):
    """One zip on its way."""

    documents: list[bytes] = field(default_factory=list)
    names: list[str] = field(default_factory=list)
    scale: float = 1.0
    bits: int = 8
    backdrop: bool = True

    def make(self) -> Path:
        whole = passing_place(".zip")
        try:
            with zipfile.ZipFile(whole, "w", zipfile.ZIP_STORED) as archive:
                for name, document in zip(self.names, self.documents, strict=True):
                    picture = self._rendered(document)
                    archive.write(picture, name)
                    picture.unlink()
                    self.done += 1
        except BaseException:
            whole.unlink(missing_ok=True)
            raise
        return whole

    def forget(self) -> None:
        self.documents = []

    def _rendered(self, document: bytes) -> Path:
        enough_disk()
        path = passing_place(".png")
        ask = {
            "document": document,
            "home": home(),
            "path": str(path),
            "scale": self.scale,
            "bits": self.bits,
            "backdrop": self.backdrop,
        }
        try:
            self.wait_for(SET, f"zip {self.id}", ask)
        except BaseException:
            path.unlink(missing_ok=True)
            raise
        return path


_workshop: Workshop[ZipJob] = Workshop("sets", MOST_ZIPS)


def start(
    documents: list[bytes], titles: list[str], scale: float, bits: int, backdrop: bool
) -> ZipJob:
    """Begin a zip; ask `find` how far it is. Raises LimitReached."""
    names = list(file_names(titles))
    job = ZipJob(
        len(documents), documents=documents, names=names, scale=scale, bits=bits, backdrop=backdrop
    )
    return _workshop.start(job)


def find(job_id: str) -> ZipJob | None:
    return _workshop.find(job_id)


def file_names(titles: list[str]) -> Iterator[str]:
    """A name for each, none twice whatever the case, in the order of the list."""
    taken: set[str] = set()
    for title in titles:
        stem = file_stem(title)
        name, number = f"{stem}.png", 2
        while name.casefold() in taken:
            name, number = f"{stem} {number}.png", number + 1
        taken.add(name.casefold())
        yield name


def file_stem(title: str) -> str:
    """A title's name as one that a file may have."""
    stem = "".join("-" if c in '\\/:*?"<>|' or ord(c) < 32 else c for c in title)
    return stem.strip(" .")[:150] or "title"
