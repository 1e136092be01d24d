"""The separate parts of a shape: letters, and lines of them."""

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

_LEAST = 0.3  # coverage at which a pixel belongs to a part
_SPECK = 0.002  # share of the largest part below which one belongs to its neighbour


@dataclass(frozen=True)
class Part:
    """A part of a shape: where it is 1 ((H, W), 0 or 1), and its box as (left, top, right,
    bottom) in whole pixels."""

    inside: NDArray[np.float32]
    box: tuple[int, int, int, int]


def letters(coverage: NDArray[np.float32]) -> list[Part]:
    """What hangs together, or stands over one another such as a dot over its stem, from left to
    right. Every pixel belongs to one part, those between to the nearest."""
    return _parts(coverage, across=True)


def lines(coverage: NDArray[np.float32]) -> list[Part]:
    """Parts side by side on one line, from top to bottom."""
    return _parts(coverage, across=False)


def _parts(coverage: NDArray[np.float32], across: bool) -> list[Part]:
    solid = (coverage > _LEAST).astype(np.uint8)
    count, labels, stats, _ = cv2.connectedComponentsWithStats(solid, connectivity=8)
    if count < 2:
        return []
    boxes = [tuple(int(value) for value in stats[i]) for i in range(1, count)]
    owner = _grouped(boxes, across)
    # The nearest part of every pixel, by the nearest solid one.
    _, nearest = cv2.distanceTransformWithLabels(
        1 - solid, cv2.DIST_L2, 5, labelType=cv2.DIST_LABEL_PIXEL
    )
    owners = np.zeros(int(nearest.max()) + 1, np.int32)
    inside = solid > 0
    owners[nearest[inside]] = np.array([0, *owner])[labels[inside]]
    belongs = owners[nearest]
    order = sorted(set(owner), key=lambda group: _first(boxes, owner, group, across))
    return [
        Part((belongs == group).astype(np.float32), _box(boxes, owner, group)) for group in order
    ]


def _grouped(boxes: list[tuple[int, ...]], across: bool) -> list[int]:
    """A number from 1 for each box: those that overlap along the other axis share one."""
    start, size = (0, 2) if across else (1, 3)
    largest = max(box[4] for box in boxes)
    spans: list[list[int]] = []
    for box in sorted(boxes, key=lambda box: -box[4]):
        low, high = box[start], box[start] + box[size]
        best, most = -1, 0.0
        for index, (left, right) in enumerate(spans):
            shared = min(high, right) - max(low, left)
            share = shared / max(min(high - low, right - left), 1)
            if share > most:
                best, most = index, share
        near = box[4] < _SPECK * largest or most > 0.35
        if best >= 0 and near:
            spans[best] = [min(low, spans[best][0]), max(high, spans[best][1])]
        else:
            spans.append([low, high])
    middle = [(low + high) / 2 for low, high in spans]

    def owner(box: tuple[int, ...]) -> int:
        low, high = box[start], box[start] + box[size]
        shared = [min(high, right) - max(low, left) for left, right in spans]
        if max(shared) > 0:
            return int(np.argmax(shared)) + 1
        return int(np.argmin([abs((low + high) / 2 - at) for at in middle])) + 1

    return [owner(box) for box in boxes]


def _first(boxes: list[tuple[int, ...]], owner: list[int], group: int, across: bool) -> int:
    return min(box[0 if across else 1] for box, of in zip(boxes, owner, strict=True) if of == group)


def _box(boxes: list[tuple[int, ...]], owner: list[int], group: int) -> tuple[int, int, int, int]:
    own = [box for box, of in zip(boxes, owner, strict=True) if of == group]
    return (
        min(box[0] for box in own), min(box[1] for box in own),
        max(box[0] + box[2] for box in own), max(box[1] + box[3] for box in own),
    )  # fmt: skip
