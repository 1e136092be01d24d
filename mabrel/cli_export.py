"""The commands that export: one title, or a set of them."""

import argparse
import re
import sys
import tempfile
from pathlib import Path
from typing import Any, NoReturn

from pydantic import ValidationError

from mabrel.compose.sets import DEFAULT_MARGIN, one_size, within_margin
from mabrel.compose.words import titles_from, word_list
from mabrel.export.clip_forms import CLIPS
from mabrel.export.making import export, frame_files, make_pieces
from mabrel.export.order import PRESETS, Order
from mabrel.export.parts_forms import PARTS
from mabrel.export.sheet import sheet_of
from mabrel.export.stills import STILLS, SUFFIXES, still_bytes
from mabrel.export.workers import workers_at
from mabrel.render import Renderer
from mabrel.steps import check_title
from mabrel.title import Title, read_title, write_title
from mabrel.title.atomic import write_atomically
from mabrel.title.errors import error_of

_ASKED = (
    "depth",
    "quality",
    "passes",
    "scale",
    "time",
    "start",
    "end",
    "backdrop",
    "plate",
    "ground",
    "hidden",
)
_CLIP_SUFFIXES = {".webm": "webm", ".mkv": "ffv1", ".apng": "apng"}


class ExportError(ValueError):
    """The command's own words are off."""


def add_commands(commands: Any) -> None:
    """`export` and `set`."""
    one = commands.add_parser("export", help="export a picture, frames, a clip, layers or passes")
    one.add_argument("title", type=Path)
    one.add_argument(
        "-o", "--output", required=True, type=Path, metavar="FILE",
        help="its ending says what it becomes; frames are written as frame-####.png, and .svg or "
        ".pdf break the title apart into vector shapes",
    )  # fmt: skip
    _add_ways(one)
    one.set_defaults(run=_export)

    many = commands.add_parser("set", help="export a list of words, each in the look of a title")
    many.add_argument("title", type=Path)
    many.add_argument("words", type=Path, help="lines, or a CSV; see the guide")
    many.add_argument("-o", "--output", required=True, type=Path, metavar="FOLDER")
    many.add_argument("--as", default=".png", dest="ending", metavar="ENDING", help="such as .webm")
    many.add_argument("--one-size", action="store_true", help="all as large as the longest bears")
    many.add_argument("--margin", type=float, default=DEFAULT_MARGIN, metavar="SHARE")
    many.add_argument("--sheet", action="store_true", help="a picture of all as well")
    _add_ways(many)
    many.set_defaults(run=_set)


def _add_ways(command: argparse.ArgumentParser) -> None:
    command.add_argument("--preset", choices=PRESETS, help="settings for a purpose")
    command.add_argument(
        "--form", choices=sorted({*STILLS, *CLIPS, *PARTS}), help="where an ending has several"
    )
    command.add_argument("--depth", metavar="BITS", help="8, 16, half or float")
    command.add_argument("--quality", type=int, metavar="1-100")
    command.add_argument(
        "--passes", nargs="?", const="together", choices=("together", "apart"),
        help="of OpenEXR: in one file, or in one each",
    )  # fmt: skip
    command.add_argument(
        "--hidden", choices=("cut", "whole"), help="parts that others hide: cut away, or kept whole"
    )
    command.add_argument("--scale", type=float)
    command.add_argument("--time", type=float, metavar="SECONDS", help="of a picture")
    command.add_argument("--frames", metavar="FIRST-LAST", help="such as 0-124")
    command.add_argument("--from", type=float, dest="start", metavar="SECONDS")
    command.add_argument("--to", type=float, dest="end", metavar="SECONDS")
    command.add_argument("--fps", metavar="RATE", help="such as 25 or 24000/1001")
    for ground in ("backdrop", "plate"):
        either = command.add_mutually_exclusive_group()
        either.add_argument(f"--{ground}", action="store_true", default=None, dest=ground)
        either.add_argument(f"--no-{ground}", action="store_false", default=None, dest=ground)
    command.add_argument("--ground", metavar="COLOUR", help="under a format without alpha")
    command.add_argument("--jobs", type=int, default=1, metavar="COUNT", help="processes")
    command.add_argument(
        "--on", metavar="ADDRESS", help="a dask scheduler, such as tcp://host:8786"
    )


def _export(chosen: argparse.Namespace) -> None:
    title = check_title(read_title(chosen.title))
    order = _order(chosen, chosen.output.name, title)
    workers = workers_at(chosen.on, chosen.jobs)
    try:
        _write(title, order, chosen.output, workers)
    finally:
        workers.close()


def _write(title: Title, order: Order, path: Path, workers: Any) -> None:
    """A file; or numbered files, where its name is a pattern."""
    path.parent.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(prefix=".mabrel-", dir=path.parent) as place:
        folder = Path(place)
        several = order.moving and order.kind == "frames"
        if not several and order.passes != "apart":
            export(title, order, path, workers, folder=folder, done=_told(title, order))
            return
        make_pieces(title, order, folder, workers, done=_told(title, order))
        for name, content in frame_files(title, order, folder):
            write_atomically(path.with_name(_named(path.name, name)), content)


def _named(pattern: str, frame: str) -> str:
    """A frame's file (``frame-0012.matte.exr``) by the pattern that was asked for."""
    number, _, rest = frame.removeprefix("frame-").partition(".")
    stem, suffix = Path(pattern).stem, Path(pattern).suffix
    inner = rest.rpartition(".")[0]
    found = list(re.finditer(r"#+", stem))
    if found:
        first, last = found[-1].span()
        stem = f"{stem[:first]}{int(number):0{last - first}d}{stem[last:]}"
    return f"{stem}{'.' + inner if inner else ''}{suffix}"


def _told(title: Title, order: Order) -> Any:
    """Tells how far it is, where somebody looks."""
    if not (order.moving and sys.stderr.isatty()):
        return lambda done: None
    count = len(order.frames(title))
    return lambda done: print(f"\r{done} of {count} frames", end="", file=sys.stderr, flush=True)


def _order(chosen: argparse.Namespace, name: str, title: Title) -> Order:
    """What the command asks for. Raises ExportError where it contradicts itself."""
    asked: dict[str, Any] = dict(PRESETS[chosen.preset].order.model_dump()) if chosen.preset else {}
    for option in _ASKED:
        value = getattr(chosen, option)
        if value is not None:
            asked[option] = value
    if chosen.fps is not None:
        asked["rate"] = chosen.fps
    spans = [chosen.frames, chosen.start, chosen.end, chosen.fps]
    moving = any(each is not None for each in spans)
    asked |= _form(name, chosen.form, asked, moving)
    try:
        order = Order.model_validate(asked)
        if chosen.frames is not None:
            order = order.model_copy(update=_span(chosen.frames, order, title))
    except ValidationError as invalid:
        raise ExportError(str(error_of(invalid))) from None
    _check_options(chosen, name, order)
    if not order.moving and moving:
        _refuse(name, "is one picture: --frames, --from, --to and --fps are for clips and frames")
    if order.moving and chosen.time is not None:
        _refuse(name, "is no single picture: --time is for one")
    return order


def _check_options(chosen: argparse.Namespace, name: str, order: Order) -> None:
    """Refuse what would change nothing of the file."""
    still = STILLS[order.form] if order.kind in ("picture", "frames") else None
    grounds = [each for each in ("backdrop", "plate") if getattr(chosen, each) is not None]
    if grounds and order.kind == "parts":
        _refuse(name, f"has no grounds: --{grounds[0]} is for pictures")
    if chosen.passes is not None and order.kind == "parts":
        _refuse(name, "has no passes: those are of OpenEXR pictures and frames")
    if chosen.depth is not None and still is None:
        _refuse(name, "has a depth of its own: --depth is for pictures and frames")
    if chosen.quality is not None and (still is None or not still.lossy):
        _refuse(name, "has no quality to choose: --quality is for JPEG, WebP and AVIF")
    apart = order.kind in ("layers", "parts")
    alpha = apart or (still.alpha if still else CLIPS[order.form].alpha)
    if chosen.ground is not None and alpha:
        _refuse(name, "has alpha: --ground is for formats without it")


def _form(name: str, form: str | None, asked: dict[str, Any], moving: bool) -> dict[str, Any]:
    """Kind and form: what was asked for by name, else by the preset, else by the ending."""
    suffix = Path(name).suffix.lower()
    several = "#" in name
    if suffix == ".ora":
        return {"kind": "layers", "form": "ora", "depth": None}
    parts = form if form in PARTS else _drawing(suffix) if form is None else None
    if parts and PARTS[parts].suffix == suffix:
        return {"kind": "parts", "form": parts, "depth": None, "passes": "none"}
    still, clip = SUFFIXES.get(suffix), _CLIP_SUFFIXES.get(suffix)
    if suffix == ".webp" and moving and not several:
        clip = "animated-webp"
    known = form or asked.get("form")
    if known in CLIPS and CLIPS[known].suffix == suffix:
        return {"kind": "clip", "form": known, "depth": None}
    if known in STILLS and STILLS[known].suffix == suffix and not (clip and moving):
        return {"kind": "frames" if several else "picture", "form": known}
    if form is not None:
        _refuse(name, f"can't be {form}: that has another ending")
    if clip is not None:
        return {"kind": "clip", "form": clip, "depth": None, "passes": "none"}
    if still is None:
        drawings = {each.suffix for each in PARTS.values()}
        endings = ", ".join(sorted({*SUFFIXES, *_CLIP_SUFFIXES, *drawings, ".ora"}))
        _refuse(name, f"has no ending that anything is exported to; there are {endings}")
    # A preset's passes and depth are for its own form, where the ending asks for another.
    own = asked.get("form") in (None, still)
    depth = asked.get("depth") if own or asked.get("depth") in STILLS[still].depths else None
    passes = asked.get("passes", "none") if own or still == "exr" else "none"
    kind = "frames" if several else "picture"
    return {"kind": kind, "form": still, "depth": depth, "passes": passes}


def _drawing(suffix: str) -> str | None:
    """The form of parts that alone has this ending."""
    if suffix in SUFFIXES:
        return None
    return next((each.name for each in PARTS.values() if each.suffix == suffix), None)


def _span(written: str, order: Order, title: Title) -> dict[str, float]:
    found = re.fullmatch(r"(\d{1,7})-(\d{1,7})", written)
    if found is None or int(found[1]) > int(found[2]):
        raise ExportError(f"frames are written 0-124, not {written!r}")
    rate = order.rate_for(title)
    return {"start": float(int(found[1]) / rate), "end": float((int(found[2]) + 1) / rate)}


def _refuse(name: str, why: str) -> NoReturn:
    raise ExportError(f"{name}: {why}")


def _set(chosen: argparse.Namespace) -> None:
    title = check_title(read_title(chosen.title))
    if not 0 <= chosen.margin < 0.5:
        raise ExportError(f"a margin is from 0 to 0.5, not {chosen.margin:g}")
    ending = chosen.ending if chosen.ending.startswith(".") else f".{chosen.ending}"
    order = _order(chosen, f"a{ending}", title)
    made = titles_from(title, word_list(chosen.words.read_text("utf-8-sig"), title))
    made = one_size(made, chosen.margin) if chosen.one_size else within_margin(made, chosen.margin)
    chosen.output.mkdir(parents=True, exist_ok=True)
    workers = workers_at(chosen.on, chosen.jobs)
    taken: set[str] = set()
    try:
        for each in made:
            if each.title is None:
                print(f"mabrel: {each.name}: {each.fault}", file=sys.stderr)
                continue
            stem = _free(each.name or "title", taken)
            write_title(each.title, chosen.output / f"{stem}.title.json")
            _write(each.title, order, chosen.output / f"{stem}{ending}", workers)
    finally:
        workers.close()
    if chosen.sheet:
        titles = [each.title for each in made if each.title is not None]
        picture = sheet_of(Renderer(), titles)
        write_atomically(chosen.output / "sheet.png", still_bytes(picture, "png"))
    if not any(each.title for each in made):
        raise ExportError(f"{chosen.words.name}: no row of it makes a title")


def _free(name: str, taken: set[str]) -> str:
    """A file's name for a title that no other of the set has."""
    stem = re.sub(r"[^\w .-]+", "-", name).strip(" .-")[:100] or "title"
    found, number = stem, 2
    while found.casefold() in taken:
        found, number = f"{stem} {number}", number + 1
    taken.add(found.casefold())
    return found
