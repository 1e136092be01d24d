"""Exporting a set of titles: each as it would be by itself, all in one zip."""

import contextlib
import shutil
import zipfile
from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path
from typing import NamedTuple

from mabrel.export.clip import whole_file
from mabrel.export.making import export, pieces_of
from mabrel.export.order import Order
from mabrel.export.sheet import sheet_of
from mabrel.export.stills import still_bytes
from mabrel.export.worker import FrameError
from mabrel.export.workers import Workers
from mabrel.render import Renderer
from mabrel.title import Title

SHEET = "sheet.png"


class Member(NamedTuple):
    """A title of a set; `name` is what its file is called, without an ending."""

    name: str
    title: Title


def frames_of_set(titles: Sequence[Title], order: Order) -> int:
    """How many frames all of them have. Raises ClipError."""
    return sum(len(piece.frames) for title in titles for piece in pieces_of(title, order))


def export_set(
    members: Sequence[Member],
    order: Order,
    path: Path,
    workers: Workers,
    *,
    folder: Path,
    sheet: bool = False,
    done: Callable[[int], None] = lambda frames: None,
    stopped: Callable[[], bool] = lambda: False,
) -> None:
    """Make each of a set, and put all of them in one zip at `path`, with a picture of all side by
    side if there is to be a `sheet`. What lies in `folder` already is not made again.

    Raises what `mabrel.export.making.export` raises; the name of the title stands before what is
    wrong with it.
    """
    ready = 0
    for number, member in enumerate(members):
        made = _place(folder, number)
        pieces = _pieces(folder, number)
        if not made.exists():
            pieces.mkdir(exist_ok=True)
            count = partial(_counted, done, ready)
            try:
                export(
                    member.title, order, made, workers, folder=pieces, done=count, stopped=stopped
                )
            except FrameError as error:
                raise FrameError(error.number, f"{error.reason}, in {member.name}") from error
            except ValueError as error:
                raise ValueError(f"{member.name}: {error}") from error
        ready += len(order.frames(member.title))
        done(ready)
    with whole_file(path, ".zip") as beside, zipfile.ZipFile(beside, "w") as archive:
        for number, member in enumerate(members):
            _add(archive, member.name, order, _place(folder, number))
        if sheet:
            picture = sheet_of(Renderer(), [member.title for member in members])
            archive.writestr(zipfile.ZipInfo(SHEET), still_bytes(picture, "png"))
    for number in range(len(members)):
        _place(folder, number).unlink(missing_ok=True)
        with contextlib.suppress(FileNotFoundError):
            _pieces(folder, number).rmdir()


def _counted(done: Callable[[int], None], before: int, frames: int) -> None:
    done(before + frames)


def _place(folder: Path, number: int) -> Path:
    """Where one of a set lies once it is made."""
    return folder / f"{number:04d}.made"


def _pieces(folder: Path, number: int) -> Path:
    return folder / f"{number:04d}"


def _add(archive: zipfile.ZipFile, name: str, order: Order, made: Path) -> None:
    """A file under its name; what are several files by themselves, in a folder of that name."""
    if not order.several:
        with (
            made.open("rb") as file,
            archive.open(zipfile.ZipInfo(f"{name}{order.suffix}"), "w", force_zip64=True) as inside,
        ):
            shutil.copyfileobj(file, inside)
        return
    with zipfile.ZipFile(made) as own:
        for each in own.namelist():
            archive.writestr(zipfile.ZipInfo(f"{name}/{each}"), own.read(each))
