"""Pictures of documents."""

import base64
from pathlib import Path
from typing import Any, Literal

from mabrel import Title, new_title
from mabrel.compose import apply_finish
from mabrel.compose.finishes import parse_finish
from mabrel.export import png_bytes
from mabrel.reading import closeup_window, strip_window
from mabrel.render import Window
from mabrel.title import Backdrop, Floor, Placed, TitleError
from mabrel.title.motion import still_time
from studio.engine.limits import PREVIEW_PIXELS
from studio.engine.outcome import Pixels
from studio.engine.process import Tools


def preview(
    tools: Tools,
    *,
    document: bytes,
    home: str,
    window: tuple[float, float, float, float] | None = None,
    **how: Any,
) -> Pixels:
    """A picture, or a tap of one; see `Renderer.render`."""
    title = tools.title(document, home)
    part = None if window is None else Window(*window)
    _check_pixels(title, part, how["scale"])
    picture = tools.renderer.render(title, window=part, cancel=tools.cancel, **how)
    return Pixels(picture.width, picture.height, picture.to_uint8(), picture.notices)


def _check_pixels(title: Title, part: Window | None, scale: float) -> None:
    """A preview has no more pixels than a page can show. Raises TitleError."""
    shown = part or title.frame
    pixels = shown.width * shown.height * scale**2
    if pixels > PREVIEW_PIXELS:
        most = PREVIEW_PIXELS / 1e6
        raise TitleError(
            "scale", f"makes {pixels / 1e6:.1f} million pixels; a preview has at most {most:.1f}"
        )


def export(
    tools: Tools,
    *,
    document: bytes,
    home: str,
    path: str,
    bits: Literal[8, 16],
    scale: float,
    backdrop: bool,
    time: float = 0.0,
) -> str:
    """Write a PNG to `path`; the title's name."""
    title = tools.title(document, home)
    shown = title if backdrop else _without_backdrops(title)
    picture = tools.renderer.render(shown, time=time, scale=scale, cancel=tools.cancel)
    Path(path).write_bytes(png_bytes(picture, bits))
    return title.name


def _without_backdrops(title: Title) -> Title:
    """Its backdrops and floors hidden, not taken away: others may show one or take its matte."""
    layers = [
        layer.model_copy(update={"visible": False})
        if isinstance(layer, Backdrop | Floor)
        else layer
        for layer in title.layers
    ]
    return title.model_copy(update={"layers": layers}).at_home(title.home)


def strip(
    tools: Tools,
    *,
    document: bytes,
    home: str,
    width: int,
    height: int,
    finish: bytes | None = None,
    layer: str = "",
) -> bytes:
    """A document cropped to its lettering, as PNG; with a finish on one layer where it is given."""
    title = tools.title(document, home)
    if finish is not None:
        chosen = layer_of(title, layer, Placed)
        title = apply_finish(title, chosen.id, parse_finish(finish))
    return _strip(tools, title, width, height)


def finish_strip(
    tools: Tools,
    *,
    finish: bytes,
    home: str,
    text: str,
    font: str,
    frame: tuple[int, int],
    picture: str | None,
    width: int,
    height: int,
) -> bytes:
    """A word or a picture of the library in a finish, as PNG."""
    look = parse_finish(finish)
    title = new_title(
        text or " ", font=font, finish=look, frame=frame, home=Path(home), picture=picture
    )
    return _strip(tools, title, width, height)


def _strip(tools: Tools, title: Title, width: int, height: int) -> bytes:
    window = strip_window(title, width / height, time=still_time(title))
    scale = width / window.width
    picture = tools.renderer.render(
        title, time=still_time(title), scale=scale, window=window, cancel=tools.cancel
    )
    return png_bytes(picture, level=1)


def build_pictures(
    tools: Tools,
    *,
    document: bytes,
    home: str,
    layer: str,
    width: int,
    height: int,
    time: float = 0.0,
) -> dict[str, Any]:
    """The work after each step of a layer, and every layer by itself: PNGs in base64."""
    title = tools.title(document, home)
    chosen = layer_of(title, layer)
    window = closeup_window(title, chosen.id, width / height, time=time)
    scale = width / window.width

    def shot(shown: Title, **how: Any) -> str:
        picture = tools.renderer.render(
            shown, time=time, scale=scale, window=window, cancel=tools.cancel, **how
        )
        return base64.b64encode(png_bytes(picture, level=1)).decode()

    steps = [
        {"step": step.id, "png": shot(title, until=step.id, tap=_telling(step.step))}
        for step in chosen.build
    ]
    alone = [
        {"step": each.id, "png": shot(title, layer=each.id, alone=True)} for each in title.layers
    ]
    bare = chosen.model_copy(update={"build": []})
    layers = [bare if each.id == bare.id else each for each in title.layers]
    source = title.model_copy(update={"layers": layers}).at_home(title.home)
    return {"source": shot(source), "steps": steps, "layers": alone}


def _telling(step: str) -> Literal["height", "picture"]:
    """What shows best what a step did."""
    return "height" if step.startswith("relief.") else "picture"


def layer_of(title: Title, layer: str, kinds: Any = object) -> Any:
    """A layer of one of these kinds. Raises TitleError."""
    try:
        found = title.layer(layer)
    except KeyError:
        found = None
    if not isinstance(found, kinds) or found is None:
        raise TitleError("layer", f"there is no layer {layer!r} for this")
    return found
