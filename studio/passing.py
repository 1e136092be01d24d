"""Files on their way: what was sent and is not kept yet, what was made and is not fetched yet.

They lie in one folder beside the library, on the same disk. What a killed studio leaves there is
swept away when the next one starts.
"""

import shutil
import uuid
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from django.conf import settings


def passing_place(ending: str = "") -> Path:
    """A name that nothing has yet."""
    folder: Path = settings.PASSING_DIR
    folder.mkdir(parents=True, exist_ok=True)
    return folder / f"{uuid.uuid4().hex}{ending}"


@contextmanager
def passing_folder() -> Iterator[Path]:
    """A folder that is gone afterwards."""
    folder = passing_place()
    folder.mkdir()
    try:
        yield folder
    finally:
        shutil.rmtree(folder, ignore_errors=True)


def sweep() -> None:
    """Remove all that an earlier studio has left half done. Nothing must be on its way."""
    shutil.rmtree(settings.PASSING_DIR, ignore_errors=True)
    for path in settings.LIBRARY_DIR.rglob(".*") if settings.LIBRARY_DIR.is_dir() else ():
        if path.is_file():  # names that begin with a dot are those of files that are being written
            path.unlink(missing_ok=True)
    settings.PASSING_DIR.mkdir(parents=True, exist_ok=True)
