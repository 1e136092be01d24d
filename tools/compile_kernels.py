"""Compile the numba kernels once, at set-up, so that no user waits for them.

Numba keeps what it compiles beside the source; rendering a title that uses every step is all
that it takes.
"""

from pathlib import Path

import numpy as np

import mabrel
from mabrel import Renderer, finishes, new_title, parse_title
from mabrel.colour import MODES
from mabrel.export import png_bytes
from mabrel.field import inflate
from mabrel.field.projection import projected
from mabrel.light import Light, shade
from mabrel.render import TAPS
from mabrel.source.pictures import decoded_picture
from mabrel.steps import kinds

DRAWING = (
    b'<svg xmlns="http://www.w3.org/2000/svg" width="8" height="8"><path d="M1 1h5v5z"/></svg>'
)
LETTERING = {"kind": "lettering", "source": {"text": "Ab", "size": 60}}


def main() -> None:
    forget_kernels()
    renderer = Renderer()
    for step in kinds():
        for strength in (1.0, 0.5):
            build = [{"step": "relief.inflate"}, {"step": step, "strength": strength}]
            render_all(renderer, build)
    for step in ("depth.extrude", "lens.streak"):
        render_all(renderer, [{"step": step, "settings": {"towards": "point"}}])
    for mode in MODES:
        render_all(renderer, [{"step": "surface.flat", "settings": {"blend": mode}}])
    shade(np.zeros((9, 9), np.float32), [Light()])
    decoded_picture(DRAWING, "drawing.svg")
    inflate(np.pad(np.ones((300, 300), np.float32), 9))  # large ones have a kernel of their own
    for channels in (1, 4, 6):  # a card that is turned about all axes
        turned = np.array([[1, 0.2, 0], [-0.1, 1, 0], [0.001, 0.001, 1]])
        projected(np.zeros((9, 9, channels), np.float32), turned, (9, 9))
    render_moving(renderer)
    for finish in finishes():  # cards that turn, floors, washes over all
        renderer.render(new_title("Ab", finish=finish, frame=(160, 90)))
    picture = renderer.render(new_title("Ab", frame=(160, 90)))
    for bits in (8, 16):
        png_bytes(picture, bits)


def render_moving(renderer: Renderer) -> None:
    """Letters that are half there, and motion blur."""
    way = {"pegs": [{"at": 0, "value": 0}, {"at": 1, "value": 900}]}
    fading = {"pegs": [{"at": 0, "value": 0}, {"at": 1, "value": 1}]}
    source = LETTERING["source"] | {"in_turn": {"x": way, "opacity": fading}}
    title = {"mabrel": 1, "frame": {"width": 160, "height": 90}, "blur": {"angle": 180}}
    moving = parse_title(title | {"layers": [LETTERING | {"source": source}]})
    renderer.render(moving, time=0.5)


def forget_kernels() -> None:
    """Numba sees when a kernel's own file has changed, not when one that is inlined in it has."""
    for kept in Path(mabrel.__file__).parent.rglob("__pycache__/*.nb[ci]"):
        kept.unlink()


def render_all(renderer: Renderer, build: list[dict]) -> None:
    lights = [{"colour": "#ffeedd", "id": "key"}]
    layers = [{"kind": "backdrop"}, LETTERING | {"build": build, "face_opacity": 0.5}]
    frame = {"width": 160, "height": 90}
    title = parse_title({"mabrel": 1, "frame": frame, "lights": lights, "layers": layers})
    for tap in TAPS:
        renderer.render(title, tap=tap)


if __name__ == "__main__":
    main()
