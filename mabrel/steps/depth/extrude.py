"""Sides: the lettering pushed back out of the picture plane."""

import math
from dataclasses import replace
from typing import ClassVar, Literal

import cv2
import numpy as np

from mabrel.colour import curve_table, from_code
from mabrel.field.body import Rays
from mabrel.field.extrusion import silhouette
from mabrel.field.fractal import rough_noise
from mabrel.light import SHOULDER
from mabrel.light.table import ABOVE
from mabrel.steps.cast import Cast
from mabrel.steps.extent import Bound, Extent, Lines
from mabrel.steps.faces.stops import colour_stops
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.outlines.offsets import joined
from mabrel.steps.piece import Array, Piece, Sides
from mabrel.steps.region import Margin, Region
from mabrel.steps.scene import Scene
from mabrel.steps.sides.apart import is_apart, rays_apart, target_of
from mabrel.steps.sides.drawing import Body, Drawn, Texture, drawn
from mabrel.steps.sides.face import as_the_face, face_at
from mabrel.steps.sides.paint import (
    FACINGS,
    Lit,
    along,
    around,
    by_side,
    fading,
    one_colour,
    run_along,
)
from mabrel.steps.sides.profile import outgrown, profile, slopes
from mabrel.steps.sides.way import Way, room_for
from mabrel.steps.textures.tiling import tiled_at
from mabrel.title import kinds
from mabrel.title.kinds import Stop, Stops

_EVEN = 1.6
_FINE, _FINE_APART = 2, 4  # rays across a pixel
_LEFT = 2e-3  # of a pixel, that a face must leave for sides to be seen
_AROUND = [
    Stop(place=0, colour="#6b4a2a"),
    Stop(place=0.25, colour="#2a1a10"),
    Stop(place=0.5, colour="#a8743c"),
    Stop(place=0.75, colour="#e0a862"),
    Stop(place=1, colour="#6b4a2a"),
]
_ALONG = [
    Stop(place=0, colour="#c98a4b"),
    Stop(place=0.5, colour="#6b3f1c"),
    Stop(place=1, colour="#140a05"),
]


class Extrude(StepSettings):
    GROUPS: ClassVar[dict[str, tuple[str, ...]]] = {
        "Form": ("eye", "taper", "swell", "edge", "edge_shape", "corners", "soften"),
        "Colour": (
            "paint",
            "colour",
            "up",
            "left",
            "right",
            "down",
            "compass",
            "depths",
            "fade",
            "fade_colour",
        ),
        "Texture": ("texture", "picture", "size", "textured", "seed"),
        "Back": ("back", "back_colour"),
        "Light": ("lit", "wrap", "shoulder", "response"),
        "Highlight": ("gloss", "tightness", "metal"),
    }

    towards: Literal["direction", "point", "back"] = kinds.choice(
        "direction",
        "Straight in one direction, towards a vanishing point, or straight back through the "
        "card, which stays right however the card and the camera turn.",
    )
    angle: float = kinds.angle(
        90,
        -360,
        360,
        "Direction in which the sides run.",
        when={"towards": "direction"},
        grip="turn",
    )
    point: tuple[float, float] = kinds.point(
        (0, 900),
        "The vanishing point, from the lettering's centre.",
        when={"towards": "point"},
    )
    length: float = kinds.length(60, 0, 4000, "How deep the lettering is.", grip="tip")
    eye: float = kinds.length(
        2000,
        10,
        100_000,
        "How far away the eye is: the nearer, the sooner the sides narrow.",
        when={"towards": "point"},
    )
    taper: float = kinds.length(0, -400, 400, "How much narrower it is at the far end.")
    swell: float = kinds.length(0, -400, 400, "How much it bulges half way, or draws in.")
    edge: float = kinds.length(
        0, 0, 400, "A bevelled front edge of that width, which goes over into the sides."
    )
    edge_shape: Literal["flat", "round"] = kinds.choice("round", "How that edge is cut.")
    corners: Literal["round", "mitred"] = kinds.choice(
        "round",
        "How sides that stand out beyond the face, or shrink, go round corners: rounded, or in a "
        "crease.",
    )
    soften: float = kinds.length(0, 0, 200, "Rounds hard corners between facets.")
    paint: Literal["one", "sides", "around", "depth"] = kinds.choice(
        "one",
        "One colour, one for each way that a side faces, stops once around, or stops along the "
        "depth.",
    )
    colour: kinds.Colour = kinds.colour(
        "#8a4f22", "Colour of the sides at the face.", when={"paint": "one"}
    )
    up: kinds.Colour = kinds.colour("#d69a5c", "Sides that face up.", when={"paint": "sides"})
    left: kinds.Colour = kinds.colour("#a8672f", "That face left.", when={"paint": "sides"})
    right: kinds.Colour = kinds.colour("#6e3f1b", "That face right.", when={"paint": "sides"})
    down: kinds.Colour = kinds.colour("#3c200d", "That face down.", when={"paint": "sides"})
    compass: Stops = kinds.stops(
        _AROUND, "Once around, from right over down, left and up.", when={"paint": "around"}
    )
    depths: Stops = kinds.stops(_ALONG, "From the face to the far end.", when={"paint": "depth"})
    fade: float = kinds.fraction(
        0.85,
        "How far it has gone over to the other colour at the end.",
        when={"paint": "one|sides|around"},
    )
    fade_colour: kinds.Colour = kinds.colour(
        "#140a05",
        "Colour that it fades to; with alpha, it fades away.",
        when={"paint": "one|sides|around"},
    )
    texture: Literal["none", "face", "streaks", "layers", "clouds", "picture"] = kinds.choice(
        "none",
        "Runs along the outline: as the face, which goes on over its edge; streaks into the depth, "
        "layers around, or a picture.",
    )
    picture: kinds.FileOrLayer = kinds.image(
        "", "The picture that runs along the outline.", when={"texture": "picture"}
    )
    size: float = kinds.length(
        40, 0.5, 4000, "How wide a tile or a blotch is.",
        when={"texture": "streaks|layers|clouds|picture"},
    )  # fmt: skip
    textured: float = kinds.fraction(
        0.5, "How strongly it shows.", when={"texture": "face|streaks|layers|clouds|picture"}
    )
    seed: int = kinds.seed(1, "Another draw.", when={"texture": "streaks|layers|clouds"})
    back: Literal["plain", "face"] = kinds.choice(
        "plain",
        "What one sees from behind: one colour, or the face, mirrored.",
        when={"towards": "back"},
    )
    back_colour: kinds.Colour = kinds.colour(
        "#2c1a0e", "Colour of the back.", when={"towards": "back", "back": "plain"}
    )
    lit: float = kinds.fraction(0.6, "How much the lights model the sides.")
    wrap: float = kinds.fraction(
        1.0, "How far light reaches around to what is turned away, so that it is modelled too."
    )
    shoulder: float = kinds.fraction(
        SHOULDER, "How far the picture comes back where lights add up; at 0 it burns out."
    )
    response: kinds.CurvePoints = kinds.curve(
        [(0.0, 0.0), (1.0, 1.0)], "From how much light falls there to how light it looks."
    )
    gloss: float = kinds.fraction(0.0, "Highlights on them.", high=4)
    tightness: float = kinds.number(24, 1, 1000, "How small those highlights are.")
    metal: float = kinds.fraction(
        0.0, "How much highlights take the sides' own hue, as on gold and copper."
    )


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


def _apart(settings: Extrude, scene: Scene) -> bool:
    return settings.towards == "back" and is_apart(scene)


def _after(bound: Bound, room: Margin, settings: Extrude, scene: Scene) -> Bound:
    if settings.towards != "back":
        return bound.reshaped(room)
    length = settings.length * scene.scale
    deep = max(bound.depth, length)
    wider = max(bound.outgrown, outgrown(_profile(settings, scene)))
    if _apart(settings, scene):
        target = target_of(bound, length, outgrown(_profile(settings, scene)), scene)
        bound = bound.casting(target)
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


@step(
    "depth.extrude",
    "Extrude",
    words="3d, deep, thick, sides, block letters, push out, long, taper",
    reads=("matte", "behind"),
    writes=("behind", "front", "body"),
    asks=_asks,
    room=_room,
    after=_after,
)
def extrude(piece: Piece, settings: Extrude, scene: Scene) -> Piece:
    """Push the lettering back out of the picture, with sides that the lights model."""
    if settings.length * scene.scale < 0.01:
        return piece
    body = _body(piece, settings, scene)
    wider = outgrown(body.grown)
    if _apart(settings, scene):
        solid = piece.deepened(piece.matte, body.length, wider)
        target = target_of(piece, body.length, wider, scene)
        if not target.area:
            return solid
        seen = drawn(piece, body, rays_apart(scene), target, _FINE_APART, scene)
        return solid.beside(Cast(target, seen.pixels), hides=scene.viewer[2] < 0)
    way = _way(settings, scene)
    cover = _silhouette(piece, body, way, scene)
    seen = drawn(piece, body, way.rays(body.length), piece.region, _FINE, scene)
    back = settings.towards == "back"
    solid = piece.deepened(cover, body.length, wider) if back else piece.solidified(cover)
    plane = _under(piece.matte, cover, seen, _front(body.paint))
    done = solid.just_behind(plane)
    if not back or piece.behind is not None:
        return done

    def from_elsewhere(rays: Rays, target: Region) -> Array:
        return drawn(piece, body, rays, target, _FINE, scene).pixels

    return replace(done, sides=Sides(plane, from_elsewhere))


def _silhouette(piece: Piece, body: Body, way: Way, scene: Scene) -> Array:
    """(H, W): coverage of face and sides together."""
    x, y = way.towards
    if way.shrink > 0:
        x, y = x - piece.region.left - 0.5, y - piece.region.top - 0.5
    key = (x, y, way, None if body.grown is None else body.grown.tobytes(), body.mitred)

    def traced() -> Array:
        cover, _ = silhouette(
            body.distance, towards=(x, y), length=way.length, shrink=way.shrink,
            profile=body.grown, pause=scene.pause,
        )  # fmt: skip
        return cover

    return piece.remembered("silhouette", key, traced)


def _under(matte: Array, cover: Array, seen: Drawn, front: Array) -> Array:
    """Sides under a face: where that covers f of a pixel and both together u, they cover
    (u − f) / (1 − f) of what it leaves: no seam at the lower edge, no rim at the upper one. Where
    no ray has met them, they have the colour of what is beside."""
    met = seen.met > 0
    pixels, area = seen.pixels, seen.met
    if not met.all():
        around = cv2.blur(pixels, (3, 3), borderType=cv2.BORDER_REPLICATE)
        pixels = np.where(met[..., None], pixels, around)
        area = np.where(met, area, cv2.blur(area, (3, 3), borderType=cv2.BORDER_REPLICATE))
    left = 1 - matte
    share = np.clip((cover - matte) / np.maximum(left, np.float32(1e-3)), 0, 1)
    out = pixels * (share / np.maximum(area, np.float32(1e-4)))[..., None]
    out[left < _LEFT] = front
    return np.asarray(out, np.float32)


def _front(paint: Array) -> Array:
    """(4): the colour of a body under its face, which shows where that is faded."""
    colour = paint[:, 0].mean(axis=0)
    return np.asarray(colour * [*colour[3:].repeat(3), 1], np.float32)


def _body(piece: Piece, settings: Extrude, scene: Scene) -> Body:
    grown, length = _profile(settings, scene), settings.length * scene.scale
    mitred = settings.corners == "mitred" and grown is not None
    distance = _mitred(piece, grown) if mitred and grown is not None else piece.distance
    return Body(
        length, distance, mitred, grown, max(_EVEN, settings.soften * scene.scale),
        slopes(grown, length), _paint(settings), _light(settings, scene),
        _front(_paint(settings)) if _apart(settings, scene) else None,
        lambda places: _back(piece, places, settings), _textured(piece, settings, scene),
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


def _back(piece: Piece, places: Lines, settings: Extrude) -> Array:
    """Premultiplied colours (N, 4) of the back at places (N, 2)."""
    if settings.back == "face":
        return face_at(piece, places)
    *colour, alpha = from_code(settings.back_colour)
    own = np.array([*(channel * alpha for channel in colour), alpha], np.float32)
    return np.tile(own, (len(places), 1))


def _textured(piece: Piece, settings: Extrude, scene: Scene) -> Texture | None:
    """Straight colours (N, 4) at places (N, 2) where sides begin, so deep (N), that run along the
    outline and into the depth."""
    if settings.texture == "none" or settings.textured == 0:
        return None
    if settings.texture == "picture" and not settings.picture:
        return None
    length, share = settings.length * scene.scale, settings.textured
    if settings.texture == "face":
        return lambda places, depth: as_the_face(piece, places, depth * length, share)
    size = settings.size * scene.scale
    stretch = {"streaks": (1, 12), "layers": (20, 0.4), "clouds": (1, 1)}

    def laid(places: Lines, depth: Array) -> Array:
        run, around_all = run_along(piece, places)
        deep = depth * np.float32(length)
        # A whole number of tiles goes around, so that none is cut where the outline closes.
        run = run * np.float32(max(round(around_all / size), 1) * size / around_all)
        if settings.texture == "picture":
            image = scene.image(settings.picture, size)
            found = tiled_at(image, run / size, deep / size, size)
            return np.asarray(found * np.array([1, 1, 1, share], np.float32), np.float32)
        wide, high = stretch[settings.texture]
        noise = rough_noise(run / (size * wide), deep / (size * high), settings.seed)
        out = np.empty((len(noise), 4), np.float32)
        out[:, 3] = np.abs(noise) * share
        out[:, :3] = (noise > 0)[:, None]
        return out

    return laid
