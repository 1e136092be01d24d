"""One ray through the copies of a shape that is pushed back out of its plane.

`distance` (H, W) is the shape's signed distance; `way` holds where the rays run (x, y), how far,
and whether to a point; `profile` (3, N) is made by `extrusion`.
"""

import numpy as np

from mabrel.kernels import kernel

_LEAST = 0.3  # pixels that a ray goes on


@kernel(inline="always")
def bilinear(distance, x, y):  # type: ignore[no-untyped-def]
    """Bilinear; beyond the array, its border and the way there."""
    height, width = distance.shape
    cx = min(max(x, np.float32(0)), np.float32(width - 1))
    cy = min(max(y, np.float32(0)), np.float32(height - 1))
    one = np.float32(1)
    if cx == x and cy == y and x < np.float32(width - 1) and y < np.float32(height - 1):  # within
        left, top = np.uint64(int(x)), np.uint64(int(y))
        right, lower = left + np.uint64(1), top + np.uint64(1)
        u, v = x - np.float32(left), y - np.float32(top)
        above = distance[top, left] * (one - u) + distance[top, right] * u
        below = distance[lower, left] * (one - u) + distance[lower, right] * u
        return above * (one - v) + below * v
    left = np.uint64(max(min(int(cx), width - 2), 0))
    top = np.uint64(max(min(int(cy), height - 2), 0))
    u, v = cx - np.float32(left), cy - np.float32(top)
    # A grid may be one pixel wide or high.
    right, lower = np.uint64(1 if width > 1 else 0), np.uint64(1 if height > 1 else 0)
    right, lower = left + right, top + lower
    above = distance[top, left] * (one - u) + distance[top, right] * u
    below = distance[lower, left] * (one - u) + distance[lower, right] * u
    return above * (one - v) + below * v + abs(x - cx) + abs(y - cy)


@kernel(inline="always")
def grown_at(profile, share):  # type: ignore[no-untyped-def]
    """How far the outline is grown at a share of the depth."""
    count = profile.shape[1]
    place = min(max(share, np.float32(0)), np.float32(1)) * np.float32(count - 1)
    left = min(int(place), count - 2)
    before = profile[0, left]
    return before + (profile[0, left + 1] - before) * (place - np.float32(left))


@kernel(inline="always")
def _free(profile, d, at, last):  # type: ignore[no-untyped-def]
    """How far a ray may go on from a place that is `d` away from the outline there."""
    if profile.shape[1] == 2:
        return max(d, np.float32(_LEAST))
    count = profile.shape[1]
    share = min(max(at / last, np.float32(0)), np.float32(1)) * np.float32(count - 1)
    left = min(int(share), count - 1)
    by_slope = d / (np.float32(1) + profile[2, left] / last)
    here = min(profile[0, left], profile[0, min(left + 1, count - 1)])
    by_height = d + here - profile[1, left]
    return max(max(by_slope, by_height), np.float32(_LEAST))


@kernel(inline="always")
def _gap(distance, profile, x, y, wx, wy, at, last):  # type: ignore[no-untyped-def]
    """How far the ray is from the outline at one depth, in pixels of the nearest plane."""
    away = bilinear(distance, x + wx * at, y + wy * at)
    if profile.shape[1] == 2:
        return away
    return away - grown_at(profile, at / last if last > 0 else np.float32(0))


@kernel(inline="always")
def _course(way, x, y):  # type: ignore[no-untyped-def]
    """Of the ray from (x, y): its direction, how far it runs, and by how much rays have spread
    after a pixel."""
    ax, ay, reach, converging = way
    if converging == 0:
        return -ax, -ay, reach, np.float32(0)
    wx, wy = x - ax, y - ay
    away = np.sqrt(wx * wx + wy * wy)
    spread = np.float32(1) / max(away, np.float32(1e-6))
    if reach < 0:  # towards the point, from where copies have grown away
        return -wx * spread, -wy * spread, -away * reach, -spread
    return wx * spread, wy * spread, away * reach, spread


@kernel(inline="always")
def clear(distance, way, profile, x, y, around):  # type: ignore[no-untyped-def]
    """How far rays run clear of the shape, as a share of their length: those from (x, y) and from
    `around` it, in pixels. One ray is followed, for as long as what surrounds it has room (cone
    marching)."""
    wx, wy, last, spread = _course(way, x, y)
    floor, one = np.float32(_LEAST), np.float32(1)
    narrower = one / (one + around * max(spread, np.float32(0)))
    at = np.float32(0)
    while at < last:
        d = _gap(distance, profile, x, y, wx, wy, at, last)
        room = (d - around * (one + at * spread)) * narrower
        step = _free(profile, room, at, last) if room > floor else floor
        if step <= floor:
            return at / last
        at += step
    return one if last > 0 else np.float32(0)


@kernel(inline="always")
def ray(distance, way, profile, x, y, begun):  # type: ignore[no-untyped-def]
    """Coverage and depth for the ray from (x, y), which runs clear for a share `begun` of its
    length."""
    wx, wy, last, spread = _course(way, x, y)
    half, one = np.float32(0.5), np.float32(1)
    at = before = last * begun
    d = _gap(distance, profile, x, y, wx, wy, at, last)
    nearest, grazed = d / (one + at * spread), at
    if d <= 0 and d > -one:  # at the rim that it leaves, a ray sees what lies beyond the face
        at, d = _left(distance, profile, x, y, wx, wy, last, d)
    outside = d
    # Distances shrink on their way forward to the picture: a copy is smaller by 1 + at·spread.
    while d > 0 and at < last:
        before, outside = at, d
        at = min(at + _free(profile, d, at, last), last)
        d = _gap(distance, profile, x, y, wx, wy, at, last)
        seen = d / (one + at * spread)
        if seen < nearest:
            nearest, grazed = seen, at
    if d <= 0:
        if at > before:
            at = _entered(distance, profile, x, y, wx, wy, last, before, outside, at, d)
        on, deeper = at, d
        while nearest > -half and on < last:  # a grazed edge is thin, but more may lie beyond it
            on = min(on + max(_free(profile, max(deeper, np.float32(0)), on, last), one), last)
            deeper = _gap(distance, profile, x, y, wx, wy, on, last) / (one + on * spread)
            if deeper < nearest:
                nearest, grazed = deeper, on
    if -half < nearest < np.float32(0.8):
        nearest = _closest(distance, profile, x, y, wx, wy, spread, grazed, last, nearest)
    coverage = min(max(half - nearest, np.float32(0)), one)
    return coverage, at / last if coverage > 0 and last > 0 else np.float32(0)


@kernel(inline="always")
def _entered(distance, profile, x, y, wx, wy, last, low, above, high, below):  # type: ignore[no-untyped-def]
    """Where a ray enters, between a place `above` the outline and one `below` it: false position,
    with the older end halved (Dowell and Jarratt, "A modified regula falsi method", 1971)."""
    side = 0
    for _ in range(5):
        middle = (low * below - high * above) / (below - above)
        d = _gap(distance, profile, x, y, wx, wy, middle, last)
        if d > 0:
            low, above = middle, d
            below = below * np.float32(0.5) if side == 1 else below
            side = 1
        else:
            high, below = middle, d
            above = above * np.float32(0.5) if side == 2 else above
            side = 2
        if abs(d) < np.float32(1e-3):
            return middle
    return high


@kernel(inline="always")
def _left(distance, profile, x, y, wx, wy, last, d):  # type: ignore[no-untyped-def]
    """Where a ray that begins just inside the outline has left it, and the distance there; the
    beginning where it goes on inside."""
    at, began, before = np.float32(0), d, d
    while at < np.float32(4) and at < last:
        at = min(at + np.float32(0.25), last)
        d = _gap(distance, profile, x, y, wx, wy, at, last)
        if d <= before:
            break
        if d > 0:
            return at, d
        before = d
    return np.float32(0), began


@kernel(inline="always")
def _closest(distance, profile, x, y, wx, wy, spread, grazed, last, nearest):  # type: ignore[no-untyped-def]
    """The least distance on the ray around a place, by the golden section (Kiefer 1953): what
    antialiases the silhouette."""
    low, high = max(grazed - np.float32(0.6), np.float32(0)), min(grazed + np.float32(0.6), last)
    golden, one = np.float32(0.61803399), np.float32(1)
    a, b = high - (high - low) * golden, low + (high - low) * golden
    at_a = _gap(distance, profile, x, y, wx, wy, a, last) / (one + a * spread)
    at_b = _gap(distance, profile, x, y, wx, wy, b, last) / (one + b * spread)
    for _ in range(5):
        if at_a < at_b:
            high, b, at_b = b, a, at_a
            a = high - (high - low) * golden
            at_a = _gap(distance, profile, x, y, wx, wy, a, last) / (one + a * spread)
        else:
            low, a, at_a = a, b, at_b
            b = low + (high - low) * golden
            at_b = _gap(distance, profile, x, y, wx, wy, b, last) / (one + b * spread)
    return min(nearest, at_a, at_b)
