"""Makes the pictures that ship with the engine: a sea chart, a harbour seen all around, planks.

All of them are calculated, so they are nobody's; run it again and the same files come out.
"""

import cv2
import numpy as np

from mabrel.colour import to_linear
from mabrel.field.fractal import fractal_noise
from mabrel.source.library import SHIPPED


def main() -> None:
    SHIPPED.mkdir(exist_ok=True)
    cv2.imwrite(str(SHIPPED / "chart.png"), chart(1024, 576))
    cv2.imwrite(str(SHIPPED / "harbour.hdr"), harbour(1024, 512))
    cv2.imwrite(str(SHIPPED / "planks.jpg"), planks(1200, 800), [cv2.IMWRITE_JPEG_QUALITY, 88])


def chart(width: int, height: int) -> np.ndarray:
    """Depths of a bay in steps, darker towards the deep, with lines between them: grey, 8 bits."""
    depth = fractal_noise((height, width), (0, 0), (430, 330), octaves=5, roughness=0.42, seed=12)
    level = depth * 11
    whole = np.floor(level)
    share = level - whole
    step = np.clip((share - 0.5) * 9 + 0.5, 0, 1)
    tone = (whole + step) / 11
    slope = np.hypot(*np.gradient(level))
    line = np.clip(1.6 - np.abs(share - 0.5) / np.maximum(slope, 1e-4), 0, 1)
    tone = np.clip(0.5 + (tone - tone.mean()) * 1.9, 0, 1) * (1 - 0.55 * line)
    return np.round(tone * 255).astype(np.uint8)


def harbour(width: int, height: int) -> np.ndarray:
    """A bright sky over dark hills and a quiet sea, a low sun, lit windows: linear BGR."""
    up = np.linspace(1, -1, height, dtype=np.float32)[:, None] * 90
    around = np.linspace(-180, 180, width, endpoint=False, dtype=np.float32)[None, :]
    noise = fractal_noise((height, width), (0, 0), (260, 40), octaves=5, seed=4)
    noise = _meeting(noise)
    sky = _mix((0.93, 0.90, 0.84), (0.26, 0.40, 0.60), np.clip(up / 75, 0, 1) ** 0.7)
    sky = sky * (0.86 + 0.5 * np.clip(noise - 0.42, 0, 1)[..., None])
    sea = _mix((0.60, 0.62, 0.60), (0.05, 0.10, 0.14), np.clip(-up / 60, 0, 1) ** 0.6)
    sea = sea * (0.86 + 0.4 * noise[..., None])
    hills = 7 + 6 * np.sin(np.radians(around * 3 + 40)) + 4 * np.sin(np.radians(around * 7))
    land = np.clip((hills - up) * 1.2, 0, 1) * np.clip((up + 1.5) * 1.2, 0, 1)
    colour = np.where((up > 0)[..., None], sky, sea)
    colour = colour + (np.array([0.07, 0.08, 0.08]) - colour) * land[..., None]
    light = to_linear(np.clip(colour, 0, 1).astype(np.float32))
    for azimuth, height_, size, strength in (
        (-55, 34, 9, 16.0),
        (70, 48, 20, 2.4),
        (150, 20, 14, 1.6),
    ):
        off = np.hypot((around - azimuth) * np.cos(np.radians(height_)), up - height_)
        light = light + (strength * np.exp(-((off / size) ** 2)))[..., None]
    return np.ascontiguousarray(light[..., ::-1].astype(np.float32))


def planks(width: int, height: int) -> np.ndarray:
    """Weathered boards: grain along them, dark joints, knots: BGR, 8 bits."""
    rows = 5
    y = np.arange(height)[:, None] / height * rows
    board = np.floor(y).astype(int)
    out = np.zeros((height, width, 3), np.float32)
    for number in range(rows):
        inside = (board == number)[:, 0]
        shape = (int(inside.sum()), width)
        warp = fractal_noise(shape, (0, 0), (600, 60), octaves=3, seed=20 + number) * 90
        base = np.arange(shape[0])[:, None] + warp
        fine = fractal_noise(shape, (0, 0), (500, 5), octaves=4, seed=40 + number)
        grain = 0.5 + 0.5 * np.sin(base * 0.55)
        tone = 0.42 + 0.16 * grain + 0.34 * (fine - 0.5) + 0.05 * (number % 2)
        out[inside] = _mix((0.25, 0.20, 0.16), (0.78, 0.72, 0.63), np.clip(tone, 0, 1))
    gap = np.minimum(y % 1, 1 - y % 1) * height / rows
    out *= np.clip(gap / 3, 0.15, 1)[..., None]
    return np.round(np.clip(out, 0, 1)[..., ::-1] * 255).astype(np.uint8)


def _mix(a: tuple[float, ...], b: tuple[float, ...], share: np.ndarray) -> np.ndarray:
    return np.array(a) + (np.array(b) - np.array(a)) * share[..., None]


def _meeting(noise: np.ndarray) -> np.ndarray:
    """The same noise with its left and right edges joined."""
    share = np.clip(np.arange(noise.shape[1]) / 160, 0, 1)[None, :]
    return noise * share + noise[:, ::-1] * (1 - share)


if __name__ == "__main__":
    main()
