"""Rows of pixels laid over one another: as `modes.composite` lays one, but the modes that are used
most channel by channel, so that a processor takes many pixels at a time."""

import numpy as np

from mabrel.colour.modes import composite, mode_index
from mabrel.kernels import kernel

_NORMAL, _MULTIPLY, _SCREEN = mode_index("normal"), mode_index("multiply"), mode_index("screen")
_OVERLAY, _HARD = mode_index("overlay"), mode_index("hard-light")
_SOFT = mode_index("soft-light")
_LEAST = np.float32(1e-30)  # of a pixel, of which the inverse is still a number


@kernel()
def composite_row(mode, backdrop, source, out):  # type: ignore[no-untyped-def]
    """One row of `blend`, for kernels: premultiplied (N, 4) each, `mode` as `mode_index` gives
    it."""
    if mode == _NORMAL:
        for x in range(out.shape[0]):
            rest = np.float32(1) - source[x, 3]
            for c in range(4):
                out[x, c] = source[x, c] + backdrop[x, c] * rest
    elif goes_by_channels(mode):
        planes = np.empty((8, out.shape[0]), np.float32)
        split(source, planes[4:])
        straighten(planes)
        composite_channels(mode, backdrop, planes, out)
    else:
        for x in range(out.shape[0]):
            b, s = backdrop[x], source[x]
            red, green, blue, alpha = composite(
                mode, b[0], b[1], b[2], b[3], s[0], s[1], s[2], s[3]
            )
            out[x, 0], out[x, 1], out[x, 2], out[x, 3] = red, green, blue, alpha


@kernel(inline="always")
def goes_by_channels(mode):  # type: ignore[no-untyped-def]
    """Whether `composite_channels` knows the mode."""
    return mode in (_MULTIPLY, _SCREEN, _OVERLAY, _HARD, _SOFT)


@kernel(inline="always")
def split(row, planes):  # type: ignore[no-untyped-def]
    """A row of pixels (N, 4) as channels (4, N)."""
    red, green, blue, alpha = planes[0], planes[1], planes[2], planes[3]
    for x in range(row.shape[0]):
        red[x], green[x], blue[x], alpha[x] = row[x, 0], row[x, 1], row[x, 2], row[x, 3]


@kernel(inline="always")
def straighten(planes):  # type: ignore[no-untyped-def]
    """Premultiplied channels in `planes[4:]` ((8, N)), in place; light without cover stays."""
    red, green, blue, alpha = planes[4], planes[5], planes[6], planes[7]
    for x in range(alpha.shape[0]):
        over = np.float32(1) / alpha[x] if alpha[x] > _LEAST else np.float32(1)
        red[x], green[x], blue[x] = red[x] * over, green[x] * over, blue[x] * over


@kernel()
def composite_channels(mode, backdrop, planes, out):  # type: ignore[no-untyped-def]
    """`composite_row` where the straight channels of the source and its alpha lie in `planes[4:]`
    ((8, N), changed)."""
    split(backdrop, planes)
    shares, both = planes[3], planes[7]
    for c in range(3):
        if mode == _MULTIPLY:
            _lay(_multiply, planes[c], planes[4 + c], shares, both)
        elif mode == _SCREEN:
            _lay(_screen, planes[c], planes[4 + c], shares, both)
        elif mode == _OVERLAY:
            _lay(_overlay, planes[c], planes[4 + c], shares, both)
        elif mode == _HARD:
            _lay(_hard_light, planes[c], planes[4 + c], shares, both)
        else:
            _lay(_soft_light, planes[c], planes[4 + c], shares, both)
    red, green, blue = planes[0], planes[1], planes[2]
    for x in range(out.shape[0]):
        out[x, 0], out[x, 1], out[x, 2] = red[x], green[x], blue[x]
        out[x, 3] = both[x] + shares[x] * (np.float32(1) - both[x])


@kernel(inline="always")
def _lay(mixed, row, straight, there, share):  # type: ignore[no-untyped-def]
    """Straight colours, of which there is a `share`, on a row of premultiplied ones that are
    `there`, in place; `mixed` tells what comes of two straight ones. Light without cover is added
    where nothing is, and changes nothing elsewhere."""
    none, one = np.float32(0), np.float32(1)
    for x in range(row.shape[0]):
        own, of_it = row[x], there[x]
        inverse = one / of_it if of_it > _LEAST else none
        both = mixed(own * inverse, straight[x])
        added = (one - of_it) * straight[x] + of_it * both
        light = straight[x] if max(share[x], of_it) <= _LEAST else none
        row[x] = share[x] * added + own * (one - share[x]) + light


@kernel(inline="always")
def _unit(value):  # type: ignore[no-untyped-def]
    return min(max(value, np.float32(0)), np.float32(1))


@kernel(inline="always")
def _multiply(b, s):  # type: ignore[no-untyped-def]
    return b * s


@kernel(inline="always")
def _screen(b, s):  # type: ignore[no-untyped-def]
    return b + s - b * s


@kernel(inline="always")
def _hard_light(b, s):  # type: ignore[no-untyped-def]
    b, s = _unit(b), _unit(s)
    t = np.float32(2) * s
    more = t - np.float32(1)
    return b * t if s <= np.float32(0.5) else b + more - b * more


@kernel(inline="always")
def _overlay(b, s):  # type: ignore[no-untyped-def]
    return _hard_light(s, b)


@kernel(inline="always")
def _soft_light(b, s):  # type: ignore[no-untyped-def]
    b, s = _unit(b), _unit(s)
    one, two, four = np.float32(1), np.float32(2), np.float32(4)
    low = ((np.float32(16) * b - np.float32(12)) * b + four) * b
    d = low if b <= np.float32(0.25) else np.sqrt(b)
    more = two * s - one
    return b + more * (b * (one - b) if s <= np.float32(0.5) else d - b)
