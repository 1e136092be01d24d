"""What a floor mirrors, and how it is seen in it."""

import math
from dataclasses import replace
from typing import NamedTuple

import cv2
import numpy as np

from mabrel.colour import light_of, over
from mabrel.field.body import Rays
from mabrel.steps.body import Seen
from mabrel.steps.cast import Cast
from mabrel.steps.extent import Extent
from mabrel.steps.faces.flattening import solid_picture
from mabrel.steps.piece import Array, Piece
from mabrel.steps.planes.projections import Matrix, along, mirrored, seen_region, shown
from mabrel.steps.region import Margin, Region
from mabrel.steps.scene import Scene
from mabrel.steps.sides.apart import is_edge_on, target_of

_LYING = 0.2  # sine of the angle to the floor below which a card doesn't rise over it


class Stand(NamedTuple):
    """A part of the letters: where it is (None for all of `box`), all that is solid of it, and how
    far down its floor lies, in render pixels."""

    inside: Array | None
    box: Region
    level: float


class Floor(NamedTuple):
    """How a floor mirrors. Lengths are in render pixels."""

    height: float
    """How high an image is."""
    slant: float
    """How far it leans to the right, for each pixel of its height."""
    far: float
    """The height over the floor from which on nothing is mirrored."""
    blurred: int
    """How far an image is softened, and how far it is `broken` up beyond that."""
    broken: int

    @property
    def is_plain(self) -> bool:
        """Whether it shows what a mirror does."""
        return self.height == 1 and self.slant == 0


class Mirror(NamedTuple):
    """How a stand is mirrored."""

    matrix: Matrix
    """3 × 3: from the card to the picture."""
    box: Region
    """As much of the stand's box as its mirror image shows."""
    target: Region
    """The part of the picture in which it is seen."""
    rays: Rays
    """From where the viewer would stand beneath the floor, through the pixels of the picture."""
    apart: int = 1
    """How many pixels of the picture one of these is wide and high."""

    @property
    def zoom(self) -> Matrix:
        """3 × 3: from the picture to these pixels."""
        return np.diag([1 / self.apart, 1 / self.apart, 1.0])

    def coarser(self, apart: int) -> "Mirror":
        """The same mirror image in pixels so many times as wide and high."""
        coarse = self._replace(apart=self.apart * apart)
        left, top, right, bottom = (
            self.target.left // apart,
            self.target.top // apart,
            -(-self.target.right // apart),
            -(-self.target.bottom // apart),
        )
        wide = np.diag([apart, apart, 1.0])
        return coarse._replace(
            matrix=np.diag([1 / apart, 1 / apart, 1.0]) @ self.matrix,
            target=Region(left, top, right - left, bottom - top),
            rays=self.rays._replace(start=self.rays.start @ wide, way=self.rays.way @ wide),
        )


def mirror_of(
    stand: Stand, extent: Extent, outgrown: float, floor: Floor, scene: Scene
) -> Mirror | None:
    """How a stand of what has this `extent` is mirrored, a body that grows by `outgrown` with it;
    None where no mirror image is seen."""
    matrix = scene.seen @ mirrored(scene, stand.level, floor.height, floor.slant)
    lowered = max(-scene.down[2], 0) * extent.depth
    box = _shown_part(stand, scene.down, floor.far + lowered)
    reach = floor.blurred + floor.broken + 2
    around = Margin(reach, reach, reach, reach)
    target = seen_region(matrix, box.grown(around), scene)
    if floor.is_plain and extent.stretch is not None:
        image = _image(stand.level, scene)
        body = target_of(box, extent.depth, outgrown, scene, image).grown(around)
        target = target.joined(body) if target.area else body
    if not box.area or not target.area:
        return None
    return Mirror(matrix, box, target, _rays_beneath(stand.level, scene))


def _image(level: float, scene: Scene) -> Matrix:
    """4 × 4: each place mirrored in the floor."""
    down, image = np.array(scene.down), np.eye(4)
    image[:3, :3] -= 2 * np.outer(down, down)
    image[:3, 3] = 2 * level * down
    return image


def _rays_beneath(level: float, scene: Scene) -> Rays:
    image = _image(level, scene)
    start = np.zeros((3, 3))
    start[:, 2] = (image @ np.array([*scene.viewer, 1.0]))[:3]
    return Rays(
        start, np.asarray(image[:3, :3] @ np.linalg.inv(scene.seen[:, :3]), np.float64), 1e-6
    )


def _shown_part(stand: Stand, down: tuple[float, ...], far: float) -> Region:
    """As much of a stand's box as is not so high over the floor that its mirror image is gone."""
    box = stand.box
    if down[1] <= 0.05:  # the card leans so far that its top is no higher than its foot
        return box
    most = max(box.left * down[0], box.right * down[0])
    top = max(math.floor((stand.level - far - most) / down[1]) - 1, box.top)
    return box.common(Region(box.left, top, box.width, max(box.bottom - top, 0)))


def heights(stand: Stand, mirror: Mirror, floor: Floor, scene: Scene) -> Array:
    """(H, W) over the mirror's target: how high over the floor lies what is seen there of the
    card, up to the height from which on nothing is."""
    room = math.ceil(floor.far) + floor.blurred
    part = mirror.box.grown(Margin(room, room, room, room))
    own = np.maximum(np.float32(stand.level) - along(part, np.array(scene.down)), 0)
    above = shown(own, mirror.matrix, part, mirror.target)
    return np.asarray(np.minimum(above, np.float32(floor.far)), np.float32)


def heights_of_body(seen: Seen, stand: Stand, floor: Floor, scene: Scene) -> Array:
    """As `heights`, of what rays meet; beside it as high as what is nearest."""
    own = np.float32(stand.level) - seen.place @ np.array(scene.down, np.float32)
    own = np.asarray(np.clip(own, 0, np.float32(floor.far)), np.float32)
    if not seen.there.any():
        return own
    beside = np.asarray(~seen.there, np.uint8)
    _, nearest = cv2.distanceTransformWithLabels(
        beside, cv2.DIST_L2, cv2.DIST_MASK_5, labelType=cv2.DIST_LABEL_PIXEL
    )
    known = np.zeros(int(nearest.max()) + 1, np.float32)
    known[nearest[seen.there]] = own[seen.there]
    return np.asarray(known[nearest])


def body_seen(piece: Piece, seen: Seen, mirror: Mirror, stand: Stand, scene: Scene) -> Array:
    """Light (H, W, 4) of a piece whose sides are `seen` so, as a mirror shows it, over its
    target."""
    bare, known = piece.without_sides, piece.sides
    both = _side_by_side(_on_card(replace(bare, behind=None), mirror), light_of(seen.pixels))
    scene.pause()
    if known is not None and known.under is not None:
        empty = replace(bare, face=np.zeros_like(bare.face), front=None, added=None)
        both = over(_on_card(empty, mirror), both)
    if piece.beside is not None and piece.beside.under is not None:
        plane = _plane_of(piece, scene)
        both = over(_in_picture(piece.beside.under, plane, mirror, stand, scene), both)
    return both


def _plane_of(piece: Piece, scene: Scene) -> Matrix:
    """4 × 3: places of the plane on which a body beside its card is seen: that of its face or its
    back, or that which faces the viewer at its nearer end where those are seen from their edge."""
    left, top, width, height = piece.region
    viewer = np.array(scene.viewer)
    behind = viewer[2] < 0
    middle = np.array([left + width / 2, top + height / 2, -piece.depth if behind else 0])
    across, down, _ = scene.down
    steep = math.hypot(across, down)
    rising = np.array([across / steep, down / steep, 0]) if steep > _LYING else np.array(scene.down)
    aside = np.cross(rising, np.array([0, 0, 1.0]))
    if is_edge_on(scene):
        end = aside * (width / 2)
        nearer = 1 if (viewer - middle) @ end > 0 else -1
        middle = middle + nearer * end - np.array([0, 0, piece.depth / 2 + middle[2]])
        aside = np.cross(rising, middle - viewer)
    plane = np.zeros((4, 3))
    plane[:3] = np.stack([aside / np.linalg.norm(aside), rising, middle], axis=1)
    plane[3, 2] = 1
    return plane


def _in_picture(drawn: Cast, plane: Matrix, mirror: Mirror, stand: Stand, scene: Scene) -> Array:
    """Light (H, W, 4) of what is drawn in the picture, as if on this plane (4 × 3)."""
    to_plane = np.linalg.inv(scene.seen @ plane)
    matrix = scene.seen @ _image(stand.level, scene) @ plane @ to_plane
    return shown(light_of(drawn.pixels), mirror.zoom @ matrix, drawn.region, mirror.target)


def _on_card(piece: Piece, mirror: Mirror) -> Array:
    light = light_of(solid_picture(piece, mirror.box))
    return shown(light, mirror.matrix, mirror.box, mirror.target)


def _side_by_side(a: Array, b: Array) -> Array:
    """Of what never covers the same place: shares of a pixel add up."""
    both = a + b
    both /= np.maximum(both[..., 3:], np.float32(1))
    return both
