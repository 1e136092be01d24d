"""The command `mabrel`."""

import argparse
import json
import sys
from collections.abc import Sequence
from dataclasses import asdict
from pathlib import Path
from typing import Any

from mabrel.allocation import keep_freed
from mabrel.cli_export import add_commands
from mabrel.compose import finishes, new_title, swap
from mabrel.export import frame_times, numbered, png_bytes, rate_of, write_clip
from mabrel.overrides import with_setting
from mabrel.reading import motion_readings, readings
from mabrel.render import TAPS, Picture, Renderer
from mabrel.source import families
from mabrel.steps import catalogue, check_title
from mabrel.title import Layer, Placed, Title, read_title, write_title
from mabrel.title.atomic import write_atomically

BAD_INPUT = 2


class UsageError(ValueError):
    """The command's own words are off."""


def main(arguments: Sequence[str] | None = None) -> int:
    """Run the command. Errors are one line on standard error; 2 is the status for bad input."""
    chosen = _parser().parse_args(arguments)
    keep_freed()
    try:
        chosen.run(chosen)
    except (ValueError, OSError) as error:
        print(f"mabrel: {_said(error)}", file=sys.stderr)
        return BAD_INPUT
    return 0


def _said(error: Exception) -> str:
    if isinstance(error, OSError) and error.strerror:
        return f"{error.filename}: {error.strerror.lower()}" if error.filename else error.strerror
    return str(error).replace("\n", " ")


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(
        prog="mabrel", description="Makes flat lettering look three-dimensional."
    )
    commands = parser.add_subparsers(required=True, metavar="COMMAND")

    new = commands.add_parser("new", help="make a title from a word and a finish")
    new.add_argument("--text", required=True, help=r"the words; \n parts lines")
    new.add_argument(
        "--font", default="", metavar="NAME", help="without it, the one that suits the finish"
    )
    new.add_argument("--finish", default="ship-brass", metavar="NAME")
    new.add_argument("--frame", default="1920x1080", metavar="WIDTHxHEIGHT")
    new.add_argument("--transparent", action="store_true", help="without a backdrop")
    new.add_argument("-o", "--output", required=True, type=Path, metavar="FILE")
    new.set_defaults(run=_new)

    render = commands.add_parser("render", help="render a title to a PNG, to frames or to a clip")
    render.add_argument("title", type=Path)
    render.add_argument("-o", "--output", required=True, type=Path, metavar="FILE")
    render.add_argument("--time", type=float, default=0.0, metavar="SECONDS")
    render.add_argument("--from", type=float, dest="start", metavar="SECONDS", help="of a clip")
    render.add_argument("--to", type=float, dest="end", metavar="SECONDS", help="of a clip")
    render.add_argument("--fps", metavar="RATE", help="such as 25 or 24000/1001")
    render.add_argument("--scale", type=float, default=1.0)
    render.add_argument("--tap", choices=TAPS, default="picture")
    render.add_argument("--layer", metavar="NAME", help="whose field the tap shows")
    render.add_argument("--bits", type=int, choices=(8, 16), default=8)
    render.add_argument(
        "--set", action="append", default=[], dest="sets", metavar="LAYER.STEP.SETTING=VALUE"
    )
    render.set_defaults(run=_render)

    add_commands(commands)

    read = commands.add_parser("read", help="say what the engine sees in a title")
    read.add_argument("title", type=Path)
    read.add_argument("--layer", metavar="NAME", help="one layer alone")
    read.add_argument("--time", type=float, default=0.0, metavar="SECONDS")
    read.add_argument("--json", action="store_true", help="for programs")
    read.set_defaults(run=_read)

    other = commands.add_parser("swap", help="the same look on another word or in another font")
    other.add_argument("title", type=Path)
    other.add_argument("--text")
    other.add_argument("--font", metavar="NAME")
    other.add_argument("--picture", metavar="FILE", help="a picture beside the title")
    other.add_argument("--layer", metavar="NAME", help="which lettering, if not the front one")
    other.add_argument("-o", "--output", required=True, type=Path, metavar="FILE")
    other.set_defaults(run=_swap)

    steps = commands.add_parser("steps", help="list the steps")
    steps.add_argument("--json", action="store_true", help="with all that is known of them")
    steps.set_defaults(run=_steps)
    commands.add_parser("finishes", help="list the finishes").set_defaults(run=_finishes)
    commands.add_parser("fonts", help="list the fonts").set_defaults(run=_fonts)
    commands.add_parser("schema", help="print the JSON Schema of titles").set_defaults(run=_schema)
    bench = commands.add_parser("bench", help="measure the engine against general libraries")
    bench.add_argument("--markdown", action="store_true", help="as a table for a document")
    bench.set_defaults(run=_bench)
    return parser


def _new(chosen: argparse.Namespace) -> None:
    text = chosen.text.replace("\\n", "\n")
    title = new_title(
        text,
        font=chosen.font,
        finish=chosen.finish,
        frame=_frame(chosen.frame),
        transparent=chosen.transparent,
        home=chosen.output.parent,
    )
    write_title(title, chosen.output)


def _frame(words: str) -> tuple[int, int]:
    try:
        width, height = words.lower().split("x")
        return int(width), int(height)
    except ValueError:
        raise UsageError(f"a frame is written 1920x1080, not {words!r}") from None


def _render(chosen: argparse.Namespace) -> None:
    title = check_title(read_title(chosen.title))
    for assignment in chosen.sets:
        title = with_setting(title, assignment)
    if _is_clip(chosen):
        _render_frames(chosen, title)
        return
    if chosen.output.suffix.lower() != ".png":
        raise UsageError(f"{chosen.output.name}: pictures are written as .png, clips as .webm")
    picture = _picture(Renderer(), chosen, title, chosen.time)
    write_atomically(chosen.output, png_bytes(picture, chosen.bits))
    for notice in picture.notices:
        print(f"mabrel: {notice}", file=sys.stderr)


def _is_clip(chosen: argparse.Namespace) -> bool:
    asked = (chosen.start, chosen.end, chosen.fps)
    named = chosen.output.suffix.lower() == ".webm" or "#" in chosen.output.name
    return named or any(each is not None for each in asked)


def _picture(renderer: Renderer, chosen: argparse.Namespace, title: Title, time: float) -> Picture:
    return renderer.render(title, time=time, scale=chosen.scale, tap=chosen.tap, layer=chosen.layer)


def _render_frames(chosen: argparse.Namespace, title: Title) -> None:
    """Every frame of a part of the title, as pictures or in one clip."""
    rate = rate_of(title.frame.fps if chosen.fps is None else chosen.fps)
    end = title.frame.duration if chosen.end is None else chosen.end
    times = frame_times(chosen.start or 0.0, end, rate)
    renderer = Renderer()
    pictures = (_picture(renderer, chosen, title, frame.time) for frame in times)
    if chosen.output.suffix.lower() == ".webm":
        write_clip(chosen.output, pictures, rate)
        return
    if chosen.output.suffix.lower() != ".png":
        raise UsageError(f"{chosen.output.name}: frames are written as .png, clips as .webm")
    for path, picture in zip(numbered(chosen.output, times), pictures, strict=True):
        path.parent.mkdir(parents=True, exist_ok=True)
        write_atomically(path, png_bytes(picture, chosen.bits))


def _read(chosen: argparse.Namespace) -> None:
    title = check_title(read_title(chosen.title))
    shown: list[Layer] = [
        each for each in title.layers if isinstance(each, Placed) and each.visible
    ]
    if chosen.layer is not None:
        try:
            shown = [title.layer(chosen.layer)]
        except KeyError:
            raise UsageError(f"{chosen.title.name} has no layer {chosen.layer!r}") from None
    renderer = Renderer()
    said = [(each, readings(renderer, title, each.id, time=chosen.time).said) for each in shown]
    moved = motion_readings(renderer, title) if chosen.layer is None else []
    if chosen.json:
        told = {each.id: [asdict(one) for one in its] for each, its in said}
        print(json.dumps({"layers": told, "time": [asdict(one) for one in moved]}, indent=1))
        return
    for each, its in [*((each.name or each.id, its) for each, its in said), ("time", moved)]:
        for one in its:
            print(f"{each}\t{'!' if one.warns else ' '}\t{one.text}")


def _swap(chosen: argparse.Namespace) -> None:
    if chosen.text is None and chosen.font is None and chosen.picture is None:
        raise UsageError("swap needs --text, --font or --picture")
    title = check_title(read_title(chosen.title))
    text = None if chosen.text is None else chosen.text.replace("\\n", "\n")
    try:
        swapped = swap(
            title, text=text, font=chosen.font, picture=chosen.picture, layer=chosen.layer
        )
    except KeyError as missing:
        raise UsageError(
            f"{chosen.title.name} has no layer {missing} whose words or picture could be swapped"
        ) from None
    write_title(swapped, chosen.output)


def _steps(chosen: argparse.Namespace) -> None:
    if chosen.json:
        print(json.dumps(catalogue(), ensure_ascii=False, indent=1))
        return
    for entry in catalogue():
        print(f"{entry['step']}\t{entry['help']}")


def _finishes(_: argparse.Namespace) -> None:
    for finish in finishes().values():
        print(f"{finish.name}\t{finish.help}")


def _fonts(_: argparse.Namespace) -> None:
    for family in families().values():
        print(f"{family.name}\t{', '.join(family.styles)}")


def _schema(_: argparse.Namespace) -> None:
    print(json.dumps(schema(), ensure_ascii=False, indent=1))


def schema() -> dict[str, Any]:
    """JSON Schema of title documents."""
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        **Title.model_json_schema(),
    }


def _bench(chosen: argparse.Namespace) -> None:
    from mabrel.bench import rows, table
    from mabrel.bench_scene import memory_text, scene_rows

    print(table([*rows(), *scene_rows()], chosen.markdown))
    print(memory_text())
