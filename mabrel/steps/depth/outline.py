"""A line around face and sides together."""

import math
from dataclasses import replace
from typing import Literal

import numpy as np

from mabrel.colour import rgb_and_alpha
from mabrel.field import signed_distance
from mabrel.field.contours import contours
from mabrel.field.joined import Join, joined_distance
from mabrel.field.outline_crossings import edge_of
from mabrel.steps.body import Beside
from mabrel.steps.cast import Cast
from mabrel.steps.extent import Bound
from mabrel.steps.faces.painting import ink
from mabrel.steps.kind import MakesParts, StepSettings, step
from mabrel.steps.outlines.offsets import covered, joined
from mabrel.steps.parts.solid import Shape, Solid
from mabrel.steps.piece import Array, Piece
from mabrel.steps.planes.facing import FacingPlane, room_around
from mabrel.steps.region import Margin
from mabrel.steps.scene import Scene
from mabrel.title import kinds

_MITRE = 4.0  # how much further than its width a mitre may reach, as in SVG


class SilhouetteOutline(StepSettings):
    around: Literal["everything", "face"] = kinds.choice(
        "everything", "Around face and sides as one silhouette, or around the face alone."
    )
    width: float = kinds.length(8, 0, 400, "How wide the line is.")
    gap: float = kinds.length(0, 0, 400, "How far off it begins; the gap is filled too.")
    join: Join = kinds.choice("round", "How it goes round corners.")
    colour: kinds.Colour = kinds.colour("#12161a", "Its colour.")
    gap_colour: kinds.Colour = kinds.colour("#f3f3f1", "Colour of the gap.")
    opacity: float = kinds.fraction(1.0, "How much it covers.")


def _reach(settings: SilhouetteOutline, scene: Scene) -> float:
    """How far it goes beyond what it is drawn around, in render pixels."""
    whole = (settings.width + settings.gap) * scene.scale
    return whole * (_MITRE if settings.join == "mitre" else 1)


def _margin(settings: SilhouetteOutline, scene: Scene) -> Margin:
    room = math.ceil(_reach(settings, scene)) + 2
    return Margin(room, room, room, room)


def _after(bound: Bound, room: Margin, settings: SilhouetteOutline, scene: Scene) -> Bound:
    wider = (settings.width + settings.gap) * scene.scale
    if bound.stretch is not None and bound.cast is not None and settings.around == "everything":
        beside = room_around(bound.stretch, _reach(settings, scene))
        bound = bound.casting(bound.cast.grown(beside))
    return replace(bound.grown(room), outgrown=bound.outgrown + wider)


def _parts(solid: Solid, piece: Piece | None, settings: SilhouetteOutline, scene: Scene) -> Solid:
    around = solid.face if settings.around == "face" else solid.silhouette
    gap, whole = settings.gap * scene.scale, (settings.gap + settings.width) * scene.scale
    how = {"join_style": settings.join, "mitre_limit": _MITRE}
    outer = around.buffer(whole, **how)
    if gap <= 0:
        return solid.with_parts(Shape("outline", outer))
    return solid.with_parts(Shape("outline", outer), Shape("outline", around.buffer(gap, **how)))


@step(
    "depth.outline",
    "Outline",
    words="contour, border, sticker, comic, trace, silhouette, line around",
    reads=("matte", "behind"),
    writes=("behind", "body"),
    margin=_margin,
    after=_after,
    parts=MakesParts(_parts),
)
def outline(piece: Piece, settings: SilhouetteOutline, scene: Scene) -> Piece:
    """Draw a line around face and sides as one silhouette."""
    gap, whole = settings.gap * scene.scale, (settings.gap + settings.width) * scene.scale
    if whole < 0.01:
        return piece
    if piece.beside is not None and settings.around == "everything":
        return _beside_card(piece, piece.beside, settings, scene)
    distance = _distance(piece, whole + 2, settings)
    scene.pause()
    if gap > 0.01:
        nearer = covered(distance - np.float32(gap))
        piece = piece.beneath(_inked(settings.gap_colour, nearer, settings))
    grown = covered(distance - np.float32(whole))
    return piece.beneath(_inked(settings.colour, grown, settings)).solidified(grown)


def _inked(code: str, cover: Array, settings: SilhouetteOutline) -> Array:
    colour, alpha = rgb_and_alpha(code)
    return ink(colour, cover * np.float32(alpha * settings.opacity))


def _beside_card(piece: Piece, body: Beside, settings: SilhouetteOutline, scene: Scene) -> Piece:
    """Around a body that is drawn in the picture: there too, as wide as it would be on a card."""
    plane = FacingPlane(body, _reach(settings, scene))
    gap, whole = (
        each * scene.scale * plane.scale for each in (settings.gap, settings.gap + settings.width)
    )
    distance = _around(plane.laid(body.cover, body.region), whole + 2, settings.join)
    scene.pause()
    grown = plane.seen(covered(distance - np.float32(whole)))
    drawn = Cast(plane.target, _inked(settings.colour, grown, settings))
    if gap > 0.01:
        nearer = plane.seen(covered(distance - np.float32(gap)))
        drawn = Cast(plane.target, _inked(settings.gap_colour, nearer, settings)).over(drawn)
    under = drawn if body.under is None else body.under.over(drawn)
    wider = Beside(plane.target, grown, body.stretch, under)
    stands = covered(piece.distance - np.float32(whole / plane.scale))
    return replace(piece.casting(drawn).solidified(stands), beside=wider)


def _distance(piece: Piece, reach: float, settings: SilhouetteOutline) -> Array:
    """(H, W): from the edge of the silhouette, as far as `reach` outside it."""
    around = piece.solid if settings.around == "everything" else piece.matte
    if around is not piece.matte:
        return _around(around, reach, settings.join)
    if settings.join == "round":
        return piece.distance
    return joined(piece, reach, outer=settings.join)


def _around(cover: Array, reach: float, join: Join) -> Array:
    """(H, W): from the edge of any shape, as far as `reach` outside it."""
    shape = np.ascontiguousarray(cover)
    if join == "round":
        return signed_distance(shape)
    edge, lines = edge_of(shape), contours(shape) - 0.5
    return joined_distance(lines, edge, signed_distance(shape, edge), reach, outer=join)
