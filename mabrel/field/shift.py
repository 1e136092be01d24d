"""Moving an image by parts of a pixel."""

import math

import cv2
import numpy as np
from numpy.typing import NDArray


def shifted(image: NDArray[np.float32], x: float, y: float) -> NDArray[np.float32]:
    """`image` moved right by x and down by y pixels, bilinear; 0 comes in at the border."""
    height, width = image.shape[:2]
    whole_x, whole_y = math.floor(x), math.floor(y)
    move = np.array([[1, 0, x], [0, 1, y]], np.float64)
    flags = cv2.INTER_LINEAR if (whole_x, whole_y) != (x, y) else cv2.INTER_NEAREST
    moved = cv2.warpAffine(image, move, (width, height), flags=flags, borderValue=0)
    return np.asarray(moved, np.float32)
