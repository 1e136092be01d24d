"""Parts painted one by one: faces, facets, sides, lines."""

import zlib
from collections.abc import Sequence
from typing import ClassVar, Literal

import numpy as np

from mabrel.colour import from_code, gradient_table
from mabrel.steps.faces.painting import paint_colours
from mabrel.steps.faces.stops import colour_stops
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.part import NamedPart
from mabrel.steps.parts.matching import owners_of
from mabrel.steps.parts.painting import (
    BEHIND,
    ON_FACE,
    Fill,
    filled,
    laid_within,
    painted,
    seen_parts,
)
from mabrel.steps.piece import Array, Piece
from mabrel.steps.scene import Scene
from mabrel.steps.textures.patterns import Made, made_texture
from mabrel.steps.textures.tiling import Lay, laid
from mabrel.title import kinds
from mabrel.title.kinds import Stop
from mabrel.title.part_paints import Brush, PartPaints

_STOPS = [
    Stop(place=0, colour="#f2c14e"),
    Stop(place=0.3, colour="#f78154"),
    Stop(place=0.55, colour="#b4436c"),
    Stop(place=0.8, colour="#4d9078"),
    Stop(place=1, colour="#2f6690"),
]
_FLAT = {"wood": 1 / 20, "brushed": 1 / 24}  # how much less high than wide parts of patterns are


class Parts(StepSettings):
    GROUPS: ClassVar = {"By itself": ("by", "on", "colours", "seed", "shading")}

    paints: PartPaints = kinds.part_paints(
        PartPaints(),
        "Parts painted by hand, in the proof: each is found again by its letter and by where it "
        "faces.",
    )
    by: Literal["none", "drawn", "facing", "letters"] = kinds.choice(
        "drawn",
        "What colours the parts by itself, beneath those painted by hand: a draw for each, the "
        "way that it faces, or its letter, one after the other.",
    )
    on: Literal["all", "fronts", "facets", "sides"] = kinds.choice(
        "all", "Which parts that colours.", when={"by": "drawn|facing|letters"}
    )
    colours: kinds.Stops = kinds.stops(
        _STOPS,
        "What it takes colours from.",
        when={"by": "drawn|facing|letters"},
        called={"by": {"facing": "From right over down and left"}},
    )
    seed: int = kinds.seed(1, "Another draw.", when={"by": "drawn"})
    shading: float = kinds.fraction(
        0.85,
        "How much of the light and shade that lie there it keeps.",
        when={"by": "drawn|facing|letters"},
    )
    picture: kinds.FileOrLayer = kinds.image("", "What parts show that are painted with a picture.")
    opacity: float = kinds.fraction(1.0, "How much of all of it.")


@step(
    "surface.parts",
    "Painted parts",
    words="facets, sides, faces, fill by hand, polygons, stained glass, low poly, vector, pieces",
    reads=("matte", "face", "behind"),
    writes=("face", "behind"),
    asks=lambda settings, scene: scene.parts,
)
def parts(piece: Piece, settings: Parts, scene: Scene) -> Piece:
    """Paint the parts that the steps before have made, each by itself: faces, the facets of rims,
    sides, outlines, with colours, gradients, patterns or a picture."""
    found = seen_parts(scene.parts)
    textures: dict[tuple[object, ...], Array] = {}

    def texture(brush: Brush) -> Array:
        key = (brush.fill, brush.pattern, brush.size, brush.angle, brush.colour, brush.second)
        if key not in textures:
            scene.pause()
            textures[key] = _texture(piece, brush, settings, scene)
        return textures[key]

    def fill(part: NamedPart, brush: Brush) -> Fill:
        if brush.fill in ("pattern", "picture"):
            whole = piece.region
            return Fill(lambda window: texture(brush)[window.within(whole)], brush.shading)
        return Fill(lambda window: filled(brush, part, window), brush.shading)

    fills = [
        (part, fill(part, brush) if brush else None)
        for part, brush in zip(found, _brushes(found, settings), strict=True)
    ]

    def paint(plane: Array, kinds: Sequence[str]) -> Array | None:
        own = [each for each in fills if each[0].kind in kinds]
        if not any(each for _, each in own):
            return None
        colours = painted(plane, piece.region, own, scene.pause)
        return colours * np.float32(settings.opacity)

    face = paint(piece.face, ON_FACE)
    done = piece if face is None else paint_colours(piece, "normal", face)
    behind = None if piece.behind is None else paint(piece.behind, BEHIND)
    if piece.behind is None or behind is None:
        return done
    return done.behind_repainted(laid_within(piece.behind, behind))


def _brushes(parts: Sequence[NamedPart], settings: Parts) -> list[Brush | None]:
    owners, _ = owners_of(settings.paints.parts, parts)
    return [
        _by_itself(part, parts, settings) if owner is None else settings.paints.parts[owner]
        for part, owner in zip(parts, owners, strict=True)
    ]


def _by_itself(part: NamedPart, parts: Sequence[NamedPart], settings: Parts) -> Brush | None:
    kind = part.kind
    if settings.by == "none" or kind not in (*ON_FACE, "side"):
        return None
    if settings.on not in ("all", f"{kind}s"):
        return None
    if settings.by == "facing":
        if part.facing is None:
            return None
        return Brush(colour=_around(part.facing, settings), shading=settings.shading)
    colours = [stop.colour for stop in settings.colours]
    drawn = _letter(part, parts) if settings.by == "letters" else _drawn(part, settings.seed)
    return Brush(colour=colours[drawn % len(colours)], shading=settings.shading)


def _around(facing: float, settings: Parts) -> str:
    table = gradient_table(colour_stops(settings.colours))
    channels = table[min(int(facing / 360 * len(table)), len(table) - 1)].tolist()
    return "#" + "".join(f"{round(255 * min(max(each, 0.0), 1.0)):02x}" for each in channels)


def _letter(part: NamedPart, parts: Sequence[NamedPart]) -> int:
    """Which letter a part belongs to."""
    letters = list(dict.fromkeys(each.letter for each in parts))
    return letters.index(part.letter)


def _drawn(part: NamedPart, seed: int) -> int:
    """By what stays the same at every size and in every frame."""
    which = part.number if part.run is None else part.run
    return zlib.crc32(f"{seed} {part.letter} {part.kind} {which}".encode())


def _texture(piece: Piece, brush: Brush, settings: Parts, scene: Scene) -> Array:
    """Straight colours (H, W, 4)."""
    first, second = (np.array(from_code(code), np.float32) for code in (brush.colour, brush.second))
    if brush.fill == "picture":
        if not settings.picture:
            return np.tile(first, (*piece.matte.shape, 1))
        size = brush.size * scene.scale
        image = scene.image(settings.picture, size)
        found = laid(piece, image, Lay("mirror", size, turn=brush.angle))
        found[..., :3] /= np.maximum(found[..., 3:], np.float32(1e-6))
        return found
    pattern = "clouds" if brush.pattern == "brushed" else brush.pattern
    made = Made(
        pattern=pattern,
        width=brush.size,
        height=max(brush.size * _FLAT.get(brush.pattern, 1.0), 0.5),
        turn=max(min(brush.angle, 360.0), -360.0),
    )
    tones = made_texture(piece, made, scene)[..., None]
    return np.asarray(second + (first - second) * tones, np.float32)
