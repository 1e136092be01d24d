"""Cards in perspective against Chromium's CSS `perspective` and `transform`."""

import base64
from pathlib import Path

import cv2
import numpy as np
import pytest
from playwright.sync_api import Page

from mabrel import Renderer, parse_title

WIDE, TALL = 420, 320
CARD = (220, 120)


def card() -> np.ndarray:
    """White with two black bars, as a straight RGBA bitmap."""
    bitmap = np.full((CARD[1], CARD[0], 4), 255, np.uint8)
    bitmap[:, 70:90, :3] = 0
    bitmap[40:60, :, :3] = 0
    return bitmap


def in_chromium(page: Page, bitmap: np.ndarray, camera: dict, placement: dict) -> np.ndarray:
    """Brightness of the page, 0..1."""
    png = base64.b64encode(cv2.imencode(".png", bitmap)[1]).decode()
    origin = f"{WIDE / 2 + camera['pan']}px {TALL / 2 + camera['lift']}px"
    turns = " ".join(f"rotate{axis.upper()}({placement[f'turn_{axis}']}deg)" for axis in "xyz")
    place = ", ".join(f"{placement[axis]}px" for axis in "xyz")
    page.set_viewport_size({"width": WIDE, "height": TALL})
    page.set_content(
        "<style>*{margin:0}body{background:#000;overflow:hidden}"
        f"div{{width:{WIDE}px;height:{TALL}px;perspective:{camera['distance']}px;"
        f"perspective-origin:{origin}}}"
        f"img{{position:absolute;left:{(WIDE - CARD[0]) / 2}px;top:{(TALL - CARD[1]) / 2}px;"
        f"transform:translate3d({place}) {turns} scale({placement['scale']})}}</style>"
        f'<div><img src="data:image/png;base64,{png}"></div>'
    )
    page.wait_for_function("[...document.images].every(i => i.complete)")
    shot = cv2.imdecode(np.frombuffer(page.screenshot(), np.uint8), cv2.IMREAD_GRAYSCALE)
    return shot.astype(np.float32) / 255


def in_mabrel(folder: Path, bitmap: np.ndarray, camera: dict, placement: dict) -> np.ndarray:
    (folder / "card.png").write_bytes(cv2.imencode(".png", bitmap)[1].tobytes())
    layer = {
        "kind": "picture",
        "source": {"picture": "card.png", "height": CARD[1]},
        "placement": placement,
    }
    title = parse_title(
        {"mabrel": 1, "frame": {"width": WIDE, "height": TALL}, "camera": camera, "layers": [layer]}
    )
    return Renderer().render(title.at_home(folder)).pixels[..., 0]


def edges(picture: np.ndarray, row: int, flattest: float) -> np.ndarray:
    """Where a row of pixels passes ½, between pixels, at edges that are steep enough to it."""
    line = picture[row]
    bright = line > 0.5
    at = np.nonzero(bright[1:] != bright[:-1])[0]
    along = np.abs(line[at + 1] - line[at])
    across = np.abs(picture[row + 1, at] - picture[row - 1, at])
    at = at[across < flattest * along]
    return at + (0.5 - line[at]) / (line[at + 1] - line[at])


FLAT = {"x": 0, "y": 0, "z": 0, "turn_x": 0, "turn_y": 0, "turn_z": 0, "scale": 1}
CAMERA = {"distance": 700, "pan": 0, "lift": 0}
VIEWS = {
    "left": (CAMERA, {"turn_y": -50}),
    "down": (CAMERA, {"turn_x": 40}),
    "far and beside": (CAMERA | {"distance": 400, "pan": 60, "lift": -40}, {"z": -120, "x": 30}),
    "all at once": (CAMERA, {"turn_x": 25, "turn_y": 35, "turn_z": 12, "x": -20, "z": 60}),
    "small": (CAMERA, {"turn_y": 20, "scale": 0.6}),
    "steep": (CAMERA | {"distance": 900}, {"turn_y": 60, "turn_z": -8}),
}  # fmt: skip


@pytest.mark.parametrize("view", VIEWS.values(), ids=VIEWS.keys())
def test_a_card_is_seen_as_css_shows_it(page: Page, tmp_path: Path, view: tuple) -> None:
    """Edges lie within half a pixel of Chromium's, along rows and columns alike."""
    camera, placement = view[0], FLAT | view[1]
    ours = in_mabrel(tmp_path, card(), camera, placement)
    theirs = in_chromium(page, card(), camera, placement)
    compared = 0
    for a, b in ((ours, theirs), (ours.T, theirs.T)):
        for line in range(20, len(a) - 20, 7):
            here, there = edges(a, line, 1), edges(b, line, 100)
            for place in here if len(there) else ():
                assert np.abs(there - place).min() < 0.5
                compared += 1
    assert compared > 60
