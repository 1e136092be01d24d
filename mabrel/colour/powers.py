"""Powers for kernels, without a branch and without a call, so that a processor takes many at a
time."""

import numpy as np

from mabrel.kernels import kernel

_ONE = np.int32(0x3F800000)  # the bits of 1
_LOW = np.int32(0x3F3504F3)  # of √½: below it mantissas are doubled
_EXPONENT = np.int32(23)  # the bit where it begins
_MOST = np.float32(126)


@kernel(inline="always")
def power(value, exponent):  # type: ignore[no-untyped-def]
    """A float32 above 0 to any power, to within 3e-6 of it for powers up to 3.

    Of the value's logarithm to base 2, its bits tell the whole part; the rest and what comes back
    are polynomials, fitted at Chebyshev's places.
    """
    bits = np.float32(value).view(np.int32)
    whole = (bits - _LOW) >> _EXPONENT
    m = np.int32(bits - (whole << _EXPONENT)).view(np.float32) - np.float32(1)
    q = np.float32(-0.20742288) + np.float32(0.12614982) * m
    q = np.float32(0.21567021) + q * m
    q = np.float32(-0.23892012) + q * m
    q = np.float32(0.28791827) + q * m
    q = np.float32(-0.36070484) + q * m
    q = np.float32(0.4809106) + q * m
    q = np.float32(-0.72134733) + q * m
    q = np.float32(1.442695) + q * m
    log = exponent * (np.float32(whole) + q * m)
    log = min(max(log, -_MOST), _MOST)
    near = np.floor(log + np.float32(0.5))
    f = log - near
    p = np.float32(0.0013400433) + np.float32(0.00015469732) * f
    p = np.float32(0.009618025) + p * f
    p = np.float32(0.05550327) + p * f
    p = np.float32(0.24022651) + p * f
    p = np.float32(0.6931472) + p * f
    p = np.float32(1) + p * f
    return p * np.int32((np.int32(near) << _EXPONENT) + _ONE).view(np.float32)
