"""Bodies turned all around: no frame with a hole, a jump, a saw-tooth or a flood.

A few angles here; all of them with MABREL_SWEEP=full (`make turntable`).
"""

import itertools
import os

import cv2
import numpy as np
import pytest

from mabrel import Renderer, Title, parse_title
from mabrel.camera import card_at
from mabrel.title import Camera

FULL = os.environ.get("MABREL_SWEEP") == "full"
FRAME = (480, 270)
DEPTH = 46.0
COPIES = 48
GOLD = {"step": "surface.gradient", "settings": {"angle": 60}}
BACK = {"towards": "back", "length": DEPTH}


def deep(**settings: object) -> dict:
    return {"step": "depth.extrude", "settings": BACK | settings}


TITLES = {
    "planks": [GOLD, deep(texture="picture", picture="shipped/planks.jpg", size=40, textured=1)],
    "chart": [GOLD, deep(texture="picture", picture="shipped/chart.png", size=25, textured=0.8)],
    "edge": [GOLD, {"step": "relief.inflate"}, {"step": "light.shade"},
             deep(edge=3, edge_shape="round", gloss=1, paint="sides")],
    "parallax": [GOLD, {"step": "relief.inflate"}, {"step": "light.shade"},
                 {"step": "depth.parallax"}],
    "outline": [GOLD, deep(), {"step": "depth.outline", "settings": {"join": "mitre", "width": 6}}],
}  # fmt: skip
BODIES = ("planks", "chart", "edge")
STEP = 3.0
RENDERER = Renderer()


def angles() -> list[tuple[str, list[float]]]:
    """About which axis, and by what degrees, frame after frame."""
    if FULL:
        return [("turn_y", np.arange(0, 360 + STEP, STEP).tolist()),
                ("turn_x", np.arange(-60, 60 + STEP, STEP).tolist())]  # fmt: skip
    return [("turn_y", [51.0, 54.0, 57.0]), ("turn_y", [84.0, 87.0, 90.0, 93.0]),
            ("turn_y", [198.0, 201.0, 204.0]), ("turn_x", [-33.0, -30.0, -27.0])]  # fmt: skip


def titled(build: list, axis: str, angle: float) -> Title:
    word = {
        "kind": "lettering",
        "id": "word",
        "source": {"text": "HULK", "font": "Titan One", "size": 120},
        "placement": {axis: angle},
        "build": build,
    }
    frame = {"width": FRAME[0], "height": FRAME[1]}
    return parse_title({"mabrel": 1, "frame": frame, "layers": [word]})


def stacked(axis: str, angle: float, depth: float, grow: float = 0) -> np.ndarray:
    """Coverage of the word's copies at many depths, each seen as a flat card is; of a word whose
    edge is moved outwards by so much."""
    fine = 2
    bolder = [{"step": "shape.edge", "settings": {"grow": grow, "radius": 0}}] if grow else []
    flat = RENDERER.render(titled(bolder, "turn_y", 0), scale=fine * 2).pixels[..., 3]
    title = titled([], axis, angle)
    card = card_at(title.layers[0].placement, Camera(), 0.0)
    seen = card.seen(1.0, fine)
    to_card = np.array([[0.25, 0, -FRAME[0] / 2], [0, 0.25, -FRAME[1] / 2], [0, 0, 1.0]])
    to_array = np.array([[1, 0, FRAME[0] * fine / 2], [0, 1, FRAME[1] * fine / 2], [0, 0, 1.0]])
    union = np.zeros((FRAME[1] * fine, FRAME[0] * fine), np.float32)
    for z in np.linspace(0, -depth, COPIES):
        place = np.array([[1.0, 0, 0], [0, 1.0, 0], [0, 0, z], [0, 0, 1.0]])
        matrix = to_array @ seen @ place @ to_card
        copy = cv2.warpPerspective(flat, matrix, union.shape[::-1], flags=cv2.INTER_AREA)
        np.maximum(union, copy, out=union)
    return union.reshape(FRAME[1], fine, FRAME[0], fine).mean(axis=(1, 3))


def serration(pixels: np.ndarray) -> float:
    """How much of the picture's contrast alternates from pixel to pixel."""
    grey = pixels[..., :3].mean(axis=-1)
    across = grey[:, :-3] - grey[:, 1:-2] + grey[:, 2:-1] - grey[:, 3:]
    down = grey[:-3] - grey[1:-2] + grey[2:-1] - grey[3:]
    contrast = np.abs(np.diff(grey, axis=0)).sum() + np.abs(np.diff(grey, axis=1)).sum()
    return float((np.abs(across).sum() + np.abs(down).sum()) / max(contrast, 1e-6))


@pytest.mark.parametrize("way", angles(), ids=lambda way: f"{way[0]} {way[1][0]:g}")
@pytest.mark.parametrize("name", TITLES)
def test_turned_all_around(name: str, way: tuple[str, list[float]]) -> None:
    axis, degrees = way
    frames = [RENDERER.render(titled(TITLES[name], axis, angle)).pixels for angle in degrees]
    covers = np.array([frame[..., 3].sum() for frame in frames])
    changes = np.array([np.abs(b - a).mean() for a, b in itertools.pairwise(frames)])
    assert np.isfinite(covers).all()
    assert covers.min() > 0 or name == "parallax"
    for i, angle in enumerate(degrees):
        where = f"{name} at {axis} {angle:g}"
        edge_on = axis == "turn_y" and abs(np.cos(np.radians(angle))) < 0.12
        if name in BODIES and not edge_on:
            grown = 3.0 if name == "edge" else 0.0
            truth = stacked(axis, angle, DEPTH)
            alpha = frames[i][..., 3]
            missing = np.clip(truth - alpha, 0, 1).sum() / truth.sum()
            most = stacked(axis, angle, DEPTH, grown) if grown else truth
            beyond = np.clip(alpha - most, 0, 1).sum() / truth.sum()
            assert missing < 0.012, f"{where}: holes, {missing:.3f}"
            assert beyond < 0.02, f"{where}: a flood, {beyond:.3f}"
        if 0 < i < len(degrees) - 1:
            jump = changes[i - 1 : i + 1]
            assert jump.max() < 2.5 * jump.min() + 0.004, f"{where}: a jump"
        if i % 5 == 0:
            fine = RENDERER.render(titled(TITLES[name], axis, angle), scale=4).pixels
            mean = fine.reshape(FRAME[1], 4, FRAME[0], 4, 4).mean(axis=(1, 3))
            assert serration(frames[i]) < 1.35 * serration(mean) + 0.04, f"{where}: saw-teeth"
