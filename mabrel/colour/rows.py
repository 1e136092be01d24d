"""Rows of pixels laid over one another: as `modes.composite` lays one, but the modes that are used
most in loops of their own, which a processor takes many pixels at a time through."""

import numpy as np

from mabrel.colour.modes import composite, mode_index
from mabrel.kernels import kernel

_NORMAL, _MULTIPLY, _SCREEN = mode_index("normal"), mode_index("multiply"), mode_index("screen")
_OVERLAY, _HARD = mode_index("overlay"), mode_index("hard-light")
_SOFT = mode_index("soft-light")


@kernel()
def composite_row(mode, backdrop, source, out):  # type: ignore[no-untyped-def]
    """One row of `blend`, for kernels: premultiplied (N, 4) each, `mode` as `mode_index` gives
    it."""
    if mode == _NORMAL:
        _normal(backdrop, source, out)
    elif mode == _MULTIPLY:
        _separable(_multiply, backdrop, source, out)
    elif mode == _SCREEN:
        _separable(_screen, backdrop, source, out)
    elif mode == _OVERLAY:
        _separable(_overlay, backdrop, source, out)
    elif mode == _HARD:
        _separable(_hard_light, backdrop, source, out)
    elif mode == _SOFT:
        _separable(_soft_light, backdrop, source, out)
    else:
        for x in range(out.shape[0]):
            b, s = backdrop[x], source[x]
            red, green, blue, alpha = composite(
                mode, b[0], b[1], b[2], b[3], s[0], s[1], s[2], s[3]
            )
            out[x, 0], out[x, 1], out[x, 2], out[x, 3] = red, green, blue, alpha


@kernel(inline="always")
def _normal(backdrop, source, out):  # type: ignore[no-untyped-def]
    for x in range(out.shape[0]):
        rest = np.float32(1) - source[x, 3]
        for c in range(4):
            out[x, c] = source[x, c] + backdrop[x, c] * rest


@kernel(inline="always")
def _separable(mixed, backdrop, source, out):  # type: ignore[no-untyped-def]
    """By a mode that treats each channel by itself, as `mixed` does with two straight ones."""
    none, one = np.float32(0), np.float32(1)
    for x in range(out.shape[0]):
        ba, sa = backdrop[x, 3], source[x, 3]
        under = one / ba if ba > none else none
        over = one / sa if sa > none else none
        both, clear, rest = max(sa, none) * max(ba, none), one - ba, one - sa
        kept = sa <= none and ba > none  # light without cover changes nothing that is covered
        for c in range(3):
            b, s = backdrop[x, c], source[x, c]
            laid = s * clear + both * mixed(b * under, s * over) + b * rest
            lit = s + b * rest if ba <= none else laid
            out[x, c] = b if kept else lit
        out[x, 3] = ba if kept else sa + ba * rest


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
