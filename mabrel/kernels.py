"""How the loops over pixels are compiled.

`kernel` is `numba.njit` that keeps what it compiles beside the source, and divides as NumPy does: a
check for 0 at each division would keep a processor from taking several pixels at a time.
"""

from functools import partial

import numba

kernel = partial(numba.njit, cache=True, error_model="numpy")
