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

For small pictures one thread does it all: to wake the others, and to pass the interpreter to and
fro, takes longer than they would save.
"""

import os
from collections.abc import Iterator
from contextlib import contextmanager
from functools import partial

os.environ.setdefault("OMP_WAIT_POLICY", "passive")  # read once, when threads first begin

import numba

kernel = partial(numba.njit, cache=True, error_model="numpy", nogil=True)

LANES = 16
"""For a loop over rows, each taking every so manieth of them:
`for lane in prange(LANES): for y in range(lane, rows, LANES)`."""

_FEW = 2**14  # pixels


@contextmanager
def threads_for(pixels: int) -> Iterator[None]:
    """As many threads as a picture of so many pixels is worth, in place of those that there may
    be."""
    allowed = numba.get_num_threads()
    if pixels > _FEW or allowed == 1:
        yield
        return
    numba.set_num_threads(1)
    try:
        yield
    finally:
        numba.set_num_threads(allowed)
