"""The card and its viewer: where a layer appears, and how its lights and viewer look from it."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from mabrel.light import Light
from mabrel.title import Camera, Placement, value_at

Matrix = NDArray[np.float64]
_NEAREST = 1e-3


@dataclass(frozen=True)
class Card:
    """A card evaluated at a time. Lengths are in frame pixels, from the frame's centre."""

    place: tuple[float, float, float]
    turn: Matrix
    """3 × 3 rotation from the card's axes to the frame's: Rx · Ry · Rz, as CSS chains them."""
    scale: float
    viewer: tuple[float, float, float]

    @property
    def turned(self) -> bool:
        return not np.allclose(self.turn, np.eye(3), atol=1e-9)

    @property
    def rows(self) -> tuple[tuple[float, float, float], ...]:
        """`turn`, row by row."""
        return tuple((float(a), float(b), float(c)) for a, b, c in self.turn)

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
        return np.column_stack(columns)


def card_at(placement: Placement, camera: Camera, time: float) -> Card:
    """The card of a placement, seen by a camera, at `time` seconds."""
    angles = (placement.turn_x, placement.turn_y, placement.turn_z)
    return Card(
        (value_at(placement.x, time), value_at(placement.y, time), value_at(placement.z, time)),
        _rotation(*(math.radians(value_at(angle, time)) for angle in angles)),
        value_at(placement.scale, time),
        (value_at(camera.pan, time), value_at(camera.lift, time), value_at(camera.distance, time)),
    )


def _rotation(x: float, y: float, z: float) -> Matrix:
    around_x = np.array([[1, 0, 0], [0, math.cos(x), -math.sin(x)], [0, math.sin(x), math.cos(x)]])
    around_y = np.array([[math.cos(y), 0, math.sin(y)], [0, 1, 0], [-math.sin(y), 0, math.cos(y)]])
    around_z = np.array([[math.cos(z), -math.sin(z), 0], [math.sin(z), math.cos(z), 0], [0, 0, 1]])
    turn: Matrix = around_x @ around_y @ around_z
    return turn
