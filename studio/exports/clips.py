"""A title as a clip, or its frames in a zip, in the background."""

import shutil
import zipfile
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import Literal

from studio.engine.work import CLIP, CLIP_FRAME
from studio.exports.background import Making, Workshop
from studio.passing import passing_place
from studio.titles.documents import home
from studio.web.disk import enough_disk

MOST_CLIPS = 8
"""Clips that are made or wait, with those that can still be fetched."""
MOST_FRAMES = 7200
Form = Literal["webm", "frames"]


@dataclass
class ClipJob(Making):
    """One clip on its way: its frames lie in a folder of its own until they are one file."""

    document: bytes = b""
    times: Sequence[float] = ()
    rate: tuple[int, int] = (25, 1)
    scale: float = 1.0
    bits: int = 8
    backdrop: bool = True
    form: Form = "webm"
    folder: Path = field(default_factory=passing_place)

    def make(self) -> Path:
        self.folder.mkdir()
        frames = list(self._frames())
        whole = passing_place(".webm" if self.form == "webm" else ".zip")
        try:
            if self.form == "webm":
                ask = {"frames": [str(each) for each in frames], "rate": self.rate}
                self.wait_for(CLIP, f"clip {self.id}", ask | {"path": str(whole)})
            else:
                with zipfile.ZipFile(whole, "w", zipfile.ZIP_STORED) as archive:
                    for frame in frames:
                        archive.write(frame, frame.name)
        except BaseException:
            whole.unlink(missing_ok=True)
            raise
        return whole

    def _frames(self) -> Iterator[Path]:
        for number, time in enumerate(self.times):
            enough_disk()
            path = self.folder / f"frame-{number:05d}.png"
            ask = {
                "document": self.document,
                "home": home(),
                "path": str(path),
                "scale": self.scale,
                "bits": self.bits if self.form == "frames" else 8,
                "backdrop": self.backdrop,
                "time": time,
            }
            self.wait_for(CLIP_FRAME, f"clip {self.id}", ask)
            self.done += 1
            yield path

    def forget(self) -> None:
        self.document = b""
        shutil.rmtree(self.folder, ignore_errors=True)


workshop: Workshop[ClipJob] = Workshop("clips", MOST_CLIPS)
