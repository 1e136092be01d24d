"""The dark line where letters stand on the floor."""

import math
from typing import NamedTuple

import cv2
import numpy as np

from mabrel.colour import rgb_and_alpha
from mabrel.field import blur_margin, gaussian_blur
from mabrel.kernels import kernel
from mabrel.steps.extent import Bound, Extent
from mabrel.steps.faces.painting import darkened
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.outlines.offsets import clipped
from mabrel.steps.piece import Array, Piece
from mabrel.steps.planes.projections import Matrix, floor_level, seen_region, shown
from mabrel.steps.region import Margin, Region
from mabrel.steps.scene import Scene
from mabrel.title import kinds

_SLICES = 24  # copies of a body's foot from its face to its back
_LOWEST = 0.16  # sine of the least height over the floor from which it is shown
_INK = 0.05  # coverage below which a pixel stands on nothing
_FOOT = 2.5  # times `reach` above which nothing darkens the floor any more


class Contact(StepSettings):
    reach: float = kinds.length(18, 0.5, 1000, "How high above the floor letters still darken it.")
    blur: float = kinds.length(11, 0.5, 400, "How far the dark spreads over the floor.")
    offset: float = kinds.length(
        0, -2000, 2000, "Moves the floor down from the letters, or up.", grip="contact"
    )
    colour: kinds.Colour = kinds.colour("#04060a", "Its colour.")
    opacity: float = kinds.fraction(0.85, "How dark it is.")


def _places(scene: Scene, level: float) -> Matrix:
    """4 × 3: from places on the floor (to the right, nearer) to those in the card's axes.

    A viewer low over the floor would see no more than a line: the dark is shown as on a floor
    that leans towards the viewer a little.
    """
    right, down, near = (np.array(axis) for axis in scene.upright)
    viewer = np.array(scene.viewer)
    above = (level - float(down @ viewer)) / max(float(np.linalg.norm(viewer)), 1e-6)
    near = near + down * max(_LOWEST - above, 0.0)
    places = np.zeros((4, 3))
    places[:3] = np.column_stack([right, near, down * level])
    places[3, 2] = 1
    return places


def _area(extent: Extent, settings: Contact, scene: Scene) -> Region:
    """The part of the floor, in its own pixels, that can be darkened."""
    right, _, near = (np.array(axis) for axis in scene.upright)
    left, top, end, bottom = extent.box
    if extent.depth <= 0:  # plates and lines reach beyond the letters
        region = extent.region
        left, top, end, bottom = region.left, region.top, region.right, region.bottom
    corners = np.array([
        [u, v, -t] for u in (left, end) for v in (top, bottom) for t in (0, extent.depth)
    ])  # fmt: skip
    across, forward = corners @ right, corners @ near
    spare = blur_margin(settings.blur * scene.scale) + 2
    x, y = math.floor(min(across)) - spare, math.floor(min(forward)) - spare
    return Region(x, y, math.ceil(max(across)) + spare - x, math.ceil(max(forward)) + spare - y)


class FloorSeen(NamedTuple):
    """Where a floor is darkened."""

    level: float
    area: Region
    """The part of it, in its own pixels."""
    matrix: Matrix
    """3 × 3: from there to the picture."""
    target: Region
    """The part of the picture."""


def _floor(extent: Extent, settings: Contact, scene: Scene) -> FloorSeen | None:
    level = floor_level(extent, scene)
    if level is None:
        return None
    level += settings.offset * scene.scale
    area = _area(extent, settings, scene)
    matrix = scene.seen @ _places(scene, level)
    target = seen_region(matrix, area, scene)
    return FloorSeen(level, area, matrix, target) if target.area else None


def _after(bound: Bound, room: Margin, settings: Contact, scene: Scene) -> Bound:
    floor = _floor(bound, settings, scene)
    return bound if floor is None else bound.casting(floor.target)


@step(
    "ground.contact",
    "Contact shadow",
    words="ambient occlusion, stand, ground, touch, base shadow, foot",
    reads=("matte", "behind"),
    writes=("cast",),
    asks=lambda settings, scene: (scene.upright, scene.viewer, scene.seen, scene.frame),
    after=_after,
)
def contact(piece: Piece, settings: Contact, scene: Scene) -> Piece:
    """Darken the floor right where the letters touch it."""
    floor = _floor(piece, settings, scene)
    if floor is None:
        return piece
    dark = _dark(piece, floor, settings, scene)
    colour, alpha = rgb_and_alpha(settings.colour)
    return darkened(piece, colour, dark * np.float32(settings.opacity * alpha), floor.target)


def _dark(piece: Piece, floor: FloorSeen, settings: Contact, scene: Scene) -> Array:
    """Coverage (H, W) of the shadow; that of a body follows from its outline and is kept while that
    stays."""

    def made() -> Array:
        foot = _foot(piece, settings, scene, floor.level, floor.area)
        scene.pause()
        sigma = settings.blur * scene.scale
        # A line one pixel wide keeps its strength: letters stand on lines.
        line = max(sigma * math.sqrt(2 * math.pi), 1.0) if piece.depth < 1 else 1.6
        dark = clipped(gaussian_blur(foot, sigma) * np.float32(line))
        return clipped(shown(dark, floor.matrix, floor.area, floor.target))

    if piece.depth <= 0:
        return made()
    key = (
        settings, scene.scale, piece.depth, scene.upright, floor.level, floor.area,
        floor.matrix.tobytes(), floor.target,
    )  # fmt: skip
    return piece.remembered("contact shadow", key, made)


def _foot(piece: Piece, settings: Contact, scene: Scene, level: float, area: Region) -> Array:
    """(H, W) over the floor's `area`: how near what stands there is, 1 where it touches."""
    shape = piece.solid if piece.depth <= 0 else piece.matte
    foot = np.zeros((area.height, area.width), np.float32)
    slices = np.linspace(0, piece.depth, _SLICES) if piece.depth >= 1 else np.zeros(1)
    origin = np.array([piece.region.left + 0.5, piece.region.top + 0.5, area.left, area.top])
    reach = settings.reach * scene.scale
    _stand_on(shape, origin, np.array(scene.upright), level, reach, slices, foot)
    return foot if piece.depth < 1 else _filled(foot, piece.depth)


@kernel()
def _stand_on(shape, origin, stand, level, reach, slices, foot):  # type: ignore[no-untyped-def]
    """Each pixel of the shape, at each depth of its body, marks the floor below it."""
    left, top, area_left, area_top = origin
    right, down, near = stand[0], stand[1], stand[2]
    rows, columns = shape.shape
    high, wide = foot.shape
    far = _FOOT * reach
    for y in range(rows):
        v = top + y
        for x in range(columns):
            if shape[y, x] <= _INK:
                continue
            u = left + x
            flat = level - (u * down[0] + v * down[1])
            if flat - max(-slices[-1] * down[2], 0.0) >= far:
                continue
            for depth in slices:
                above = flat + depth * down[2]
                if above >= far:
                    continue
                across = int(np.floor(u * right[0] + v * right[1] - depth * right[2] - area_left))
                forward = int(np.floor(u * near[0] + v * near[1] - depth * near[2] - area_top))
                if 0 <= across < wide and 0 <= forward < high:
                    share = max(above, 0.0) / reach
                    weight = np.float32(shape[y, x] * np.exp(-share * share))
                    foot[forward, across] = max(foot[forward, across], weight)


def _filled(foot: Array, depth: float) -> Array:
    """What lies between the slices of a body is as dark as they are."""
    gap = math.ceil(depth / (_SLICES - 1)) + 1
    kernel = np.ones((2 * gap + 1, 1), np.uint8)
    return np.asarray(cv2.morphologyEx(foot, cv2.MORPH_CLOSE, kernel), np.float32)
