"""What one pixel becomes under another: W3C's modes (Compositing and Blending Level 1, and 2 for
plus-lighter), and those that the trade uses besides.

Colours are premultiplied, sRGB-encoded float32 RGBA. With Cb, αb of the backdrop, Cs, αs of the
source (straight) and B the mode's function, every mode but plus-lighter gives

    co = αs (1 − αb) Cs + αs αb B(Cb, Cs) + (1 − αs) αb Cb,   αo = αs + αb (1 − αs).

The modes without a standard, as programs for pictures have long agreed on them:

    linear-burn     max(0, b + s − 1)
    vivid-light     color-burn with 2s up to s = ½, color-dodge with 2s − 1 above
    linear-light    b + 2s − 1, held to 0..1
    pin-light       min(b, 2s) up to s = ½, max(b, 2s − 1) above
    subtract        max(0, b − s)
    divide          min(1, b / s); 1 where s is 0 and b is not, 0 where both are
    darker-color    the one of both colours with the lower Lum (0.3 r + 0.59 g + 0.11 b)
    lighter-color   the one with the higher Lum

Convention: nothing is clamped by `normal`, `multiply`, `screen`, `difference` and `exclusion`;
the other modes are defined for 0..1 only and clamp what they are given.
"""

import numpy as np

from mabrel.kernels import kernel

MODES = (
    "normal",
    "multiply",
    "screen",
    "overlay",
    "darken",
    "lighten",
    "color-dodge",
    "color-burn",
    "hard-light",
    "soft-light",
    "difference",
    "exclusion",
    "hue",
    "saturation",
    "color",
    "luminosity",
    "plus-lighter",
    "linear-burn",
    "vivid-light",
    "linear-light",
    "pin-light",
    "subtract",
    "divide",
    "darker-color",
    "lighter-color",
)
_FIRST_WHOLE, _DARKER = 12, 23  # from here on, modes look at all three channels together
_NORMAL, _PLUS = 0, 16


def mode_index(mode: str) -> int:
    """The kernels' number of a mode. Raises ValueError for an unknown name."""
    try:
        return MODES.index(mode)
    except ValueError:
        raise ValueError(f"there is no blend mode {mode!r}; there are {', '.join(MODES)}") from None


@kernel()
def composite(mode, br, bg, bb, ba, sr, sg, sb, sa):  # type: ignore[no-untyped-def]
    """One pixel of `blend`, for kernels: `mode` as `mode_index` gives it."""
    one = np.float32(1)
    rest = one - sa
    if mode == _NORMAL or (ba <= 0 and mode != _PLUS):
        return sr + br * rest, sg + bg * rest, sb + bb * rest, sa + ba * rest
    if mode == _PLUS:
        alpha = min(one, sa + ba)
        return sr + br, sg + bg, sb + bb, alpha
    if sa <= 0:
        return br, bg, bb, ba
    cr, cg, cb = br / ba, bg / ba, bb / ba
    r, g, b = sr / sa, sg / sa, sb / sa
    if mode < _FIRST_WHOLE or _PLUS < mode < _DARKER:
        mr, mg, mb = _separable(mode, cr, r), _separable(mode, cg, g), _separable(mode, cb, b)
    else:
        mr, mg, mb = _non_separable(
            mode, _unit(cr), _unit(cg), _unit(cb), _unit(r), _unit(g), _unit(b)
        )
    both, clear = sa * ba, one - ba
    return (
        sr * clear + both * mr + br * rest,
        sg * clear + both * mg + bg * rest,
        sb * clear + both * mb + bb * rest,
        sa + ba * rest,
    )


@kernel(inline="always")
def _unit(value):  # type: ignore[no-untyped-def]
    return min(max(value, np.float32(0)), np.float32(1))


@kernel()
def _separable(mode, b, s):  # type: ignore[no-untyped-def]
    two = np.float32(2)
    if mode == 1:
        return b * s
    if mode == 2:
        return b + s - b * s
    if mode == 10:
        return abs(b - s)
    if mode == 11:
        return b + s - two * b * s
    b, s = _unit(b), _unit(s)
    if mode == 3:
        return _hard_light(s, b)
    if mode == 4:
        return min(b, s)
    if mode == 5:
        return max(b, s)
    if mode == 6:
        return _dodge(b, s)
    if mode == 7:
        return _burn(b, s)
    if mode == 8:
        return _hard_light(b, s)
    if mode == 9:
        return _soft_light(b, s)
    return _by_trade(mode, b, s)


@kernel()
def _by_trade(mode, b, s):  # type: ignore[no-untyped-def]
    one, two, half = np.float32(1), np.float32(2), np.float32(0.5)
    if mode == 17:
        return max(b + s - one, np.float32(0))
    if mode == 18:
        return _burn(b, two * s) if s <= half else _dodge(b, two * s - one)
    if mode == 19:
        return _unit(b + two * s - one)
    if mode == 20:
        return min(b, two * s) if s <= half else max(b, two * s - one)
    if mode == 21:
        return max(b - s, np.float32(0))
    if s <= 0:
        return np.float32(0) if b <= 0 else one
    return min(one, b / s)


@kernel()
def _dodge(b, s):  # type: ignore[no-untyped-def]
    one = np.float32(1)
    if b <= 0:
        return np.float32(0)
    return one if s >= one else min(one, b / (one - s))


@kernel()
def _burn(b, s):  # type: ignore[no-untyped-def]
    one = np.float32(1)
    if b >= one:
        return one
    return np.float32(0) if s <= 0 else one - min(one, (one - b) / s)


@kernel()
def _hard_light(b, s):  # type: ignore[no-untyped-def]
    two, one = np.float32(2), np.float32(1)
    if s <= np.float32(0.5):
        return b * two * s
    t = two * s - one
    return b + t - b * t


@kernel()
def _soft_light(b, s):  # type: ignore[no-untyped-def]
    one, two, four = np.float32(1), np.float32(2), np.float32(4)
    if s <= np.float32(0.5):
        return b - (one - two * s) * b * (one - b)
    if b <= np.float32(0.25):
        d = ((np.float32(16) * b - np.float32(12)) * b + four) * b
    else:
        d = np.sqrt(b)
    return b + (two * s - one) * (d - b)


@kernel()
def _lum(r, g, b):  # type: ignore[no-untyped-def]
    return np.float32(0.3) * r + np.float32(0.59) * g + np.float32(0.11) * b


@kernel()
def _clipped(r, g, b):  # type: ignore[no-untyped-def]
    lum = _lum(r, g, b)
    least, most = min(r, g, b), max(r, g, b)
    if least < 0:
        k = lum / max(lum - least, np.float32(1e-7))  # a grey a rounding below black
        r, g, b = lum + (r - lum) * k, lum + (g - lum) * k, lum + (b - lum) * k
    if most > 1:
        k = (np.float32(1) - lum) / max(most - lum, np.float32(1e-7))
        r, g, b = lum + (r - lum) * k, lum + (g - lum) * k, lum + (b - lum) * k
    return r, g, b


@kernel()
def _with_lum(r, g, b, lum):  # type: ignore[no-untyped-def]
    d = lum - _lum(r, g, b)
    return _clipped(r + d, g + d, b + d)


@kernel()
def _with_sat(r, g, b, sat):  # type: ignore[no-untyped-def]
    least, most = min(r, g, b), max(r, g, b)
    if most <= least:
        zero = np.float32(0)
        return zero, zero, zero
    k = sat / (most - least)
    return (r - least) * k, (g - least) * k, (b - least) * k


@kernel()
def _non_separable(mode, br, bg, bb, sr, sg, sb):  # type: ignore[no-untyped-def]
    back = _lum(br, bg, bb)
    if mode >= _DARKER:
        below = _lum(sr, sg, sb) < back
        if below == (mode == _DARKER):
            return sr, sg, sb
        return br, bg, bb
    if mode == 12:
        r, g, b = _with_sat(sr, sg, sb, max(br, bg, bb) - min(br, bg, bb))
        return _with_lum(r, g, b, back)
    if mode == 13:
        r, g, b = _with_sat(br, bg, bb, max(sr, sg, sb) - min(sr, sg, sb))
        return _with_lum(r, g, b, back)
    if mode == 14:
        return _with_lum(sr, sg, sb, back)
    return _with_lum(br, bg, bb, _lum(sr, sg, sb))
