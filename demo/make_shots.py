"""The demo shots: a harbour wall by a low sun, and somebody who walks by before a green screen.

Both are drawn here and written as WebM, a few seconds each, when a studio is set up:
`python -m demo.make_shots FOLDER`.
"""

import sys
from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path

import cv2
import numpy as np
from numpy.typing import NDArray

from mabrel.export.clip import write_clip
from mabrel.render import Picture

Array = NDArray[np.float32]
RATE, SECONDS = Fraction(25), 3
WIDE, TALL = 960, 540
LIGHT_FROM = (0.62, -0.55, 0.56)
"""Where the sun stands over the wall: to the right, up, towards the viewer."""
GREEN = (0.05, 0.66, 0.24)


def main() -> None:
    folder = Path(sys.argv[1])
    folder.mkdir(parents=True, exist_ok=True)
    make_shots(folder)


def make_shots(folder: Path) -> list[Path]:
    """Write the shots that are not there yet; where they lie."""
    made = {"harbour-wall.webm": wall_frames, "walking-by.webm": figure_frames}
    for name, frames in made.items():
        if not (folder / name).exists():
            write_clip(folder / name, frames(), RATE, "webm-vp9")
    return [folder / name for name in made]


def wall_frames() -> Iterator[Picture]:
    """The wall and the shadow of a lamp on it, from a hand that is not quite still."""
    still = _wall(WIDE + 40, TALL + 40)
    for number in range(int(RATE * SECONDS)):
        turn = 2 * np.pi * number / float(RATE * SECONDS)
        x, y = 20 + 3 * np.sin(turn) + np.sin(3 * turn), 20 + 2 * np.cos(2 * turn)
        move = np.array([[1, 0, -x], [0, 1, -y]], np.float32)
        yield _picture(cv2.warpAffine(still, move, (WIDE, TALL), flags=cv2.INTER_CUBIC))


def _wall(wide: int, tall: int) -> Array:
    """Courses of stone, lit from the upper right, with the shadow of a lamp."""
    draw = np.random.default_rng(11)
    height = _noise(draw, wide, tall, 3) * 0.5 + _noise(draw, wide, tall, 20) * 1.6
    tone = 0.62 + 0.04 * _noise(draw, wide, tall, 60) + 0.03 * _noise(draw, wide, tall, 2)
    for row, top in enumerate(range(0, tall, 66)):
        for left in range(-90 * (row % 2), wide, 180):
            stone = np.zeros((tall, wide), np.float32)
            jitter = draw.integers(-3, 4, 4)
            corners = (
                (left + 4 + jitter[0], top + 4 + jitter[1]),
                (left + 175 + jitter[2], top + 61 + jitter[3]),
            )
            cv2.rectangle(stone, *[tuple(map(int, each)) for each in corners], 1.0, -1)
            soft = cv2.GaussianBlur(stone, (0, 0), 2.5)
            height = height + soft * (7 + draw.uniform(-1, 2))
            tone = tone + stone * draw.uniform(-0.06, 0.06)
    across, down = np.gradient(height, axis=1), np.gradient(height, axis=0)
    normal = np.dstack([-across, -down, np.full_like(across, 2.2)])
    normal /= np.linalg.norm(normal, axis=-1, keepdims=True)
    light = np.clip(normal @ np.array(LIGHT_FROM), 0, None)
    light *= 1 - 0.86 * cv2.GaussianBlur(_lamp(wide, tall, shadow=True), (0, 0), 3.5)
    warm, cool = np.array([1.0, 0.86, 0.66]), np.array([0.42, 0.5, 0.6])
    stone_colour = tone[..., None] * np.array([0.86, 0.82, 0.76])
    lit = stone_colour * (light[..., None] * warm * 1.5 + cool * 0.3)
    lamp = cv2.GaussianBlur(_lamp(wide, tall, shadow=False), (0, 0), 0.8)[..., None]
    iron = np.array([0.07, 0.075, 0.08])
    return np.asarray(lit * (1 - lamp) + iron * lamp, np.float32)


def _lamp(wide: int, tall: int, *, shadow: bool) -> Array:
    """A bracket with a lantern at the right, or what it throws to the lower left."""
    mask = np.zeros((tall, wide), np.float32)
    dx, dy = (-150, 132) if shadow else (0, 0)
    x, y = wide - 150 + dx, 120 + dy
    points = np.array([(x + 120, y), (x, y), (x, y + 26)], np.int32)
    cv2.polylines(mask, [points], False, 1.0, 7, cv2.LINE_AA)
    cage = np.array(
        [(x - 18, y + 26), (x + 18, y + 26), (x + 26, y + 74), (x - 26, y + 74)], np.int32
    )
    cv2.fillPoly(mask, [cage], 1.0, cv2.LINE_AA)
    cv2.fillPoly(
        mask,
        [np.array([(x - 30, y + 26), (x + 30, y + 26), (x, y + 8)], np.int32)],
        1.0,
        cv2.LINE_AA,
    )
    return mask


def _noise(draw: np.random.Generator, wide: int, tall: int, size: int) -> Array:
    """Soft noise about 0, its grains about `size` pixels wide."""
    small = draw.normal(size=(tall // size + 3, wide // size + 3)).astype(np.float32)
    return np.asarray(cv2.resize(small, (wide, tall), interpolation=cv2.INTER_CUBIC), np.float32)


def figure_frames() -> Iterator[Picture]:
    """Somebody in a coat walks from the left to the right, the hair in the wind."""
    for number in range(int(RATE * SECONDS)):
        share = number / float(RATE * SECONDS)
        yield _picture(_figure(share))


def _figure(share: float) -> Array:
    """One moment of the walk, drawn at twice its size."""
    fine = 2
    step = 2 * np.pi * share * 3
    x, y = (0.12 + 0.76 * share) * WIDE, 0.52 * TALL + 4 * np.sin(2 * step)
    ground = np.linspace(1.06, 0.9, TALL * fine)[:, None, None] * np.array(GREEN)
    board = np.broadcast_to(ground, (TALL * fine, WIDE * fine, 3)).astype(np.float32).copy()

    def part(points: list[tuple[float, float]], colour: tuple[float, float, float]) -> None:
        corners = np.array([((x + a) * fine, (y + b) * fine) for a, b in points])
        cv2.fillPoly(board, [np.rint(corners).astype(np.int32)], colour, cv2.LINE_AA)

    def limb(
        top: tuple[float, float],
        swing: float,
        long: float,
        wide: int,
        colour: tuple[float, float, float],
    ) -> None:
        ends = [top, (top[0] + long * np.sin(swing), top[1] + long * np.cos(swing))]
        points = np.array([((x + a) * fine, (y + b) * fine) for a, b in ends])
        cv2.polylines(
            board, [np.rint(points).astype(np.int32)], False, colour, wide * fine, cv2.LINE_AA
        )

    coat, dark, skin, hair = (
        (0.55, 0.2, 0.12),
        (0.12, 0.12, 0.16),
        (0.8, 0.58, 0.46),
        (0.24, 0.15, 0.09),
    )
    limb((-8, 96), 0.5 * np.sin(step + np.pi), 128, 22, dark)
    limb((8, 96), 0.5 * np.sin(step), 128, 22, dark)
    limb((-2, -38), 0.6 * np.sin(step), 104, 18, (0.45, 0.16, 0.1))
    part([(-36, -52), (36, -52), (46, 60), (56, 118), (-56, 118), (-46, 60)], coat)
    limb((4, -38), 0.6 * np.sin(step + np.pi), 104, 18, coat)
    limb((0, -72), 0, 24, 20, (0.72, 0.5, 0.4))
    cv2.circle(board, (round(x * fine), round((y - 92) * fine)), 31 * fine, skin, -1, cv2.LINE_AA)
    head = np.array([(x - 4) * fine, (y - 104) * fine])
    cv2.ellipse(
        board,
        tuple(int(each) for each in head),
        (33 * fine, 26 * fine),
        0,
        170,
        372,
        hair,
        -1,
        cv2.LINE_AA,
    )
    draw = np.random.default_rng(3)
    for strand in range(70):
        angle = np.pi * (0.95 + 0.9 * draw.random())
        root = head + 27 * fine * np.array([np.cos(angle), np.sin(angle) * 0.85])
        blow = 0.3 * np.sin(2 * step + strand * 0.7) - 0.5
        end = root + fine * draw.uniform(14, 40) * np.array(
            [np.cos(angle) + blow, np.sin(angle) * 0.8 + 0.15]
        )
        cv2.line(
            board,
            tuple(np.rint(root).astype(int)),
            tuple(np.rint(end).astype(int)),
            hair,
            2,
            cv2.LINE_AA,
        )
    return np.asarray(cv2.resize(board, (WIDE, TALL), interpolation=cv2.INTER_AREA), np.float32)


def _picture(rgb: Array) -> Picture:
    opaque = np.ones((*rgb.shape[:2], 4), np.float32)
    opaque[..., :3] = np.clip(rgb, 0, 1)
    return Picture(opaque)


if __name__ == "__main__":
    main()
