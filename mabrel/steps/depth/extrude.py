"""Sides: the lettering pushed back out of the picture plane."""

import math
from collections.abc import Callable, Hashable
from dataclasses import replace
from typing import TypeVar

import numpy as np
import shapely

from mabrel.colour import curve_table, from_code
from mabrel.field.body import NOTHING, Rays
from mabrel.field.extrusion import silhouette
from mabrel.light.table import ABOVE
from mabrel.steps.body import Pause, Reach, Seen, Sides
from mabrel.steps.cast import Cast
from mabrel.steps.extent import Bound, Extent
from mabrel.steps.faces.stops import colour_stops
from mabrel.steps.kind import MakesParts, step
from mabrel.steps.outlines.offsets import joined
from mabrel.steps.parts.areas import minus
from mabrel.steps.parts.solid import Shape, Solid, area_of
from mabrel.steps.parts.swept import sides_of
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Margin, Region
from mabrel.steps.scene import Scene
from mabrel.steps.sides.apart import is_apart, rays_apart, stretch_of, target_of
from mabrel.steps.sides.colouring import Body
from mabrel.steps.sides.drawing import drawn
from mabrel.steps.sides.paint import (
    FACINGS,
    Lit,
    along,
    around,
    by_side,
    fading,
    one_colour,
)
from mabrel.steps.sides.profile import outgrown, profile, slopes
from mabrel.steps.sides.settings import Extrude
from mabrel.steps.sides.texture import back_of, textured
from mabrel.steps.sides.under_face import front_of, shows, under_face
from mabrel.steps.sides.way import Way, room_for

T = TypeVar("T")
_EVEN = 1.6
_BESIDE, _SLIVER = 0.25, 6.0  # pixels, and square pixels, that a traced edge may leave the outline
_RAYS, _RAYS_APART = 5, 17  # through a pixel where neighbours differ


def _way(settings: Extrude, scene: Scene) -> Way:
    length = settings.length * scene.scale
    if settings.towards == "direction":
        turn = math.radians(settings.angle)
        return Way((math.cos(turn), math.sin(turn)), length)
    if settings.towards == "point":
        x, y = settings.point
        shrink = settings.length / (settings.eye + settings.length)
        return Way((x * scene.scale, y * scene.scale), length, shrink)
    x, y, away = scene.viewer
    return Way((x, y), length, length / (max(away, 1e-3) + length))


def _lean(extent: Extent, settings: Extrude, scene: Scene) -> Reach:
    """Of sides that run to a side or to a point: as deep as they are long. What they end with lies
    on the card if that is lower than the face, else the face does."""
    way = _way(settings, scene)
    x, y = way.towards
    if way.shrink > 0:
        return Reach(way.length, (x, y), way.shrink, way.length if y > extent.box[3] else 0.0)
    towards = (x * way.length, y * way.length)
    return Reach(way.length, towards, front=way.length if y > 0 else 0.0)


def _light(settings: Extrude, scene: Scene) -> Lit | None:
    if settings.lit == 0 and settings.gloss == 0:
        return None
    return Lit(
        scene.lights,
        settings.lit,
        settings.wrap,
        settings.shoulder,
        curve_table(settings.response),
        settings.gloss,
        settings.tightness,
        settings.metal,
        scene.viewer if settings.gloss else ABOVE,
    )


def _asks(settings: Extrude, scene: Scene) -> None:
    if _apart(settings, scene):
        _ = scene.seen, scene.frame
    _way(settings, scene)
    _light(settings, scene)


def _asks_for_parts(settings: Extrude, scene: Scene) -> None:
    _apart(settings, scene)
    _way(settings, scene)


def _apart(settings: Extrude, scene: Scene) -> bool:
    return settings.towards == "back" and is_apart(scene)


def _after(bound: Bound, room: Margin, settings: Extrude, scene: Scene) -> Bound:
    if settings.towards != "back":
        return replace(bound.reshaped(room), lean=_lean(bound, settings, scene))
    length = settings.length * scene.scale
    deep = max(bound.depth, length)
    wider = max(bound.outgrown, outgrown(_profile(settings, scene)))
    if _apart(settings, scene):
        target = target_of(bound.region, length, outgrown(_profile(settings, scene)), scene)
        bound = replace(bound.casting(target), stretch=stretch_of(bound.region, length, scene))
    return replace(bound.grown(room), depth=deep, outgrown=wider)


def _profile(settings: Extrude, scene: Scene) -> Array | None:
    """How far the outline is grown at even depths from the face, in render pixels."""
    scale = scene.scale
    return profile(
        settings.length * scale,
        taper=settings.taper * scale,
        swell=settings.swell * scale,
        edge=settings.edge * scale,
        round_edge=settings.edge_shape == "round",
    )


def _room(piece: Extent, settings: Extrude, scene: Scene) -> Margin:
    if _apart(settings, scene):  # it is drawn in the picture
        return Margin()
    way = _way(settings, scene)
    spare = 2 + math.ceil(outgrown(_profile(settings, scene)))
    return room_for(piece.region, way, spare)


def _traces(settings: Extrude, scene: Scene) -> bool:
    return _profile(settings, scene) is not None or _apart(settings, scene)


def _parts(solid: Solid, piece: Piece | None, settings: Extrude, scene: Scene) -> Solid:
    if settings.length <= 0:
        return solid
    if piece is None:
        return solid.with_parts(
            *sides_of(solid.face, _way(settings, scene), solid.whole, scene.pause)
        )
    traced = area_of(piece.solid, piece.region)  # sides that bulge are one shape
    beyond = shapely.get_parts(minus(traced, solid.face.buffer(_BESIDE)))
    return solid.with_parts(*(Shape("side", each) for each in beyond if each.area > _SLIVER))


@step(
    "depth.extrude",
    "Extrude",
    words="3d, deep, thick, sides, block letters, push out, long, taper",
    reads=("matte", "behind"),
    writes=("behind", "front", "body"),
    asks=_asks,
    room=_room,
    after=_after,
    parts=MakesParts(_parts, _asks_for_parts, _traces),
)
def extrude(piece: Piece, settings: Extrude, scene: Scene) -> Piece:
    """Push the lettering back out of the picture, with sides that the lights model."""
    if settings.length * scene.scale < 0.01:
        return piece
    body = _body(piece, settings, scene)
    kept = _Kept(piece, settings, scene)
    wider = outgrown(body.grown)
    if _apart(settings, scene):
        solid = piece.deepened(piece.matte, body.length, wider)
        target = target_of(piece.region, body.length, wider, scene)
        if not target.area:
            return solid
        seen = drawn(piece, body, rays_apart(scene), target, _RAYS_APART, scene.pause)
        hidden = scene.viewer[2] < 0
        stretch = stretch_of(piece.region, body.length, scene)
        done = solid.seen_beside(Cast(target, seen.pixels), stretch, hides=hidden)
        own = body if hidden else replace(body, front=None)
        return replace(done, sides=_sides(done, done.behind, kept, own, _RAYS_APART))
    way = _way(settings, scene)
    cover, plane = _on_card(kept, body, way)
    back = settings.towards == "back"
    if back:
        solid = piece.deepened(cover, body.length, wider)
    else:
        solid = replace(piece.solidified(cover), lean=_lean(piece, settings, scene))
    done = solid.just_behind(plane)
    return replace(done, sides=_sides(done, piece.behind, kept, body, _RAYS)) if back else done


class _Kept:
    """Sides that are made once for a shape, whatever its relief and its colours, as long as they
    don't show those."""

    def __init__(self, piece: Piece, settings: Extrude, scene: Scene) -> None:
        self.piece, self.settings, self.scene = piece, settings, scene

    def remembered(self, name: str, body: Body, key: Hashable, make: Callable[[], T]) -> T:
        settings, scene = self.settings, self.scene
        if settings.texture in ("face", "picture") or settings.back == "face":
            return make()
        lights = None if body.lit is None else (scene.lights, body.lit.viewer)
        whole = (settings, scene.scale, lights, body.front is None, key)
        return self.piece.remembered(name, whole, make)


def _on_card(kept: _Kept, body: Body, way: Way) -> tuple[Array, Array]:
    """Coverage (H, W) of face and sides together, and the sides as they are seen under the face,
    (H, W, 4)."""
    piece, scene = kept.piece, kept.scene
    cover, depth = _silhouette(piece, body, way, scene)

    def made() -> Array:
        shown = shows(piece.matte, cover), _sure(depth, cover)
        rays = way.rays(body.length)
        seen = drawn(piece, body, rays, piece.region, _RAYS, scene.pause, shown)
        return under_face(piece.matte, cover, seen, front_of(body.paint))

    return cover, kept.remembered("sides on the card", body, way, made)


def _sides(done: Piece, under: Array | None, kept: _Kept, body: Body, count: int) -> Sides:
    """Those of `done`, over what lies `under` them, for all who look at it from elsewhere: by so
    many rays a pixel."""

    def from_elsewhere(rays: Rays, target: Region, pause: Pause) -> Seen:
        def made() -> Seen:
            found = drawn(kept.piece, body, rays, target, count, pause)
            return Seen(found.pixels, found.what != NOTHING, found.place)

        key = (target, rays.start.tobytes(), rays.way.tobytes(), rays.least, count)
        return kept.remembered("sides from elsewhere", body, key, made)

    return Sides(done.behind, from_elsewhere, under, outgrown(body.grown))


def _sure(depth: Array, cover: Array) -> Array:
    """(H, W): how deep a side lies, where the middle of a pixel shows one."""
    return np.asarray(np.where(cover >= 1, depth, 0), np.float32)


def _silhouette(piece: Piece, body: Body, way: Way, scene: Scene) -> tuple[Array, Array]:
    """(H, W) each: coverage of face and sides together, and how deep lies what one sees of it."""
    x, y = way.towards
    if way.shrink > 0:
        x, y = x - piece.region.left - 0.5, y - piece.region.top - 0.5
    key = (x, y, way, None if body.grown is None else body.grown.tobytes(), body.mitred)

    def traced() -> tuple[Array, Array]:
        return silhouette(
            body.distance, towards=(x, y), length=way.length, shrink=way.shrink,
            profile=body.grown, pause=scene.pause,
        )  # fmt: skip

    return piece.remembered("silhouette", key, traced)


def _body(piece: Piece, settings: Extrude, scene: Scene) -> Body:
    grown, length = _profile(settings, scene), settings.length * scene.scale
    mitred = settings.corners == "mitred" and grown is not None
    # What grows beyond its outline does so in the room around it.
    own = piece.distance if outgrown(grown) > 0 else piece.least_distance
    distance = _mitred(piece, grown) if mitred and grown is not None else own
    return Body(
        length, distance, mitred, grown, max(_EVEN, settings.soften * scene.scale),
        slopes(grown, length), _paint(settings), _light(settings, scene),
        front_of(_paint(settings)) if _apart(settings, scene) else None,
        lambda places: back_of(piece, places, settings), textured(piece, settings, scene, grown),
    )  # fmt: skip


def _mitred(piece: Piece, grown: Array) -> Array:
    """Signed distance with mitred corners as far as the outline grows or shrinks; beyond, no more
    than that, so that a ray passes no tip."""
    reach = float(np.abs(grown).max()) + 3
    near = joined(piece, reach, outer="mitre")
    far = np.sign(piece.distance) * np.maximum(np.abs(piece.distance) / 4, np.float32(reach))
    return np.asarray(np.where(np.abs(near) <= reach, near, far), np.float32)


def _paint(settings: Extrude) -> Array:
    far = np.array(from_code(settings.fade_colour), np.float32)
    if settings.paint == "depth":
        return along(colour_stops(settings.depths))
    if settings.paint == "sides":
        near = by_side(settings.right, settings.down, settings.left, settings.up)
    elif settings.paint == "around":
        near = around(colour_stops(settings.compass))
    else:
        near = one_colour(settings.colour)
    assert near.shape[0] == FACINGS
    return fading(near, far, settings.fade)
