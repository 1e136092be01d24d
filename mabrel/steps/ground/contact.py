"""The dark line where letters stand on the floor."""

import math
from dataclasses import replace

import cv2
import numpy as np

from mabrel.colour import rgb_and_alpha
from mabrel.field import blur_margin, gaussian_blur
from mabrel.steps.ground.cast_shadow import floor_level
from mabrel.steps.kind import Scene, StepSettings, step
from mabrel.steps.onto import Matrix, laid_out, reach_of, seen_on_card
from mabrel.steps.painting import beneath
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Margin, Region
from mabrel.title import kinds

_SLICES = 24  # copies of a body's foot from its face to its back
_LOWEST = 0.16  # sine of the least height over the floor from which it is shown
_FOOT = 2.5  # times `reach` above which nothing darkens the floor any more


class Contact(StepSettings):
    reach: float = kinds.length(18, 0.5, 1000, "How high above the floor letters still darken it.")
    blur: float = kinds.length(11, 0.5, 400, "How far the dark spreads over the floor.")
    offset: float = kinds.length(
        0, -2000, 2000, "Moves the floor down from the letters, or up.", grip="contact"
    )
    colour: kinds.Colour = kinds.colour("#04060a", "Its colour.")
    opacity: float = kinds.fraction(0.85, "How dark it is.")


def _on_floor(scene: Scene, level: float) -> Matrix:
    """3 × 3: from places on the floor (to the right, nearer) to where they are seen on the card.

    A viewer low over the floor would see no more than a line: the dark is shown as from a little
    higher.
    """
    right, down, near = (np.array(axis) for axis in scene.stand)
    viewer = np.array(scene.viewer)
    above = level - float(down @ viewer)
    lifted = viewer - down * max(_LOWEST * float(np.linalg.norm(viewer)) - above, 0.0)
    x, y, z = (float(axis) for axis in lifted)
    onto = np.column_stack([right, near, down * level])
    return seen_on_card(onto, replace(scene, viewer=(x, y, z)))


def _area(piece: Piece, settings: Contact, scene: Scene) -> Region:
    """The part of the floor, in its own pixels, that can be darkened."""
    right, _, near = (np.array(axis) for axis in scene.stand)
    left, top, right_edge, bottom = (
        piece.region.left, piece.region.top, piece.region.right, piece.region.bottom,
    )  # fmt: skip
    corners = np.array([
        [u, v, -t] for u in (left, right_edge) for v in (top, bottom) for t in (0, piece.depth)
    ])  # fmt: skip
    across, forward = corners @ right, corners @ near
    spare = blur_margin(settings.blur * scene.scale) + 2
    x, y = math.floor(min(across)) - spare, math.floor(min(forward)) - spare
    return Region(x, y, math.ceil(max(across)) + spare - x, math.ceil(max(forward)) + spare - y)


def _level(piece: Piece, settings: Contact, scene: Scene) -> float | None:
    level = floor_level(piece, scene)
    return None if level is None else level + settings.offset * scene.scale


def _room(piece: Piece, settings: Contact, scene: Scene) -> Margin:
    level = _level(piece, settings, scene)
    if level is None:
        return Margin()
    area = _area(piece, settings, scene)
    return reach_of(_on_floor(scene, level), area, piece.region)


@step(
    "ground.contact",
    "Contact shadow",
    words="ambient occlusion, stand, ground, touch, base shadow, foot",
    reads=("matte", "behind"),
    writes=("behind",),
    viewed=True,
    room=_room,
)
def contact(piece: Piece, settings: Contact, scene: Scene) -> Piece:
    """Darken the floor right where the letters touch it."""
    level = _level(piece, settings, scene)
    if level is None:
        return piece
    area = _area(piece, settings, scene)
    foot = _foot(piece, settings, scene, level, area)
    scene.pause()
    sigma = settings.blur * scene.scale
    # A line one pixel wide keeps its strength: letters stand on lines.
    line = max(sigma * math.sqrt(2 * math.pi), 1.0) if piece.depth < 1 else 1.6
    dark = np.clip(gaussian_blur(foot, sigma) * np.float32(line), 0, 1)
    seen = laid_out(np.asarray(dark, np.float32), _on_floor(scene, level), area, piece.region)
    colour, alpha = rgb_and_alpha(settings.colour)
    return beneath(piece, colour, np.clip(seen, 0, 1) * np.float32(settings.opacity * alpha))


def _foot(piece: Piece, settings: Contact, scene: Scene, level: float, area: Region) -> Array:
    """(H, W) over the floor's `area`: how near what stands there is, 1 where it touches."""
    right, down, near = (np.array(axis) for axis in scene.stand)
    shape = piece.solid if piece.depth <= 0 else piece.matte
    rows, columns = np.nonzero(shape > 0.05)
    u, v = columns + (piece.region.left + 0.5), rows + (piece.region.top + 0.5)
    cover = shape[rows, columns]
    reach = settings.reach * scene.scale
    foot = np.zeros((area.height, area.width), np.float32)
    slices = np.linspace(0, piece.depth, _SLICES) if piece.depth >= 1 else np.zeros(1)
    for depth in slices:
        above = level - (u * down[0] + v * down[1] - depth * down[2])
        close = above < _FOOT * reach
        weight = cover[close] * np.exp(-np.square(np.maximum(above[close], 0) / reach))
        across = u[close] * right[0] + v[close] * right[1] - depth * right[2]
        forward = u[close] * near[0] + v[close] * near[1] - depth * near[2]
        x = np.floor(across - area.left).astype(int)
        y = np.floor(forward - area.top).astype(int)
        inside = (x >= 0) & (x < area.width) & (y >= 0) & (y < area.height)
        np.maximum.at(foot, (y[inside], x[inside]), weight[inside].astype(np.float32))
    return foot if piece.depth < 1 else _filled(foot, piece.depth)


def _filled(foot: Array, depth: float) -> Array:
    """What lies between the slices of a body is as dark as they are."""
    gap = math.ceil(depth / (_SLICES - 1)) + 1
    kernel = np.ones((2 * gap + 1, 1), np.uint8)
    return np.asarray(cv2.morphologyEx(foot, cv2.MORPH_CLOSE, kernel), np.float32)
