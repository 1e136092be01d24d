"""A light, evaluated."""

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

Vector = tuple[float, float, float]
Matrix = NDArray[np.float64]


@dataclass(frozen=True)
class Light:
    """Angles in degrees, straight encoded RGB, strength 1 as given.

    A distant light has no `place`. One that has stands there, in render pixels from the layer's
    centre, z towards the viewer; its azimuth and elevation are then those seen from that centre.
    With `aim`, a place too, it is a spot that shines `cone` degrees to each side of its axis;
    `gathered` is the exponent by which it fades towards the cone's edge.
    """

    azimuth: float = 225.0
    elevation: float = 45.0
    colour: Vector = (1.0, 1.0, 1.0)
    strength: float = 1.0
    place: Vector | None = None
    aim: Vector | None = None
    cone: float = 35.0
    gathered: float = 1.0
    name: str = ""
    """Its id in the title."""

    def __post_init__(self) -> None:
        if self.place is not None:
            around, up = angles(self.place)
            object.__setattr__(self, "azimuth", around)
            object.__setattr__(self, "elevation", up)

    @property
    def direction(self) -> Vector:
        """Unit vector from the layer's centre towards the light: x right, y down, z to the
        viewer."""
        around, up = math.radians(self.azimuth), math.radians(self.elevation)
        return (
            math.cos(around) * math.cos(up),
            math.sin(around) * math.cos(up),
            math.sin(up),
        )

    def seen_from(self, turn: Matrix, centre: Vector, scale: float) -> "Light":
        """In the axes (3 × 3, columns) of a card at `centre`, `scale` times smaller."""
        if self.place is None:
            around, up = angles(_times(turn.T, self.direction))
            return replace(self, azimuth=around, elevation=up)

        def moved(place: Vector) -> Vector:
            x, y, z = _times(turn.T, _minus(place, centre))
            return x / scale, y / scale, z / scale

        return replace(self, place=moved(self.place), aim=self.aim and moved(self.aim))

    def scaled(self, factor: float) -> "Light":
        """With its places in other pixels."""

        def larger(place: Vector) -> Vector:
            x, y, z = place
            return x * factor, y * factor, z * factor

        if self.place is None:
            return self
        return replace(self, place=larger(self.place), aim=self.aim and larger(self.aim))

    def rigged(self, turn: float, raised: float, towards: float) -> "Light":
        """Turned about the viewer's axis, then raised: over the layer, for a light that stands in
        the direction `towards` before. In degrees; a whole rig with one `towards` is turned as
        one, places and all."""
        if turn == 0 and raised == 0:
            return self
        about = math.radians(towards + turn)
        return self.turned(_raised(about, math.radians(raised)) @ _about_viewer(math.radians(turn)))

    def turned(self, matrix: Matrix) -> "Light":
        """Turned by a rotation (3 × 3), places and all."""
        if self.place is None:
            around, up = angles(_times(matrix, self.direction))
            return replace(self, azimuth=around, elevation=up)
        aim = self.aim and _times(matrix, self.aim)
        return replace(self, place=_times(matrix, self.place), aim=aim)


def angles(direction: Vector) -> tuple[float, float]:
    """Azimuth and elevation in degrees."""
    x, y, z = direction
    length = math.hypot(x, y, z)
    up = math.asin(min(max(z / length, -1.0), 1.0)) if length > 0 else math.pi / 2
    return math.degrees(math.atan2(y, x)), math.degrees(up)


def _about_viewer(turn: float) -> Matrix:
    return np.array(
        [[math.cos(turn), -math.sin(turn), 0], [math.sin(turn), math.cos(turn), 0], [0, 0, 1]]
    )


def _raised(towards: float, by: float) -> Matrix:
    """A rotation that lifts what lies in the direction `towards` to the viewer, by an angle."""
    lying = np.array([[math.cos(by), 0, -math.sin(by)], [0, 1, 0], [math.sin(by), 0, math.cos(by)]])
    there = _about_viewer(towards)
    matrix: Matrix = there @ lying @ there.T
    return matrix


def _times(matrix: Matrix, vector: Vector) -> Vector:
    x, y, z = (float(part) for part in matrix @ np.array(vector))
    return x, y, z


def _minus(a: Vector, b: Vector) -> Vector:
    return a[0] - b[0], a[1] - b[1], a[2] - b[2]
