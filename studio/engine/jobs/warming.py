"""Kernels loaded before anybody needs them."""

import gc

from mabrel import new_title, parse_title
from mabrel.compose import finishes
from mabrel.render import TAPS
from mabrel.steps import kinds
from studio.engine.process import Tools

_LETTERING = {"kind": "lettering", "source": {"text": "Ab", "size": 60}}
PARTS = 1 + len(kinds())


def warm(tools: Tools, *, part: int) -> None:
    """Part 0 is what every title needs, the others are a step each.

    What is loaded then stays: some 230,000 objects, which the collector of garbage need not go
    through again in the middle of a picture, where that takes as long as several pictures.
    """
    _load(tools, part)
    gc.freeze()


def _load(tools: Tools, part: int) -> None:
    if part == 0:
        for name in ("ship-brass", "enamel"):
            tools.renderer.render(new_title("Ab", finish=finishes()[name], frame=(160, 90)))
        return
    step = list(kinds())[part - 1]
    build = [{"step": "relief.inflate"}, {"step": step, "strength": 0.5}]
    layers = [{"kind": "backdrop"}, _LETTERING | {"build": build}]
    title = parse_title({"mabrel": 1, "frame": {"width": 160, "height": 90}, "layers": layers})
    for tap in ("picture", *(TAPS[1:3] if part % 8 == 1 else ())):
        tools.cancel.check()
        tools.renderer.render(title, tap=tap)
