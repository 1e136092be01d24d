"""sRGB's transfer function for kernels: rows of numbers, without a branch, so that a processor
takes many at a time.

Between colour codes and light (IEC 61966-2-1), the powers are polynomials over the fourth root,
which bends but little: within 2e-6 of the exact ones up to 4, as a share of the value beyond.
"""

import numpy as np

from mabrel.kernels import kernel

_MOST = 4.0  # as far as the polynomials reach; beyond, powers of a scale are taken out
_CODE_SCALE = 16.0
_LIGHT_SCALE = 256.0
_TOO_MUCH = 1000.0  # brighter than this counts as this


@kernel(inline="always")
def linear(code):  # type: ignore[no-untyped-def]
    """The light of one encoded value of at least 0."""
    t = (min(code, np.float32(_TOO_MUCH)) + np.float32(0.055)) * np.float32(1 / 1.055)
    power = np.float32(1)
    for _ in range(2):
        power = power * np.float32(_CODE_SCALE**2.4) if t > np.float32(_MOST) else power
        t = t * np.float32(1 / _CODE_SCALE) if t > np.float32(_MOST) else t
    q = np.sqrt(np.sqrt(t))
    p = np.float32(0.0450048684) - np.float32(0.00539463286) * q
    p = np.float32(0.371846867) + (np.float32(-0.167170675) + p * q) * q
    p = np.float32(1.13181052) + (np.float32(-0.590988295) + p * q) * q
    p = np.float32(-0.010652063) + (np.float32(0.225543379) + p * q) * q
    light = t * t * p * power
    return code * np.float32(1 / 12.92) if code <= np.float32(0.04045) else light


@kernel(inline="always")
def encoded(light):  # type: ignore[no-untyped-def]
    """The code of light of at least 0."""
    s = min(light, np.float32(_TOO_MUCH * _TOO_MUCH))
    power = np.float32(1)
    for _ in range(3):
        power = power * np.float32(_LIGHT_SCALE ** (1 / 2.4)) if s > np.float32(_MOST) else power
        s = s * np.float32(1 / _LIGHT_SCALE) if s > np.float32(_MOST) else s
    q = np.sqrt(np.sqrt(s))
    p = np.float32(0.147974173) - np.float32(0.0175227526) * q
    p = np.float32(1.20568478) + (np.float32(-0.552375841) + p * q) * q
    p = np.float32(1.73472209) + (np.float32(-1.72321248) + p * q) * q
    p = np.float32(1.51333742) + (np.float32(-1.36708185) + p * q) * q
    p = np.float32(-0.00303772188) + (np.float32(0.116512007) + p * q) * q
    code = p * power - np.float32(0.055)
    return light * np.float32(12.92) if light <= np.float32(0.0031308) else code


@kernel(inline="always")
def lighten(row):  # type: ignore[no-untyped-def]
    """Codes to light, in place; negative values mirror."""
    for x in range(row.shape[0]):
        light = linear(abs(row[x]))
        row[x] = -light if row[x] < np.float32(0) else light


@kernel(inline="always")
def encode(row):  # type: ignore[no-untyped-def]
    """Light to codes, in place; negative values mirror."""
    for x in range(row.shape[0]):
        code = encoded(abs(row[x]))
        row[x] = -code if row[x] < np.float32(0) else code


@kernel(inline="always")
def unpack(pixels, planes):  # type: ignore[no-untyped-def]
    """A row of premultiplied RGBA (N, 4) to its straight channels, at least 0, and their share
    (4, N): its alpha, or 1 where nothing covers and light alone is there."""
    for x in range(pixels.shape[0]):
        alpha = pixels[x, 3]
        share = alpha if alpha > np.float32(1e-4) else np.float32(1)
        whole = np.float32(1) / share
        planes[0, x] = max(pixels[x, 0] * whole, np.float32(0))
        planes[1, x] = max(pixels[x, 1] * whole, np.float32(0))
        planes[2, x] = max(pixels[x, 2] * whole, np.float32(0))
        planes[3, x] = share


@kernel(inline="always")
def pack(planes, pixels, out):  # type: ignore[no-untyped-def]
    """Straight channels back to premultiplied RGBA (N, 4), with the alpha of `pixels`."""
    for x in range(pixels.shape[0]):
        share = planes[3, x]
        out[x, 0] = planes[0, x] * share
        out[x, 1] = planes[1, x] * share
        out[x, 2] = planes[2, x] * share
        out[x, 3] = pixels[x, 3]
