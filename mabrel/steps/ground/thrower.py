"""What throws a shadow: its outline on the card, as the light sees it."""

import math

import numpy as np

from mabrel.field import signed_distance
from mabrel.field.coarse import coarser
from mabrel.field.extrusion import silhouette
from mabrel.steps.body import Pause
from mabrel.steps.extent import reach_of
from mabrel.steps.ground.falling import STEEPEST, Fall, push
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Region


def thrower(piece: Piece, fall: Fall, factor: int, pause: Pause) -> tuple[Array, Region]:
    """What throws the shadow, as one outline on the card, on a grid `factor` times as coarse, and
    where it lies on that: a body that reaches back behind it is pushed along the light onto the
    card."""
    reach = reach_of(piece)
    if reach is None:
        return _on_grid(piece.solid, piece.region, fall.source, factor)
    x, y = push(piece, fall.light)
    (across, down), shrink = reach.pushed(x, y)
    length = math.hypot(across, down)
    if abs(fall.light.direction[2]) < STEEPEST or (shrink == 0 and length < 1e-2):
        return _on_grid(piece.matte, piece.region, fall.source, factor)

    def pushed() -> tuple[Array, Region]:
        shape, region = _on_grid(piece.matte, piece.region, fall.source, factor)
        pause()
        cover, _ = silhouette(
            signed_distance(shape),
            towards=towards(region),
            length=0 if shrink else length / factor,
            shrink=shrink,
            pause=pause,
        )
        return cover, region

    def towards(region: Region) -> tuple[float, float]:
        if shrink == 0:
            return across / length, down / length
        left, top = region.left + 0.5, region.top + 0.5
        return across / factor - left, down / factor - top

    return piece.remembered("thrower", (fall.source, factor, across, down, shrink), pushed)


def _on_grid(solid: Array, region: Region, source: Region, factor: int) -> tuple[Array, Region]:
    """What is solid over a region, on a grid `factor` times as coarse over all of `source`, and
    where that lies."""
    wide = np.zeros((source.height, source.width), np.float32)
    wide[region.within(source)] = solid
    shape = coarser(wide, (source.left, source.top), factor)
    return shape, Region(
        source.left // factor, source.top // factor, shape.shape[1], shape.shape[0]
    )
