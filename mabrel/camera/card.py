"""The card and its viewer: where a layer appears, and how its lights and viewer look from it."""

import math
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from mabrel.light import Light
from mabrel.title import Camera, Handle, Placement, value_at

Matrix = NDArray[np.float64]
Vector = tuple[float, float, float]
_NEAREST = 1e-3
_LEVEL = np.eye(3)
_EVEN = 1e-9  # in a rotation: no turn


@dataclass(frozen=True)
class Card:
    """A card evaluated at a time, as its camera sees it. Lengths are in frame pixels, from the
    frame's centre."""

    place: Vector
    turn: Matrix
    """3 × 3 rotation from the card's axes to the frame's: Rx · Ry · Rz, as CSS chains them."""
    scale: float
    viewer: Vector
    upright: Matrix = field(default_factory=lambda: np.eye(3))
    """3 × 3 rotation from the card's axes to those of the scene, before the camera swings."""
    level: float = 0.0
    """How far its centre lies below the frame's, whatever the camera does."""

    @cached_property
    def turned(self) -> bool:
        return bool(np.abs(self.turn - _LEVEL).max() > _EVEN)

    @property
    def down(self) -> Vector:
        """Unit vector in the card's axes: where things fall, whatever the camera does."""
        x, y, z = (float(axis) for axis in self.upright[1])
        return x, y, z

    @property
    def seen_from(self) -> Vector:
        """The viewer's place in the card's axes and pixels, from the card's centre."""
        apart = self.turn.T @ (np.array(self.viewer) - np.array(self.place))
        x, y, z = (float(axis) for axis in apart / max(self.scale, 1e-6))
        return x, y, z

    @property
    def magnification(self) -> float:
        """How large a pixel of the card's centre is seen; 0 where it lies behind the viewer."""
        apart = self.viewer[2] - self.place[2]
        return self.scale * self.viewer[2] / apart if apart > _NEAREST * self.viewer[2] else 0.0

    @property
    def centre(self) -> tuple[float, float]:
        """Where the card's centre is seen."""
        share = self.magnification / self.scale if self.scale else 0.0
        px, py, _ = self.viewer
        return px + (self.place[0] - px) * share, py + (self.place[1] - py) * share

    def lights(self, lights: list[Light]) -> tuple[Light, ...]:
        """The rig as it falls on the card: in the card's own axes and pixels."""
        scale = max(self.scale, 1e-6)
        return tuple(
            light if light.place is None and not self.turned
            else light.seen_from(self.turn, self.place, scale)
            for light in lights
        )  # fmt: skip

    def seen(self, unit: float, scale: float) -> Matrix:
        """3 × 4: from (x, y, z, 1) in the card's axes, `unit` pixels for one of its own, to the
        picture at `scale` render pixels a frame pixel, from the frame's centre."""
        px, py, distance = self.viewer
        places = np.column_stack([self.turn * (self.scale / max(unit, 1e-9)), self.place])
        eye = np.array([[distance, 0, -px], [0, distance, -py], [0, 0, -1.0]])
        matrix: Matrix = eye @ places
        matrix[2, 3] += distance
        matrix[:2] *= scale
        return matrix

    @cached_property
    def homography(self) -> Matrix:
        """From the card's plane (frame pixels from its centre) to the frame's, 3 × 3."""
        px, py, distance = self.viewer
        across, down = self.turn[:, 0] * self.scale, self.turn[:, 1] * self.scale
        columns = [
            np.array([*across[:2], 0]) * distance + np.array([-px, -py, -1]) * across[2],
            np.array([*down[:2], 0]) * distance + np.array([-px, -py, -1]) * down[2],
        ]
        x, y, z = self.place
        columns.append(np.array([x * distance - px * z, y * distance - py * z, distance - z]))
        return np.ascontiguousarray(np.array(columns).T)

    @cached_property
    def back(self) -> Matrix:
        """From the frame's plane to the card's, 3 × 3. Raises LinAlgError for a card that is seen
        exactly from its edge."""
        return np.asarray(np.linalg.inv(self.homography), np.float64)


def card_at(
    placement: Placement, camera: Camera, time: float, handle: Handle | None = None
) -> Card:
    """The card of a placement, in a handle's axes where there is one, seen by a camera, at
    `time` seconds."""
    place, turn, scale = _stand(placement, time)
    if handle is not None:
        base, around, larger = _stand(handle.placement, time)
        place, turn, scale = base + around @ place * larger, around @ turn, scale * larger
    return _seen(place, turn, scale, camera, time)


def floor_card(level: float, camera: Camera, time: float) -> Card:
    """A level plane at the height `level`; its own x axis is the frame's, its y axis comes
    towards the viewer."""
    return _seen(np.array([0.0, level, 0.0]), _rotation(math.pi / 2, 0, 0), 1.0, camera, time)


def swung(camera: Camera, time: float) -> Matrix:
    """3 × 3: what the camera's way around the frame's centre does to all that has a place."""
    around, above = (math.radians(value_at(a, time)) for a in (camera.swing, camera.rise))
    return _rotation(-above, 0, 0) @ _rotation(0, -around, 0)


def _stand(placement: Placement, time: float) -> tuple[Matrix, Matrix, float]:
    place = np.array([value_at(axis, time) for axis in (placement.x, placement.y, placement.z)])
    angles = (placement.turn_x, placement.turn_y, placement.turn_z)
    turn = _rotation(*(math.radians(value_at(angle, time)) for angle in angles))
    return place, turn, value_at(placement.scale, time)


def _seen(place: Matrix, turn: Matrix, scale: float, camera: Camera, time: float) -> Card:
    viewer = (
        value_at(camera.pan, time), value_at(camera.lift, time), value_at(camera.distance, time),
    )  # fmt: skip
    swing = swung(camera, time)
    x, y, z = (float(axis) for axis in swing @ place)
    return Card((x, y, z), swing @ turn, scale, viewer, turn, float(place[1]))


def _rotation(x: float, y: float, z: float) -> Matrix:
    around_x = np.array([[1, 0, 0], [0, math.cos(x), -math.sin(x)], [0, math.sin(x), math.cos(x)]])
    around_y = np.array([[math.cos(y), 0, math.sin(y)], [0, 1, 0], [-math.sin(y), 0, math.cos(y)]])
    around_z = np.array([[math.cos(z), -math.sin(z), 0], [math.sin(z), math.cos(z), 0], [0, 0, 1]])
    turn: Matrix = around_x @ around_y @ around_z
    return turn


def rows_of(matrix: Matrix) -> tuple[Vector, Vector, Vector]:
    """A 3 × 3 matrix row by row."""
    first, second, third = ((float(a), float(b), float(c)) for a, b, c in matrix)
    return first, second, third
