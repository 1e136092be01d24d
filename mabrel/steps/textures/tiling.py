"""A picture laid over a piece: fitted, covering, tiled."""

import math
from dataclasses import dataclass
from typing import Literal

import cv2
import numba
import numpy as np

from mabrel.kernels import kernel
from mabrel.source import Image, resampled
from mabrel.steps.extent import Box
from mabrel.steps.piece import Array, Piece
from mabrel.steps.planes.projections import on_card, shown
from mabrel.steps.region import Region
from mabrel.steps.scene import Scene

_LINE = 8192
_BORDER = 2  # pixels around a picture, for what cubic interpolation reads beyond its edge
_AS_IT_IS, _REPEATED, _MIRRORED = 0, 1, 2
Fit = Literal["stretch", "fit", "cover", "tile", "mirror"]
Lies = Literal["lettering", "frame"]
_FOLDS: dict[Fit, int] = {"fit": _AS_IT_IS, "tile": _REPEATED}
"""How what lies beyond the edges of a picture is folded back into it; others are mirrored."""


@dataclass(frozen=True)
class Lay:
    """How a picture lies over the lettering's box. Lengths are in render pixels.

    `size` is the width of one tile; `shift` moves the picture, `scale` enlarges it and `turn`
    (degrees) turns it about the box's middle.
    """

    fit: Fit
    size: float = 300.0
    shift: tuple[float, float] = (0.0, 0.0)
    scale: float = 1.0
    turn: float = 0.0
    blocky: bool = False
    """Whether each of its own pixels is an even block."""


def laid_in(piece: Piece, image: Image, lay: Lay, scene: Scene, lies: Lies) -> Array:
    """The picture over the piece's region, (H, W, 4) premultiplied: over its box, or as it lies
    over the whole frame, as what is behind it is."""
    frame = scene.picture if lies == "frame" else None
    if frame is None:
        return laid(piece, image, lay)
    box = (frame.left, frame.top, frame.right, frame.bottom)
    level = not scene.turned
    region = piece.region if level else frame
    seen = laid_over(
        region, (float(box[0]), float(box[1]), float(box[2]), float(box[3])), image, lay
    )
    if level:
        return seen
    back = np.linalg.inv(scene.seen @ on_card())
    middle = piece.region.left + piece.region.width / 2, piece.region.top + piece.region.height / 2
    there = scene.seen @ on_card() @ np.array([*middle, 1.0])
    return shown(seen, back * np.sign(there[2]), frame, piece.region)


def running(fit: Fit, size: float, shift: tuple[float, float], phase: float, scene: Scene) -> Lay:
    """With lengths of settings; `phase` is how many tiles it has run on to the right."""
    wide = size * scene.scale
    around = 2 if fit == "mirror" else 1
    on = phase % around * wide if fit in ("tile", "mirror") else 0.0
    return Lay(fit, wide, (shift[0] * scene.scale + on, shift[1] * scene.scale))


def lie_in_frame(settings: object) -> bool:
    """Whether layers as pictures are wanted where they lie in the frame, and not by themselves."""
    spread = getattr(settings, "fit", None) not in ("tile", "mirror")
    return getattr(settings, "lies", None) == "frame" and spread


def where_it_lies(lies: Lies, scene: Scene) -> object:
    """All that `laid_in` asks for."""
    if lies == "lettering":
        return None
    return (scene.picture, scene.seen) if scene.turned else scene.picture


def laid(piece: Piece, image: Image, lay: Lay) -> Array:
    """The same over the piece's own box."""
    return laid_over(piece.region, piece.box, image, lay)


def laid_over(region: Region, box: Box, image: Image, lay: Lay) -> Array:
    """A picture fitted to a box, over a region, (H, W, 4) premultiplied.

    It is first brought to the size at which it is shown, by means over areas, so that it neither
    flickers nor frays when it is small. Stretched, fitting or covering it is carried on beyond
    its edges by mirroring; "fit" leaves what lies beyond empty.
    """
    left, top, right, bottom = box
    width, height = max(right - left, 1.0), max(bottom - top, 1.0)
    across, down = _shown_size(image, lay, width, height)
    # Larger than it is it needs no more pixels: those between are looked up.
    shown = resampled(image.pixels, min(across, image.width), min(down, image.height))
    x = np.arange(region.width, dtype=np.float32) + np.float32(region.left + 0.5)
    y = np.arange(region.height, dtype=np.float32) + np.float32(region.top + 0.5)
    x, y = x - (left + right) / 2 - lay.shift[0], y - (top + bottom) / 2 - lay.shift[1]
    rows, columns = shown.shape[:2]
    fold = _FOLDS.get(lay.fit, _MIRRORED)
    u, v = _shares(x, y, math.radians(lay.turn), (across, down), fold)
    if lay.blocky:
        return _blocks(shown, u, v)
    u *= np.float32(columns)
    v *= np.float32(rows)
    magnified = across > 1.2 * columns
    if lay.fit == "fit":
        # Cubic interpolation would overshoot at the edge to nothing.
        return _looked_up(_wrapped(shown, cv2.BORDER_CONSTANT), u, v, False)
    wide = _wrapped(shown, cv2.BORDER_WRAP if lay.fit == "tile" else cv2.BORDER_REFLECT)
    return _not_finer(_looked_up(wide, u, v, magnified), shown, min(across, down))


def _shares(
    x: Array, y: Array, turn: float, size: tuple[float, float], fold: int
) -> tuple[Array, Array]:
    """Where pixels at x (W) and y (H) from the middle of a picture of this size lie in it, as
    shares of that, (H, W) each; beyond its edges by its `fold`."""
    u, v = np.empty((2, len(y), len(x)), np.float32)
    way = np.float32(math.cos(turn)), np.float32(math.sin(turn))
    _find_shares(x, y, way, np.array(size, np.float32), fold, u, v)
    return u, v


@kernel(parallel=True)
def _find_shares(x, y, way, size, fold, u, v):  # type: ignore[no-untyped-def]
    cos, sin = way
    half = np.float32(0.5)
    for line in numba.prange(len(y)):
        j = np.int64(line)
        for i in range(len(x)):
            u[j, i] = _folded((x[i] * cos + y[j] * sin) / size[0] + half, fold)
            v[j, i] = _folded((y[j] * cos - x[i] * sin) / size[1] + half, fold)


@kernel(inline="always")
def _folded(place, fold):  # type: ignore[no-untyped-def]
    one, two = np.float32(1), np.float32(2)
    if fold == _REPEATED:
        return place - np.floor(place)
    if fold == _MIRRORED:
        beyond = place - two * np.floor(place / two)
        return one - abs(beyond - one)
    return place


def _blocks(shown: Array, u: Array, v: Array) -> Array:
    """The pixel of the picture at each place: no block runs over into the next."""
    rows, columns = shown.shape[:2]
    there = (u >= 0) & (u < 1 + 1e-6) & (v >= 0) & (v < 1 + 1e-6)
    x = np.clip(np.floor(u * columns), 0, columns - 1).astype(np.int32)
    y = np.clip(np.floor(v * rows), 0, rows - 1).astype(np.int32)
    return np.asarray(shown[y, x] * there[..., None], np.float32)


def _not_finer(looked: Array, shown: Array, side: float) -> Array:
    """Tiles of a few pixels fade to their mean: between the pixels they would flicker."""
    share = np.float32(min(max((side - 1.5) / 2.5, 0.0), 1.0))
    if share == 1:
        return looked
    mean = shown.mean(axis=(0, 1), dtype=np.float32)
    return np.asarray(mean + (looked - mean) * share, np.float32)


def _shown_size(image: Image, lay: Lay, width: float, height: float) -> tuple[float, float]:
    if lay.fit == "stretch":
        across, down = width, height
    elif lay.fit in ("tile", "mirror"):
        across, down = lay.size, lay.size * image.height / image.width
    else:
        ratios = (width / image.width, height / image.height)
        ratio = min(ratios) if lay.fit == "fit" else max(ratios)
        across, down = image.width * ratio, image.height * ratio
    return max(across * lay.scale, 1.0), max(down * lay.scale, 1.0)


def _wrapped(shown: Array, border: int = cv2.BORDER_WRAP) -> Array:
    """With pixels more on each side, from the other side or mirrored."""
    wide = cv2.copyMakeBorder(shown, _BORDER, _BORDER, _BORDER, _BORDER, border)
    return np.asarray(wide, np.float32)


def _looked_up(wide: Array, u: Array, v: Array, magnified: bool) -> Array:
    """At pixel places measured from the picture's own corner."""
    shift = np.float32(_BORDER - 0.5)
    maps = (u + shift, v + shift)
    how = cv2.INTER_CUBIC if magnified else cv2.INTER_LINEAR
    looked = np.asarray(cv2.remap(wide, *maps, how, borderMode=cv2.BORDER_CONSTANT), np.float32)
    return np.maximum(looked, np.float32(0), out=looked) if magnified else looked


def tiled_at(image: Image, u: Array, v: Array, size: float) -> Array:
    """Straight colours (N, 4) of a picture that repeats, mirrored, at places (N) in shares of
    one tile that is shown about `size` pixels wide."""
    down = size * image.height / max(image.width, 1)
    shown = resampled(image.pixels, min(size, image.width), min(down, image.height))
    rows, columns = shown.shape[:2]
    across, along = (1 - np.abs(np.mod(place, 2) - 1) for place in (u, v * size / max(down, 1)))
    wide = _wrapped(shown, cv2.BORDER_REFLECT)
    # In lines of a bounded length: OpenCV looks up no more than 32,767 places in one.
    lines = -(-max(across.size, 1) // _LINE)
    places = np.zeros((2, lines * _LINE), np.float32)
    places[:, : across.size] = across * columns, along * rows
    u_lines, v_lines = places.reshape(2, lines, _LINE)
    looked = _looked_up(wide, u_lines, v_lines, False)
    found = looked.reshape(-1, looked.shape[-1])[: across.size]
    found[:, :3] /= np.maximum(found[:, 3:], np.float32(1e-6))
    return np.asarray(found, np.float32)
