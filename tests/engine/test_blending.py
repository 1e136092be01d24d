"""Blending: every mode against the formula of W3C's Compositing and Blending Level 1."""

import math
from typing import get_args

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from mabrel.colour import MODES, blend, blend_colour, blend_into, over
from mabrel.title.layers import BlendMode


def hard_light(b: float, s: float) -> float:
    return b * 2 * s if s <= 0.5 else b + (2 * s - 1) - b * (2 * s - 1)


def soft_light(b: float, s: float) -> float:
    if s <= 0.5:
        return b - (1 - 2 * s) * b * (1 - b)
    d = ((16 * b - 12) * b + 4) * b if b <= 0.25 else math.sqrt(b)
    return b + (2 * s - 1) * (d - b)


def dodge(b: float, s: float) -> float:
    return 0 if b == 0 else 1 if s == 1 else min(1, b / (1 - s))


def burn(b: float, s: float) -> float:
    return 1 if b == 1 else 0 if s == 0 else 1 - min(1, (1 - b) / s)


SEPARABLE = {
    "normal": lambda b, s: s,
    "multiply": lambda b, s: b * s,
    "screen": lambda b, s: b + s - b * s,
    "overlay": lambda b, s: hard_light(s, b),
    "darken": min,
    "lighten": max,
    "color-dodge": dodge,
    "color-burn": burn,
    "hard-light": hard_light,
    "soft-light": soft_light,
    "difference": lambda b, s: abs(b - s),
    "exclusion": lambda b, s: b + s - 2 * b * s,
    "linear-burn": lambda b, s: max(0, b + s - 1),
    "vivid-light": lambda b, s: burn(b, 2 * s) if s <= 0.5 else dodge(b, 2 * s - 1),
    "linear-light": lambda b, s: min(max(b + 2 * s - 1, 0), 1),
    "pin-light": lambda b, s: min(b, 2 * s) if s <= 0.5 else max(b, 2 * s - 1),
    "subtract": lambda b, s: max(0, b - s),
    "divide": lambda b, s: float(b > 0) if s == 0 else min(1, b / s),
}


def lum(c):
    return 0.3 * c[0] + 0.59 * c[1] + 0.11 * c[2]


def sat(c):
    return max(c) - min(c)


def clip_colour(c):
    light, least, most = lum(c), min(c), max(c)
    if least < 0:
        c = [light + (x - light) * light / (light - least) for x in c]
    if most > 1:
        c = [light + (x - light) * (1 - light) / (most - light) for x in c]
    return c


def set_lum(c, light):
    return clip_colour([x + light - lum(c) for x in c])


def set_sat(c, s):
    return [(x - min(c)) * s / sat(c) if sat(c) > 0 else 0 for x in c]


NON_SEPARABLE = {
    "hue": lambda b, s: set_lum(set_sat(s, sat(b)), lum(b)),
    "saturation": lambda b, s: set_lum(set_sat(b, sat(s)), lum(b)),
    "color": lambda b, s: set_lum(s, lum(b)),
    "luminosity": lambda b, s: set_lum(b, lum(s)),
    "darker-color": lambda b, s: s if lum(s) < lum(b) else b,
    "lighter-color": lambda b, s: b if lum(s) < lum(b) else s,
}

LEVELS = [0.0, 0.15, 0.25, 0.5, 0.8, 1.0]
unit = st.integers(0, 255).map(lambda level: level / 255)
colour = st.tuples(unit, unit, unit, unit)


def test_every_mode_has_its_formula_here_and_its_name_in_documents() -> None:
    assert set(MODES) == {*SEPARABLE, *NON_SEPARABLE, "plus-lighter"}
    assert set(get_args(BlendMode)) == set(MODES)


def composite(mode: str, backdrop, source) -> np.ndarray:
    """The specification's formula, for one pixel of straight colours."""
    *cb, ab = backdrop
    *cs, a_s = source
    if mode == "plus-lighter":
        mixed = [ab * b + a_s * s for b, s in zip(cb, cs, strict=True)]
        return np.array([*mixed, min(1, ab + a_s)])
    if mode in SEPARABLE:
        mixed = [SEPARABLE[mode](b, s) for b, s in zip(cb, cs, strict=True)]
    else:
        mixed = NON_SEPARABLE[mode](cb, cs)
    out = [
        a_s * (1 - ab) * s + a_s * ab * m + (1 - a_s) * ab * b
        for b, s, m in zip(cb, cs, mixed, strict=True)
    ]
    return np.array([*out, a_s + ab * (1 - a_s)])


def premultiplied(straight) -> np.ndarray:
    *rgb, alpha = straight
    return np.array([[[c * alpha for c in rgb] + [alpha]]], np.float32)


@pytest.mark.parametrize("mode", MODES)
@given(backdrop=colour, source=colour)
def test_a_mode_is_its_formula(mode: str, backdrop, source) -> None:
    # On an alpha of 0 the straight colour is lost, and with it what it would have been.
    got = blend(mode, premultiplied(backdrop), premultiplied(source))[0, 0]
    seen = [c if straight[3] else 0.0 for straight in (backdrop, source) for c in straight]
    want = composite(mode, seen[:4], seen[4:])
    assert got == pytest.approx(want, abs=2e-4)


@pytest.mark.parametrize("mode", MODES)
def test_one_colour_by_coverage_equals_a_picture_of_it(mode: str) -> None:
    rng = np.random.default_rng(5)
    backdrop = rng.random((9, 7, 4)).astype(np.float32)
    backdrop[..., :3] *= backdrop[..., 3:]
    coverage = rng.random((9, 7)).astype(np.float32)
    tint = np.array([0.2, 0.7, 0.4], np.float32)
    source = np.concatenate([tint * coverage[..., None], coverage[..., None]], axis=-1)
    assert blend_colour(mode, backdrop, (0.2, 0.7, 0.4), coverage) == pytest.approx(
        blend(mode, backdrop, source), abs=1e-6
    )


def test_typed_codes_come_out_as_typed() -> None:
    for level in range(256):
        value = np.float32(level / 255)
        opaque = np.array([[[value, value, value, 1]]], np.float32)
        assert over(np.zeros_like(opaque), opaque)[0, 0, 0] == value


def test_an_unknown_mode_is_named() -> None:
    with pytest.raises(ValueError, match="'linear'"):
        blend("linear", np.zeros((1, 1, 4), np.float32), np.zeros((1, 1, 4), np.float32))


@pytest.mark.parametrize("mode", MODES)
def test_no_grey_that_rounding_leaves_beyond_black_or_white_ends_it(mode: str) -> None:
    greys = np.array([-1e-8, -1e-7, 1 + 1e-7, 0, 1, 1e-8], np.float32)
    backdrop = np.ones((6, 6, 4), np.float32)
    backdrop[..., :3] = greys[:, None, None]
    source = np.ones((6, 6, 4), np.float32)
    source[..., :3] = greys[None, :, None]
    assert np.isfinite(blend(mode, backdrop, source * np.float32(0.5))).all()


@pytest.mark.parametrize("mode", MODES)
@pytest.mark.parametrize("alpha", [1e-42, 1e-39, 1e-31, 1e-20])
def test_next_to_nothing_changes_nothing(mode: str, alpha: float) -> None:
    """The inverse of such an alpha may be no number any more."""
    something = np.full((1, 9, 4), [0.2, 0.4, 0.1, 1], np.float32)
    hardly = np.full((1, 9, 4), [alpha, 0, alpha / 2, alpha], np.float32)
    assert blend(mode, something, hardly) == pytest.approx(something, abs=1e-6)
    assert blend(mode, hardly, something) == pytest.approx(something, abs=1e-6)


@pytest.mark.parametrize("mode", MODES)
def test_a_picture_laid_into_a_canvas_is_that_part_of_it_blended(mode: str) -> None:
    draw = np.random.default_rng(5)
    canvas, source = (draw.random((9, 12, 4), dtype="float32") for _ in range(2))
    canvas[..., :3] *= canvas[..., 3:]
    canvas[:3], source[:2, ..., 3] = 0, 0  # nothing, and light without cover
    for top, left in ((0, 0), (-4, 3), (5, -7), (20, 0)):
        want, wide = canvas.copy(), np.zeros((60, 60, 4), np.float32)
        wide[20:29, 20:32] = canvas
        part = (slice(20 + top, 29 + top), slice(20 + left, 32 + left))
        wide[part] = blend(mode, np.ascontiguousarray(wide[part]), source)
        blend_into(mode, want, source, top, left)
        assert np.array_equal(want, wide[20:29, 20:32])
