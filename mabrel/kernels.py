"""How the loops over pixels are compiled.

`kernel` is `numba.njit` that keeps what it compiles beside the source, and divides as NumPy does: a
check for 0 at each division would keep a processor from taking several pixels at a time.

At the end of a loop its threads wait for one another. By default they do so in circles, which is
right where nothing else runs; beside a browser, or another engine process, the one that is waited
for then stands in line behind those that wait, several milliseconds for each loop. So they sleep,
unless the environment says otherwise (OpenMP 5.2, OMP_WAIT_POLICY).

Threads share a loop in halves, or quarters, of it. Where most of the work lies in one part of the
picture, beneath the lettering or on a floor, rows are dealt out to `LANES` instead, which threads
share.
"""

import os
from functools import partial

os.environ.setdefault("OMP_WAIT_POLICY", "passive")  # read once, when threads first begin

import numba

kernel = partial(numba.njit, cache=True, error_model="numpy")

LANES = 16
"""For a loop over rows, each taking every so manieth of them:
`for lane in prange(LANES): for y in range(lane, rows, LANES)`."""
