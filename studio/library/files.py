"""The studio's own pictures and fonts: files in one folder, named as titles name them."""

import contextlib
import filecmp
import hashlib
import itertools
import os
import re
import shutil
import threading
from collections.abc import Iterator, Mapping
from pathlib import Path, PurePosixPath

from django.conf import settings

from studio.engine.outcome import Refused
from studio.engine.shipped import (
    CLIP_ENDINGS,
    LARGEST_CLIP,
    LARGEST_LIBRARY_FILE,
    SHIPPED,
    SHIPPED_PREFIX,
    is_font_file,
    is_numbered,
    named_as_clip,
    numbers_of,
)
from studio.library.runs import member, numbered_run, renamed, with_runs
from studio.web.limits import LONGEST_NAME

library_lock = threading.RLock()
"""Held while files are put in or taken out, and until what names them is saved."""

_STILLS = (".png", ".jpg", ".jpeg", ".webp", ".tif", ".tiff", ".exr", ".hdr", ".svg")
PICTURES = (*_STILLS, *CLIP_ENDINGS)
_FONTS = (".ttf", ".otf", ".woff", ".woff2")


def own_files() -> list[str]:
    """The names of all pictures and fonts, in order; those of numbered pictures before
    their first one."""
    return with_runs(_all_files())


def _all_files() -> Iterator[str]:
    root: Path = settings.LIBRARY_DIR
    for path in sorted(root.rglob("*")) if root.is_dir() else ():
        name = str(path.relative_to(root))
        if path.is_file() and not path.name.startswith(".") and (is_picture(name) or is_font(name)):
            yield name


def is_picture(name: str) -> bool:
    return name.lower().endswith(PICTURES)


def is_font(name: str) -> bool:
    return is_font_file(name)


def own_pictures() -> list[str]:
    return [name for name in own_files() if is_picture(name)]


def own_fonts() -> list[str]:
    return [name for name in own_files() if is_font(name)]


def places_of(name: str) -> list[Path]:
    """Where a file lies, or each of numbered pictures. Raises Refused for one that is not there,
    or that is named in a roundabout way."""
    if not is_numbered(name):
        return [place_of(name)]
    pattern = numbers_of(name)
    members = [each for each in _all_files() if pattern.fullmatch(each)]
    if not members:
        raise Refused("name", f"there is no file {name!r}")
    return [place_of(each) for each in members]


def version_named(name: str) -> str:
    """Changes when what is in a file does, or in any of numbered pictures. Raises Refused."""
    first, *others = (version_of(path) for path in places_of(name))
    if not others:
        return first
    return f"{first}:{hashlib.sha256(' '.join(others).encode()).hexdigest()[:32]}"


def place_of(name: str) -> Path:
    """Where a file lies, one's own or one that ships; the first of numbered pictures. Raises
    Refused for one that is not there, or that is named in a roundabout way."""
    if is_numbered(name):
        return places_of(name)[0]
    root, inside = settings.LIBRARY_DIR, name
    if name.startswith(SHIPPED_PREFIX):
        root, inside = SHIPPED, name.removeprefix(SHIPPED_PREFIX)
    plain = PurePosixPath(inside)
    odd = plain.is_absolute() or ".." in plain.parts or str(plain) != inside or "\0" in inside
    path = root / plain if not odd else None
    try:
        if path is None or not path.is_file() or not path.resolve().is_relative_to(root.resolve()):
            raise Refused("name", f"there is no file {name!r}")
    except OSError:  # a name that no file system can have
        raise Refused("name", f"there is no file {name!r}") from None
    return path


def version_of(path: Path) -> str:
    """Changes when what is in the file does; it names no folder."""
    state = path.stat()
    return f"{path.name}:{state.st_mtime_ns}:{state.st_size}"


def known_kind(name: str) -> None:
    """Raises Refused for what is called neither picture nor font."""
    if not is_picture(name) and not is_font(name):
        known = ", ".join(sorted({*PICTURES, *_FONTS}))
        raise Refused("file", f"{name!r} is no picture or font: its name ends in none of {known}")


def not_too_large(name: str, size: int) -> None:
    """Raises Refused."""
    most = LARGEST_CLIP if named_as_clip(name) else LARGEST_LIBRARY_FILE
    if size > most:
        raise Refused("file", f"{name!r} is larger than {most // 2**20} MiB")


def keep(wanted: str, content: Path) -> tuple[str, bool]:
    """Put a file that was checked in the library; the name that it got, and whether it is new.

    `content` must lie on the same disk. The same content under the same name is kept once, and
    nothing that is there is ever overwritten, also not by another upload at the same moment: the
    name is taken and filled in one act. Raises OSError.
    """
    root: Path = settings.LIBRARY_DIR
    root.mkdir(parents=True, exist_ok=True)
    content.chmod(0o644)
    _settle_on_disk(content)
    with library_lock:
        for candidate in _candidates(plain_name(wanted)):
            path = root / candidate
            try:
                _put(content, path)
            except FileExistsError:
                if filecmp.cmp(path, content, shallow=False):
                    return candidate, False
                continue
            _settle_on_disk(root)
            return candidate, True
    raise AssertionError("the candidates never end")


def keep_run(wanted: str, contents: Mapping[str, Path]) -> tuple[str, list[str]]:
    """Put numbered pictures in the library, by their names, under one that is free for all of
    them; that name, and the files that are new. Raises OSError."""
    with library_lock:
        for run in _runs(wanted):
            names = {member(wanted, name, run): path for name, path in contents.items()}
            if all(_is_free(name, path) for name, path in names.items()):
                break
        new: list[str] = []
        try:
            for name, path in names.items():
                kept, is_new = keep(name, path)
                new += [kept] if is_new else []
        except BaseException:
            delete(new)
            raise
        return run, new


def _runs(wanted: str) -> Iterator[str]:
    """Names for a run that a file system takes, the one that is wanted first."""
    plain = plain_name(wanted.replace("#", "0"))
    run = renamed(wanted, plain)
    yield run
    for number in itertools.count(2):
        yield numbered_run(run, number)


def _is_free(name: str, content: Path) -> bool:
    path = settings.LIBRARY_DIR / name
    return not path.exists() or filecmp.cmp(path, content, shallow=False)


def _put(content: Path, path: Path) -> None:
    """Raises FileExistsError where the name is taken."""
    try:
        os.link(content, path)
    except FileExistsError:
        raise
    except OSError:  # a file system without links
        with path.open("xb") as whole, content.open("rb") as source:
            shutil.copyfileobj(source, whole)
            whole.flush()
            os.fsync(whole.fileno())


def _settle_on_disk(path: Path) -> None:
    """What is acknowledged must survive a loss of power."""
    descriptor = os.open(path, os.O_RDONLY)
    try:
        os.fsync(descriptor)
    finally:
        os.close(descriptor)


def delete(names: list[str]) -> None:
    """Files of one's own; of a numbered name all of its pictures."""
    for name in names:
        with contextlib.suppress(FileNotFoundError, Refused):
            for path in places_of(name) if is_numbered(name) else [settings.LIBRARY_DIR / name]:
                path.unlink()


def plain_name(wanted: str) -> str:
    """A file name without folders and without what a file system or an address may choke on, no
    longer than a file system takes."""
    path = PurePosixPath(wanted.replace("\\", "/"))
    stem = re.sub(r"[^\w .,()+-]+", "-", path.stem).strip(" .-") or "file"
    ending = path.suffix.lower()
    room = LONGEST_NAME - len(ending.encode()) - 12  # and a number, and what is being written
    return stem.encode()[:room].decode(errors="ignore").strip() + ending


def _candidates(name: str) -> Iterator[str]:
    path = PurePosixPath(name)
    yield name
    number = 2
    while True:
        yield f"{path.stem}-{number}{path.suffix}"
        number += 1
