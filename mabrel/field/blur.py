"""Gaussian blur at the same cost for every radius."""

import math

import cv2
import numpy as np
from numpy.typing import NDArray

from mabrel.field.separable import weighted

DIRECT = 6.0
"""Up to this σ, the kernel itself is the fastest."""
_COARSE = 2.6  # the least σ on a reduced grid at which nothing of its pixels shows
_REACH = 4.0  # the kernel is cut at 4 σ, where it has fallen to 1/3000


def blur_margin(sigma: float) -> int:
    """How far, in pixels, a blur carries anything that can be seen."""
    return math.ceil(3.2 * sigma) + 1


def blur_support(sigma: float) -> int:
    """How far, in pixels, a blur carries anything at all."""
    return math.ceil((_REACH + 1.6) * sigma) + 8


def gaussian_blur(
    image: NDArray[np.float32], sigma: float, origin: tuple[int, int] = (0, 0)
) -> NDArray[np.float32]:
    """Blur a picture by a Gaussian, at the same cost for every radius.

    Small radii use the kernel; large ones work on a grid reduced by binomial filters and come
    back by cubic B-spline subdivision [1]_. Both have a known variance, and the Gaussian between
    them makes up the rest, so the result stays within 1/255 of the true one (the tests hold it
    to 0.002).

    Convention: what lies beyond the border is 0, so give the picture a margin of
    `blur_margin(sigma)`. Premultiplied colour blurs right; straight alpha doesn't.

    Parameters
    ----------
    image : (H, W) or (H, W, C) float32
    sigma : float
        Standard deviation in pixels; below 1/20 the picture comes back as it is.
    origin : (int, int), optional
        The place (x, y) of the first pixel in a plane to which the reduced grid is fixed: two
        parts of one plane agree wherever both know all around.

    Returns
    -------
    float32, as the picture.

    Raises
    ------
    ValueError
        Where sigma is negative.

    References
    ----------
    .. [1] P. Burt and E. Adelson, "The Laplacian pyramid as a compact image code", IEEE
       Transactions on Communications 31, 1983, https://doi.org/10.1109/TCOM.1983.1095851

    Examples
    --------
    >>> import numpy as np
    >>> dot = np.zeros((101, 101), np.float32)
    >>> dot[50, 50] = 1
    >>> peak = gaussian_blur(dot, 8.0)[50, 50]
    >>> bool(abs(peak - 1 / (2 * np.pi * 64)) < 1e-4)
    True
    """
    if not sigma >= 0:
        raise ValueError(f"sigma must be at least 0, not {sigma}")
    image = np.ascontiguousarray(image, dtype=np.float32)
    if sigma < 0.05:
        return image.copy()
    if sigma <= DIRECT:
        return _by_kernel(image, sigma)
    halvings = max(1, math.floor(math.log2(sigma / _COARSE)))
    while _left_over(sigma, halvings) < _COARSE**2:
        halvings -= 1
    return _by_pyramid(image, sigma, halvings, origin)


def softened(
    height: NDArray[np.float32], inside: NDArray[np.float32], sigma: float
) -> NDArray[np.float32]:
    """Blur a relief (H, W) inside its outline, with nothing drawn in from beyond it.

    `inside` is the coverage (H, W) that weighs each place; where that is 0 all around, so is
    the result. Below 1/20 pixel of `sigma` the relief comes back as it is.
    """
    if sigma < 0.05:
        return height
    weight = gaussian_blur(inside, sigma)
    blurred = gaussian_blur(height * inside, sigma)
    return np.asarray(blurred / np.maximum(weight, np.float32(1e-4)), np.float32)


def _by_kernel(image: NDArray[np.float32], sigma: float) -> NDArray[np.float32]:
    size = 2 * math.ceil(_REACH * sigma) + 1
    kernel = cv2.getGaussianKernel(size, sigma, cv2.CV_32F)
    return weighted(image, np.asarray(kernel[size // 2 :, 0], np.float32))


def _left_over(sigma: float, halvings: int) -> float:
    """The variance that the blur on the reduced grid must have, in its pixels.

    Reducing adds 1 + 4 + 16 + … to the variance, and so does each way back.
    """
    factor: int = 4**halvings
    return (sigma * sigma - 2 * (factor - 1) / 3) / factor


def _by_pyramid(
    image: NDArray[np.float32], sigma: float, halvings: int, origin: tuple[int, int]
) -> NDArray[np.float32]:
    height, width = image.shape[:2]
    step = 2**halvings
    left, top = (2 * step + place % step for place in origin)
    small = _reduced_blur(image, halvings, math.sqrt(_left_over(sigma, halvings)), left, top)
    for _ in range(halvings):
        small = cv2.pyrUp(small)
    return np.ascontiguousarray(small[top : top + height, left : left + width])


def _reduced_blur(
    image: NDArray[np.float32], halvings: int, coarse: float, left: int, top: int
) -> NDArray[np.float32]:
    """The image on a grid reduced so many times, with two of its pixels and more around it
    (`left` and `top` of the image's own), blurred there by `coarse` of its pixels."""
    margin = 3 * 2**halvings
    small = _bordered(image, top, margin, left, margin)
    for _ in range(halvings):
        small = cv2.pyrDown(small)
    # The blur carries colour into the margin and out of it again: the reduced grid has room.
    room = math.ceil(_REACH * coarse)
    small = _by_kernel(_bordered(small, room, room, room, room), coarse)
    return np.ascontiguousarray(small[room:-room, room:-room])


def blur_to_look_up(image: NDArray[np.float32], sigma: float) -> tuple[NDArray[np.float32], int]:
    """`gaussian_blur` as control points of cubic B-splines, and how many pixels they are apart.

    The point at row and column 2 is that of the image's first pixel. Where they are one pixel
    apart they are the blurred pixels themselves, without anything around them.
    """
    if sigma <= DIRECT:
        return gaussian_blur(image, sigma), 1
    halvings = max(1, math.floor(math.log2(sigma / _COARSE)))
    while _left_over_splines(sigma, halvings) < _COARSE**2:
        halvings -= 1
        if halvings == 0:
            return _by_kernel(image, sigma), 1
    coarse = math.sqrt(_left_over_splines(sigma, halvings))
    step = 2**halvings
    return _reduced_blur(image, halvings, coarse, 2 * step, 2 * step), step


def _left_over_splines(sigma: float, halvings: int) -> float:
    """The variance left over where a cubic B-spline, whose own is a third, leads back."""
    factor: int = 4**halvings
    return (sigma * sigma - (factor - 1) / 3) / factor - 1 / 3


def _bordered(
    image: NDArray[np.float32], top: int, bottom: int, left: int, right: int
) -> NDArray[np.float32]:
    framed = cv2.copyMakeBorder(image, top, bottom, left, right, cv2.BORDER_CONSTANT, value=0)
    return np.asarray(framed, np.float32)
