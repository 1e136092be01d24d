"""What one sees of a title besides its picture: sections, tones, places, readings."""

import base64
from dataclasses import asdict
from typing import Any

import numpy as np

from mabrel.colour import brightness, straight
from mabrel.reading import cut, motion_readings, readings, tones_before
from mabrel.title import Placed
from studio.engine.jobs.pictures import layer_of
from studio.engine.process import Tools


def section(
    tools: Tools,
    *,
    document: bytes,
    home: str,
    layer: str,
    at: float,
    samples: int,
    before: str | None,
    time: float = 0.0,
) -> dict[str, Any]:
    """The relief cut open along a horizontal line."""
    title = tools.title(document, home)
    found = cut(
        tools.renderer,
        title,
        layer_of(title, layer).id,
        at=at,
        samples=samples,
        before=before,
        time=time,
        cancel=tools.cancel,
    )
    levels = (found.colours * 255).round().astype(int)
    return {
        "height": _or_none(found.height),
        "tone": _or_none(found.tone),
        "colours": [f"#{r:02x}{g:02x}{b:02x}" for r, g, b in levels.tolist()],
    }


def _or_none(values: Any) -> list[float | None]:
    return [None if value != value else round(value, 4) for value in values.tolist()]


def tones(
    tools: Tools,
    *,
    document: bytes,
    home: str,
    layer: str,
    step: str,
    scale: float,
    time: float = 0.0,
) -> dict[str, Any]:
    """Brightness before a step, everywhere and in all."""
    title = tools.title(document, home)
    chosen = layer_of(title, layer)
    found = tones_before(
        tools.renderer, title, chosen.id, step, time=time, scale=scale, cancel=tools.cancel
    )
    height, width = found.places.shape
    return {
        "histogram": [round(share, 5) for share in found.histogram.tolist()],
        "places": base64.b64encode(found.places.tobytes()).decode(),
        "width": width,
        "height": height,
    }


def relief(
    tools: Tools, *, document: bytes, home: str, layer: str, scale: float, time: float = 0.0
) -> dict[str, Any]:
    """Height and brightness of a layer everywhere, as float16 in base64, NaN outside it."""
    title = tools.title(document, home)
    chosen = layer_of(title, layer)
    fields = tools.renderer.fields(title, chosen.id, time=time, scale=scale, cancel=tools.cancel)
    inside = fields.matte > 0.5

    def packed(values: Any) -> str:
        held = np.where(inside, np.clip(values, -6e4, 6e4), np.nan).astype("<f2")
        return base64.b64encode(held.tobytes()).decode()

    rows, columns = inside.shape
    return {
        "height": packed(fields.height),
        "tone": packed(brightness(straight(fields.face))),
        "columns": columns,
        "rows": rows,
    }


def boxes(
    tools: Tools, *, document: bytes, home: str, layer: str, step: str | None, time: float = 0.0
) -> dict[str, Any]:
    """Where the lettering and pictures are, for the handles that lie over them."""
    title = tools.title(document, home)

    def box(of: Any, before: str | None) -> list[float]:
        found = tools.renderer.box(title, of.id, before=before, time=time, cancel=tools.cancel)
        return [round(side, 2) for side in found]

    placed = [each for each in title.layers if isinstance(each, Placed)]
    found = [
        {"layer": each.id, "box": box(each, each.build[0].id if each.build else None)}
        for each in placed
    ]
    chosen = layer_of(title, layer)
    given = step in [each.id for each in chosen.build] and isinstance(chosen, Placed)
    return {"layers": found, "given": box(chosen, step) if given else None}


def cells(
    tools: Tools,
    *,
    document: bytes,
    home: str,
    layer: str,
    step: str,
    divided: int,
    time: float = 0.0,
) -> dict[str, Any]:
    """The grids in which a step paints cells."""
    title = tools.title(document, home)
    found = tools.renderer.cells(
        title, layer_of(title, layer).id, step, divided=divided, time=time, cancel=tools.cancel
    )
    return {
        "divided": divided,
        "grids": [
            {
                **asdict(each.grid),
                "ink": ["".join("#" if cell else "." for cell in row) for row in each.ink.tolist()],
                "painted": each.painted,
                "side": each.side and each.side.model_dump(),
                "of": each.of,
                "kept": each.kept and each.kept.model_dump(),
            }
            for each in found
        ],
    }


def said(
    tools: Tools, *, document: bytes, home: str, layer: str, time: float = 0.0
) -> dict[str, Any]:
    """What the engine has to say about the title, seen from one layer."""
    title = tools.title(document, home)
    found = readings(tools.renderer, title, layer_of(title, layer).id, tools.cancel, time=time)
    return {
        "said": [asdict(each) for each in found.said],
        "strokes": found.strokes._asdict() if found.strokes else None,
    }


def motion(tools: Tools, *, document: bytes, home: str) -> list[dict[str, Any]]:
    """What the engine has to say about how a title moves."""
    title = tools.title(document, home)
    return [asdict(each) for each in motion_readings(tools.renderer, title, tools.cancel)]
