"""A lettering broken apart, for looking at its parts and painting them."""

from typing import Any

import numpy as np
import shapely

from mabrel.export.parts import Drawn, parts_sheet
from mabrel.export.parts_svg import path_data, rgba_code
from mabrel.render import RenderError, Shard
from mabrel.steps.parts.areas import rings_of
from mabrel.steps.parts.matching import owners_of
from mabrel.steps.settings import settings_at
from mabrel.steps.surface.parts import Parts
from mabrel.title import Layer
from mabrel.title.part_paints import PartPaint
from studio.engine.jobs.pictures import layer_of
from studio.engine.process import Tools

_EVEN = 0.08  # frame pixels that an outline on the page may lie beside the part
_MOST = 4000  # parts


def parts(
    tools: Tools,
    *,
    document: bytes,
    home: str,
    layer: str,
    step: str,
    coloured: bool,
    time: float = 0.0,
) -> dict[str, Any]:
    """What the steps before this one have made of the layer, and which paint falls where."""
    title = tools.title(document, home)
    chosen = layer_of(title, layer)
    asked: Any = {"layer": chosen.id, "before": step, "time": time, "cancel": tools.cancel}
    found = tools.renderer.parts(title, unseen=True, **asked)
    if coloured:
        sheet = parts_sheet(title, tools.renderer, **asked)
        shards, looks = [part.shard for part in sheet.parts], [_look(part) for part in sheet.parts]
    else:
        shards = [shard for shard in found if not shard.area.is_empty]
        looks = [{"path": _outline(shard.area)} for shard in shards]
    if len(shards) > _MOST:
        raise RenderError(f"it breaks into {len(shards):,} parts, too many to show: {_MOST:,}")
    # What is hidden now, or turned away, keeps its paint all the same.
    unseen = [shard for shard in found if shard.area.is_empty]
    owners, lost = owners_of(_paints(chosen, step, time), [*shards, *unseen])
    return {
        "parts": [
            {**_told(shard), **look, "painted": owner}
            for shard, look, owner in zip(shards, looks, owners, strict=False)
        ],
        "lost": lost,
    }


def _look(part: Drawn) -> dict[str, Any]:
    """As it is written into a drawing."""
    return {
        "path": "".join(path_data(curves) for curves in part.outlines),
        "colours": [rgba_code(colour) for colour in part.paint.colours],
        "line": [round(number, 2) for number in part.paint.line],
    }


def _paints(layer: Layer, step: str, time: float) -> list[PartPaint]:
    """Those of the step, where it has any."""
    found = next((each for each in layer.build if each.id == step), None)
    settings = found and settings_at(found, time)
    return settings.paints.parts if isinstance(settings, Parts) else []


def _told(shard: Shard) -> dict[str, Any]:
    x, y = shard.place
    middle = shapely.point_on_surface(shard.area)
    return {
        "name": shard.name,
        "kind": shard.kind,
        "letter": shard.letter,
        "number": shard.number,
        "facing": None if shard.facing is None else round(shard.facing, 1),
        "place": [round(x, 3), round(y, 3)],
        "middle": [round(middle.x, 2), round(middle.y, 2)],
    }


def _outline(area: shapely.Polygon) -> str:
    """The `d` of a path, in frame pixels."""
    even = shapely.simplify(area, _EVEN)
    rings = [
        np.round(ring, 2)
        for part in shapely.get_parts(even)
        if isinstance(part, shapely.Polygon)
        for ring in rings_of(part)
    ]
    return "".join("M" + "L".join(f"{x:g} {y:g}" for x, y in ring.tolist()) + "Z" for ring in rings)
