"""The command `mabrel bench`: ratios measured in one run on the same pixels.

Machines differ and are shared, so times say little; a ratio between two things measured in
turn says more. `must` is what the design asks for.
"""

import statistics
import time
from collections.abc import Callable
from dataclasses import dataclass
from functools import partial

import cv2
import numpy as np
from numpy.typing import NDArray

from mabrel.colour import ColourStop, brightness, gradient_map
from mabrel.field import gaussian_blur, normals, signed_distance
from mabrel.light import Light, Material, shade
from mabrel.render import Cache, Node, Renderer, nodes_of
from mabrel.source import LetteringStyle, coverage, outline_text
from mabrel.steps import Piece, Region, kinds
from mabrel.steps.faces.flattening import flattened
from mabrel.steps.faces.painting import ink
from mabrel.title import Step, Title, parse_title

Array = NDArray[np.float32]
FRAME = (1920, 1080)
_REPEATS = 7


@dataclass(frozen=True)
class Row:
    """One comparison; `ours` and `other` are milliseconds, medians of runs in turn."""

    what: str
    ours: float
    against: str
    other: float
    must: float | None

    @property
    def ratio(self) -> float:
        return self.ours / self.other

    @property
    def met(self) -> bool | None:
        return None if self.must is None else self.ratio <= self.must


def in_turn(
    ours: Callable[[], object], other: Callable[[], object], repeats: int = _REPEATS
) -> tuple[float, float]:
    """Median milliseconds of two calls, measured one after the other after a warm-up."""
    first, second = times_in_turn(ours, other, repeats)
    return statistics.median(first), statistics.median(second)


def times_in_turn(
    ours: Callable[[], object], other: Callable[[], object], repeats: int
) -> tuple[list[float], list[float]]:
    """Milliseconds of each call of two, made one after the other after a warm-up."""
    ours()
    other()
    times: tuple[list[float], list[float]] = ([], [])
    for _ in range(repeats):
        for call, kept in zip((ours, other), times, strict=True):
            began = time.perf_counter()
            call()
            kept.append((time.perf_counter() - began) * 1000)
    return times


def word_coverage() -> Array:
    """The demo word, as large as it stands in a title, on a whole frame."""
    outline = outline_text("FOGHORN", LetteringStyle("Titan One", size=315))
    return coverage(outline, (-960, -540, *FRAME))


def chain(matte: Array) -> Array:
    """Blur → diffuse and highlight → tone → drop shadow, on a whole frame in float."""
    height = gaussian_blur(matte, 8)
    height *= np.float32(40)
    lit = shade(height, [Light(225, 45)], Material(0, 1, 0.6, 20))
    tone = brightness(lit.diffuse) + brightness(lit.highlight)
    stops = [
        ColourStop(0, (0.1, 0.05, 0.02, 1)),
        ColourStop(0.5, (0.8, 0.5, 0.2, 1)),
        ColourStop(1, (1, 1, 0.9, 1)),
    ]
    face = gradient_map(tone, stops)
    fallen = np.roll(gaussian_blur(matte, 10), (18, 12), (0, 1))
    fallen *= np.float32(0.6)
    shadow = ink((0.0, 0.0, 0.0), fallen)
    rows, columns = matte.shape
    region = Region(0, 0, columns, rows)
    box = (0.0, 0.0, float(columns), float(rows))
    return flattened(Piece(region, box, matte, face, height, behind=shadow))


def _long_build() -> dict[str, object]:
    steps = [
        {"step": "surface.gradient"},
        {"step": "relief.inflate"},
        {"step": "relief.bevel", "settings": {"width": 14}},
        {"step": "relief.bevel", "settings": {"width": 40, "direction": "sunk", "height": 4}},
        {"step": "light.shade", "settings": {"soften": 2}},
        {"step": "light.shade", "settings": {"light": "own", "azimuth": 30}},
        {"step": "tone.gradient_map", "strength": 0.8},
        {"step": "surface.flat", "settings": {"blend": "soft-light", "opacity": 0.2}},
        {"step": "depth.extrude"},
        {"step": "ground.drop_shadow"},
        {"step": "ground.drop_shadow", "settings": {"blur": 60, "opacity": 0.3}},
        {"step": "lens.grain"},
    ]
    source = {"text": "FOGHORN", "size": 315}
    return {"kind": "lettering", "id": "word", "source": source, "build": steps}


def _title(grain: float = 0.04) -> Title:
    layer = _long_build()
    build = layer["build"]
    assert isinstance(build, list)
    build[-1] = {"step": "lens.grain", "settings": {"amount": grain}}
    frame = {"width": FRAME[0], "height": FRAME[1]}
    return parse_title({"mabrel": 1, "frame": frame, "layers": [layer]})


def rows() -> list[Row]:
    """All comparisons that need nothing but the engine and its libraries."""
    matte = word_coverage()
    return [
        _distance_row(matte),
        _last_step_row(),
        _pixels_row(),
        _wide_blur_row(matte),
        _blur_row(matte),
        _normals_row(matte),
        _long_text_row(),
    ]


def _distance_row(matte: Array) -> Row:
    solid = (matte >= 0.5).astype(np.uint8) * 255
    ours, other = in_turn(
        lambda: signed_distance(matte),
        lambda: cv2.distanceTransform(solid, cv2.DIST_L2, cv2.DIST_MASK_PRECISE),
    )
    what = "signed distance, both sides, below the pixel"
    return Row(what, ours, "OpenCV's precise distance transform, inside only", other, 2.0)


def _long_text_row() -> Row:
    """Letters that are laid over one another, from text to united outlines."""
    sizes = iter(np.linspace(40, 41, 1000).tolist())  # always new: outlines are kept

    def outlines(text: str) -> object:
        size = next(sizes)
        return outline_text(text, LetteringStyle(size=size, letter_spacing=-0.4 * size)).lines()

    ours, other = in_turn(lambda: outlines("KELP" * 500), lambda: outlines("KELP" * 50))
    return Row("2,000 letters over one another", ours, "200 of them", other, 15)


def _last_step_row() -> Row:
    renderer = Renderer()
    amounts = iter(np.linspace(0.01, 0.09, 1000).tolist())

    def change_last() -> None:
        renderer.render(_title(next(amounts)))

    def everything() -> None:
        Renderer(Cache()).render(_title())

    ours, other = in_turn(change_last, everything, 4)
    return Row("a change to the last step of 12", ours, "the whole build", other, 0.2)


def _pixels_row() -> Row:
    ours, other = in_turn(
        lambda: Renderer(Cache()).render(_title(), scale=1.0),
        lambda: Renderer(Cache()).render(_title(), scale=0.5),
        3,
    )
    return Row("12 steps at four times the pixels", ours, "the same at half scale", other, 4.4)


def _wide_blur_row(matte: Array) -> Row:
    ours, other = in_turn(lambda: gaussian_blur(matte, 200), lambda: gaussian_blur(matte, 5))
    return Row("blur at σ = 200", ours, "blur at σ = 5", other, 1.5)


def _blur_row(matte: Array) -> Row:
    ours, other = in_turn(
        lambda: gaussian_blur(matte, 40), lambda: cv2.GaussianBlur(matte, (0, 0), 40)
    )
    return Row("blur at σ = 40", ours, "OpenCV's Gaussian blur, float", other, None)


def _normals_row(matte: Array) -> Row:
    height = gaussian_blur(matte, 8) * np.float32(40)

    def by_numpy() -> Array:
        down, across = np.gradient(height)
        out = np.dstack([-across, -down, np.ones_like(height)])
        return np.asarray(out / np.linalg.norm(out, axis=2, keepdims=True), np.float32)

    ours, other = in_turn(lambda: normals(height), by_numpy)
    return Row("normals of a relief", ours, "NumPy's gradient, normalised", other, None)


@dataclass(frozen=True)
class Cost:
    """What a step costs: milliseconds of each call, and of copying the picture's float RGBA
    pixels after each of them."""

    name: str
    ours: list[float]
    copying: list[float]

    @property
    def ms(self) -> float:
        return statistics.median(self.ours)

    @property
    def copies(self) -> float:
        """How many times as long as copying the picture, in the median."""
        return self.ms / statistics.median(self.copying)

    @property
    def copies_at_best(self) -> float:
        """The same for the fastest call of each: what others did meanwhile only adds to a time,
        and adds more to what uses both cores than to a copy, which uses one."""
        return min(self.ours) / min(self.copying)


def step_costs() -> list[Cost]:
    """Every step at its defaults on an inflated, lit word in a 1920×1080 frame."""
    picture = np.zeros((FRAME[1], FRAME[0], 4), np.float32)
    found = []
    for name in kinds():
        step, inputs = _before(name)
        found.append(Cost(name, *times_in_turn(partial(_again, step, inputs), picture.copy, 11)))
    return found


def _again(step: Node[Piece], inputs: list[Piece]) -> Piece:
    return step.work(_fresh(inputs[0]), *inputs[1:])


def _before(name: str) -> tuple[Node[Piece], list[Piece]]:
    """The node of this step at the end of a build, and what it is given there."""
    build = [{"step": "relief.inflate"}, {"step": "light.shade"}, {"step": name}]
    document = _title().model_copy()
    layer = document.layers[0].model_copy(
        update={
            "build": [Step.model_validate(each | {"id": str(n)}) for n, each in enumerate(build)]
        }
    )
    renderer = Renderer()
    title = document.model_copy(update={"layers": [layer]})
    renderer.render(title)
    nodes = nodes_of([renderer.plan(title)])
    step = [node for node in nodes if node.kind == "step"][-1]
    return step, [renderer.cache.get(node.key) for node in step.inputs]


def _fresh(piece: Piece) -> Piece:
    """Without what other runs remember of its matte, except the distance, which inflate made."""
    distance = piece.distance
    fresh = piece.reshaped(piece.matte, piece.outline, piece.box)
    fresh.remembered("distance", None, lambda: distance)
    return fresh


def cost_table() -> str:
    lines = ["| step | ms | × copying the picture | at its fastest |", "|---|---|---|---|"]
    lines += [
        f"| `{cost.name}` | {cost.ms:.1f} | {cost.copies:.1f} | {cost.copies_at_best:.1f} |"
        for cost in step_costs()
    ]
    return "\n".join(lines)


def table(measured: list[Row], markdown: bool = False) -> str:
    """The rows as text: what, milliseconds, ratio, and what it must reach."""
    lines = []
    if markdown:
        lines += ["| what | ms | against | ms | ratio | must | |", "|---|---|---|---|---|---|---|"]
    for row in measured:
        must = "" if row.must is None else f"≤ {row.must:g}"
        state = {True: "met", False: "not met", None: ""}[row.met]
        parts = [row.what, f"{row.ours:.1f}", row.against, f"{row.other:.1f}"]
        parts += [f"{row.ratio:.2f}", must, state]
        lines.append(f"| {' | '.join(parts)} |" if markdown else "\t".join(parts))
    return "\n".join(lines)
