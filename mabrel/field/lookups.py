"""Lookups between pixels: what a pixel of a picture in perspective spans of an image."""

import math

import numpy as np

from mabrel.field.footprint import samples, weights
from mabrel.kernels import kernel

_LINEAR = 4  # samples of a pixel from which on linear lookups do


@kernel(inline="always")
def add_over(image, u, v, ux, uy, vx, vy, channels, pixel):  # type: ignore[no-untyped-def]
    """The mean of what a pixel spans: about (u, v), so far along its row and its column."""
    nx, ny = samples(np.sqrt(ux * ux + vx * vx)), samples(np.sqrt(uy * uy + vy * vy))
    pixel[:] = 0
    if nx == 1 and ny == 1:
        _add_between(image, u, v, channels, pixel)
        return
    for k in range(nx * ny):
        at_u, at_v = _sample(k, nx, ny, u, v, ux, uy, vx, vy)
        if nx * ny >= _LINEAR:
            _add_near(image, at_u, at_v, channels, pixel)
        else:
            _add_between(image, at_u, at_v, channels, pixel)
    share = np.float32(1.0 / (nx * ny))
    for c in range(channels):
        pixel[c] *= share


@kernel(inline="always")
def colour_over(image, u, v, ux, uy, vx, vy, room):  # type: ignore[no-untyped-def]
    """The same of four channels, summed up where a processor is quickest; `room` (4) is to work
    in."""
    nx, ny = samples(np.sqrt(ux * ux + vx * vx)), samples(np.sqrt(uy * uy + vy * vy))
    if nx == 1 and ny == 1:
        return _colour_between(image, u, v, room)
    red = green = blue = alpha = np.float32(0)
    for k in range(nx * ny):
        at_u, at_v = _sample(k, nx, ny, u, v, ux, uy, vx, vy)
        if nx * ny >= _LINEAR:
            r, g, b, a = _colour_near(image, at_u, at_v, room)
        else:
            r, g, b, a = _colour_between(image, at_u, at_v, room)
        red, green, blue, alpha = red + r, green + g, blue + b, alpha + a
    share = np.float32(1.0 / (nx * ny))
    return red * share, green * share, blue * share, alpha * share


@kernel(inline="always")
def _sample(k, nx, ny, u, v, ux, uy, vx, vy):  # type: ignore[no-untyped-def]
    """The place of one of `nx` × `ny` samples of a pixel, row by row."""
    j = k // nx
    dx, dy = (k - j * nx + 0.5) / nx - 0.5, (j + 0.5) / ny - 0.5
    return u + ux * dx + uy * dy, v + vx * dx + vy * dy


@kernel(inline="always")
def _colour_near(image, u, v, room):  # type: ignore[no-untyped-def]
    """What lies at (u, v), linearly."""
    height, width = image.shape[:2]
    left, top = math.floor(u), math.floor(v)
    if left >= 0 and left < width - 1 and top >= 0 and top < height - 1:
        one = np.float32(1)
        right, lower = np.float32(u - left), np.float32(v - top)
        a, b = (one - right) * (one - lower), right * (one - lower)
        c, d = (one - right) * lower, right * lower
        column, row = np.uint64(left), np.uint64(top)
        above, below = image[row], image[row + np.uint64(1)]
        p, q = above[column], above[column + np.uint64(1)]
        r, s = below[column], below[column + np.uint64(1)]
        return (
            a * p[0] + b * q[0] + c * r[0] + d * s[0],
            a * p[1] + b * q[1] + c * r[1] + d * s[1],
            a * p[2] + b * q[2] + c * r[2] + d * s[2],
            a * p[3] + b * q[3] + c * r[3] + d * s[3],
        )
    room[:] = 0
    _add_near(image, u, v, 4, room)
    return room[0], room[1], room[2], room[3]


@kernel(inline="always")
def _colour_between(image, u, v, room):  # type: ignore[no-untyped-def]
    """What lies at (u, v)."""
    height, width = image.shape[:2]
    left, top = math.floor(u), math.floor(v)
    if left >= 1 and left <= width - 3 and top >= 1 and top <= height - 3:
        across, down = weights(np.float32(u - left)), weights(np.float32(v - top))
        column, row, one = np.uint64(left), np.uint64(top), np.uint64(1)
        above, below = image[row], image[row + one]
        first = _colour_along(image[row - one], column, across)
        second = _colour_along(above, column, across)
        third = _colour_along(below, column, across)
        fourth = _colour_along(image[row + np.uint64(2)], column, across)
        p, q, r, s = above[column], above[column + one], below[column], below[column + one]
        return (
            _held(_weighed(first[0], second[0], third[0], fourth[0], down), p[0], q[0], r[0], s[0]),
            _held(_weighed(first[1], second[1], third[1], fourth[1], down), p[1], q[1], r[1], s[1]),
            _held(_weighed(first[2], second[2], third[2], fourth[2], down), p[2], q[2], r[2], s[2]),
            _held(_weighed(first[3], second[3], third[3], fourth[3], down), p[3], q[3], r[3], s[3]),
        )
    room[:] = 0
    _add_between(image, u, v, 4, room)
    return room[0], room[1], room[2], room[3]


@kernel(inline="always")
def _colour_along(row, column, shares):  # type: ignore[no-untyped-def]
    """What four pixels of a row come to, channel by channel."""
    one, two = np.uint64(1), np.uint64(2)
    p, q, r, s = row[column - one], row[column], row[column + one], row[column + two]
    return (
        _weighed(p[0], q[0], r[0], s[0], shares),
        _weighed(p[1], q[1], r[1], s[1], shares),
        _weighed(p[2], q[2], r[2], s[2], shares),
        _weighed(p[3], q[3], r[3], s[3], shares),
    )


@kernel(inline="always")
def _weighed(p, q, r, s, shares):  # type: ignore[no-untyped-def]
    return shares[0] * p + shares[1] * q + shares[2] * r + shares[3] * s


@kernel(inline="always")
def _held(value, p, q, r, s):  # type: ignore[no-untyped-def]
    """Within the four pixels around it."""
    low, high = min(min(p, q), min(r, s)), max(max(p, q), max(r, s))
    return min(max(value, low), high)


@kernel(inline="always")
def _add_near(image, u, v, channels, pixel):  # type: ignore[no-untyped-def]
    """Add what lies at (u, v), linearly: enough where many are averaged."""
    height, width = image.shape[:2]
    left, top = math.floor(u), math.floor(v)
    if left < -1 or left >= width or top < -1 or top >= height:
        return
    one = np.float32(1)
    right, lower = np.float32(u - left), np.float32(v - top)
    a, b = (one - right) * (one - lower), right * (one - lower)
    c, d = (one - right) * lower, right * lower
    if left >= 0 and left < width - 1 and top >= 0 and top < height - 1:
        column, row = np.uint64(left), np.uint64(top)
        above, below = image[row], image[row + np.uint64(1)]
        for k in range(channels):
            total = a * above[column, k] + b * above[column + np.uint64(1), k]
            pixel[k] += total + c * below[column, k] + d * below[column + np.uint64(1), k]
        return
    for number, share in enumerate((a, b, c, d)):
        column, row = left + number % 2, top + number // 2
        if 0 <= row < height and 0 <= column < width:
            for k in range(channels):
                pixel[k] += image[row, column, k] * share


@kernel(inline="always")
def _add_between(image, u, v, channels, pixel):  # type: ignore[no-untyped-def]
    """Add what lies at (u, v)."""
    height, width = image.shape[:2]
    left, top = math.floor(u), math.floor(v)
    if left < -2 or left > width or top < -2 or top > height:
        return
    across, down = weights(np.float32(u - left)), weights(np.float32(v - top))
    if left >= 1 and left <= width - 3 and top >= 1 and top <= height - 3:
        if channels == 4:
            _add_inside(image, left, top, across, down, 4, pixel)
        else:
            _add_inside(image, left, top, across, down, channels, pixel)
    else:
        _add_beside(image, left, top, across, down, channels, pixel)


@kernel(inline="always")
def _add_inside(image, left, top, across, down, channels, pixel):  # type: ignore[no-untyped-def]
    """Add what lies between pixels that all are inside the image."""
    column, row = np.uint64(left), np.uint64(top)
    one, two = np.uint64(1), np.uint64(2)
    for c in range(channels):
        total = np.float32(0)
        for j in range(4):
            there = image[row + np.uint64(j) - one]
            total += down[j] * (
                across[0] * there[column - one, c] + across[1] * there[column, c]
                + across[2] * there[column + one, c] + across[3] * there[column + two, c]
            )  # fmt: skip
        p, q = image[row, column, c], image[row, column + one, c]
        r, s = image[row + one, column, c], image[row + one, column + one, c]
        low, high = min(min(p, q), min(r, s)), max(max(p, q), max(r, s))
        pixel[c] += min(max(total, low), high)


@kernel()
def _add_beside(image, left, top, across, down, channels, pixel):  # type: ignore[no-untyped-def]
    """Add what lies between pixels some of which are beyond the image."""
    height, width = image.shape[:2]
    for c in range(channels):
        total = np.float32(0)
        low, high = np.float32(np.inf), np.float32(-np.inf)
        for j in range(4):
            row = top + j - 1
            if row < 0 or row >= height:
                if j == 1 or j == 2:
                    low, high = min(low, np.float32(0)), max(high, np.float32(0))
                continue
            for i in range(4):
                column = left + i - 1
                value = np.float32(0)
                if column >= 0 and column < width:
                    value = image[row, column, c]
                    total += value * across[i] * down[j]
                if (i == 1 or i == 2) and (j == 1 or j == 2):
                    low, high = min(low, value), max(high, value)
        pixel[c] += min(max(total, low), high)
