"""Slanted, rounded or stepped rims."""

import math
from dataclasses import replace
from typing import Literal

import numpy as np

from mabrel.colour import apply_table, curve_table
from mabrel.field import softened
from mabrel.steps.extent import Bound, larger
from mabrel.steps.kind import MakesParts, StepSettings, step
from mabrel.steps.outlines.offsets import covered, joined
from mabrel.steps.parts.areas import common
from mabrel.steps.parts.rims import rim_of
from mabrel.steps.parts.solid import Solid
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Margin
from mabrel.steps.scene import Scene
from mabrel.title import kinds

_ROUNDED = [(0.0, 0.0), (0.15, 0.53), (0.4, 0.8), (0.7, 0.95), (1.0, 1.0)]

_SHARPEST = 8.0  # times its width, how far a mitred rim reaches into a corner


class Bevel(StepSettings):
    side: Literal["inside", "outside", "astride"] = kinds.choice(
        "inside", "Inwards from the edge, outwards, or half of it each way."
    )
    width: float = kinds.length(
        28, 0, 2000, "How far it reaches from the edge.", inwards={"inside": 1.0, "astride": 0.5}
    )
    height: float = kinds.length(20, 0, 2000, "How high it rises over that width.")
    profile: kinds.CurvePoints = kinds.curve(
        _ROUNDED, "Its cross-section: from the edge (left) inwards."
    )
    corners: Literal["round", "mitred"] = kinds.choice(
        "round",
        "Inner corners, and outer ones outside: rounded, or two planes that meet in a crease.",
    )
    soften: float = kinds.length(0, 0, 400, "Rounds its creases.")
    direction: Literal["raised", "sunk"] = kinds.choice("raised", "Out of the face or into it.")
    combine: Literal["add", "greater", "lesser", "replace"] = kinds.choice(
        "add", "How it joins the relief that is there."
    )


def _outwards(settings: Bevel) -> float:
    """How much of its width lies outside the edge."""
    return {"inside": 0.0, "outside": 1.0, "astride": 0.5}[settings.side]


def _margin(settings: Bevel, scene: Scene) -> Margin:
    room = math.ceil(settings.width * _outwards(settings) * scene.scale) + 2
    return Margin(room, room, room, room) if settings.side != "inside" else Margin()


def _after(bound: Bound, room: Margin, settings: Bevel, scene: Scene) -> Bound:
    beyond = settings.width * _outwards(settings) * scene.scale
    raised = bound.raised(settings.height * scene.scale)
    return raised.grown(room) if beyond <= 0 else raised.reshaped(room)


def _parts(solid: Solid, piece: Piece | None, settings: Bevel, scene: Scene) -> Solid:
    width = settings.width * scene.scale
    beyond = width * _outwards(settings)
    join = "mitre" if settings.corners == "mitred" else "round"
    face = solid.face.buffer(beyond, join_style=join) if beyond > 0 else solid.face
    inner, facets = rim_of(face, width, settings.corners, scene.pause)
    front = common(solid.front, inner) if beyond <= 0 else inner
    return replace(solid, face=face, front=front).with_parts(*facets)


@step(
    "relief.bevel",
    "Bevel",
    words="bevel, rim, chisel, carved, edge, faceted, engraved, 3d",
    reads=("matte", "height", "face"),
    writes=("height", "matte"),
    margin=_margin,
    after=_after,
    parts=MakesParts(_parts),
)
def bevel(piece: Piece, settings: Bevel, scene: Scene) -> Piece:
    """Cut a rim along the edge, inside it, outside or astride, with a profile of any shape.

    Outside, the lettering grows by the rim, in the colours of its face.
    """
    beyond = settings.width * _outwards(settings) * scene.scale
    distance = _distance(piece, beyond, settings, scene)
    grown = piece
    if beyond > 0:
        grown = piece.reshaped(covered(distance), box=larger(piece.box, beyond))
    rise = _rim(grown, distance, settings, scene)
    if settings.direction == "sunk":
        rise = -rise
    return grown.with_height(_combined(settings.combine, grown.height, rise))


def _distance(piece: Piece, beyond: float, settings: Bevel, scene: Scene) -> Array:
    """(H, W): from the outer edge of the rim, `beyond` pixels outside the lettering."""
    if settings.corners == "mitred":
        deepest = max(beyond, -float(piece.distance.min(initial=0)))
        reach = min(settings.width * scene.scale, deepest) + 2
        return joined(piece, reach, outer="mitre", limit=_SHARPEST) - np.float32(beyond)
    if beyond <= 0:
        return piece.distance
    return piece.reshaped(covered(piece.distance - np.float32(beyond))).distance


def _rim(piece: Piece, distance: Array, settings: Bevel, scene: Scene) -> Array:
    """Height of the rim alone, in render pixels; 0 outside the lettering."""
    width = max(settings.width * scene.scale, 1e-3)
    share = np.clip(-distance / np.float32(width), 0, 1)
    rise = apply_table(share, curve_table(settings.profile))
    rise *= np.float32(settings.height * scene.scale)
    rise[distance >= 0] = 0
    return softened(rise, piece.matte, settings.soften * scene.scale)


def _combined(how: str, before: Array, rise: Array) -> Array:
    if how == "greater":
        return np.maximum(before, rise)
    if how == "lesser":
        return np.minimum(before, rise)
    return rise if how == "replace" else before + rise
