"""Light that a lens adds to a picture, reckoned in linear light."""

import cv2
import numpy as np

from mabrel.colour import from_code, light_of, over, picture_of, to_linear
from mabrel.field import blur_margin
from mabrel.steps.flattening import flattened
from mabrel.steps.piece import Array, Piece
from mabrel.steps.region import Region

_LUMA = np.array([0.2126, 0.7152, 0.0722], np.float32)  # Rec. ITU-R BT.709, of linear light


def light_shown(piece: Piece) -> Array:
    """The piece as it looks, in premultiplied linear light, (H, W, 4)."""
    return light_of(flattened(piece))


def bright_parts(light: Array, threshold: float) -> Array:
    """(H, W, 3): of linear light, what is brighter than `threshold` (an encoded brightness 0..1),
    coming in softly above it."""
    level = float(to_linear(np.array([threshold], np.float32))[0])
    bright = light[..., :3] @ _LUMA
    share = np.clip((bright - level) / max(1.0 - level, 0.02), 0, 1)
    return np.asarray(light[..., :3] * share[..., None], np.float32)


def linear_colour(code: str) -> Array:
    """The light of a colour code, (3)."""
    return to_linear(np.array(from_code(code)[:3], np.float32))


def with_light(piece: Piece, added: Array) -> Piece:
    """The piece with linear light ((H, W, 3)) added to all that is seen of it.

    Over what is there, the sum is exact. Beyond it, where nobody knows what will lie beneath, the
    light covers as much as it is bright: that comes close to adding it, and leaves clean alpha.
    """
    before = flattened(piece)
    light = light_of(before)
    alone = np.empty_like(before)
    alone[..., :3] = np.maximum(added, 0)
    alone[..., 3] = 0
    glow = picture_of(alone)  # as it looks before black
    cover = np.clip(glow[..., :3].max(axis=2), 0, 1)
    alpha = before[..., 3]
    after = light.copy()
    after[..., :3] += alpha[..., None] * alone[..., :3]
    picture = picture_of(after)
    rest = (1 - alpha)[..., None]
    front = np.empty_like(before)
    # What must lie in front, covering `cover`, so that the whole looks like `picture`.
    front[..., :3] = picture[..., :3] + rest * glow[..., :3]
    front[..., :3] -= before[..., :3] * (1 - cover)[..., None]
    front[..., 3] = cover
    np.maximum(front, 0, out=front)
    return piece.but(front=front if piece.front is None else over(piece.front, front))


def glow_margin(sigma: float) -> int:
    """A glow is seen further than a blur: in the dark, a thousandth of a light still shows."""
    return blur_margin(sigma * 1.25)


def coarser(light: Array, region: Region, factor: int) -> Array:
    """Light (H, W, C) over `region` by means of `factor` × `factor` pixels.

    The grid is fixed to the layer's centre, so it doesn't matter where the region begins.
    """
    if factor == 1:
        return light
    left, top = region.left % factor, region.top % factor
    right, bottom = -region.right % factor, -region.bottom % factor
    whole = np.pad(light, ((top, bottom), (left, right), (0, 0)))
    size = (whole.shape[1] // factor, whole.shape[0] // factor)
    return np.asarray(cv2.resize(whole, size, interpolation=cv2.INTER_AREA), np.float32)


def finer(light: Array, region: Region, factor: int) -> Array:
    """Back from `coarser` to the pixels of `region`."""
    if factor == 1:
        return light
    rows, columns = light.shape[:2]
    whole = cv2.resize(light, (columns * factor, rows * factor), interpolation=cv2.INTER_LINEAR)
    left, top = region.left % factor, region.top % factor
    part = whole[top : top + region.height, left : left + region.width]
    return np.ascontiguousarray(part, dtype=np.float32)
