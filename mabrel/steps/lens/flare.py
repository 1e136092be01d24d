"""A lens flare, every part of it computed."""

import math
from typing import Literal, NamedTuple

import numba
import numpy as np

from mabrel.kernels import kernel
from mabrel.steps.extent import Extent
from mabrel.steps.faces.flattening import flattened, own_part
from mabrel.steps.kind import StepSettings, step
from mabrel.steps.lens_light.added import linear_colour, with_light
from mabrel.steps.lens_light.brightest import brightest_places
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Margin
from mabrel.steps.scene import Scene
from mabrel.title import kinds

_FAR = 6000
_ROUND = 8  # times its size, at which the core and the ring have faded
_FARTHEST_GHOST = 1.85  # of its place's way to the centre, beyond that
_LARGEST_GHOST = 2.1  # times its size, from its middle
_FINE = 256  # places in a table for each core's size away from it
Pair = tuple[float, float]


class Parts(NamedTuple):
    """How bright the streak is and how long, and how bright the ring."""

    streak: float
    length: float
    ring: float


class Flare(StepSettings):
    at: Literal["brightest", "place"] = kinds.choice(
        "brightest", "At the brightest place, or where it is put."
    )
    point: tuple[float, float] = kinds.point(
        (-200, -120), "Its place, from the centre.", when={"at": "place"}
    )
    size: float = kinds.length(70, 1, 2000, "How large its core and its ring are.")
    strength: float = kinds.fraction(0.8, "How bright it is.", high=8)
    colour: kinds.Colour = kinds.colour("#ffe2b8", "Tints it.")
    streak: float = kinds.fraction(0.6, "How bright its horizontal streak is.", high=4)
    length: float = kinds.length(700, 1, 8000, "How long that streak is.")
    ring: float = kinds.fraction(0.35, "How bright the ring around it is.", high=4)
    ghosts: int = kinds.count(6, 0, 24, "How many mirror images lie on the line to the centre.")
    ghostly: float = kinds.fraction(0.25, "How bright they are.", high=4)
    seed: int = kinds.seed(1, "Another lens.")


def _room(piece: Extent, settings: Flare, scene: Scene) -> Margin:
    if scene.fills_frame:  # over the whole frame, it needs to know nothing beside it
        return Margin()
    size, region, scale = settings.size * scene.scale, piece.region, scene.scale
    at_x = float(max(-region.left, region.right))
    at_y = float(max(-region.top, region.bottom))
    if settings.at == "place":
        at_x, at_y = (abs(side) * scale for side in settings.point)
    wide = at_x + _ROUND * size + settings.length * scale  # from the centre, to either side
    high = at_y + _ROUND * size
    if settings.ghosts:  # which lie beyond the centre
        wide = max(wide, at_x * _FARTHEST_GHOST + _LARGEST_GHOST * size)
        high = max(high, at_y * _FARTHEST_GHOST + _LARGEST_GHOST * size)
    sides = (wide + region.left, high + region.top, wide - region.right, high - region.bottom)
    return Margin(*(min(max(math.ceil(side), 0), _FAR) for side in sides))


def _asks(settings: Flare, scene: Scene) -> None:
    if settings.at == "brightest" and scene.fills_frame:
        scene.overview()


@step(
    "lens.flare",
    "Flare",
    words="lens flare, sun, anamorphic, ghosts, streak, star",
    reads=("matte", "face", "behind", "front"),
    writes=("front",),
    asks=_asks,
    room=_room,
)
def flare(piece: Piece, settings: Flare, scene: Scene) -> Piece:
    """Shine into the lens from the brightest place: core, ring, streak and ghosts."""
    place = _place(piece, settings, scene)
    if place is None or settings.strength == 0:
        return piece
    light = np.zeros((*piece.matte.shape, 3), np.float32)
    origin = (piece.region.left + 0.5, piece.region.top + 0.5)
    colour = linear_colour(settings.colour) * np.float32(settings.strength)
    size = settings.size * scene.scale
    parts = Parts(settings.streak, settings.length * scene.scale, settings.ring)
    _shine(light, origin, place, size, parts, colour)
    scene.pause()
    ghosts = _ghosts(place, settings, size, colour)
    if len(ghosts):
        _mirror(light, origin, ghosts)
    return with_light(piece, flattened(piece), light)


def _place(piece: Piece, settings: Flare, scene: Scene) -> tuple[float, float] | None:
    if settings.at == "place":
        return settings.point[0] * scene.scale, settings.point[1] * scene.scale
    seen = scene.overview() if scene.fills_frame else own_part(piece)
    found = brightest_places(*seen, 64, apart=0, threshold=0.05, seed=1)
    if not len(found):
        return None
    x, y, _ = found[np.argmax(found[:, 2])]
    return float(x), float(y)


def _ghosts(
    place: tuple[float, float], settings: Flare, size: float, colour: np.ndarray
) -> np.ndarray:
    """(N, 6): x, y, radius and the light of discs on the line through the centre."""
    chance = np.random.default_rng(settings.seed)
    rows = []
    for number in range(settings.ghosts):
        share = (number + chance.random()) / max(settings.ghosts, 1)
        along = -0.35 - (_FARTHEST_GHOST - 0.35) * share
        radius = size * (0.25 + 1.3 * chance.random() ** 2)
        hue = 0.55 + 0.45 * np.cos(2 * np.pi * (chance.random() + np.array([0, 1 / 3, 2 / 3])))
        light = colour * hue * settings.ghostly * 0.12 * (0.4 + chance.random())
        rows.append([place[0] * along, place[1] * along, radius, *light])
    return np.array(rows, np.float64).reshape(-1, 6)


def _shine(
    light: Array, origin: Pair, place: Pair, size: float, parts: Parts, colour: np.ndarray
) -> None:
    """Add core, ring and streak. Round ones are looked up by their distance, and a streak is the
    product of a row and a column."""
    rows, columns = light.shape[:2]
    across = np.arange(columns) + (origin[0] - place[0])
    down = np.arange(rows) + (origin[1] - place[1])
    far = math.hypot(np.abs(across).max(), np.abs(down).max()) / size
    away = np.arange(math.ceil(far * _FINE) + 2) / _FINE
    core = 1.6 * np.exp(-((away / 0.22) ** 2)) + 0.16 / (1 + (away / 0.5) ** 2) ** 1.6
    # Red is bent least: it makes the outer rim of the ring.
    rims = [(away - (1.9 - 0.09 * channel)) / 0.12 for channel in range(3)]
    halo = np.stack([0.10 * parts.ring * np.exp(-rim * rim) for rim in rims], axis=1)
    radial = np.asarray((core[:, None] + halo) * colour, np.float32)
    thin = max(size * 0.05, 0.7)
    wide = [(parts.streak, 0.3, 1.0), (0.1 * parts.streak, 0.5, 9.0)]
    lines = [np.exp(-np.abs(across) / (share * parts.length)) for _, share, _ in wide]
    heights = [gain * np.exp(-((down / (thin * thick)) ** 2)) for gain, _, thick in wide]
    _add_shine(
        light, across.astype(np.float32), down.astype(np.float32), np.float32(_FINE / size),
        radial, np.array(lines, np.float32), np.array(heights, np.float32),
        colour.astype(np.float32),
    )  # fmt: skip


@kernel(parallel=True)
def _add_shine(light, across, down, scale, radial, lines, heights, colour):  # type: ignore[no-untyped-def]
    rows, columns = light.shape[:2]
    for line in numba.prange(rows):
        y = np.int64(line)
        streaked = max(heights[0, y], heights[1, y]) > np.float32(1e-7)
        for x in range(columns):
            place = np.sqrt(across[x] * across[x] + down[y] * down[y]) * scale
            low = int(place)
            share = place - np.float32(low)
            for c in range(3):
                light[y, x, c] += radial[low, c] + (radial[low + 1, c] - radial[low, c]) * share
            if streaked:
                streak = lines[0, x] * heights[0, y] + lines[1, x] * heights[1, y]
                for c in range(3):
                    light[y, x, c] += streak * colour[c]


@kernel(parallel=True)
def _mirror(light, origin, ghosts):  # type: ignore[no-untyped-def]
    """Soft six-sided discs, as the iris draws them."""
    rows, columns = light.shape[:2]
    for line in numba.prange(rows):
        for i in range(ghosts.shape[0]):
            dy = line + origin[1] - ghosts[i, 1]
            radius = ghosts[i, 2]
            if abs(dy) > radius * 1.3:
                continue
            first = max(int(ghosts[i, 0] - origin[0] - radius * 1.3), 0)
            last = min(int(ghosts[i, 0] - origin[0] + radius * 1.3) + 2, columns)
            for x in range(first, last):
                dx = x + origin[0] - ghosts[i, 0]
                across = max(abs(dx) * 0.8660254 + abs(dy) * 0.5, abs(dy))
                away = 0.7 * across + 0.3 * math.sqrt(dx * dx + dy * dy)
                inside = min(max((radius - away) / (0.12 * radius) + 0.5, 0.0), 1.0)
                if inside > 0:
                    value = inside * (0.55 + 0.45 * (away / radius) ** 2)
                    for c in range(3):
                        light[line, x, c] += value * ghosts[i, 3 + c]
