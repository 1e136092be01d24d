"""Writing files whole or not at all."""

import contextlib
import os
import tempfile
from pathlib import Path


def write_atomically(path: Path, content: bytes) -> None:
    """Write `content` beside `path`, then put it in its place in one act. Raises OSError."""
    try:
        descriptor, beside = tempfile.mkstemp(dir=path.parent, prefix=f".{path.name}.")
    except OSError as error:
        raise OSError(error.errno, error.strerror, str(path)) from None
    try:
        with os.fdopen(descriptor, "wb") as file:
            file.write(content)
            file.flush()
            os.fsync(file.fileno())
        mask = os.umask(0)
        os.umask(mask)
        Path(beside).chmod(0o666 & ~mask)
        Path(beside).replace(path)
    except BaseException:
        with contextlib.suppress(FileNotFoundError):
            Path(beside).unlink()
        raise
