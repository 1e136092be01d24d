"""Cutting a part out of a picture: by picked colours, or from before a backdrop of one colour."""

import itertools
from collections.abc import Sequence

import cv2
import numpy as np
from numpy.typing import NDArray

from mabrel.colour.spaces import straight, to_oklab
from mabrel.field.blur import gaussian_blur

Array = NDArray[np.float32]
_BAND = 2  # pixels on each side of an edge in which colours may be mixed
_MIXED = (
    0.08  # OKLab distance by which a mixture made in sRGB may miss the line between two colours
)
_FAR = 12  # pixels from what is whole as far as its colour is carried on


def cut_by_colours(
    pixels: Array,
    picks: Sequence[tuple[float, float]],
    *,
    tolerance: float,
    contiguous: bool,
    soft: float = 0.0,
    rest: bool = False,
) -> Array:
    """The parts of a picture (H, W, 4, premultiplied) that have a picked colour; or the `rest`.

    A pixel belongs to a pick where its OKLab distance (Ottosson 2020) to the colour there is at
    most `tolerance`; with `contiguous` only where it hangs together with the pick. Along the
    edges, where antialiasing has mixed two colours, the share of each is found from the pure
    colours nearest on both sides, and the other's colour is taken out; what lies between two
    picked colours that touch belongs to both. `picks` are shares of width and height; `soft` is
    the radius in pixels of a blur of the edge.
    """
    colour = np.ascontiguousarray(straight(pixels))
    chosen = _chosen(colour, picks, tolerance, contiguous)
    inside = ~chosen if rest else chosen
    inside &= pixels[..., 3] > 0.5
    share, pure = _unmixed(colour, inside)
    if soft > 0:
        share = gaussian_blur(share, soft)
    alpha = share * pixels[..., 3] if rest or soft > 0 else np.minimum(share, pixels[..., 3])
    return np.asarray(np.dstack([pure * alpha[..., None], alpha]), np.float32)


def _chosen(
    colour: Array, picks: Sequence[tuple[float, float]], tolerance: float, contiguous: bool
) -> NDArray[np.bool_]:
    rows, columns = colour.shape[:2]
    lab = to_oklab(np.clip(colour, 0, 4))
    chosen = np.zeros((rows, columns), bool)
    each: list[tuple[Array, NDArray[np.bool_]]] = []
    for x, y in picks:
        column = min(int(x * columns), columns - 1)
        row = min(int(y * rows), rows - 1)
        near = np.linalg.norm(lab - lab[row, column], axis=-1) <= tolerance
        if contiguous:
            _, labels = cv2.connectedComponents(near.astype(np.uint8), connectivity=8)
            near &= labels == labels[row, column]
        chosen |= near
        each.append((lab[row, column], near))
    for (a, ours), (b, theirs) in itertools.combinations(each, 2):
        chosen |= _between(lab, a, ours, b, theirs, tolerance)
    return chosen


def _between(
    lab: Array, a: Array, ours: NDArray[np.bool_], b: Array, theirs: NDArray[np.bool_], near: float
) -> NDArray[np.bool_]:
    """Where two picked parts touch: pixels beside both whose colour is a mixture of the two."""
    wide = np.ones((2 * _BAND + 1, 2 * _BAND + 1), np.uint8)
    beside = [cv2.dilate(part.astype(np.uint8), wide) > 0 for part in (ours, theirs)]
    where: NDArray[np.bool_] = beside[0] & beside[1] & ~(ours | theirs)
    apart = b - a
    size = float(apart @ apart)
    if size < 1e-6 or not where.any():
        return where
    found = np.zeros_like(where)
    share = np.clip((lab[where] - a) @ apart / size, 0, 1)
    off = np.linalg.norm(lab[where] - (a + share[:, None] * apart), axis=-1)
    found[where] = off <= max(near, _MIXED)
    return found


def _unmixed(colour: Array, inside: NDArray[np.bool_]) -> tuple[Array, Array]:
    """How much of each pixel is inside, and the colour that it has there, unmixed."""
    share = inside.astype(np.float32)
    if inside.all() or not inside.any():
        return share, colour
    kernel = np.ones((2 * _BAND + 1, 2 * _BAND + 1), np.uint8)
    mask = inside.astype(np.uint8)
    band = (cv2.dilate(mask, kernel) != cv2.erode(mask, kernel)) != 0
    ours, theirs = inside & ~band, ~inside & ~band
    # Strokes so thin that all of them is band: their own pixels are the purest that there are.
    ours |= inside & (_farthest(ours) > 2 * _BAND)
    theirs |= ~inside & (_farthest(theirs) > 2 * _BAND)
    own = _nearest(colour, ours)
    other = _nearest(colour, theirs)
    apart = own - other
    size = np.sum(apart * apart, axis=-1)
    mixed = np.sum((colour - other) * apart, axis=-1) / np.maximum(size, 1e-6)
    where = band & (size > 1e-4)
    share[where] = np.clip(mixed[where], 0, 1)
    pure = np.where(band[..., None], own, colour)
    return share, np.asarray(pure, np.float32)


def _farthest(mask: NDArray[np.bool_]) -> Array:
    """Distance of each pixel to the nearest one of the mask; far where there is none."""
    if not mask.any():
        return np.full(mask.shape, np.inf, np.float32)
    away = cv2.distanceTransform((~mask).astype(np.uint8), cv2.DIST_L2, 3)
    return np.asarray(away, np.float32)


def _nearest(colour: Array, mask: NDArray[np.bool_]) -> Array:
    """For each pixel the colour of the nearest one in the mask."""
    if not mask.any():
        return colour
    _, labels = cv2.distanceTransformWithLabels(
        (~mask).astype(np.uint8), cv2.DIST_L2, 5, labelType=cv2.DIST_LABEL_PIXEL
    )
    table = np.zeros((int(labels.max()) + 1, 3), np.float32)
    table[labels[mask]] = colour[mask]
    return np.asarray(table[labels], np.float32)


def cut_from_screen(
    pixels: Array,
    colour: tuple[float, float, float],
    *,
    tolerance: float = 0.1,
    softness: float = 1.0,
    spill: float = 1.0,
    balance: float = 0.5,
    choke: float = 0.0,
    inside: float = 0.0,
) -> Array:
    """All of a picture (H, W, 4, premultiplied) that doesn't stand before a screen of `colour`.

    Colour difference: what a pixel has of the screen's hue (its colour without grey, along that
    of the screen, less half of what points aside) is the share of screen in it, as Vlahos'
    G − max(R, B) is for green (US patent 3,595,987, 1971), here for any hue. Where pure colours
    of figure and screen lie near, the share is found between those two instead, which is exact
    for antialiased edges of any colour. The screen is then subtracted, so that half-covered hair
    keeps its own colour, and `spill` takes away what is left of it: the screen's strongest channel
    is held below the other two, at `balance` from the weaker (0) to the stronger (1) of them.
    `tolerance` counts as screen what is that close to it, `softness` how far from it the matte
    still fades. `choke` takes away what is covered by less than that share, and below 0 makes more
    of it whole; `inside` gives what is half covered the colour of the nearest that is whole.
    Raises ValueError for a grey screen: it has no hue.
    """
    screen = np.array(colour, np.float32)
    hue = screen - screen.mean()
    if float(hue @ hue) < 0.003:
        raise ValueError("the backdrop's colour must have a hue; grey can't be told apart")
    own = straight(pixels)
    like = _likeness(own, hue)
    low, high = 1 - max(softness, 1e-3), 1 - tolerance
    share = np.clip((high - like) / max(high - low, 1e-3), 0, 1).astype(np.float32)
    share, backdrop = _between_pure(own, share, screen)
    pure = np.clip(own - (1 - share[..., None]) * backdrop, 0, None)
    pure = np.asarray(pure / np.maximum(share, 0.02)[..., None], np.float32)
    pure = _without_spill(pure, hue, spill, balance)
    if inside > 0:
        pure = _from_inside(pure, share, inside)
    alpha = _choked(share, choke) * pixels[..., 3]
    return np.asarray(np.dstack([pure * alpha[..., None], alpha]), np.float32)


def _likeness(colour: Array, hue: Array) -> Array:
    """1 for the screen's hue and strength, 0 or less for grey and for other hues."""
    size = np.float32(hue @ hue)
    tint = colour - colour.mean(axis=-1, keepdims=True)
    along = tint @ hue / size
    aside = np.linalg.norm(tint - along[..., None] * hue, axis=-1) / np.sqrt(size)
    return np.asarray(along - aside * np.float32(0.5), np.float32)


def _between_pure(colour: Array, share: Array, screen: Array) -> tuple[Array, Array]:
    """A better share where a pixel lies between a pure colour of the figure and the screen, both
    near; and the screen as bright as it is beside each pixel."""
    figure, wall = share > 0.995, share < 0.005
    backdrop = _nearest(colour, wall) if wall.any() else np.broadcast_to(screen, colour.shape)
    if not figure.any() or not wall.any():
        return share, backdrop
    # The outermost pixels that look pure may still be mixed: those inside them are not.
    inner = cv2.erode(figure.astype(np.uint8), np.ones((3, 3), np.uint8)) > 0
    if not inner.any():
        return share, backdrop
    own = _nearest(colour, inner)
    apart = own - backdrop
    size = np.maximum(np.sum(apart * apart, axis=-1), 1e-4)
    mixed = np.clip(np.sum((colour - backdrop) * apart, axis=-1) / size, 0, 1)
    off = colour - (backdrop + apart * mixed[..., None])
    fits = np.linalg.norm(off, axis=-1) < 0.06 * np.sqrt(size)
    near = (_farthest(inner) <= 3) & (_farthest(wall) <= 4) & ~inner & ~wall & fits
    return np.asarray(np.where(near, mixed, share), np.float32), backdrop


def _choked(share: Array, choke: float) -> Array:
    if choke >= 0:
        return np.asarray(np.clip((share - choke) / (1 - choke), 0, 1), np.float32)
    return np.asarray(np.clip(share / (1 + choke), 0, 1), np.float32)


def _from_inside(colour: Array, share: Array, amount: float) -> Array:
    """What is half covered takes the colour of the nearest that is whole, the less it covers."""
    whole = share > 0.98
    if not whole.any():
        return colour
    weight = (1 - share) * np.float32(amount) * (_farthest(whole) <= _FAR)
    return np.asarray(colour + (_nearest(colour, whole) - colour) * weight[..., None], np.float32)


def _without_spill(colour: Array, hue: Array, spill: float, balance: float) -> Array:
    strongest = int(np.argmax(hue))
    others = [channel for channel in range(3) if channel != strongest]
    low, high = colour[..., others].min(axis=-1), colour[..., others].max(axis=-1)
    limit = low + (high - low) * np.float32(balance)
    too_much = np.maximum(colour[..., strongest] - limit, 0)
    out = colour.copy()
    out[..., strongest] -= too_much * np.float32(spill)
    return out
